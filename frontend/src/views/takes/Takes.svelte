<script lang="ts">
  import { untrack } from 'svelte';
  import { thumb, whole } from '../../api/client';
  import BoxStage from '../../components/BoxStage.svelte';
  import Kink from '../../components/Kink.svelte';
  import MadeFrom from './MadeFrom.svelte';
  import PicturesIn from '../pictures-in/PicturesIn.svelte';
  import ShotFacts from '../../components/ShotFacts.svelte';
  import WhereTheyStand from '../pictures-in/WhereTheyStand.svelte';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import { TakesState } from './takes-state.svelte';

  const project = useProject();
  const view = new TakesState(project);
  let editing = $state<string | null>(null);
  let incoming = $state<NamedFile[] | null>(null);
  let looking = $state(false);
  let chooser = $state<HTMLInputElement | null>(null);

  const { shot, takes, take, picture, marks, people, numberOf, placed } = $derived(view);
  const waiting = $derived(project.standings.all.filter((p) => p.box));

  $effect(() => {
    if (project.currentId) untrack(() => view.begin());
  });
  $effect(() => view.look());
  $effect(() => view.awaitNext());

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || incoming || looking || event.ctrlKey || event.metaKey || event.altKey) return;
    if (view.key(event.key, event.target instanceof HTMLButtonElement)) event.preventDefault();
  }

  async function dropped(event: DragEvent) {
    event.preventDefault();
    const files = event.dataTransfer ? await droppedFiles(event.dataTransfer) : [];
    if (files.length) incoming = files;
  }
</script>

<svelte:window {onkeydown} />

{#if !shot}
  <div class="grid h-full place-items-center text-center">
    <div>
      <h2 class="mb-2 font-book text-[20px] font-semibold">No shots yet</h2>
      <button class="btn" onclick={() => router.go(project.id, 'story')}>Paste the story</button>
    </div>
  </div>
{:else}
  <div class="flex h-full" role="region" aria-label="Takes" ondragover={(e) => e.preventDefault()} ondrop={dropped}>
    <div class="flex min-w-0 flex-1 flex-col p-4">
      <div class="mb-3 flex items-start gap-3">
        <span class="w-8 font-book text-[22px] leading-7">{project.number(shot.id)}</span>
        <div class="min-w-0 flex-1"><ShotFacts {shot} bind:editing lines={2} /></div>
      </div>
      <div class="min-h-0 flex-1">
        {#if take && picture}
          {#key take.id}
            <BoxStage
              src={whole(take.picture_sha)} width={picture.width} height={picture.height} boxes={view.boxes} bind:chosen={view.chosen} drawing={people.length > 0}
              ondraw={(box) => view.draw(box)} onchange={(id, box) => view.move(id, box)}
            />
          {/key}
        {:else}
          <div class="grid size-full place-items-center border border-dashed border-pencil text-center">
            <div>
              <p class="mb-1 font-book text-[18px]">No picture of this shot yet</p>
              <p class="mb-4 text-soft">Drop one or more here; the first is picked, the others are kept as takes.</p>
              <button class="btn" onclick={() => chooser?.click()}>Choose pictures …</button>
            </div>
          </div>
        {/if}
      </div>
      <div class="mt-3 flex h-[98px] shrink-0 items-start gap-2.5 overflow-x-auto p-1" aria-label="Contact sheet">
        {#each takes as t, i (t.id)}
          <div class="shrink-0">
            <button
              class="well block h-[66px] w-[100px] outline-offset-0 {t.id === take?.id ? 'outline-3 outline-pencil' : ''}" onclick={() => (view.shownId = t.id)} title={t.name}
            ><img src={thumb(t.picture_sha)} alt="Take {i + 1}" class="size-full object-contain" /></button>
            <div class="flex w-[100px] items-center justify-between text-[12px]">
              <span class="text-[12px] whitespace-nowrap {t.picked ? 'font-bold' : 'text-soft'}">take {i + 1}{t.picked ? ' · picked' : ''}</span>
              <button class="quiet px-1" onclick={() => view.remove(t.id)} aria-label="Remove take {i + 1}" title="Remove this take">×</button>
            </div>
          </div>
        {/each}
        {#if takes.length}<button class="btn mt-4 ml-2" onclick={() => chooser?.click()}>Add takes …</button>{/if}
      </div>
    </div>
    <aside class="flex w-[250px] shrink-0 flex-col gap-5 overflow-y-auto border-l border-line bg-paper p-4">
      <section>
        <h2 class="mb-1 font-semibold">Who stands where</h2>
        {#if people.length === 0}
          <p class="text-soft">Make a character on the Model sheets; then drag a box round it here.</p>
        {:else}
          <p class="label mb-2">Choose by number, drag a box. <span class="key">.</span> goes on to the next picture.</p>
          {#each people as thread, i (thread.id)}
            {@const m = marks.find((x) => x.thread_id === thread.id)}
            {@const proposal = view.proposal(thread.id)}
            <div class="flex h-9 items-center gap-2 border-l-[3px] pl-2 {view.who === i ? 'border-pencil bg-wash' : 'border-transparent'}">
              <button class="flex min-w-0 flex-1 items-center gap-2 text-left {view.isHere(thread.id) ? '' : 'text-soft'}" onclick={() => { view.who = i; view.chosen = m?.id ?? null; }} data-who={numberOf.get(thread.id)}>
                <span class="key">{numberOf.get(thread.id)}</span><span class="truncate">{thread.name}</span>
                <span class="label ml-auto shrink-0 pr-1">{view.inWords(thread.id)}</span>
              </button>
              {#if proposal?.box}
                <button class="quiet px-1" onclick={() => project.confirm([proposal])} aria-label="{thread.name} stands there" title="Yes, there">✓</button>
                <button class="quiet px-1" onclick={() => project.refuse(take!, thread.id)} aria-label="{thread.name} is not there" title="Not there">×</button>
              {/if}
              {#if m}<button class="quiet px-1" onclick={() => view.unmark(m.id)} aria-label="Remove the mark of {thread.name}">×</button>{/if}
            </div>
          {/each}
          {#if view.asked}
            <div class="mt-2 rounded-sm border border-pencil p-2" role="alert" data-put-there>
              <p class="mb-2">{project.threads.get(view.asked.thread)?.name} does not run through shot {project.number(view.asked.shot)}. Put them there, and mark the box?</p>
              <button class="btn btn-main" onclick={() => view.putThere()}>Put there <span class="ml-1 opacity-70">Y</span></button>
              <button class="quiet" onclick={() => (view.asked = null)}>No <span class="key">N</span></button>
            </div>
          {/if}
          {#if placed.length}
            <p class="mt-2"><button class="btn" onclick={() => project.confirm(placed)} data-confirm-here>Confirm {counted(placed.length, 'box', 'boxes')} <span class="ml-1 opacity-70">Enter</span></button></p>
            <p class="label mt-1">Dashed boxes are proposals: drag to mend, <span class="key">N</span> says no.</p>
          {/if}
          {#if project.standings.running}
            <p class="label mt-2" aria-live="polite">Looking for who stands where: {project.standings.status.done} of {project.standings.status.total}. <button class="underline" onclick={() => project.standings.stop()}>Stop</button></p>
          {:else if project.standings.status.message}
            <p class="mt-2 text-red">{project.standings.status.message}</p>
          {/if}
          {#if waiting.length > placed.length}
            <p class="mt-2"><button class="btn" onclick={() => (looking = true)} data-look-through>All {waiting.length} boxes …</button> <span class="label">of every picture</span></p>
          {:else if project.standings.unseen > 1 && !project.standings.running}
            <p class="mt-2"><button class="btn" onclick={() => project.standings.look(null)}>Look in {counted(project.standings.unseen, 'picture')} …</button></p>
          {/if}
        {/if}
      </section>
      {#if take && !take.picked}<button class="btn btn-main" onclick={() => view.pick()}>Pick this take <span class="ml-1 opacity-70">P</span></button>{/if}
      {#if picture}
        <section>
          <h2 class="mb-1 font-semibold">Its colours</h2>
          <div class="flex h-6">{#each picture.palette as [hex, share], k (k)}<span style="background:{hex};flex:{share} 0 0" title="{hex}, {Math.round(share * 100)} %"></span>{/each}</div>
          <p class="label mt-1 truncate" title={take?.name}>{take?.name} · {picture.width} × {picture.height}</p>
        </section>
      {/if}
      {#if take}{#key take.id}<MadeFrom {take} />{/key}{/if}
      {#if project.findings.check.openByShot.get(shot.id)}
        <section>
          <h2 class="mb-1 font-semibold">To look at</h2>
          {#each project.findings.check.openByShot.get(shot.id) ?? [] as f (f.key)}
            <button class="flex w-full items-start gap-2 py-1 text-left text-red hover:underline" onclick={() => router.go(project.id, 'continuity', f.key)}>
              <span class="mt-1.5"><Kink /></span>{f.title}
            </button>
          {/each}
        </section>
      {/if}
    </aside>
  </div>
  <input type="file" multiple accept="image/png,image/jpeg,image/webp" class="hidden" bind:this={chooser} data-choose="takes"
    onchange={(e) => { const files = chosenFiles(e.currentTarget.files); if (files.length) incoming = files; e.currentTarget.value = ''; }} />
  {#if looking}<WhereTheyStand onclose={() => (looking = false)} />{/if}
  {#if incoming}<PicturesIn files={incoming} shot={shot.id} onclose={() => (incoming = null)} />{/if}
{/if}
