<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ok, type Schemas } from '../api/client';
  import { notices } from '../lib/notices.svelte';
  import { people } from '../lib/people.svelte';
  import { copied } from '../lib/without-tls';

  /** One's second factor: set up with an app, spare codes kept, or taken off. */
  let { onkept = () => {} }: { onkept?: () => void } = $props();
  let standing = $state.raw<Schemas['SecondStanding'] | null>(null);
  let offer = $state.raw<Schemas['SecondOffer'] | null>(null);
  let codes = $state.raw<string[]>([]);
  let trouble = $state('');
  let busy = $state(false);
  const tell = (x: unknown) => notices.say((x as Error).message, 'trouble');
  /** The dark squares as one path, a row at a time. */
  const dark = $derived(offer?.square.flatMap((row, y) => [...row.matchAll(/1+/g)].map((run) => `M${run.index} ${y}h${run[0].length}v1h-${run[0].length}z`)).join('') ?? '');

  onMount(() => void load());

  async function load() {
    standing = await ok(api.GET('/api/me/second')).catch((x) => (tell(x), null));
  }

  async function begin() {
    trouble = '';
    offer = await ok(api.POST('/api/me/second')).catch((x) => (tell(x), null));
  }

  async function send(event: SubmitEvent, ask: (body: Schemas['Confirming']) => Promise<void>) {
    event.preventDefault();
    const data = new FormData(event.target as HTMLFormElement);
    busy = true;
    trouble = '';
    try {
      await ask({ password: String(data.get('password')), code: String(data.get('code')) });
    } catch (error) {
      trouble = (error as Error).message;
    }
    busy = false;
  }

  async function confirm(body: Schemas['Confirming']) {
    codes = (await ok(api.PUT('/api/me/second', { body }))).codes;
    offer = null;
  }

  async function takeOff(body: Schemas['Confirming']) {
    await ok(api.POST('/api/me/second/off', { body }));
    await Promise.all([load(), people.load()]);
    notices.say('The second factor is off. The password alone lets you in.');
  }

  async function copy() {
    if (await copied(codes.join('\n'))) notices.say('Copied.');
    else notices.say('Mark them and copy them by hand.', 'trouble');
  }

  async function kept() {
    codes = [];
    await Promise.all([load(), people.load()]);
    onkept();
  }
</script>

{#snippet fields(label: string)}
  <label><span class="label">Your password</span><input class="field mt-1" type="password" name="password" autocomplete="current-password" required maxlength="200" /></label>
  <label><span class="label">{label}</span><input class="field mt-1 font-mono" name="code" inputmode="numeric" autocomplete="one-time-code" required maxlength="60" /></label>
{/snippet}

<div data-second-factor>
  {#if codes.length}
    <p class="mb-2"><strong>Keep these spare codes</strong>, on paper or where your passwords are. Each lets you in once when the telephone is lost. They are shown this once.</p>
    <ol class="mb-3 grid grid-cols-1 gap-x-6 rounded-sm bg-wash p-3 font-mono text-[13px] sm:grid-cols-2" data-spare-codes>
      {#each codes as code (code)}<li>{code}</li>{/each}
    </ol>
    <div class="flex gap-2"><button class="btn btn-main" onclick={kept}>I have kept them</button><button class="btn" onclick={copy}>Copy them</button></div>
  {:else if offer}
    <div class="mb-4 flex flex-wrap gap-5">
      <svg viewBox="-2 -2 {offer.square.length + 4} {offer.square.length + 4}" class="w-[190px] shrink-0 bg-white" shape-rendering="crispEdges" role="img" aria-label="A square code for the app"><path d={dark} fill="#000" /></svg>
      <div class="min-w-[220px] flex-1">
        <p>Open an app for sign-in codes on your telephone and let it read this square.</p>
        <p class="label mt-3">Or type these letters into it:</p>
        <p class="font-mono text-[13px] break-all select-all" data-letters>{offer.secret.match(/.{1,4}/g)?.join(' ')}</p>
      </div>
    </div>
    <form class="grid grid-cols-1 items-end gap-3 sm:grid-cols-[1fr_1fr_auto]" onsubmit={(e) => send(e, confirm)}>
      {@render fields('The six digits that it shows')}
      <button class="btn btn-main" disabled={busy}>Turn it on</button>
    </form>
  {:else if standing?.on}
    <p class="mb-3">It is on: beside the password a code of your app is asked for. {standing.spare_left === 1 ? 'One spare code is' : `${standing.spare_left} spare codes are`} left{standing.spare_left < 3 ? '; take it off and set it up anew to get ten fresh ones' : ''}.</p>
    <form class="grid grid-cols-1 items-end gap-3 sm:grid-cols-[1fr_1fr_auto]" onsubmit={(e) => send(e, takeOff)}>
      {@render fields('A code of the app, or a spare one')}
      <button class="btn" disabled={busy}>Take it off</button>
    </form>
  {:else if standing}
    <p class="mb-3">With a second factor a password that somebody learned opens nothing: a code from an app on your telephone is asked for too.</p>
    <button class="btn {people.halfway ? 'btn-main' : ''}" onclick={begin}>Set it up</button>
  {/if}
  {#if trouble}<p class="mt-2 border-l-4 border-red pl-2 text-red" role="alert">{trouble}</p>{/if}
</div>
