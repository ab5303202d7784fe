<script lang="ts">
  /** A small drawing of a shot's size, angle or move. */
  let { size = '', angle = '', move = '', width = 36 }: { size?: string; angle?: string; move?: string; width?: number } = $props();

  /** Figure height against the frame, and where its head stands, by size. */
  const SIZES: Record<string, [number, number]> = {
    EWS: [0.22, 0.62], WS: [0.62, 0.22], MWS: [0.98, 0.16], MS: [1.45, 0.14], MCU: [2.1, 0.1], CU: [3.1, 0.02], ECU: [6.2, -0.55],
  };
  const figure = $derived(SIZES[size] ?? SIZES.MS!);
  const scale = $derived((24 * figure[0]) / 40);
  const top = $derived(24 * figure[1]);
</script>

<svg viewBox="0 0 36 24" {width} height={(width * 24) / 36} class="shrink-0" aria-hidden="true">
  {#if size}
    <svg width="36" height="24" viewBox="0 0 36 24" overflow="hidden">
      {#if figure[0] < 1}<path d="M0 21.5h36" stroke="currentColor" stroke-width="0.7" opacity="0.6" />{/if}
      <g transform="translate(18,{top}) scale({scale})" fill="currentColor">
        <circle cy="5" r="4.6" />
        <path d="M-6 12q6 -4 12 0l2 13h-3l-1 15h-3l-1 -12l-1 12h-3l-1 -15h-3z" />
        {#if figure[0] > 3}<circle cx="-1.6" cy="4.6" r="0.7" fill="var(--paper)" /><circle cx="1.6" cy="4.6" r="0.7" fill="var(--paper)" />{/if}
      </g>
    </svg>
    <rect x="0.5" y="0.5" width="35" height="23" fill="none" stroke="currentColor" />
  {:else if angle}
    {#if angle === 'over the shoulder'}
      <path d="M0 24v-9q7 -7 13 0v9z" fill="currentColor" /><circle cx="6.5" cy="8" r="5" fill="currentColor" />
      <circle cx="25" cy="9" r="3.4" fill="none" stroke="currentColor" stroke-width="1.2" /><path d="M19 24q1 -10 6 -10t6 10" fill="none" stroke="currentColor" stroke-width="1.2" />
    {:else if angle === 'point of view'}
      <path d="M3 12q15 -14 30 0q-15 14 -30 0z" fill="none" stroke="currentColor" stroke-width="1.3" /><circle cx="18" cy="12" r="4" fill="currentColor" />
    {:else if angle === 'tilted'}
      <rect x="7" y="4" width="22" height="15" fill="none" stroke="currentColor" stroke-width="1.3" transform="rotate(-14 18 12)" /><path d="M9 17l19 -5" stroke="currentColor" />
    {:else}
      {@const at = { 'eye level': [8, 9], high: [7, 4], low: [7, 19], "bird's eye": [24, 3], "worm's eye": [17, 22] }[angle] ?? [8, 9]}
      <g fill="currentColor"><circle cx="25" cy={angle === "bird's eye" ? 14 : 7} r="2.6" /><path d="M22 {angle === "bird's eye" ? 17 : 11}q3 -2 6 0l0.8 6h-1.6l-0.6 6h-3.2l-0.6 -6h-1.6z" /></g>
      <path d="M{at[0]} {at[1]}L25 {angle === "bird's eye" ? 13 : 9}" stroke="currentColor" stroke-dasharray="2 1.6" stroke-width="0.9" />
      <circle cx={at[0]} cy={at[1]} r="2.4" fill="var(--paper)" stroke="currentColor" stroke-width="1.3" />
      <path d="M2 23.4h32" stroke="currentColor" stroke-width="0.7" opacity="0.6" />
    {/if}
  {:else}
    <rect x="8" y="5" width="20" height="14" fill="none" stroke="currentColor" stroke-width="1" opacity={move === 'static' ? 1 : 0.5} />
    {#if move === 'pan'}<path d="M4 12h27m-4 -4l4 4l-4 4" fill="none" stroke="currentColor" stroke-width="1.6" />
    {:else if move === 'tilt'}<path d="M18 21v-18m-4 4l4 -4l4 4" fill="none" stroke="currentColor" stroke-width="1.6" />
    {:else if move === 'push in'}<rect x="13.5" y="9" width="9" height="6" fill="none" stroke="currentColor" stroke-width="1.4" /><path d="M2 2l8 5m24 -5l-8 5m-24 15l8 -5m24 5l-8 -5" stroke="currentColor" stroke-width="1.4" />
    {:else if move === 'pull out'}<rect x="13.5" y="9" width="9" height="6" fill="none" stroke="currentColor" stroke-width="1.2" stroke-dasharray="2 1.5" /><path d="M2 2l8 5m-8 -5l3.4 .2m-3.4 -.2l1.6 3M34 22l-8 -5m8 5l-3.4 -.2m3.4 .2l-1.6 -3" stroke="currentColor" stroke-width="1.4" fill="none" />
    {:else if move === 'arc'}<path d="M5 14q13 14 26 0m-4.5 .4l4.5 -.4l.6 4.4" fill="none" stroke="currentColor" stroke-width="1.6" />
    {:else if move === 'track'}<path d="M3 21h29m-4 -3l4 3l-4 3M6 18v3m6 -3v3m6 -3v3m6 -3v3" fill="none" stroke="currentColor" stroke-width="1.3" />
    {:else if move === 'crane'}<path d="M4 22L27 6m-4.6 .2l4.6 -.2l-1.4 4.4" fill="none" stroke="currentColor" stroke-width="1.6" /><path d="M1 22h8" stroke="currentColor" stroke-width="1.6" />
    {/if}
  {/if}
</svg>
