<script lang="ts">
  import { onMount } from 'svelte';
  import Notices from './components/Notices.svelte';
  import { notices } from './lib/notices.svelte';
  import { people } from './lib/people.svelte';
  import { router } from './lib/router.svelte';
  import Enter from './views/door/Enter.svelte';
  import NeedsSecond from './views/door/NeedsSecond.svelte';
  import SignIn from './views/door/SignIn.svelte';
  import Shelf from './views/shelf/Shelf.svelte';
  import Workbench from './views/Workbench.svelte';

  onMount(() => router.door === 'show' || void people.load().catch((x: Error) => notices.say(x.message, 'trouble')));
</script>

{#if router.door === 'show'}
  {#await import('./views/shown/Shown.svelte') then { default: Shown }}<Shown />{/await}
{:else if router.door === 'enter'}
  <Enter />
{:else if people.outside}
  <SignIn />
{:else if people.halfway}
  <NeedsSecond />
{:else if router.project}
  {#key router.project}
    <Workbench id={router.project} />
  {/key}
{:else if people.known}
  <Shelf />
{/if}
{#if people.lost}<SignIn again />{/if}
<Notices />
