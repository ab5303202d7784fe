<script lang="ts">
  /** The red pencil's kink (something to look at), or the proof-reader's four dots (let stand). */
  let { stet = false, size = 10 }: { stet?: boolean; size?: number } = $props();
</script>

{#if stet}
  <svg width={size * 1.6} height={size / 2} viewBox="0 0 16 5" class="text-soft" aria-hidden="true">
    {#each [2, 6, 10, 14] as x (x)}<circle cx={x} cy="2.5" r="1.3" fill="currentColor" />{/each}
  </svg>
{:else}
  <svg width={size} height={size * 0.8} viewBox="0 0 10 8" class="text-red" aria-hidden="true">
    <path d="M1 6 L3.8 1.5 L6 6 L9 2" fill="none" stroke="currentColor" stroke-width="1.6" />
  </svg>
{/if}
