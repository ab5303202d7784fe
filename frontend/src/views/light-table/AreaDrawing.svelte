<script lang="ts">
  import type { AreaState } from './area-state.svelte';
  import { at, inverse, type Affine } from './geometry';

  /** The area as it is drawn on its picture; dragging draws, with the middle button or Space held the picture is moved instead. */
  let { area, toScreen, onpan }: { area: AreaState; toScreen: Affine; onpan: (dx: number, dy: number) => void } = $props();
  let own = $state<SVGSVGElement | null>(null);
  let panning = $state<{ x: number; y: number } | null>(null);
  let spaced = $state(false);
  let pointer = $state<[number, number] | null>(null);
  const { width, height } = $derived(area.laid);
  const [a, b, c, d, e, f] = $derived(toScreen);
  const side = $derived(Math.max(width, height));

  function place(event: PointerEvent): [number, number] {
    const box = own!.getBoundingClientRect();
    const [x, y] = at(inverse(toScreen), event.clientX - box.left, event.clientY - box.top);
    return [x / width, y / height];
  }

  function down(event: PointerEvent) {
    own!.setPointerCapture(event.pointerId);
    event.preventDefault();
    if (event.button === 1 || spaced) panning = { x: event.clientX, y: event.clientY };
    else if (event.button === 0) area.begin(...place(event));
  }

  function moved(event: PointerEvent) {
    pointer = place(event);
    if (panning) {
      onpan(event.clientX - panning.x, event.clientY - panning.y);
      panning = { x: event.clientX, y: event.clientY };
    } else area.go(...pointer);
  }

  function up() {
    panning = null;
    area.end();
  }

  const path = (points: readonly (readonly number[])[]) => points.map((p) => `${p[0]! * width},${p[1]! * height}`).join(' ');
</script>

<svelte:window onkeydown={(e) => e.key === ' ' && (spaced = true)} onkeyup={(e) => e.key === ' ' && (spaced = false)} />

<svg bind:this={own} class="absolute inset-0 size-full touch-none {spaced || panning ? 'cursor-grab' : 'cursor-crosshair'}" onpointerdown={down} onpointermove={moved} onpointerup={up} onpointerleave={() => (pointer = null)} role="application" aria-label="Drag to draw the area" data-area-drawing>
  <g transform="matrix({a} {d} {b} {e} {c} {f})">
    <defs>
      <mask id="area" maskUnits="userSpaceOnUse" x="0" y="0" {width} {height}>
        {#each area.all as shape, i (i)}
          {@const fill = shape.rubbed ? '#000' : '#fff'}
          {#if shape.kind === 'brush'}<polyline points={path(shape.points)} fill="none" stroke={fill} stroke-width={2 * (shape.radius ?? 0) * side} stroke-linecap="round" stroke-linejoin="round" />
          {:else if shape.kind === 'outline'}<polygon points={path(shape.points)} {fill} />
          {:else}{@const [p, q] = [shape.points[0]!, shape.points.at(-1)!]}<rect x={Math.min(p[0], q[0]) * width} y={Math.min(p[1], q[1]) * height} width={Math.abs(p[0] - q[0]) * width} height={Math.abs(p[1] - q[1]) * height} {fill} />{/if}
        {/each}
      </mask>
      <filter id="rim" x="-5%" y="-5%" width="110%" height="110%"><feMorphology in="SourceAlpha" operator="dilate" radius={1.5 / Math.hypot(a, d)} result="wide" /><feComposite in="wide" in2="SourceAlpha" operator="out" result="ring" /><feFlood flood-color="#fff" /><feComposite in2="ring" operator="in" /><feMerge><feMergeNode /><feMergeNode in="SourceGraphic" /></feMerge></filter>
    </defs>
    <g filter="url(#rim)"><rect {width} {height} fill="#2f86b8" fill-opacity="0.55" mask="url(#area)" /></g>
    {#if pointer && area.tool === 'brush' && !panning}<circle cx={pointer[0] * width} cy={pointer[1] * height} r={area.radius * side} fill="none" stroke={area.rubbing ? '#ff8a7a' : '#fff'} stroke-width={1.5 / Math.hypot(a, d)} />{/if}
  </g>
</svg>
