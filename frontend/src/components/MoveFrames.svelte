<script lang="ts">
  import { thumb, type Shot } from '../api/client';
  import { useProject } from '../lib/project-context';

  /** Where a move begins and ends: two frames on the picture, dragged and sized. */
  let { shot }: { shot: Shot } = $props();
  type Box = [number, number, number, number];
  const DEFAULTS: Record<string, [Box, Box]> = {
    pan: [[0, 0.1, 0.7, 0.8], [0.3, 0.1, 0.7, 0.8]], tilt: [[0.1, 0.3, 0.8, 0.7], [0.1, 0, 0.8, 0.7]],
    'push in': [[0, 0, 1, 1], [0.2, 0.2, 0.6, 0.6]], 'pull out': [[0.2, 0.2, 0.6, 0.6], [0, 0, 1, 1]],
    arc: [[0, 0.1, 0.8, 0.8], [0.2, 0.1, 0.8, 0.8]], track: [[0, 0.1, 0.7, 0.8], [0.3, 0.1, 0.7, 0.8]], crane: [[0.1, 0.3, 0.8, 0.7], [0.1, 0, 0.8, 0.7]],
  };
  const project = useProject();
  const sha = $derived(project.pictureOf(shot.id)?.sha ?? shot.sketch_sha);
  const aspect = $derived(project.pictureOf(shot.id) ? project.pictureOf(shot.id)!.width / project.pictureOf(shot.id)!.height : 1.5);
  const start = $derived((shot.move_start ?? DEFAULTS[shot.move]?.[0] ?? [0, 0, 1, 1]) as Box);
  const end = $derived((shot.move_end ?? DEFAULTS[shot.move]?.[1] ?? [0, 0, 1, 1]) as Box);
  let area = $state<HTMLElement | null>(null);
  let live = $state<{ which: 'move_start' | 'move_end'; size: boolean; x: number; y: number; from: Box; box: Box } | null>(null);

  function down(event: PointerEvent, which: 'move_start' | 'move_end', size: boolean) {
    event.preventDefault();
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    const from = which === 'move_start' ? start : end;
    live = { which, size, x: event.clientX, y: event.clientY, from, box: from };
  }

  function moved(event: PointerEvent) {
    if (!live || !area) return;
    const r = area.getBoundingClientRect();
    const dx = (event.clientX - live.x) / r.width;
    const dy = (event.clientY - live.y) / r.height;
    const [x, y, w, h] = live.from;
    if (live.size) {
      const grown = Math.min(Math.max(0.15, w + Math.max(dx, dy)), 1 - x, 1 - y);
      live.box = [x, y, grown, (grown * h) / w > 1 - y ? 1 - y : (grown * h) / w];
    } else live.box = [Math.min(1 - w, Math.max(0, x + dx)), Math.min(1 - h, Math.max(0, y + dy)), w, h];
  }

  function up() {
    const done = live;
    live = null;
    if (done && done.box !== done.from) void project.editShot(shot, { move_start: start, move_end: end, [done.which]: done.box.map((v) => Math.round(v * 1000) / 1000) } as Partial<Shot>);
  }
</script>

<div class="mb-3 ml-[52px] flex items-end gap-3">
  <div class="well relative w-[200px] overflow-hidden" style="aspect-ratio:{aspect}" bind:this={area} aria-label="Start and end of the move">
    {#if sha}<img src={thumb(sha, 240)} alt="" class="size-full object-cover" draggable="false" />{/if}
    {#each [['move_start', start, 'start'], ['move_end', end, 'end']] as const as [which, held, name] (which)}
      {@const box = live?.which === which ? live.box : held}
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <div
        class="absolute cursor-move touch-none border-2 text-[10px] leading-none font-bold text-white {which === 'move_end' ? 'border-dashed' : ''} border-white shadow-[0_0_0_1px_var(--pencil)]"
        style="left:{box[0] * 100}%;top:{box[1] * 100}%;width:{box[2] * 100}%;height:{box[3] * 100}%"
        onpointerdown={(e) => down(e, which, false)} onpointermove={moved} onpointerup={up}
      >
        <span class="absolute {which === 'move_end' ? 'right-0' : 'left-0'} bg-pencil px-1 py-0.5">{name}</span>
        <span class="absolute right-[-5px] bottom-[-5px] size-2.5 cursor-nwse-resize bg-white" onpointerdown={(e) => down(e, which, true)} onpointermove={moved} onpointerup={up}></span>
      </div>
    {/each}
  </div>
  <p class="label">From the solid frame to the dashed one.<br />Drag a frame, or its corner.</p>
</div>
