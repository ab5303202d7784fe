<script lang="ts">
  import { api, ok, sendPicture, thumb, type Reference, type Thread } from '../../api/client';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { columnOrder, grouped } from '../../lib/order';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import NewThread from '../sheet/NewThread.svelte';
  import PageIn from '../story/PageIn.svelte';
  import Costumes from './Costumes.svelte';
  import NewVersion from './NewVersion.svelte';
  import Palette from './Palette.svelte';
  import PlateOptions from './PlateOptions.svelte';
  import ReferenceStage from './ReferenceStage.svelte';
  import StyleWords from './StyleWords.svelte';
  import ThreadFields from './ThreadFields.svelte';
  import Views from './Views.svelte';

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
  /** The newest versions; older ones that still hold before a shot stand behind them. */
  const references = $derived.by(() => {
    const own = thread ? (project.referencesByThread.get(thread.id) ?? []) : [];
    const replaced = new Set(own.filter((r) => r.replaces_id && !r.from_shot_id).map((r) => r.replaces_id));
    return own.filter((r) => !replaced.has(r.id));
  });
  const costumes = $derived(thread?.kind === 'character' || thread?.kind === 'setting');
  const visible = $derived(costumes ? references.filter((r) => r.costume === costume) : references);
  const shown = $derived(visible.find((r) => r.id === shownId) ?? visible[0]);
  const stamp = $derived(references.map((r) => r.picture_sha + r.weight).join());
  /** Changes when a reference's fitness may. */
  const judgedBy = $derived([thread?.id, thread?.kind, ...references.map((r) => r.picture_sha + r.view + r.costume), ...(project.traitsByThread.get(thread?.id ?? '') ?? []).map((t) => t.id + t.colours)].join());
  const faults = $derived(grouped(project.findings.reference.open, (f) => f.reference ?? ''));
  let replacing = $state<Reference | null>(null);

  $effect(() => {
    void judgedBy;
    const thread_id = thread?.id;
    if (!thread_id) return;
    ok(api.GET('/api/projects/{project_id}/threads/{thread_id}/fitness', { params: { path: { project_id: project.id, thread_id } } }))
      .then(() => project.findings.again(0))
      .catch((error: Error) => notices.say(error.message, 'trouble'));
  });
  const hasTraits = $derived(thread?.kind === 'character' || thread?.kind === 'prop');

  function edit(values: Record<string, unknown>) {
    if (!thread) return;
    const { id } = thread;
    void project.edit(thread, (revision) =>
      api.PATCH('/api/projects/{project_id}/threads/{thread_id}', {
        params: { path: { project_id: project.id, thread_id: id } },
        body: { ...values, revision },
      }),
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
        <h2 class="px-3.5 pt-2 pb-1 text-[12px] font-semibold">{name}</h2>
        {#each own as t (t.id)}
          {@const face = project.face(t.id)}
          <button class="flex h-10 w-full items-center gap-2 px-3.5 text-left {thread?.id === t.id ? 'bg-wash' : ''}" onclick={() => { router.go(project.id, 'models', t.id); shownId = null; costume = ''; }} data-thread={t.name}>
            <span class="size-7 shrink-0 overflow-hidden {face ? 'well' : 'border border-dashed border-pencil'}">{#if face}<img src={thumb(face.picture_sha)} alt="" class="size-full object-cover object-top" />{/if}</span>
            <span class="truncate">{t.name}</span>
          </button>
        {/each}
      {/if}
    {/each}
    <div class="mt-3 px-2"><NewThread label="+ New thread" onmade={(id) => router.go(project.id, 'models', id)} /></div>
  </aside>

  {#if !thread}
    <div class="grid flex-1 place-items-center">
      <div class="max-w-[440px] text-center">
        <h2 class="mb-2 font-book text-[20px] font-semibold">No threads yet</h2>
        <p class="mb-4 text-soft">A thread is what must stay the same: a character, a setting, a style, a prop. Make one, give it a few clean pictures, and let it run through the shots.</p>
        <NewThread label="Make the first thread" onmade={(id) => router.go(project.id, 'models', id)} />
      </div>
    </div>
  {:else}
    <section
      class="flex min-w-0 flex-1 flex-col overflow-y-auto {over ? 'bg-wash' : ''}" aria-label="Model sheet"
      ondragover={(e) => { e.preventDefault(); over = true; }} ondragleave={() => (over = false)} ondrop={dropped}
    >
      {#key thread.id}<ThreadFields {thread} {edit} onremove={removeThread} />{/key}
      {#if thread.kind === 'character' || thread.kind === 'setting'}<Costumes {thread} bind:shown={costume} {edit} />{/if}
      <div class="flex flex-wrap items-start gap-3 border-b border-hair p-4" aria-label="References">
        <Views {thread} references={visible} {shown} {faults} total={references.reduce((sum, r) => sum + r.weight, 0)} onshow={(id) => (shownId = id)} onreplace={(r) => (replacing = r)} />
        <div class="flex h-[112px] w-[190px] flex-col items-center justify-center gap-2 border border-dashed border-pencil px-3 text-center">
          {#if reading}
            <span>{reading.done} of {reading.of} read</span>
          {:else}
            <button class="btn" onclick={() => chooser?.click()}>Add references …</button>
            {#if hasTraits && references.length > 1}<PlateOptions {thread} {costume} />{/if}
            {#if hasTraits}<button class="quiet -my-1" onclick={() => sheetChooser?.click()} title="One picture with several views of the figure is cut into them">Cut a sheet of views …</button>
            {:else}<span class="label">or drop pictures here</span>{/if}
          {/if}
        </div>
      </div>
      {#if hasTraits && shown}
        {#key shown.id}<ReferenceStage {thread} reference={shown} />{/key}
      {:else}
        {#if thread.kind === 'style'}{#key thread.id}<StyleWords {thread} {stamp} {edit} />{/key}{/if}
        {#if references.length}<Palette {thread} {stamp} />{/if}
      {/if}
    </section>
  {/if}
</div>
<input type="file" accept="image/png,image/jpeg,image/webp" class="hidden" bind:this={sheetChooser} data-choose="views" onchange={(e) => { sheetFile = e.currentTarget.files?.[0] ?? null; e.currentTarget.value = ''; }} />
{#if sheetFile && thread}<PageIn file={sheetFile} thread={thread.id} onclose={() => (sheetFile = null)} />{/if}
<input type="file" multiple accept="image/png,image/jpeg,image/webp" class="hidden" bind:this={chooser} data-choose="references"
  onchange={(e) => { const files = chosenFiles(e.currentTarget.files); void add(files); e.currentTarget.value = ''; }} />
{#if replacing}<NewVersion reference={replacing} onclose={() => (replacing = null)} />{/if}
