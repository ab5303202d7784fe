<script lang="ts">
  import { api, sendPicture, thumb, type Thread } from '../../api/client';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { columnOrder } from '../../lib/order';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import NewThread from '../sheet/NewThread.svelte';
  import PageIn from '../story/PageIn.svelte';
  import Palette from './Palette.svelte';
  import ReferenceStage from './ReferenceStage.svelte';

  const GROUPS = { character: 'Characters', setting: 'Settings', style: 'Styles', prop: 'Props' } as const;
  const project = useProject();
  let sheetChooser = $state<HTMLInputElement | null>(null);
  let sheetFile = $state<File | null>(null);
  let chooser = $state<HTMLInputElement | null>(null);
  let shownId = $state<string | null>(null);
  let costume = $state('');
  let reading = $state<{ done: number; of: number } | null>(null);
  let over = $state(false);

  const threads = $derived(columnOrder(project.threads.values()));
  const thread = $derived<Thread | undefined>((router.about && project.threads.get(router.about)) || threads[0]);
  const references = $derived(thread ? (project.referencesByThread.get(thread.id) ?? []) : []);
  const shown = $derived(references.find((r) => r.id === shownId) ?? references[0]);
  const hasTraits = $derived(thread?.kind === 'character' || thread?.kind === 'prop');

  function edit(values: Record<string, unknown>) {
    if (!thread) return;
    const { id, revision } = thread;
    void project.send(() =>
      api.PATCH('/api/projects/{project_id}/threads/{thread_id}', {
        params: { path: { project_id: project.id, thread_id: id } },
        body: { ...values, revision } as never,
      }),
    );
  }

  function editReference(id: string, values: Record<string, unknown>) {
    void project.send(() =>
      api.PATCH('/api/projects/{project_id}/references/{reference_id}', {
        params: { path: { project_id: project.id, reference_id: id } },
        body: values as never,
      }),
    );
  }

  function removeReference(id: string) {
    void project.send(() =>
      api.DELETE('/api/projects/{project_id}/references/{reference_id}', { params: { path: { project_id: project.id, reference_id: id } } }),
    );
  }

  function removeThread() {
    if (!thread) return;
    const id = thread.id;
    router.about = null;
    void project
      .send(() => api.DELETE('/api/projects/{project_id}/threads/{thread_id}', { params: { path: { project_id: project.id, thread_id: id } } }))
      .then((done) => done && notices.say(`${done.label}. Ctrl+Z brings it back.`));
  }

  async function add(files: NamedFile[]) {
    if (!thread || !files.length) return;
    const id = thread.id;
    reading = { done: 0, of: files.length };
    const pictures: { sha: string; name: string }[] = [];
    for (const { file, name } of files) {
      try {
        const taken = await sendPicture(project.id, file, name);
        if (taken.sha) pictures.push({ sha: taken.sha, name: name.split('/').at(-1)!.replace(/\.[^.]+$/, '') });
        else notices.say(`${name}: ${taken.refused}`, 'trouble');
      } catch (error) {
        notices.say((error as Error).message, 'trouble');
      }
      reading = { done: reading.done + 1, of: files.length };
    }
    reading = null;
    if (pictures.length)
      await project.send(() =>
        api.POST('/api/projects/{project_id}/threads/{thread_id}/references', {
          params: { path: { project_id: project.id, thread_id: id } },
          body: { pictures, costume },
        }),
      );
  }

  async function dropped(event: DragEvent) {
    event.preventDefault();
    over = false;
    if (event.dataTransfer) await add(await droppedFiles(event.dataTransfer));
  }
</script>

<div class="flex h-full">
  <aside class="flex w-[190px] shrink-0 flex-col overflow-y-auto border-r border-line py-3" aria-label="Threads">
    {#each Object.entries(GROUPS) as [kind, name] (kind)}
      {@const own = threads.filter((t) => t.kind === kind)}
      {#if own.length}
        <h3 class="px-3.5 pt-2 pb-1 text-[12px] font-semibold">{name}</h3>
        {#each own as t (t.id)}
          {@const face = project.face(t.id)}
          <button class="flex h-10 w-full items-center gap-2 px-3.5 text-left {thread?.id === t.id ? 'bg-wash' : ''}" onclick={() => { router.go(project.id, 'models', t.id); shownId = null; costume = ''; }} data-thread={t.name}>
            <span class="size-7 shrink-0 overflow-hidden {face ? 'well' : 'border border-dashed border-pencil'}">{#if face}<img src={thumb(face.picture_sha)} alt="" class="size-full object-cover object-top" />{/if}</span>
            <span class="truncate">{t.name}</span>
          </button>
        {/each}
      {/if}
    {/each}
    <div class="mt-3 px-2"><NewThread label="+ New thread" /></div>
  </aside>

  {#if !thread}
    <div class="grid flex-1 place-items-center">
      <div class="max-w-[440px] text-center">
        <h2 class="mb-2 font-book text-[20px] font-semibold">No threads yet</h2>
        <p class="mb-4 text-soft">A thread is what must stay the same: a character, a setting, a style, a prop. Make one, give it a few clean pictures, and let it run through the shots.</p>
        <NewThread label="Make the first thread" />
      </div>
    </div>
  {:else}
    <section
      class="flex min-w-0 flex-1 flex-col overflow-y-auto {over ? 'bg-wash' : ''}" aria-label="Model sheet"
      ondragover={(e) => { e.preventDefault(); over = true; }} ondragleave={() => (over = false)} ondrop={dropped}
    >
      {#key thread.id}
        <div class="grid grid-cols-[1fr_1fr_auto] gap-x-5 gap-y-2 border-b border-hair p-4">
          <label><span class="label">{thread.kind[0]!.toUpperCase() + thread.kind.slice(1)}</span>
            <input class="field font-book text-[17px] font-semibold" value={thread.name} onchange={(e) => e.currentTarget.value.trim() && edit({ name: e.currentTarget.value.trim() })} aria-label="Name" />
          </label>
          <label><span class="label">Other names in the text, with commas</span>
            <input class="field" value={thread.aliases.join(', ')} onchange={(e) => edit({ aliases: e.currentTarget.value.split(',').map((a) => a.trim()).filter(Boolean) })} />
          </label>
          <button class="quiet self-end" onclick={removeThread} title="Can be undone">Delete</button>
          <label class="col-span-3"><span class="label">Its one wording, used in every brief</span>
            <textarea class="field block resize-none font-book text-[15px]" rows="1" value={thread.wording} onchange={(e) => edit({ wording: e.currentTarget.value })} placeholder="How it is always described: age, hair, clothes, colours …"></textarea>
          </label>
        </div>
      {/key}
      <div class="flex flex-wrap items-start gap-3 border-b border-hair p-4" aria-label="References">
        {#each references as r (r.id)}
          <figure class="w-[122px]" data-reference={r.name}>
            <button class="well block h-[92px] w-full {shown?.id === r.id ? 'outline-2 outline-offset-1 outline-pencil' : ''}" onclick={() => (shownId = r.id)}>
              <img src={thumb(r.picture_sha)} alt={r.name} class="size-full object-contain" />
            </button>
            <input class="plainselect mt-1 w-full truncate font-semibold" value={r.name} aria-label="View" onchange={(e) => e.currentTarget.value.trim() && editReference(r.id, { name: e.currentTarget.value.trim() })} />
            {#if hasTraits}
              <input class="plainselect w-full truncate text-[12px] text-soft" value={r.costume} placeholder="usual costume" aria-label="Costume" onchange={(e) => editReference(r.id, { costume: e.currentTarget.value.trim() })} />
            {/if}
            <div class="flex items-center gap-1.5">
              <input type="range" min="0" max="100" step="5" class="min-w-0 flex-1 accent-[var(--pencil)]" value={Math.round(r.weight * 100)} aria-label="Weight of {r.name}" onchange={(e) => editReference(r.id, { weight: Number(e.currentTarget.value) / 100 })} />
              <span class="w-10 text-right text-[12px] whitespace-nowrap">{Math.round(r.weight * 100)} %</span>
              <button class="quiet px-1" onclick={() => removeReference(r.id)} aria-label="Remove {r.name}">×</button>
            </div>
          </figure>
        {/each}
        <div class="flex h-[92px] w-[190px] flex-col items-center justify-center gap-2 border border-dashed border-pencil px-3 text-center">
          {#if reading}
            <span>{reading.done} of {reading.of} read</span>
          {:else}
            <button class="btn" onclick={() => chooser?.click()}>Add references …</button>
            {#if hasTraits}<button class="quiet -my-1" onclick={() => sheetChooser?.click()} title="One picture with several views of the figure is cut into them">Cut a sheet of views …</button>
            {:else}<span class="label">or drop pictures here</span>{/if}
          {/if}
        </div>
      </div>
      {#if hasTraits && shown}
        {#key shown.id}<ReferenceStage {thread} reference={shown} />{/key}
      {:else if references.length}
        <Palette {thread} stamp={references.map((r) => r.picture_sha + r.weight).join()} />
      {/if}
    </section>
  {/if}
</div>
<input type="file" accept="image/png,image/jpeg,image/webp" class="hidden" bind:this={sheetChooser} data-choose="views" onchange={(e) => { sheetFile = e.currentTarget.files?.[0] ?? null; e.currentTarget.value = ''; }} />
{#if sheetFile && thread}<PageIn file={sheetFile} thread={thread.id} onclose={() => (sheetFile = null)} />{/if}
<input type="file" multiple accept="image/png,image/jpeg,image/webp" class="hidden" bind:this={chooser} data-choose="references"
  onchange={(e) => { const files = chosenFiles(e.currentTarget.files); void add(files); e.currentTarget.value = ''; }} />
