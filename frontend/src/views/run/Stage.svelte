<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { Bitmaps } from './bitmaps';
  import { clipOf, Films } from './films';
  import type { RunState } from './run-state.svelte';
  import { drawFrame, drawnBy, type Drawable } from './stage';

  /** The picture as it is seen at this moment, with its move, its joins and the frame of what is not drawn yet. */
  let { view }: { view: RunState } = $props();
  const AHEAD = 3;
  const { project } = $derived(view);
  let canvas = $state<HTMLCanvasElement | null>(null);
  let room = $state({ width: 0, height: 0 });
  let came = $state(0);
  const bitmaps = new Bitmaps(() => came++);
  const films = new Films(() => came++);
  const size = $derived.by(() => {
    const width = Math.min(room.width, room.height * view.aspect);
    return { width: Math.floor(width), height: Math.floor(width / view.aspect) };
  });
  let drawn = '';
  const dense = Math.min(2, devicePixelRatio || 1);

  function drawable(id: string): Drawable | null {
    const shot = project.shots.get(id);
    if (!shot) return null;
    const picture = project.pictureOf(id);
    return { shot, number: project.number(id), sha: picture?.sha ?? shot.sketch_sha, picture, clip: clipOf(project.picked.get(id), picture?.clip) };
  }

  $effect(() => {
    void [came, project.pictures, project.picked, project.shots];
    const { seen } = view;
    const runs = view.player.speed === 1;
    if (!canvas || !size.width) return;
    const [w, h] = [Math.round(size.width * dense), Math.round(size.height * dense)];
    if (canvas.width !== w) canvas.width = w;
    if (canvas.height !== h) canvas.height = h;
    const target = canvas;
    untrack(() => {
      const by = `${w} ${h} ${came} ${runs} ${drawnBy(seen, drawable)}`;
      if (by === drawn) return;
      const whole = drawFrame(target, seen, drawable, { bitmaps, films, runs });
      drawn = whole ? by : '';
      if (!whole) view.player.missed();
    });
  });

  $effect(() => {
    // What comes next is decoded while this is seen.
    const side = Math.round(Math.max(size.width, size.height) * dense);
    if (!side) return;
    const back = view.player.speed < 0 ? -1 : 1;
    for (let k = 0; k <= AHEAD; k++) {
      const own = drawable(view.spans[view.at + k * back]?.id ?? '');
      if (own?.sha) bitmaps.get(own.sha, side);
    }
  });
  onDestroy(() => {
    bitmaps.close();
    films.close();
  });
</script>

<div class="grid size-full min-h-0 place-items-center" bind:clientWidth={room.width} bind:clientHeight={room.height}>
  <button class="block" aria-label="Play or stop; {view.shot ? `shot ${project.number(view.shot.id)}: ${view.shot.shows}` : 'no shot'}" onclick={() => view.player.toggle()} data-stage>
    <canvas bind:this={canvas} class="block" style="width:{size.width}px;height:{size.height}px"></canvas>
  </button>
</div>
