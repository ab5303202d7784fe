<script lang="ts">
  import type { Bead, Kind } from '../../api/client';
  import { beadRadius } from './geometry';

  /** A thread at one shot: its form says what is held, its size the weight, hollow and blue that no picture is there yet. */
  let { kind, hold, weight, planned }: { kind: Kind; hold: Bead['hold']; weight: number; planned: boolean } = $props();
  const r = $derived(beadRadius(weight));
  const partial = $derived(hold !== 'figure' && hold !== 'place');
  const look = $derived(planned ? 'fill-paper stroke-pencil' : partial ? 'fill-paper stroke-ink' : 'fill-ink stroke-ink');
  const dot = $derived(planned ? 'fill-pencil' : 'fill-ink');
</script>

{#if kind === 'prop'}
  <rect x={-r * 0.78} y={-r * 0.78} width={r * 1.56} height={r * 1.56} transform="rotate(45)" class={look} stroke-width="1.8" />
{:else}
  <circle {r} class={look} stroke-width="1.8" />
{/if}
{#if hold === 'face' || hold === 'light'}
  <circle r="2.4" class={dot} />
{:else if hold === 'outfit' || hold === 'layout'}
  <path d="M{-r * 0.55} 0h{r * 1.1}" class={planned ? 'stroke-pencil' : 'stroke-ink'} stroke-width="2.2" />
{/if}
