<script lang="ts">
  import { Dialog, Popover } from 'bits-ui';
  import { api, ok, type Schemas } from '../api/client';
  import { notices } from '../lib/notices.svelte';
  import { people } from '../lib/people.svelte';
  import { lettersOf } from '../lib/presence.svelte';
  import AllAccounts from './AllAccounts.svelte';
  import Choice from './Choice.svelte';
  import SecondFactor from './SecondFactor.svelte';
  import ShownOnce from './ShownOnce.svelte';

  /** Who is signed in: name, password, second factor, browsers, tokens; for who looks after them, all accounts. `short` where there is little room. */
  let { short = false }: { short?: boolean } = $props();
  let menu = $state(false);
  let open = $state(false);
  let part = $state<'self' | 'second' | 'tokens' | 'accounts'>('self');
  let signIns = $state.raw<Schemas['OwnSignIn'][]>([]);
  let tokens = $state.raw<Schemas['TokenCard'][]>([]);
  let projects = $state.raw<Schemas['ProjectCard'][]>([]);
  let secret = $state('');
  let trouble = $state('');
  const parts = $derived<['self' | 'second' | 'tokens' | 'accounts', string][]>([
    ['self', 'Name and password'],
    ['second', 'Second factor'],
    ['tokens', 'Tokens'],
    ...(people.person?.keeper ? ([['accounts', 'All accounts']] as ['accounts', string][]) : []),
  ]);
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' });
  const time = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  const tell = (x: unknown) => notices.say((x as Error).message, 'trouble');

  async function show(which: typeof part) {
    menu = false;
    part = which;
    secret = trouble = '';
    open = true;
    await load().catch(tell);
  }

  async function load() {
    [signIns, tokens, projects] = await Promise.all([ok(api.GET('/api/me/sign-ins')), ok(api.GET('/api/me/tokens')), ok(api.GET('/api/projects'))]);
  }

  async function rename(event: Event) {
    const name = (event.target as HTMLInputElement).value.trim();
    if (name && name !== people.person?.name) people.person = await ok(api.PATCH('/api/me', { body: { name } })).catch((x) => (tell(x), people.person));
  }

  async function changePassword(event: SubmitEvent) {
    event.preventDefault();
    const form = event.target as HTMLFormElement;
    const data = new FormData(form);
    trouble = '';
    try {
      await ok(api.PUT('/api/me/password', { body: { old: String(data.get('old')), new: String(data.get('new')) } }));
      form.reset();
      notices.say('The password is changed. All other browsers are signed out, and tokens have ended.');
      await load();
    } catch (error) {
      trouble = (error as Error).message;
    }
  }

  async function newToken(event: SubmitEvent) {
    event.preventDefault();
    const data = new FormData(event.target as HTMLFormElement);
    const made = await ok(
      api.POST('/api/me/tokens', { body: { name: String(data.get('name')), scope: data.get('scope') as 'read' | 'write', project_id: String(data.get('project')) || null, days: Number(data.get('days')) } }),
    ).catch(tell);
    if (!made) return;
    secret = made.secret;
    (event.target as HTMLFormElement).reset();
    await load().catch(tell);
  }

  const endSignIn = (id: string) => ok(api.DELETE('/api/me/sign-ins/{sign_in_id}', { params: { path: { sign_in_id: id } } })).then(load).catch(tell);
  const takeBack = (id: string) => ok(api.DELETE('/api/me/tokens/{token_id}', { params: { path: { token_id: id } } })).then(load).catch(tell);
  const browser = (text: string) => /Firefox|Edg|OPR|Chrome|Safari/.exec(text)?.[0].replace('Edg', 'Edge').replace('OPR', 'Opera') ?? 'A browser';
  const system = (text: string) => /Windows|Mac OS|Android|iPhone|iPad|Linux/.exec(text)?.[0] ?? '';
</script>

{#if people.person}
  <Popover.Root bind:open={menu}>
    {#if short}
      <Popover.Trigger class="grid size-7 shrink-0 place-items-center rounded-full border border-line text-[12px] font-semibold hover:bg-hair" title="{people.person.name}: your account" aria-label="{people.person.name}: your account" data-account>{lettersOf(people.person)}</Popover.Trigger>
    {:else}
      <Popover.Trigger class="quiet max-w-[200px] truncate" data-account>{people.person.name}</Popover.Trigger>
    {/if}
    <Popover.Portal>
      <Popover.Content role="dialog" aria-label="Your account" class="pop flex w-[230px] flex-col p-2" side="bottom" align="end" sideOffset={6}>
        <p class="label px-2 pb-1">Signed in as {people.person.login}</p>
        <button class="quiet text-left" onclick={() => show('self')}>Name and password …</button>
        <button class="quiet text-left" onclick={() => show('second')}>Second factor …</button>
        <button class="quiet text-left" onclick={() => show('tokens')}>Tokens for programs …</button>
        {#if people.person.keeper}<button class="quiet text-left" onclick={() => show('accounts')}>All accounts …</button>{/if}
        <button class="quiet text-left" onclick={() => people.signOut().catch(tell)}>Sign out</button>
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
{/if}
<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[640px] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto p-6" data-own-account>
      <div class="mb-4 flex items-center gap-4">
        <Dialog.Title class="font-book text-[18px] font-semibold">{people.person?.name}</Dialog.Title>
        <Choice value={part} options={parts} label="What of your account" onchoose={(v) => show(v)} />
      </div>
      {#if part === 'self'}
        <label class="mb-5"><span class="label">The name that others see</span><input class="field mt-1" value={people.person?.name} maxlength="80" onchange={rename} /></label>
        <h2 class="font-semibold">Another password</h2>
        <form class="mt-1 mb-5 grid grid-cols-[1fr_1fr_auto] items-end gap-3" onsubmit={changePassword}>
          <label><span class="label">The one you have</span><input class="field mt-1" type="password" name="old" autocomplete="current-password" required maxlength="200" /></label>
          <label><span class="label">The new one, ten characters at least</span><input class="field mt-1" type="password" name="new" autocomplete="new-password" required minlength="10" maxlength="200" /></label>
          <button class="btn">Change it</button>
          {#if trouble}<p class="col-span-3 border-l-4 border-red pl-2 text-red" role="alert">{trouble}</p>{/if}
        </form>
        <h2 class="font-semibold">Where you are signed in</h2>
        <ul>
          {#each signIns as s (s.id)}
            <li class="flex items-center gap-3 border-t border-hair py-1.5">
              <span class="flex-1">{browser(s.browser)}{system(s.browser) ? `, ${system(s.browser)}` : ''}{s.here ? ' (this one)' : ''}</span><span class="label">seen {time.format(new Date(s.seen_at))}</span>
              {#if !s.here}<button class="quiet" onclick={() => endSignIn(s.id)}>Sign it out</button>{/if}
            </li>
          {/each}
        </ul>
      {:else if part === 'second'}
        <SecondFactor />
      {:else if part === 'tokens'}
        <Dialog.Description class="mb-3">A token lets a program in as you: for scripts, by <code>Authorization: Bearer …</code> (see <a class="underline" href="/api/docs" target="_blank" rel="noreferrer">the API’s page</a>). What it is is shown once.</Dialog.Description>
        {#if secret}<ShownOnce value={secret} what="The new token" onput={() => (secret = '')} />{/if}
        <form class="mb-4 grid grid-cols-[1fr_130px_1fr_90px_auto] items-end gap-2 border-y border-hair py-3" onsubmit={newToken}>
          <label><span class="label">What it is for</span><input class="field mt-1" name="name" required maxlength="80" /></label>
          <label><span class="label">It may</span><select class="field mt-1" name="scope"><option value="read">read</option><option value="write">read and change</option></select></label>
          <label><span class="label">In</span><select class="field mt-1" name="project"><option value="">all my projects</option>{#each projects as p (p.id)}<option value={p.id}>{p.title}</option>{/each}</select></label>
          <label><span class="label">For</span><select class="field mt-1" name="days"><option value="30">30 days</option><option value="90">90 days</option><option value="366">a year</option></select></label>
          <button class="btn">Make it</button>
        </form>
        <ul>
          {#each tokens as t (t.id)}
            <li class="flex items-center gap-3 border-t border-hair py-1.5" data-token>
              <span class="min-w-0 flex-1 truncate"><strong>{t.name}</strong> · {t.scope === 'read' ? 'reads' : 'reads and changes'}{t.project ? ` “${t.project}”` : ''}</span>
              <span class="label">{t.used_at ? `used ${time.format(new Date(t.used_at))}` : 'never used'} · until {day.format(new Date(t.ends_at))}</span>
              <button class="quiet" onclick={() => takeBack(t.id)}>Take it back</button>
            </li>
          {:else}<li class="py-3 text-soft">No tokens.</li>{/each}
        </ul>
      {:else}
        <AllAccounts />
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
