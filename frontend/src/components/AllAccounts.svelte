<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ok, type Schemas } from '../api/client';
  import { notices } from '../lib/notices.svelte';
  import { people } from '../lib/people.svelte';
  import ShownOnce from './ShownOnce.svelte';

  /** All accounts, for who looks after them: invite, help with a lost password, close. */
  let accounts = $state.raw<Schemas['AccountCard'][]>([]);
  let link = $state('');
  let what = $state('');
  const tell = (x: unknown) => notices.say((x as Error).message, 'trouble');
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' });

  onMount(() => void ok(api.GET('/api/accounts')).then((a) => (accounts = a)).catch(tell));

  async function told(asked: Promise<{ path: string }>, words: string) {
    await asked.then((made) => ((link = location.origin + made.path), (what = words))).catch(tell);
  }
  const invite = () => told(ok(api.POST('/api/accounts/invitations')), 'A link to a new account, good for seven days');
  const help = (a: Schemas['AccountCard']) => told(ok(api.POST('/api/accounts/{account_id}/password-link', { params: { path: { account_id: a.id } } })), `A link to a new password for ${a.name}, good for a day`);
  const withoutSecond = (a: Schemas['AccountCard']) =>
    ok(api.DELETE('/api/accounts/{account_id}/second', { params: { path: { account_id: a.id } } }))
      .then((all) => {
        accounts = all;
        notices.say(`${a.name} signs in by the password alone until a second factor is set up anew.`);
      })
      .catch(tell);
  const close = (a: Schemas['AccountCard']) =>
    ok(api.PUT('/api/accounts/{account_id}/closed', { params: { path: { account_id: a.id } }, body: { closed: !a.closed } })).then((all) => (accounts = all)).catch(tell);
</script>

<div data-all-accounts>
  {#if link}<ShownOnce value={link} {what} onput={() => (link = '')} />{/if}
  <ul>
    {#each accounts as a (a.id)}
      <li class="flex items-center gap-3 border-t border-hair py-1.5 {a.closed ? 'text-soft' : ''}">
        <span class="min-w-0 flex-1 truncate"><strong>{a.name}</strong> · {a.login}{a.keeper ? ' · looks after the accounts' : ''}{a.closed ? ' · closed' : ''}</span>
        <span class="label">{a.seen_at ? `seen ${day.format(new Date(a.seen_at))}` : 'not signed in'}</span>
        {#if !a.closed}<button class="quiet" onclick={() => help(a)}>New password …</button>{/if}
        {#if a.second && a.id !== people.person?.id}<button class="quiet" onclick={() => withoutSecond(a)} title="Take the second factor of {a.name} off, when it is lost">Second factor lost</button>{/if}
        {#if a.id !== people.person?.id}<button class="quiet" onclick={() => close(a)}>{a.closed ? 'Open again' : 'Close'}</button>{/if}
      </li>
    {/each}
  </ul>
  <div class="mt-3"><button class="btn" onclick={invite}>A link to a new account</button></div>
</div>
