<script lang="ts">
  import { onMount } from 'svelte';
  import Wordmark from '../../components/Wordmark.svelte';
  import { people, ROLES, type Invited } from '../../lib/people.svelte';
  import { router } from '../../lib/router.svelte';

  /** A link that opens once: the first account, an account, a project, or a new password. */
  let invited = $state.raw<Invited | null>(null);
  let trouble = $state('');
  let busy = $state(false);
  let login = $state('');
  let name = $state('');
  let password = $state('');
  let code = $state('');
  let other = $state(false);
  let secret = '';
  const role = $derived(ROLES.find(([r]) => r === invited?.role));
  const asKnown = $derived(invited?.invites === 'project' && people.person !== null && !other);

  onMount(() => {
    document.title = 'Come in · Juxtaform';
    secret = location.hash.slice(1);
    history.replaceState(null, '', location.pathname); // The secret does not stay in the address.
    void people
      .look(secret)
      .then((found) => (invited = found))
      .catch((x: Error) => (trouble = x.message));
  });

  async function join(event: Event) {
    event.preventDefault();
    busy = true;
    trouble = '';
    try {
      const project = await people.join(secret, asKnown ? null : { login, name, password, code });
      router.go(project, 'sheet');
    } catch (error) {
      trouble = (error as Error).message;
    }
    busy = false;
  }
</script>

<div class="grid h-full place-items-center overflow-y-auto p-4" data-enter>
  <main class="w-full max-w-[420px]">
    <div class="mb-6"><Wordmark /></div>
    {#if invited}
      <h1 class="mb-1 font-book text-[20px] font-semibold">
        {#if invited.invites === 'project'}You are invited to “{invited.project}”{:else if invited.invites === 'password'}A new password{:else if invited.invites === 'first'}The first account{:else}An account on this Juxtaform{/if}
      </h1>
      <p class="mb-4 text-soft">
        {#if role}As {role[1].toLowerCase()}: {role[2]}.{:else if invited.invites === 'password'}For {invited.login}. Whatever is signed in as {invited.login} is signed out, and its tokens end.{:else if invited.invites === 'first'}It looks after the others, and takes over the projects that are here.{:else}With it you can begin projects and be invited to others.{/if}
      </p>
      <form class="flex flex-col gap-3" onsubmit={join}>
        {#if asKnown}
          <p>You are signed in as <strong>{people.person?.name}</strong>.</p>
        {:else}
          {#if invited.invites !== 'password'}
            <label><span class="label">The name that others see</span>
              <!-- svelte-ignore a11y_autofocus -->
              <input class="field mt-1 h-10" name="name" autocomplete="name" required maxlength="80" bind:value={name} autofocus /></label>
            <label><span class="label">To sign in: a name without spaces, or a mail address</span>
              <input class="field mt-1 h-10" name="login" autocomplete="username" autocapitalize="none" spellcheck="false" required maxlength="200" bind:value={login} /></label>
          {/if}
          <label><span class="label">Password: a few words that do not belong together</span>
            <input class="field mt-1 h-10" name="password" type="password" autocomplete="new-password" required minlength="10" maxlength="200" bind:value={password} /></label>
          {#if invited.second}
            <label><span class="label">The code that your app shows, or a spare code</span>
              <input class="field mt-1 h-10 font-mono" name="code" inputmode="numeric" autocomplete="one-time-code" required maxlength="60" bind:value={code} /></label>
          {/if}
        {/if}
        {#if trouble}<p class="border-l-4 border-red pl-2 text-red" role="alert">{trouble}</p>{/if}
        <button class="btn btn-main h-10" disabled={busy}>{busy ? 'A moment …' : asKnown ? 'Join' : invited.invites === 'password' ? 'Set it and sign in' : 'Make the account and come in'}</button>
        {#if invited.invites === 'project' && people.person}
          <button type="button" class="quiet self-start" onclick={() => (other = !other)}>{other ? `Join as ${people.person.name}` : 'Make another account instead'}</button>
        {:else if invited.invites === 'project'}
          <p class="label">You have an account already? <a class="underline" href="/" target="_blank" rel="noreferrer">Sign in</a>, then open this link again.</p>
        {/if}
      </form>
    {:else if trouble}
      <h1 class="mb-1 font-book text-[20px] font-semibold">This link does not open</h1>
      <p class="mb-4" role="alert">{trouble}</p>
      <button class="btn" onclick={() => router.go(null)}>To Juxtaform</button>
    {/if}
  </main>
</div>
