<script lang="ts">
  import { thumb, type Shot } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import type { RunState } from './run-state.svelte';
  import SoundColumn from './SoundColumn.svelte';
  import type { SoundState } from './sound-state.svelte';
  import { framesOf, spanAt, type Span } from './timeline';

  /** Time running down, a row as tall as its shot is long, under one red line that stays where it is. */
  let { view, sounds }: { view: RunState; sounds: SoundState } = $props();
  const project = useProject();
  const LINE_AT = 0.36;
  let height = $state(600);
  let own = $state<HTMLElement | null>(null);
  const px = $derived(view.pxPerS);
  const line = $derived(Math.round(height * LINE_AT));
  const first = $derived(Math.max(0, spanAt(view.spans, view.player.shown_s - line / px)));
  const last = $derived(spanAt(view.spans, view.player.shown_s + (height - line) / px));
  const shown = $derived(view.spans.slice(first, last + 1));
  let trimming = $state<{ at: number; y: number; roll: boolean } | null>(null);
  let scrubbing = $state<{ y: number; time_s: number } | null>(null);

  const MOVE_WIDE = 26;
  /** A move as a line from the dot of its first frame: as far to the side as it goes, or narrowing and widening. */
  function moveLine(shot: Shot): { x: number; wide: [number, number] } {
    const [a, b] = framesOf(shot);
    const dx = b[0] + b[2] / 2 - (a[0] + a[2] / 2);
    const dy = b[1] + b[3] / 2 - (a[1] + a[3] / 2);
    const far = Math.abs(dx) >= Math.abs(dy) ? dx : dy;
    return { x: Math.max(-1, Math.min(1, far * 2.4)) * (MOVE_WIDE / 2), wide: [a[2], b[2]] };
  }

  function beginTrim(event: PointerEvent, at: number) {
    if (event.button) return;
    event.preventDefault();
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    trimming = { at, y: event.clientY, roll: event.shiftKey !== (view.trim === 'roll') };
  }

  function onTrim(event: PointerEvent) {
    if (!trimming) return;
    const by = Math.round(((event.clientY - trimming.y) / px) * 10) / 10;
    if (!by) return;
    view.trimBy(by, trimming.roll ? 'roll' : 'ripple', trimming.at);
    trimming = { ...trimming, y: trimming.y + by * px };
  }

  function beginScrub(event: PointerEvent) {
    if (event.button || (event.target as HTMLElement).closest('button, input, [data-foot], [data-sound]')) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    view.player.stop();
    scrubbing = { y: event.clientY, time_s: view.player.time_s };
  }

  function onScrub(event: PointerEvent) {
    if (scrubbing) view.player.seek(scrubbing.time_s - (event.clientY - scrubbing.y) / px);
  }

  function onwheel(event: WheelEvent) {
    event.preventDefault();
    if (event.ctrlKey) return view.zoomBy(event.deltaY < 0 ? 1 : -1);
    view.player.stop();
    view.player.seek(view.player.time_s + event.deltaY / px / 2);
  }

  $effect(() => {
    own?.addEventListener('wheel', onwheel, { passive: false });
    return () => own?.removeEventListener('wheel', onwheel);
  });

  const length = (s: number) => String(Math.round(s * 10) / 10);
  const tall = (span: Span) => span.length_s * px;
  const beginsScene = (i: number) => view.spans[i]?.scene !== view.spans[i - 1]?.scene;
</script>

<div class="flex h-full flex-col">
  <div class="grid h-[34px] shrink-0 grid-cols-[42px_108px_38px_74px_1fr] items-center border-b border-line px-3 text-[12px] text-soft">
    <span>s</span><span>picture</span><span>move</span><span>sound</span><span>words</span>
  </div>
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="relative min-h-0 flex-1 touch-none overflow-hidden select-none" bind:this={own} bind:clientHeight={height} onpointerdown={beginScrub} onpointermove={onScrub} onpointerup={() => (scrubbing = null)} data-exposure>
    <div class="absolute inset-x-0 top-0 will-change-transform" style="transform:translateY({line - view.player.shown_s * px}px)">
      {#each shown as span, k (span.id)}
        {@const shot = project.shots.get(span.id)}
        {@const i = first + k}
        {@const sha = project.pictureOf(span.id)?.sha ?? shot?.sketch_sha}
        {#if shot}
          {@const high = tall(span)}
          {@const move = moveLine(shot)}
          {@const needs_s = sounds.said.get(span.id) ?? (view.reading.get(span.id)?.needs_s ?? 0)}
          {@const needs = needs_s * px}
          {@const outruns = sounds.said.has(span.id) ? sounds.over(span.id) > 0.05 : needs > high + 1}
          <div
            class="absolute inset-x-3 grid grid-cols-[42px_108px_38px_74px_1fr] overflow-hidden border-t {beginsScene(i) ? 'border-ink' : 'border-line'} {i === view.at ? 'bg-wash' : ''}"
            style="top:{span.start_s * px}px;height:{high}px" data-row={span.id}
          >
            <div class="relative pl-0.5">
              {#if high > 15}<span class="font-book text-[15px] leading-tight">{project.number(span.id)}</span>{/if}
              {#if span.join !== 'cut' && high > 26}
                <svg class="absolute top-0.5 left-[24px] text-pencil" width="14" height="14" viewBox="0 0 14 14"><title>{span.join === 'fade' ? 'Comes by a fade' : 'Comes by a dissolve'}</title>
                  {#if span.join === 'dissolve'}<path d="M1 1 L13 7 L1 13 Z M13 1 L1 7 L13 13 Z" fill="none" stroke="currentColor" stroke-width="1.3" />{:else}<path d="M1 7 L13 1 L13 13 Z" fill="none" stroke="currentColor" stroke-width="1.3" />{/if}
                </svg>
              {/if}
              {#if high > 36}<span class="absolute bottom-1 left-0.5 text-[12px] text-soft">{length(span.length_s)}</span>{/if}
            </div>
            <div class="py-[3px]">
              {#if sha && high > 12}<img src={thumb(sha, 240)} alt="" draggable="false" class="object-contain object-left-top" style="width:100px;height:{Math.min(66, high - 7)}px" />
              {:else if high > 12}<span class="block border border-dashed border-pencil" style="width:96px;height:{Math.min(62, high - 8)}px"></span>{/if}
            </div>
            <svg width="38" height={high} aria-hidden="true" class="text-ink">
              {#if high > 8}
                <circle cx="14" cy="6" r="2.6" fill="currentColor" />
                {#if move.wide[0] === move.wide[1]}<path d="M14 6 L{14 + move.x} {high - 6}" stroke="currentColor" stroke-width="1.4" />
                {:else}<path d="M{14 - move.wide[0] * 8} 6 L{14 + move.x - move.wide[1] * 8} {high - 6} M{14 + move.wide[0] * 8} 6 L{14 + move.x + move.wide[1] * 8} {high - 6}" stroke="currentColor" stroke-width="1.4" fill="none" />{/if}
              {/if}
            </svg>
            <span></span>
            <div class="relative min-w-0 pl-3.5">
              {#if needs}<span class="absolute top-0 left-0 w-[7px] {outruns ? 'bg-red' : 'bg-soft'}" style="height:{Math.min(needs, high)}px" title={outruns ? `${sounds.said.has(span.id) ? 'The voice takes' : 'The words need'} ${length(needs_s)} s` : undefined}></span>{/if}
              {#if high > 14}<span class="block overflow-hidden font-book text-[12px] leading-[1.3] text-soft" style="max-height:{Math.floor((high - 2) / 15.6) * 15.6}px">{view.reading.get(span.id)?.words ?? ''}</span>{/if}
            </div>
            <!-- svelte-ignore a11y_no_static_element_interactions -->
            <div class="absolute inset-x-0 bottom-0 h-[7px] cursor-row-resize hover:bg-pencil" data-foot={span.id} title="Drag to trim; with Shift the other way of trimming" onpointerdown={(e) => beginTrim(e, i)} onpointermove={onTrim} onpointerup={() => (trimming = null)}></div>
          </div>
        {/if}
      {/each}
      <SoundColumn {sounds} pxPerS={px} from={view.player.shown_s * px - line} to={view.player.shown_s * px + height - line} left={12 + 42 + 108 + 38} width={70} />
    </div>
    <div class="pointer-events-none absolute inset-x-0 h-0.5 bg-red" style="top:{line - 1}px"></div>
  </div>
</div>
