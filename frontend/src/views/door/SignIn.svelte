<script lang="ts">
  import { onMount } from 'svelte';
  import Wordmark from '../../components/Wordmark.svelte';
  import { people, wantsCode } from '../../lib/people.svelte';

  /** Signing in; `again` over a window that stays as it is, when what was open was closed meanwhile. */
  let { again = false }: { again?: boolean } = $props();
  // svelte-ignore state_referenced_locally
  let login = $state(again ? (people.person?.login ?? '') : '');
  let password = $state('');
  let code = $state('');
  /** The password held, and a code of the second factor is asked for. */
  let asked = $state(false);
  let trouble = $state('');
  let busy = $state(false);

  onMount(() => {
    if (!again) document.title = 'Sign in · Juxtaform';
  });

  /** Pictures that were refused meanwhile are asked for again. */
  function askForPictures() {
    for (const picture of document.images) if (picture.complete && !picture.naturalWidth && picture.currentSrc) picture.src = picture.currentSrc;
  }

  async function enter(event: Event) {
    event.preventDefault();
    busy = true;
    trouble = '';
    try {
      await people.signIn(login, password, asked ? code : '');
      asked = false;
      password = '';
      if (again) askForPictures();
    } catch (error) {
      if (!wantsCode(error) || asked) trouble = (error as Error).message;
      if (wantsCode(error)) asked = true;
      else password = '';
    }
    code = '';
    busy = false;
  }
</script>

<div class="fixed inset-0 z-50 grid place-items-center overflow-y-auto p-4 {again ? 'bg-black/40' : 'bg-paper'}" data-sign-in>
  <svelte:element this={again ? 'section' : 'main'} class="w-full max-w-[380px] {again ? 'pop p-6' : ''}" role={again ? 'dialog' : undefined} aria-modal={again || undefined} aria-label={again ? 'Sign in again' : undefined}>
    {#if !again}<div class="mb-6"><Wordmark /></div>{/if}
    {#if people.first}
      <h1 class="mb-2 font-book text-[20px] font-semibold">No account yet</h1>
      <p>The link to the first one stands in the terminal where Juxtaform was started. Open it; whoever has it looks after the accounts from then on.</p>
    {:else}
      <svelte:element this={again ? 'h2' : 'h1'} class="mb-1 font-book text-[20px] font-semibold">{again ? 'Sign in again' : 'Sign in'}</svelte:element>
      <p class="mb-4 text-soft">{again ? 'You were signed out meanwhile. This window stays as it is: what you did is sent once you are in.' : 'No account? Ask whoever invited you for a link.'}</p>
      <form class="flex flex-col gap-3" onsubmit={enter}>
        <label><span class="label">Name or mail address</span>
          <!-- svelte-ignore a11y_autofocus -->
          <input class="field mt-1 h-10" name="login" autocomplete="username" autocapitalize="none" spellcheck="false" required maxlength="200" bind:value={login} autofocus={!login} /></label>
        <label><span class="label">Password</span>
          <!-- svelte-ignore a11y_autofocus -->
          <input class="field mt-1 h-10" name="password" type="password" autocomplete="current-password" required maxlength="200" bind:value={password} autofocus={Boolean(login)} /></label>
        {#if asked}
          <label><span class="label">Now the code that your app shows, or a spare code</span>
            <!-- svelte-ignore a11y_autofocus -->
            <input class="field mt-1 h-10 font-mono" name="code" inputmode="numeric" autocomplete="one-time-code" required maxlength="60" bind:value={code} autofocus /></label>
        {/if}
        {#if trouble}<p class="border-l-4 border-red pl-2 text-red" role="alert">{trouble}</p>{/if}
        <button class="btn btn-main h-10" disabled={busy}>{busy ? 'Looking …' : 'Sign in'}</button>
      </form>
      <p class="label mt-4">Lost the password or the telephone? Who looks after the accounts can help.</p>
    {/if}
  </svelte:element>
</div>
