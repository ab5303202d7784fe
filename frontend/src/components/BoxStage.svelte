<script lang="ts" module>
  import type { BoxPx } from '../api/client';

  export interface StageBox extends BoxPx {
    id: string;
    label: string;
    colour?: string;
    outline?: [number, number][] | null;
    /** It waits for the user's word: dashed, light blue. */
    proposed?: boolean;
  }
</script>

<script lang="ts">
  /** A picture in its well with boxes on it: drag on the picture to draw one, on a box to move it, on its corner to size it. */
  let {
    src,
    width,
    height,
    boxes,
    chosen = $bindable(null),
    drawing = true,
    outlines = false,
    ondraw,
    onchange,
    onpoint,
  }: {
    src: string;
    width: number;
    height: number;
    boxes: StageBox[];
    chosen?: string | null;
    drawing?: boolean;
    /** Drawing follows the hand: what is drawn has an outline besides its box. */
    outlines?: boolean;
    ondraw?: (box: BoxPx, outline?: [number, number][]) => void;
    onchange?: (id: string, box: BoxPx) => void;
    onpoint?: (x: number, y: number) => void;
  } = $props();

  let frameW = $state(600);
  let frameH = $state(400);
  let image = $state<SVGSVGElement | null>(null);
  let live = $state<{ id: string | null; mode: 'draw' | 'move' | 'size'; x0: number; y0: number; from: BoxPx; box: BoxPx } | null>(null);
  let trail = $state<[number, number][]>([]);
  const scale = $derived(Math.min((frameW - 8) / width, (frameH - 8) / height));

  function at(event: PointerEvent): [number, number] {
    const r = image!.getBoundingClientRect();
    const clamp = (v: number, top: number) => Math.min(top, Math.max(0, v));
    return [clamp(((event.clientX - r.left) / r.width) * width, width), clamp(((event.clientY - r.top) / r.height) * height, height)];
  }

  function down(event: PointerEvent) {
    if (event.button !== 0) return;
    const [x, y] = at(event);
    const target = event.target as SVGElement;
    const id = target.dataset.box ?? null;
    const held = boxes.find((b) => b.id === id);
    if (held) {
      chosen = held.id;
      if (!onchange) return;
      // The next arrow key is for this box.
      image!.focus({ preventScroll: true });
      const from = { x: held.x, y: held.y, w: held.w, h: held.h };
      live = { id, mode: target.dataset.corner ? 'size' : 'move', x0: x, y0: y, from, box: from };
    } else if (drawing && ondraw) {
      live = { id: null, mode: 'draw', x0: x, y0: y, from: { x, y, w: 0, h: 0 }, box: { x, y, w: 0, h: 0 } };
      trail = [[x, y]];
    } else {
      onpoint?.(x, y);
      return;
    }
    image!.setPointerCapture(event.pointerId);
    event.preventDefault();
  }

  function moved(event: PointerEvent) {
    if (!live) return;
    const [x, y] = at(event);
    const { from, x0, y0 } = live;
    if (live.mode === 'draw' && outlines) {
      const last = trail.at(-1)!;
      if (Math.hypot(x - last[0], y - last[1]) * scale < 4) return;
      trail.push([x, y]);
      const [xs, ys] = [trail.map((p) => p[0]), trail.map((p) => p[1])];
      const [left, top] = [Math.min(...xs), Math.min(...ys)];
      live.box = { x: left, y: top, w: Math.max(...xs) - left, h: Math.max(...ys) - top };
    } else if (live.mode === 'draw') live.box = { x: Math.min(x, x0), y: Math.min(y, y0), w: Math.abs(x - x0), h: Math.abs(y - y0) };
    else if (live.mode === 'move')
      live.box = { ...from, x: Math.min(width - from.w, Math.max(0, from.x + x - x0)), y: Math.min(height - from.h, Math.max(0, from.y + y - y0)) };
    else live.box = { ...from, w: Math.max(6, from.w + x - x0), h: Math.max(6, from.h + y - y0) };
  }

  /** Without the mouse: , and . choose a box, arrows move it, with Alt they size it, Shift goes further; Insert puts a new one. */
  function key(event: KeyboardEvent) {
    const at = boxes.findIndex((b) => b.id === chosen);
    const held = boxes[at];
    const far = event.shiftKey ? 0.05 : 0.01;
    const way = ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as Record<string, [number, number]>)[event.key];
    if ((event.key === '.' || event.key === ',') && boxes.length) chosen = boxes[(at + (event.key === '.' ? 1 : -1) + boxes.length) % boxes.length]!.id;
    else if (event.key === 'Insert' && drawing && ondraw) ondraw({ x: width * 0.35, y: height * 0.35, w: width * 0.3, h: height * 0.3 });
    else if (way && held && onchange) {
      const [dx, dy] = [way[0] * far * width, way[1] * far * height];
      const box = event.altKey
        ? { x: held.x, y: held.y, w: Math.min(width - held.x, Math.max(6, held.w + dx)), h: Math.min(height - held.y, Math.max(6, held.h + dy)) }
        : { x: Math.min(width - held.w, Math.max(0, held.x + dx)), y: Math.min(height - held.h, Math.max(0, held.y + dy)), w: held.w, h: held.h };
      onchange(held.id, box);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function up(event: PointerEvent) {
    const done = live;
    live = null;
    if (!done) return;
    const small = done.box.w * scale < 5 || done.box.h * scale < 5;
    if (done.mode === 'draw') {
      if (small) {
        chosen = null;
        const [x, y] = at(event);
        onpoint?.(x, y);
      } else ondraw?.(done.box, outlines && trail.length > 2 ? trail.slice(0, 400).map(([px, py]) => [Math.round(px), Math.round(py)]) : undefined);
    } else if (done.box !== done.from) onchange?.(done.id!, done.box);
  }
</script>

<div class="well relative grid size-full place-items-center overflow-hidden" bind:clientWidth={frameW} bind:clientHeight={frameH} data-stage>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <svg
    role="application" tabindex="0" aria-label="The picture and its boxes: comma and full stop choose one, arrows move it, Alt and arrows size it, Insert puts a new one" onkeydown={key}
    bind:this={image} viewBox="0 0 {width} {height}" style="width:{width * scale}px;height:{height * scale}px"
    class="touch-none {drawing ? 'cursor-crosshair' : ''}" onpointerdown={down} onpointermove={moved} onpointerup={up}
  >
    <image href={src} {width} {height} />
    {#each boxes as held (held.id)}
      {@const box = live?.id === held.id ? live.box : held}
      {@const on = chosen === held.id}
      {@const colour = held.proposed ? '#8fd0f5' : (held.colour ?? '#2373a2')}
      <rect
        x={box.x} y={box.y} width={box.w} height={box.h} fill="none" stroke={held.proposed ? '#10222e' : '#fff'}
        stroke-opacity={held.proposed ? 0.7 : 0.85} stroke-width={(on ? 5 : 4) / scale}
      />
      <rect
        x={box.x} y={box.y} width={box.w} height={box.h} fill="transparent" stroke={colour} stroke-width={(on ? 3 : held.proposed ? 2.2 : 1.6) / scale}
        stroke-dasharray={held.proposed ? `${7 / scale} ${4 / scale}` : undefined} data-box={held.id} data-proposed={held.proposed} class="cursor-move"
      />
      {#if held.outline}<polygon points={held.outline.map((p) => p.join()).join(' ')} fill="none" stroke={held.colour ?? '#2373a2'} stroke-width={1.6 / scale} class="pointer-events-none" />{/if}
      <g transform="translate({box.x},{Math.max(box.y, 18 / scale)}) scale({1 / scale})" class="pointer-events-none">
        <rect y="-18" width={held.label.length * 7 + 12} height="18" fill={colour} />
        <text x="6" y="-5" fill={held.proposed ? '#10222e' : '#fff'} font-size="12" font-weight="600">{held.label}</text>
      </g>
      {#if on && onchange}
        <rect
          x={box.x + box.w - 6 / scale} y={box.y + box.h - 6 / scale} width={12 / scale} height={12 / scale}
          fill="#fff" stroke={colour} stroke-width={2 / scale} data-box={held.id} data-corner="1" class="cursor-nwse-resize"
        />
      {/if}
    {/each}
    {#if live?.mode === 'draw' && outlines}
      <polygon points={trail.map((p) => p.join()).join(' ')} fill="#2373a2" fill-opacity="0.15" stroke="#2373a2" stroke-width={2 / scale} />
    {:else if live?.mode === 'draw'}
      <rect x={live.box.x} y={live.box.y} width={live.box.w} height={live.box.h} fill="#2373a2" fill-opacity="0.15" stroke="#2373a2" stroke-width={2 / scale} />
    {/if}
  </svg>
</div>
