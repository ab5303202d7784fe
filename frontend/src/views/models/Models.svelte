<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { PICTURES } from '../../lib/pictures';
  import ThreadList from '../../components/ThreadList.svelte';
  import { chosenFiles, droppedFiles } from '../../lib/files';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import NewThread from '../sheet/NewThread.svelte';
  import PageIn from '../story/PageIn.svelte';
  import Costumes from './Costumes.svelte';
  import { ModelsState } from './models-state.svelte';
  import NewVersion from './NewVersion.svelte';
  import Palette from './Palette.svelte';
  import PlateOptions from './PlateOptions.svelte';
  import ReferenceStage from './ReferenceStage.svelte';
  import StyleWords from './StyleWords.svelte';
  import ThreadFields from './ThreadFields.svelte';
  import Views from './Views.svelte';

  const project = useProject();
  const view = new ModelsState(project);
  if (router.about) view.begin(router.about);
  let sheetChooser = $state<HTMLInputElement | null>(null);
  let sheetFile = $state<File | null>(null);
  let chooser = $state<HTMLInputElement | null>(null);
  let over = $state(false);
  const { thread, references, visible, shown, hasTraits, stamp } = $derived(view);
  const edit = (values: Parameters<ModelsState['edit']>[0]) => view.edit(values);

  onMount(() =>
    project.table.offer(() => {
      const face = thread && project.face(thread.id);
      return thread ? [face, shown].flatMap((r) => (r ? project.table.ofReference(r.picture_sha, thread.id, r.name) : [])) : [];
    }),
  );
  $effect(() => {
    const about = router.about;
    untrack(() => about && about !== view.wanted && view.begin(about));
  });
  $effect(() => {
    void view.judgedBy;
    untrack(() => void view.judge());
  });

  function open(thread: string) {
    router.go(project.id, 'models', thread);
    view.begin(thread);
  }

  function remove() {
    router.about = null;
    void view.remove();
  }

  async function dropped(event: DragEvent) {
    event.preventDefault();
    over = false;
    if (event.dataTransfer) await view.add(await droppedFiles(event.dataTransfer));
  }
</script>

<div class="flex h-full">
  <ThreadList chosen={thread?.id ?? null} onchoose={open}>
    {#snippet below()}<div class="mt-3 px-2"><NewThread label="+ New thread" onmade={open} /></div>{/snippet}
  </ThreadList>

  {#if !thread}
    <div class="grid flex-1 place-items-center">
      <div class="max-w-[440px] text-center">
        <h2 class="mb-2 font-book text-[20px] font-semibold">No threads yet</h2>
        <p class="mb-4 text-soft">A thread is what must stay the same: a character, a setting, a style, a prop. Make one, give it a few clean pictures, and let it run through the shots.</p>
        <NewThread label="Make the first thread" onmade={open} />
      </div>
    </div>
  {:else}
    <section
      class="flex min-w-0 flex-1 flex-col overflow-y-auto {over ? 'bg-wash' : ''}" aria-label="Model sheet"
      ondragover={(e) => { e.preventDefault(); over = true; }} ondragleave={() => (over = false)} ondrop={dropped}
    >
      {#key thread.id}<ThreadFields {thread} {edit} onremove={remove} />{/key}
      {#if view.hasCostumes}<Costumes {thread} bind:shown={view.costume} {edit} />{/if}
      <div class="flex flex-wrap items-start gap-3 border-b border-hair p-4" aria-label="References">
        <Views {thread} references={visible} {shown} faults={view.faults} total={view.weight} onshow={(id) => (view.shownId = id)} onreplace={(r) => (view.replacing = r)} />
        <div class="flex h-[112px] w-[190px] flex-col items-center justify-center gap-2 border border-dashed border-pencil px-3 text-center">
          {#if view.reading}
            <span>{view.reading.done} of {view.reading.of} read</span>
          {:else}
            <button class="btn" onclick={() => chooser?.click()}>Add references …</button>
            {#if hasTraits && references.length > 1}<PlateOptions {thread} costume={view.costume} />{/if}
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
<input type="file" accept={PICTURES} class="hidden" bind:this={sheetChooser} data-choose="views" onchange={(e) => { sheetFile = e.currentTarget.files?.[0] ?? null; e.currentTarget.value = ''; }} />
{#if sheetFile && thread}<PageIn file={sheetFile} thread={thread.id} onclose={() => (sheetFile = null)} />{/if}
<input type="file" multiple accept={PICTURES} class="hidden" bind:this={chooser} data-choose="references"
  onchange={(e) => { const files = chosenFiles(e.currentTarget.files); void view.add(files); e.currentTarget.value = ''; }} />
{#if view.replacing}<NewVersion reference={view.replacing} onclose={() => (view.replacing = null)} />{/if}
