<script lang="ts">
  import { onDestroy } from 'svelte';
  import { thumb, type Shot, type ShotFacts } from '../api/client';
  import { keyedFrame, movedFrame, rounded, sizedFrame, USUAL, WHOLE, type Frame } from '../lib/move-frames';
  import { useProject } from '../lib/project-context';

  /** Where a move begins and ends: two frames on the picture, dragged and sized with the mouse or the arrow keys. */
  let { shot }: { shot: Shot } = $props();
  type Which = 'move_start' | 'move_end';
  const KEYS_REST_MS = 450;
  const project = useProject();
  const picture = $derived(project.pictureOf(shot.id));
  const sha = $derived(picture?.sha ?? shot.sketch_sha);
  const aspect = $derived(picture ? picture.width / picture.height : 1.5);
  const start = $derived((shot.move_start ?? USUAL[shot.move]?.[0] ?? WHOLE) as Frame);
  const end = $derived((shot.move_end ?? USUAL[shot.move]?.[1] ?? WHOLE) as Frame);
  let area = $state<HTMLElement | null>(null);
  let live = $state<{ which: Which; size: boolean; x: number; y: number; from: Frame; box: Frame } | null>(null);
  let typed = $state<{ which: Which; box: Frame } | null>(null);
  let rest: ReturnType<typeof setTimeout> | undefined;

  const boxOf = (which: Which) =>
    live?.which === which ? live.box : typed?.which === which ? typed.box : which === 'move_start' ? start : end;

  function down(event: PointerEvent, which: Which, size: boolean) {
    event.stopPropagation();
    keepTyped();
    (event.target as Element).setPointerCapture(event.pointerId);
    const from = which === 'move_start' ? start : end;
    live = { which, size, x: event.clientX, y: event.clientY, from, box: from };
  }

  function moved(event: PointerEvent) {
    if (!live || !area) return;
    const r = area.getBoundingClientRect();
    const dx = (event.clientX - live.x) / r.width;
    const dy = (event.clientY - live.y) / r.height;
    live.box = live.size ? sizedFrame(live.from, Math.max(dx, dy)) : movedFrame(live.from, dx, dy);
  }

  function up() {
    const done = live;
    live = null;
    if (done && done.box !== done.from) keep(done.which, done.box);
  }

  function pressed(event: KeyboardEvent, which: Which) {
    const box = keyedFrame(boxOf(which), event.key, event.shiftKey);
    if (!box) return;
    event.preventDefault();
    event.stopPropagation();
    if (typed && typed.which !== which) keepTyped();
    typed = { which, box };
    clearTimeout(rest);
    rest = setTimeout(keepTyped, KEYS_REST_MS);
  }

  function keepTyped() {
    clearTimeout(rest);
    const done = typed;
    typed = null;
    if (done) keep(done.which, done.box);
  }

  const keep = (which: Which, box: Frame) =>
    void project.editShot(shot, { move_start: start, move_end: end, [which]: rounded(box) } as ShotFacts);

  onDestroy(keepTyped);
</script>

<div class="mb-3 ml-[52px] flex items-end gap-3">
  <div class="well relative w-[200px] overflow-hidden" style="aspect-ratio:{aspect}" bind:this={area} role="group" aria-label="Start and end of the move">
    {#if sha}<img src={thumb(sha, 240)} alt="" class="size-full object-cover" draggable="false" />{/if}
    {#each [['move_start', 'start'], ['move_end', 'end']] as const as [which, name] (which)}
      {@const box = boxOf(which)}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
      <div
        class="absolute cursor-move touch-none border-2 text-[10px] leading-none font-bold text-white focus:outline-2 focus:outline-pencil {which === 'move_end' ? 'border-dashed' : ''} border-white shadow-[0_0_0_1px_var(--pencil)]"
        style="left:{box[0] * 100}%;top:{box[1] * 100}%;width:{box[2] * 100}%;height:{box[3] * 100}%"
        role="application" tabindex="0" data-frame={which}
        aria-label="{name} frame: {Math.round(box[2] * 100)} % wide, {Math.round(box[0] * 100)} % from the left, {Math.round(box[1] * 100)} % from the top"
        onpointerdown={(e) => down(e, which, false)} onpointermove={moved} onpointerup={up} onkeydown={(e) => pressed(e, which)} onblur={keepTyped}
      >
        <span class="absolute {which === 'move_end' ? 'right-0' : 'left-0'} bg-pencil px-1 py-0.5">{name}</span>
        <span role="presentation" class="absolute right-[-5px] bottom-[-5px] size-2.5 cursor-nwse-resize bg-white" onpointerdown={(e) => down(e, which, true)} onpointermove={moved} onpointerup={up}></span>
      </div>
    {/each}
  </div>
  <p class="label">From the solid frame to the dashed one.<br />Drag a frame or its corner; or <span class="key">Tab</span> to it, <span class="key">arrows</span> move, <span class="key">+</span> <span class="key">−</span> size.</p>
</div>
