<script lang="ts">
  import Notices from './components/Notices.svelte';
  import { router } from './lib/router.svelte';
  import Shelf from './views/shelf/Shelf.svelte';
  import Workbench from './views/Workbench.svelte';
</script>

{#if router.project}
  {#key router.project}
    <Workbench id={router.project} />
  {/key}
{:else}
  <Shelf />
{/if}
<Notices />
