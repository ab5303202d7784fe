<script lang="ts">
  import { onMount } from 'svelte';
  import SecondFactor from '../../components/SecondFactor.svelte';
  import Wordmark from '../../components/Wordmark.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { people } from '../../lib/people.svelte';

  /** Signed in, where everybody has to have a second factor, and without one yet. */
  onMount(() => {
    document.title = 'A second factor · Juxtaform';
  });
</script>

<div class="grid h-full place-items-center overflow-y-auto p-4" data-needs-second>
  <main class="w-full max-w-[560px]">
    <div class="mb-6"><Wordmark /></div>
    <h1 class="mb-1 font-book text-[20px] font-semibold">A second factor is needed here</h1>
    <p class="mb-4 text-soft">Everybody on this Juxtaform has one. It takes a minute and an app for sign-in codes on your telephone.</p>
    <SecondFactor />
    <button class="quiet mt-6" onclick={() => people.signOut().catch((x: Error) => notices.say(x.message, 'trouble'))}>Sign out</button>
  </main>
</div>
