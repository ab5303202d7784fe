<script lang="ts">
  import { onDestroy, onMount } from 'svelte';
  import AreaDrawing from './AreaDrawing.svelte';
  import type { AreaState } from './area-state.svelte';
  import { levelFor, scaleOf, tilesSeen, times, type Affine } from './geometry';
  import { BLINK_MS, type LightTableState } from './light-table-state.svelte';
  import { TILE, Tiles } from './tiles';

  /** The table itself: the pictures drawn as they lie, moved by dragging, larger and smaller by the wheel. */
  let { view, area = null }: { view: LightTableState; area?: AreaState | null } = $props();
  const GREY = '#808080';
  let canvas = $state<HTMLCanvasElement | null>(null);
  let held = $state<{ x: number; y: number; wiping: boolean } | null>(null);
  let asked = 0;
  const layers: HTMLCanvasElement[] = [];
  const tiles = new Tiles(() => redraw());
  const ratio = () => Math.min(2, window.devicePixelRatio || 1);

  onMount(() => {
    const timer = setInterval(() => {
      if (view.way === 'blink' && view.laid.length > 1 && !document.hidden) view.blinked = !view.blinked;
    }, BLINK_MS);
    return () => clearInterval(timer);
  });
  onDestroy(() => {
    cancelAnimationFrame(asked);
    tiles.close();
  });

  $effect(() => {
    void [view.way, view.pegs, view.scale, view.x, view.y, view.wipe, view.onion, view.stronger, view.top, view.blinked, view.board, view.laid];
    redraw();
  });

  function redraw() {
    if (!asked) asked = requestAnimationFrame(() => {
      asked = 0;
      draw();
    });
  }

  function draw() {
    if (!canvas || !view.first || !view.scale) return;
    const r = ratio();
    const [w, h] = [Math.round(view.board.width * r), Math.round(view.board.height * r)];
    if (canvas.width !== w || canvas.height !== h) [canvas.width, canvas.height] = [w, h];
    const board = canvas.getContext('2d', { alpha: false })!;
    tiles.forget();
    board.setTransform(1, 0, 0, 1, 0, 0);
    board.fillStyle = GREY;
    board.fillRect(0, 0, w, h);
    const paneW = Math.round(view.pane.width * r);
    if (view.way === 'beside') {
      view.laid.forEach((_, i) => {
        board.save();
        board.beginPath();
        const left = Math.round(i * (view.pane.width + 8) * r);
        board.rect(left, 0, paneW, h);
        board.clip();
        picture(board, i, [r, 0, left, 0, r, 0], paneW, h, left);
        board.restore();
      });
    } else {
      const [below, above] = [layer(0, 0, w, h, r), layer(1, view.top, w, h, r)];
      board.drawImage(below, 0, 0);
      if (view.way === 'wipe') {
        const x = Math.round(view.wipe * w);
        if (x < w) board.drawImage(above, x, 0, w - x, h, x, 0, w - x, h);
      } else if (view.way === 'blink') {
        if (view.blinked) board.drawImage(above, 0, 0);
      } else if (view.way === 'onion') {
        board.globalAlpha = view.onion;
        board.drawImage(above, 0, 0);
        board.globalAlpha = 1;
      } else {
        board.globalCompositeOperation = 'difference';
        board.drawImage(above, 0, 0);
        board.globalCompositeOperation = 'lighter';
        for (let f = 1; f < view.stronger; f *= 2) board.drawImage(canvas, 0, 0);
        board.globalCompositeOperation = 'source-over';
      }
    }
  }

  /** A picture by itself on a sheet as large as the board. */
  function layer(slot: number, i: number, w: number, h: number, r: number): HTMLCanvasElement {
    const sheet = (layers[slot] ??= document.createElement('canvas'));
    if (sheet.width !== w || sheet.height !== h) [sheet.width, sheet.height] = [w, h];
    const context = sheet.getContext('2d', { alpha: false })!;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = GREY;
    context.fillRect(0, 0, w, h);
    picture(context, i, [r, 0, 0, 0, r, 0], w, h, 0);
    return sheet;
  }

  function picture(context: CanvasRenderingContext2D, i: number, toPx: Affine, w: number, h: number, left: number) {
    const laid = view.laid[i];
    const placed = laid && view.toScreen(i);
    if (!laid || !placed) return;
    const exact = times(toPx, placed);
    const [a, b, c, d, e, f] = exact;
    context.setTransform(a, d, b, e, c, f);
    const scale = scaleOf(exact);
    context.imageSmoothingEnabled = scale < 3;
    const level = levelFor(scale, laid);
    const px = TILE * 2 ** level;
    const seen = tilesSeen(laid, times([1, 0, -left, 0, 1, 0], exact), { width: w, height: h }, level, TILE);
    if (!seen) return;
    const [c0, c1, r0, r1] = seen;
    const parts = [];
    for (let row = r0; row <= r1; row++) for (let column = c0; column <= c1; column++) parts.push([column, row, tiles.tile(laid.sha, level, column, row)] as const);
    if (parts.some((p) => !p[2])) {
      const small = tiles.small(laid.sha);
      if (small) context.drawImage(small, 0, 0, laid.width, laid.height);
    }
    for (const [column, row, bitmap] of parts) {
      if (!bitmap) continue;
      const [x, y] = [column * px, row * px];
      // The last tiles may hold half a pixel more than the picture.
      context.drawImage(bitmap, x, y, Math.min(bitmap.width * 2 ** level, laid.width - x), Math.min(bitmap.height * 2 ** level, laid.height - y));
    }
  }

  /** Where an event is on the board: with side by side, in the pane under it. */
  function place(event: PointerEvent | WheelEvent): [number, number] {
    const box = canvas!.getBoundingClientRect();
    const x = event.clientX - box.left;
    return [view.way === 'beside' ? x % (view.pane.width + 8) : x, event.clientY - box.top];
  }

  function onwheel(event: WheelEvent) {
    event.preventDefault();
    const [x, y] = place(event);
    view.zoom(Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0016)), x, y);
  }

  function onpointerdown(event: PointerEvent) {
    if (event.button > 1) return;
    const [x] = place(event);
    const wiping = view.way === 'wipe' && Math.abs(x - view.wipe * view.board.width) < 14;
    held = { x: event.clientX, y: event.clientY, wiping };
    canvas!.setPointerCapture(event.pointerId);
    event.preventDefault();
    canvas!.focus({ preventScroll: true });
  }

  function onpointermove(event: PointerEvent) {
    const [x, y] = place(event);
    if (held?.wiping) view.wipe = Math.min(1, Math.max(0, x / view.board.width));
    else if (held) view.pan(event.clientX - held.x, event.clientY - held.y);
    if (held) held = { ...held, x: event.clientX, y: event.clientY };
    else view.look(x, y);
  }

  const onUp = () => (held = null);
  const loupeAt = $derived.by(() => {
    const place = view.loupe.at;
    return place ? ([view.x + view.scale * place[0], view.y + view.scale * place[1]] as const) : null;
  });
</script>

<div class="relative size-full overflow-hidden" bind:clientWidth={null, (width) => (view.board = { ...view.board, width: width ?? 0 })} bind:clientHeight={null, (height) => (view.board = { ...view.board, height: height ?? 0 })}>
  <canvas
    bind:this={canvas} class="block size-full touch-none outline-none {held ? 'cursor-grabbing' : 'cursor-crosshair'}" tabindex="-1" aria-hidden="true" data-board
    {onwheel} {onpointerdown} {onpointermove} onpointerup={onUp} onpointercancel={onUp}
  ></canvas>
  {#if area && view.toScreen(0)}<AreaDrawing {area} toScreen={view.toScreen(0)!} onpan={(dx, dy) => view.pan(dx, dy)} />{/if}
  {#if view.way === 'wipe' && view.laid.length > 1}
    <div class="pointer-events-none absolute inset-y-0 w-px bg-white" style="left:{view.wipe * 100}%"><span class="absolute bottom-2 -left-[4px] h-6 w-[9px] rounded-sm bg-white shadow"></span></div>
  {/if}
  {#each Array.from({ length: view.panes }, (_, i) => i) as i (i)}
    <div class="pointer-events-none absolute inset-y-0 overflow-hidden" style="left:{i * (view.pane.width + 8)}px;width:{view.pane.width}px">
      {#if loupeAt && loupeAt[0] > -40 && loupeAt[1] > -40 && !held && !area}
        <svg class="absolute size-[74px] overflow-visible" style="left:{loupeAt[0] - 37}px;top:{loupeAt[1] - 37}px" aria-hidden="true">
          <circle cx="37" cy="37" r="35" fill="none" stroke="#222" stroke-opacity=".5" stroke-width="5" /><circle cx="37" cy="37" r="35" fill="none" stroke="#fff" stroke-width="2.5" />
          <circle cx="37" cy="37" r="4" fill="none" stroke="#222" stroke-width="3" /><circle cx="37" cy="37" r="4" fill="none" stroke="#fff" stroke-width="1.2" />
        </svg>
      {/if}
      {#if view.way === 'beside' && !view.pegs[i] && view.laid[i]}<p class="absolute inset-x-4 top-1/2 text-center text-white">{view.peggedWords(view.pegged)} is not marked in this picture.</p>{/if}
      {#if view.way === 'beside'}<span class="absolute bottom-2 left-2 rounded-sm bg-black/65 px-1.5 py-0.5 text-[12.5px] text-white">{view.laid[i]?.name}</span>{/if}
    </div>
  {/each}
  {#if view.way !== 'beside' && view.laid.length > 1}
    <span class="pointer-events-none absolute bottom-2 left-2 rounded-sm bg-black/65 px-1.5 py-0.5 text-[12.5px] text-white {view.way === 'blink' && view.blinked ? 'opacity-50' : ''}">{view.laid[0]?.name}</span>
    <span class="pointer-events-none absolute right-2 bottom-2 rounded-sm bg-black/65 px-1.5 py-0.5 text-[12.5px] text-white {view.way === 'blink' && !view.blinked ? 'opacity-50' : ''}">{view.laid[view.top]?.name}</span>
    {#if !view.pegs[view.top]}<p class="pointer-events-none absolute inset-x-4 top-4 text-center text-white">{view.peggedWords(view.pegged)} is not marked in {view.laid[view.top]?.name}.</p>{/if}
  {/if}
</div>
