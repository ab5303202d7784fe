<script lang="ts">
  import type { ClipState } from './clip-state.svelte';

  /** A clip along its frames: the strip with what of it is shown, and below it how each character and the style drift. */
  let { clip }: { clip: ClipState } = $props();
  let width = $state(700);
  let strip = $state<HTMLElement | null>(null);
  let held = $state<'at' | 'in' | 'out' | null>(null);
  let live = $state<[number, number] | null>(null);
  const CHART = 46;
  const STRIP = 58;
  const part = $derived(live ?? clip.part);
  const x = (s: number) => (clip.seconds ? (s / clip.seconds) * width : 0);
  /** Beyond this a line stays at the top: how much further off somebody else is says nothing more. */
  const MOST = 2.5;
  const top = $derived(Math.max(1.6, ...(clip.told?.tracks ?? []).flatMap((t) => t.drift.map((d) => Math.min(d, MOST)))) * 1.08);
  const y = (d: number) => CHART - 4 - (CHART - 8) * (Math.min(d, MOST) / top);
  const COLOURS = ['#1e6b98', '#8a4f00', '#5b3f8a', '#2d6b3a', '#8a2f5b'];
  const colour = (i: number, style: boolean) => (style ? 'var(--ink)' : COLOURS[i % COLOURS.length]);

  function at(event: PointerEvent): number {
    const box = strip!.getBoundingClientRect();
    return Math.min(clip.seconds, Math.max(0, ((event.clientX - box.left) / box.width) * clip.seconds));
  }

  function down(event: PointerEvent) {
    const s = at(event);
    const near = (v: number) => Math.abs(x(v) - x(s)) < 8;
    held = near(part[0]) && part[0] > 0 ? 'in' : near(part[1]) ? 'out' : near(part[0]) && event.shiftKey ? 'in' : 'at';
    strip!.setPointerCapture(event.pointerId);
    event.preventDefault();
    moved(event);
  }

  function moved(event: PointerEvent) {
    if (!held) return;
    const s = at(event);
    if (held === 'at') clip.go(s);
    else {
      live = held === 'in' ? [Math.min(s, part[1] - clip.frame_s * 2), part[1]] : [part[0], Math.max(s, part[0] + clip.frame_s * 2)];
      clip.go(held === 'in' ? live[0] : live[1] - clip.frame_s);
    }
  }

  function up() {
    held = null;
    if (live) void clip.trim(live);
    live = null;
  }
</script>

<section class="shrink-0 pt-2" aria-label="The clip along its frames" data-clip>
  <div class="flex items-center gap-2 pb-1.5">
    <button class="btn !px-2" onclick={() => (clip.playing = !clip.playing)}>{clip.playing ? 'Stop' : 'Play'} <span class="key">Space</span></button>
    <span class="w-[112px] tabular-nums">{clip.at_s.toFixed(2)} of {clip.seconds.toFixed(1)} s</span>
    <button class="btn !px-2" onclick={() => clip.begin()} data-clip-in>Begin here <span class="key">I</span></button>
    <button class="btn !px-2" onclick={() => clip.end()} data-clip-out>End here <span class="key">O</span></button>
    {#if clip.proposed}<button class="btn btn-main !px-2" onclick={() => clip.trim(clip.proposed)} data-clip-proposed>Cut where it slips, {clip.proposed[1].toFixed(1)} s</button>{/if}
    {#if clip.take?.trim}<button class="quiet" onclick={() => clip.trim(null)}>Show all of it</button>{/if}
    <span class="ml-auto flex items-center gap-1">
      {#if clip.facts?.has_sound}<button class="btn !px-2" disabled={clip.busy} onclick={() => clip.laySound()} title="What is heard in the part that is shown becomes a sound of the shot" data-lay-sound>Lay its sound</button>{/if}
      <select class="btn !px-2" value="" disabled={clip.busy} onchange={(e) => { const [which, where] = e.currentTarget.value.split(' '); e.currentTarget.value = ''; if (which) void clip.frameOut(which as 'first', where === 'next'); }} aria-label="A frame out as a picture" data-frame-out>
        <option value="">A frame out …</option>
        <option value="here">this frame, as a take</option><option value="sharpest">the sharpest near here</option><option value="first">the first frame</option><option value="last">the last frame</option><option value="last next">the last frame, for the next shot</option>
      </select>
    </span>
  </div>
  <div class="relative touch-none select-none" style="height:{STRIP}px" bind:this={strip} bind:clientWidth={width} onpointerdown={down} onpointermove={moved} onpointerup={up} role="slider" tabindex="0" aria-label="The frame that is looked at" aria-valuemin="0" aria-valuemax={clip.seconds} aria-valuenow={Number(clip.at_s.toFixed(2))} aria-valuetext="{clip.at_s.toFixed(2)} seconds">
    {#if clip.take}<img src="/api/clips/{clip.take.picture_sha}/strip?count={Math.max(4, Math.min(40, Math.round(width / 86)))}&side=160" alt="" class="well absolute inset-0 size-full" draggable="false" />{/if}
    <div class="absolute inset-y-0 left-0 bg-paper/75" style="width:{x(part[0])}px"></div>
    <div class="absolute inset-y-0 right-0 bg-paper/75" style="width:{width - x(part[1])}px"></div>
    <div class="absolute -inset-y-0.5 w-[5px] cursor-ew-resize rounded-sm bg-pencil" style="left:{x(part[0])}px"></div>
    <div class="absolute -inset-y-0.5 w-[5px] cursor-ew-resize rounded-sm bg-pencil" style="left:{x(part[1]) - 5}px"></div>
    <div class="pointer-events-none absolute -inset-y-1 w-0.5 bg-ink outline outline-white/70" style="left:{x(clip.at_s)}px"></div>
  </div>
  {#if clip.told}
    {@const told = clip.told}
    <svg {width} height={CHART} role="img" aria-label="Drift along the clip: {told.words.join(' ') || 'all that was measured holds'}" class="mt-1 block">
      <rect x="0" y={y(1)} {width} height={CHART - 4 - y(1)} class="fill-hair" />
      {#each told.tracks as t, i (t.name)}
        <polyline points={t.drift.map((d, k) => `${x(told.times[k]!)},${y(d)}`).join(' ')} fill="none" stroke={colour(i, t.thread_id === null)} stroke-width="1.6" stroke-dasharray={t.thread_id === null ? '5 3' : undefined} />
        {#if t.begins_s !== null}<path d="M{x(t.begins_s) - 5} 8 l3.5 -5 l3 6 l3.5 -5" class="fill-none stroke-red" stroke-width="2" />{/if}
      {/each}
      {#each told.flicker as f (f)}<line x1={x(f)} x2={x(f)} y1={CHART - 10} y2={CHART - 4} class="stroke-red" stroke-width="1.5" />{/each}
    </svg>
    <p class="flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[12.5px]">
      {#each told.tracks as t, i (t.name)}<span class="flex items-center gap-1"><svg width="18" height="6" aria-hidden="true"><line x1="0" x2="18" y1="3" y2="3" stroke={colour(i, t.thread_id === null)} stroke-width="2" stroke-dasharray={t.thread_id === null ? '5 3' : undefined} /></svg>{t.name}{#if t.was && t.now}<span class="flex items-center gap-0.5" title="The colour that went, and the one that came"><span class="well size-3" style="background:{t.was}"></span>→<span class="well size-3" style="background:{t.now}"></span></span>{/if}</span>{/each}
      {#each told.words as words (words)}<span class="font-semibold text-red" data-clip-words>{words}</span>{:else}<span class="text-soft">{told.tracks.length > 1 ? 'All that was measured holds to the end.' : 'The style holds. Mark who stands here, and they are followed too.'}</span>{/each}
      {#each told.notes as note (note)}<span class="text-soft" data-clip-note>{note}</span>{/each}
    </p>
  {:else}<p class="label mt-1" style="height:{CHART}px">{clip.trouble || 'Looking along the clip …'}</p>{/if}
</section>
