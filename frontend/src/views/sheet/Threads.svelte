<script lang="ts">
  import type { SheetState } from './sheet-state.svelte';
  import ShotThreads from './ShotThreads.svelte';

  /** The threads through the shots in sight. Each shot draws its own, so that one that stays in view is not drawn anew. */
  let { sheet, width }: { sheet: SheetState; width: number } = $props();
</script>

{#each sheet.visible as { row } (row.kind === 'scene' ? row.scene.id : row.shot.id)}
  {#if row.kind === 'shot'}<ShotThreads {sheet} shot={row.shot} {width} />{/if}
{/each}
