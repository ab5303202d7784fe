<script lang="ts">
  import { api, ok, type Service } from '../api/client';
  import { notices } from '../lib/notices.svelte';
  import { useProject } from '../lib/project-context';
  import { counted } from '../lib/words';

  /** The services of a project: what they can do, what is wrong with them; added by address and token, asked again, removed. */
  const project = useProject();
  const OWN = 'understudy:';
  const path = $derived({ project_id: project.id });
  const hasOwn = $derived(project.serviceList.some((s) => s.address === OWN));
  let adding = $state(false);
  let busy = $state('');
  let keyFor = $state<string | null>(null);

  async function add(name: string, address: string, token = '') {
    busy = 'new';
    const done = await project.send(() => api.POST('/api/projects/{project_id}/services', { params: { path }, body: { name, address, token } }));
    busy = '';
    if (!done) return;
    adding = false;
    project.queue.told();
  }

  function added(event: SubmitEvent) {
    event.preventDefault();
    const data = new FormData(event.target as HTMLFormElement);
    void add(String(data.get('name')).trim(), String(data.get('address')).trim(), String(data.get('token')).trim());
  }

  async function ask(id: string) {
    busy = id;
    await ok(api.POST('/api/projects/{project_id}/services/{service_id}/ask', { params: { path: { ...path, service_id: id } } })).catch((x: Error) => notices.say(x.message, 'trouble'));
    await project.queue.load();
    busy = '';
  }

  async function keep(event: SubmitEvent, id: string) {
    event.preventDefault();
    const token = String(new FormData(event.target as HTMLFormElement).get('token'));
    busy = id;
    await ok(api.PUT('/api/projects/{project_id}/services/{service_id}/token', { params: { path: { ...path, service_id: id } }, body: { token } })).catch((x: Error) => notices.say(x.message, 'trouble'));
    await project.queue.load();
    busy = '';
    keyFor = null;
  }

  const edit = (s: Service, values: { name?: string; address?: string }) =>
    project.edit(s, (revision) => api.PATCH('/api/projects/{project_id}/services/{service_id}', { params: { path: { ...path, service_id: s.id } }, body: { ...values, revision } }));
  const remove = (id: string) => project.send(() => api.DELETE('/api/projects/{project_id}/services/{service_id}', { params: { path: { ...path, service_id: id } } }));
</script>

<div class="flex flex-col gap-3" data-services>
  {#each project.serviceList as s (s.id)}
    {@const view = project.queue.serviceById.get(s.id)}
    <section class="border-t border-hair pt-2">
      <div class="flex items-center gap-2">
        <input class="field flex-1 font-semibold" value={s.name} aria-label="Name of the service" onchange={(e) => e.currentTarget.value.trim() && edit(s, { name: e.currentTarget.value.trim() })} />
        <button class="quiet" disabled={busy === s.id} onclick={() => ask(s.id)}>{busy === s.id ? 'Asking …' : 'Ask again'}</button>
        <button class="quiet" onclick={() => remove(s.id)}>Remove</button>
      </div>
      {#if s.address === OWN}
        <p class="label mt-1">Simulated, on this machine; its credits are play money.</p>
      {:else}
        <div class="mt-1 flex items-center gap-2">
          <input class="field flex-1" value={s.address} aria-label="Address of {s.name}" onchange={(e) => e.currentTarget.value.trim() && edit(s, { address: e.currentTarget.value.trim() })} />
          <button class="quiet whitespace-nowrap" onclick={() => (keyFor = keyFor === s.id ? null : s.id)}>{view?.has_token ? 'Another token …' : 'Give a token …'}</button>
        </div>
        {#if keyFor === s.id}
          <form class="mt-1 flex gap-2" onsubmit={(e) => keep(e, s.id)}>
            <!-- svelte-ignore a11y_autofocus -->
            <input class="field flex-1" type="password" name="token" autocomplete="off" aria-label="Token of {s.name}" placeholder="empty: without a token" autofocus /><button class="btn">Keep</button>
          </form>
        {/if}
      {/if}
      {#if view?.trouble}<p class="mt-1 border-l-4 border-red pl-2 text-red" role="alert">{view.trouble}</p>{/if}
      {#each view?.can?.models ?? [] as m (m.id)}
        <p class="label mt-1">{m.name}: {m.kinds.join(', ')}; forms {m.aspects.join(' ')}; up to {m.text_most} characters and {counted(m.references_most, 'picture')}{m.seeds ? '; seeds' : ''}; {m.qualities.map((q) => `${q.id} ${q.side_px} px at ${q.credits}`).join(', ')}</p>
      {/each}
    </section>
  {:else}
    <p>No service yet.</p>
  {/each}
  {#if adding}
    <form class="grid grid-cols-[84px_1fr] items-center gap-2 border-t border-hair pt-2" onsubmit={added}>
      <label class="label" for="sv-name">Name</label><input id="sv-name" class="field" name="name" required maxlength="80" />
      <label class="label" for="sv-address">Address</label><input id="sv-address" class="field" name="address" required placeholder="https://pictures.example.org" />
      <label class="label" for="sv-token">Token</label><input id="sv-token" class="field" name="token" type="password" autocomplete="off" placeholder="if it wants one; it is never shown again" />
      <span class="col-span-2 flex justify-end gap-2"><button type="button" class="quiet" onclick={() => (adding = false)}>Leave it</button><button class="btn" disabled={busy === 'new'}>{busy === 'new' ? 'Asking it …' : 'Add'}</button></span>
    </form>
  {:else}
    <div class="flex gap-2">
      {#if !hasOwn}<button class="btn {project.serviceList.length ? '' : 'btn-main'}" disabled={busy === 'new'} onclick={() => add('Understudy', OWN)} data-add-understudy>Add the Understudy</button>{/if}
      <button class="btn" onclick={() => (adding = true)}>Add a service by its address …</button>
    </div>
  {/if}
</div>
