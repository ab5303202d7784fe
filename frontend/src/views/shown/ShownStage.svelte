<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { Bitmaps } from '../run/bitmaps';
  import { Films } from '../run/films';
  import { drawFrame, drawnBy } from '../run/stage';
  import { clock } from '../run/timeline';
  import type { ShownState } from './shown-state.svelte';

  /** The run-through of a showing: its picture, its words, play and a place in time; what sounds goes along. */
  let { view, oncomment }: { view: ShownState; oncomment: (shot_id: string, at_s: number) => void } = $props();
  let canvas = $state<HTMLCanvasElement | null>(null);
  let audio = $state<HTMLAudioElement | null>(null);
  let wide = $state(0);
  let came = $state(0);
  // svelte-ignore state_referenced_locally
  const bitmaps = new Bitmaps(() => came++, view.places);
  // svelte-ignore state_referenced_locally
  const films = new Films(() => came++, view.places);
  const dense = Math.min(2, devicePixelRatio || 1);
  const aspect = $derived(view.shown?.sequence.aspect ?? 1.5);
  const APART_S = 0.15;
  let drawn = '';

  $effect(() => {
    void came;
    const { seen } = view;
    const runs = view.player.speed === 1;
    if (!canvas || !wide) return;
    const [w, h] = [Math.round(wide * dense), Math.round((wide / aspect) * dense)];
    if (canvas.width !== w) canvas.width = w;
    if (canvas.height !== h) canvas.height = h;
    const target = canvas;
    untrack(() => {
      const drawable = (id: string) => view.drawable(id);
      const by = `${w} ${came} ${runs} ${drawnBy(seen, drawable)}`;
      if (by === drawn) return;
      drawn = drawFrame(target, seen, drawable, { bitmaps, films, runs }) ? by : '';
    });
  });
  $effect(() => {
    const side = Math.round(wide * dense);
    if (!side) return;
    for (let k = 0; k < 3; k++) {
      const own = view.drawable(view.spans[view.at + k]?.id ?? '');
      if (own?.sha) bitmaps.get(own.sha, side);
    }
  });
  $effect(() => {
    const { playing, shown_s } = view.player;
    if (!audio) return;
    if (playing && audio.paused) void audio.play().catch(() => undefined);
    if (!playing && !audio.paused) audio.pause();
    if (Math.abs(audio.currentTime - shown_s) > APART_S) audio.currentTime = shown_s;
  });
  onDestroy(() => {
    view.player.stop();
    bitmaps.close();
    films.close();
  });
</script>

<section aria-label="Run-through" bind:clientWidth={wide} data-run>
  <button class="block w-full" aria-label={view.player.playing ? 'Stop' : 'Play'} onclick={() => view.player.toggle()}>
    <canvas bind:this={canvas} class="block w-full bg-black" style="height:{wide / aspect}px"></canvas>
  </button>
  <p class="min-h-[3em] py-2 text-center font-book text-[16px]">{view.caption}</p>
  <div class="flex items-center gap-3">
    <button class="btn min-h-10 min-w-20" onclick={() => view.player.toggle()} data-play>{view.player.playing ? 'Stop' : 'Play'}</button>
    <input class="min-w-0 flex-1" type="range" min="0" max={view.length_s} step="0.04" value={view.player.shown_s} aria-label="Place in time" oninput={(e) => view.player.seek(Number(e.currentTarget.value))} />
    <span class="label whitespace-nowrap">{clock(view.player.shown_s, false)} of {clock(view.length_s, false)}</span>
  </div>
  <button class="quiet mt-1 min-h-9" onclick={() => { view.player.stop(); const span = view.spans[view.at]; if (span) oncomment(span.id, Math.round(view.player.time_s * 10) / 10); }}>Comment on this moment</button>
  <!-- svelte-ignore a11y_media_has_caption -->
  {#if view.soundUrl}<audio bind:this={audio} src={view.soundUrl} preload="auto"></audio>{/if}
</section>
