<script lang="ts">
  import Kink from '../../components/Kink.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import type { ContactSheetState } from './contact-sheet-state.svelte';
  import FaultList from './FaultList.svelte';
  import MadeFrom from './MadeFrom.svelte';
  import type { TakesState } from './takes-state.svelte';

  /** Beside one take: who stands where, its faults, its colours, and what it was made from. */
  let { view, sheet, onlook }: { view: TakesState; sheet: ContactSheetState; onlook: () => void } = $props();
  const project = useProject();
  const { take, picture, marks, people, numberOf, placed } = $derived(view);
  const shot = $derived(view.shot!);
  const waiting = $derived(project.standings.all.filter((p) => p.box));
</script>

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
      <p class="mt-2"><button class="btn" onclick={() => onlook()} data-look-through>{waiting.length === 1 ? 'One box …' : `All ${waiting.length} boxes …`}</button> <span class="label">{waiting.length === 1 ? 'in another picture' : 'of every picture'}</span></p>
    {/if}
    {#if project.standings.unseen > 1 && !project.standings.running}
      <p class="mt-2"><button class="btn" onclick={() => project.standings.look(null)}>Look in {counted(project.standings.unseen, 'picture')} …</button></p>
    {/if}
  {/if}
</section>
{#if take && !take.picked}<button class="btn btn-main" onclick={() => view.pick()}>Pick this take <span class="ml-1 opacity-70">P</span></button>{/if}
{#if take}<FaultList {sheet} {take} bind:faulting={view.faulting} />{/if}
{#if picture}
  <section>
    <h2 class="mb-1 font-semibold">Its colours</h2>
    <div class="flex h-6">{#each picture.palette as [hex, share], k (k)}<span style="background:{hex};flex:{share} 0 0" title="{hex}, {Math.round(share * 100)} %"></span>{/each}</div>
    <p class="label mt-1 truncate" title={take?.name}>{take?.name} · {picture.width} × {picture.height}</p>
  </section>
{/if}
{#if take}{#key take.id}<MadeFrom {take} />{/key}{/if}
{#if project.findings.viewer.openByShot.get(shot.id)}
  <section>
    <h2 class="mb-1 font-semibold">Viewers say</h2>
    {#each project.findings.viewer.openByShot.get(shot.id) ?? [] as f (f.key)}
      <button class="flex w-full items-start gap-2 py-1 text-left text-red hover:underline" onclick={() => router.go(project.id, 'showings')}>
        <span class="mt-1.5"><Kink /></span>{f.title}
      </button>
    {/each}
  </section>
{/if}
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
    