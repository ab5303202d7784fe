<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, ok, type Schemas } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { people, ROLES, type Role } from '../../lib/people.svelte';
  import { lettersOf, nameOf, viewOf, type Here } from '../../lib/presence.svelte';
  import { useProject } from '../../lib/project-context';
  import { router, VIEWS } from '../../lib/router.svelte';
  import ShownOnce from '../ShownOnce.svelte';

  /** Who is here, and where; who is in the project, and as what; links to come in. */
  const project = useProject();
  let open = $state(false);
  let members = $state.raw<Schemas['MemberCard'][]>([]);
  let waiting = $state.raw<Schemas['OpenInvitation'][]>([]);
  let inviteAs = $state<Role>('illustrator');
  let link = $state('');
  const path = $derived({ project_id: project.id });
  const others = $derived(project.presence.others);
  const own = $derived(members.find((m) => m.account_id === people.person?.id));
  const decides = $derived(own?.role === 'owner');
  const tell = (x: unknown) => notices.say((x as Error).message, 'trouble');
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short' });
  const SIGNS = 4;

  /** Read at the start, as what one may do here depends on it, and whenever the panel opens. */
  $effect(() => {
    if (people.closed) void load().catch(tell);
  });
  $effect(() => {
    if (open && people.closed) void load().catch(tell);
  });
  $effect(() => {
    project.reviews = own?.role === 'reviewer';
  });

  async function load() {
    members = await ok(api.GET('/api/projects/{project_id}/members', { params: { path } }));
    waiting = decides ? await ok(api.GET('/api/projects/{project_id}/invitations', { params: { path } })) : [];
  }

  const setRole = (m: Schemas['MemberCard'], role: Role) =>
    ok(api.PUT('/api/projects/{project_id}/members/{account_id}', { params: { path: { ...path, account_id: m.account_id } }, body: { role } }))
      .then((all) => (members = all))
      .catch((x) => (tell(x), (members = [...members])));
  const takeOut = (m: Schemas['MemberCard']) =>
    ok(api.DELETE('/api/projects/{project_id}/members/{account_id}', { params: { path: { ...path, account_id: m.account_id } } })).then((all) => (members = all)).catch(tell);
  const leave = () => ok(api.DELETE('/api/projects/{project_id}/members/me', { params: { path } })).then(() => router.go(null)).catch(tell);
  async function invite() {
    const made = await ok(api.POST('/api/projects/{project_id}/invitations', { params: { path }, body: { role: inviteAs } })).catch(tell);
    if (!made) return;
    link = location.origin + made.path;
    await load().catch(tell);
  }
  const takeBack = (id: string) =>
    ok(api.DELETE('/api/projects/{project_id}/invitations/{invitation_id}', { params: { path: { ...path, invitation_id: id } } })).then(load).catch(tell);

  function goTo(w: Here) {
    if (w.shot_id && project.shots.has(w.shot_id)) project.currentId = w.shot_id;
    open = false;
    router.go(project.id, VIEWS.find((v) => v === w.view) ?? 'sheet');
  }
  const number = (id: string | null | undefined) => (id && project.indexOf.has(id) ? `shot ${project.indexOf.get(id)! + 1}` : '');
</script>

<Dialog.Root bind:open>
  {#if people.closed || others.length}
    <Dialog.Trigger class="flex shrink-0 items-center gap-1 rounded-sm px-1 hover:bg-hair" title="Who is here" data-people>
      {#each others.slice(0, SIGNS) as w (w.window)}<span class="grid size-6 place-items-center rounded-full border border-line bg-panel text-[10.5px] font-semibold" title="{nameOf(w)}: {viewOf(w)}">{lettersOf(w)}</span>{/each}
      {#if others.length > SIGNS}<span class="label">+{others.length - SIGNS}</span>{/if}
      {#if !others.length}<span class="quiet">People</span>{/if}
      <span class="sr-only">{others.length} others are here</span>
    </Dialog.Trigger>
  {/if}
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[600px] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto p-6" data-people-panel>
      <Dialog.Title class="font-book text-[18px] font-semibold">People</Dialog.Title>
      <h2 class="mt-3 font-semibold">Here now</h2>
      <ul>
        {#each others as w (w.window)}
          <li class="flex items-center gap-3 border-t border-hair py-1" data-here>
            <span class="grid size-6 place-items-center rounded-full border border-line bg-panel text-[10.5px] font-semibold">{lettersOf(w)}</span>
            <span class="min-w-0 flex-1 truncate">{nameOf(w)}{w.account_id && w.account_id === people.person?.id ? ' (you, in another window)' : ''}</span>
            <span class="label">{viewOf(w)}{number(w.shot_id) ? ` · ${number(w.shot_id)}` : ''}</span>
            <button class="quiet" onclick={() => goTo(w)}>Go there</button>
          </li>
        {:else}<li class="py-1 text-soft">Nobody else.</li>{/each}
      </ul>
      {#if people.closed}
        <h2 class="mt-4 font-semibold">In this project</h2>
        <ul>
          {#each members as m (m.account_id)}
            <li class="flex items-center gap-3 border-t border-hair py-1" data-member>
              <span class="min-w-0 flex-1 truncate">{m.name} <span class="label">{m.login}</span></span>
              {#if decides}
                <select class="field !w-32" value={m.role} aria-label="What {m.name} is here" onchange={(e) => setRole(m, e.currentTarget.value as Role)}>{#each ROLES as [r, name] (r)}<option value={r}>{name}</option>{/each}</select>
                {#if m.account_id !== people.person?.id}<button class="quiet" onclick={() => takeOut(m)}>Take out</button>{:else}<button class="quiet" onclick={leave}>Leave</button>{/if}
              {:else}
                <span class="label">{ROLES.find(([r]) => r === m.role)?.[1]}</span>
                {#if m.account_id === people.person?.id}<button class="quiet" onclick={leave}>Leave</button>{/if}
              {/if}
            </li>
          {/each}
        </ul>
        {#if decides}
          <div class="mt-4 border-t border-line pt-3">
            {#if link}<ShownOnce value={link} what="A link into this project, good for seven days and one person" onput={() => (link = '')} />{/if}
            <div class="flex items-end gap-2">
              <label class="flex-1"><span class="label">Invite somebody as</span>
                <select class="field mt-1" bind:value={inviteAs}>{#each ROLES as [r, name, may] (r)}<option value={r}>{name}: {may}</option>{/each}</select></label>
              <button class="btn" onclick={invite}>Make a link</button>
            </div>
            {#each waiting as w (w.id)}
              <p class="mt-2 flex items-center gap-3 text-soft"><span class="flex-1">A link for {w.role === 'reviewer' ? 'a' : 'an'} {w.role}, not used yet, until {day.format(new Date(w.ends_at))}</span><button class="quiet" onclick={() => takeBack(w.id)}>Take it back</button></p>
            {/each}
          </div>
        {/if}
      {:else}
        <p class="mt-3 text-soft">This Juxtaform is open to this machine alone, so there are no accounts. To work on it from elsewhere, start it with --host or behind a proxy: docs/reach.md tells how.</p>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
