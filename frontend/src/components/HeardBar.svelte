<script lang="ts">
  import { duration } from '../lib/order';
  import type { Heard } from '../lib/heard';

  /** How a length falls into words spoken (solid), told (hatched) and what is only seen (empty). */
  let { heard, wide = false }: { heard: Heard; wide?: boolean } = $props();
  const total = $derived(heard.spoken_s + heard.told_s + heard.shown_s);
  const share = (part: number) => (total ? (part / total) * 100 : 0);
  const words = $derived(`Spoken ${duration(heard.spoken_s)}, told ${duration(heard.told_s)}, only seen ${duration(heard.shown_s)}`);
</script>

<span class="inline-flex h-2 {wide ? 'w-full' : 'w-14'} overflow-hidden border border-soft" role="img" aria-label={words} title={words}>
  <span class="bg-soft" style="width:{share(heard.spoken_s)}%"></span>
  <span class="hatched" style="width:{share(heard.told_s)}%"></span>
</span>

<style>
  .hatched {
    background: repeating-linear-gradient(135deg, var(--soft) 0 1px, transparent 1px 3px);
  }
</style>
