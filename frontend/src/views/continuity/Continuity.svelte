<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { PICTURES } from '../../lib/pictures';
  import { crop, thumb } from '../../api/client';
  import ThreadList from '../../components/ThreadList.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { ContinuityState, CUTS, GENERAL, REVIEW } from './continuity-state.svelte';
  import DriftChart from './DriftChart.svelte';
  import Evidence from './Evidence.svelte';
  import LineupCell from './LineupCell.svelte';
  import ReviewList from './ReviewList.svelte';
  import { ReviewState } from './review-state.svelte';
  import { wordsFor } from './at-once';

  const project = useProject();
  const view = new ContinuityState(project);
  const review = new ReviewState(project);
  let chooser = $state<HTMLInputElement | null>(null);
  let evidence = $state<HTMLElement | null>(null);
  const wide = $derived(view.thread?.kind === 'style' || view.thread?.kind === 'setting');
  const { threadId, thread, lineup, all, general, cuts, others } = $derived(view);

  const reviewing = $derived(threadId === REVIEW);
  const found = $derived(view.found);

  onMount(() => project.table.offer(() => [...view.anchors.flatMap((a) => project.table.ofReference(a.sha, view.threadId ?? '', a.name)), ...project.table.ofShot(view.shot)]));
  $effect(() => {
    if (router.about && view.has(router.about)) {
      view.show(router.about);
      router.about = null;
    } else view.begin();
  });
  $effect(() => {
    void [project.check.status.at, view.lineupOf];
    untrack(() => void view.read());
  });
  $effect(() => {
    void [project.check.status.at, project.findings.read];
    if (reviewing) untrack(() => void review.read());
  });
  $effect(() => {
    // What a review shows is what is looked at: replaced, compared and let stand like any other finding.
    if (reviewing) view.key = review.key;
  });
  $effect(() => {
    void view.key;
    evidence?.scrollTo(0, 0);
  });

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const said = found && wordsFor(project, found).find((w) => w.key === event.key);
    const digit = /^Digit([1-9])$/.exec(event.code)?.[1]; // with Shift the key itself is a sign that hangs on the keyboard
    if (said) void said.say();
    else if (event.key === 'g' && found) {
      project.currentId = found.shot ?? null;
      router.go(project.id, found.kind === 'named_absent' ? 'sheet' : 'takes');
    } else if (event.key === 'r' && found) chooser?.click();
    else if (event.key === 'v') view.chooseThread(reviewing ? (view.threads[0]?.id ?? GENERAL) : REVIEW);
    else if (reviewing && event.key === 's' && found) view.stetOpen = true;
    else if (!(reviewing && review.pressed(digit ?? event.key, event.shiftKey)) && !view.pressed(event.key)) return;
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

<div class="flex h-full">
  <ThreadList chosen={threadId} onchoose={(id) => view.chooseThread(id)}>
    {#snippet above()}
      <button class="mb-1 flex h-10 w-full shrink-0 items-center gap-2 px-3.5 text-left {reviewing ? 'bg-wash' : ''}" onclick={() => view.chooseThread(REVIEW)} aria-current={reviewing} data-act="review">
        <span class="flex-1 font-semibold">Review all</span><span class="key">V</span>
      </button>
    {/snippet}
    {#snippet end(t)}
      {@const open = view.open(t.id)}
      {@const asked = view.asked(t.id)}
      {#if asked}<span class="text-pencil" title={asked === 1 ? 'A question' : `${asked} questions`}>{asked > 1 ? asked : ''}?</span>{/if}
      {#if open}<span class="font-semibold text-red">{open}</span>{:else if !asked && project.check.measured.get(t.id)}<span class="text-[12px] text-soft">holds</span>{/if}
    {/snippet}
    {#snippet below()}
      {#if general.length || cuts.length}<h2 class="px-3.5 pt-2 pb-1 text-[12px] font-semibold">Pictures</h2>{/if}
      {#if cuts.length}
        <button class="flex h-10 w-full shrink-0 items-center gap-2 px-3.5 text-left {threadId === CUTS ? 'bg-wash' : ''}" onclick={() => view.chooseThread(CUTS)}>
          <span class="flex-1">Cuts</span>{#if view.open(CUTS)}<span class="font-semibold text-red">{view.open(CUTS)}</span>{/if}
        </button>
      {/if}
      {#if general.length}
        <button class="flex h-10 w-full shrink-0 items-center gap-2 px-3.5 text-left {threadId === GENERAL ? 'bg-wash' : ''}" onclick={() => view.chooseThread(GENERAL)}>
          <span class="flex-1">Technical</span>{#if view.open(GENERAL)}<span class="font-semibold text-red">{view.open(GENERAL)}</span>{/if}
        </button>
      {/if}
    {/snippet}
  </ThreadList>

  <section class="min-w-0 flex-1 overflow-y-auto bg-panel p-4" aria-label={reviewing ? 'Review' : 'Lineup'}>
    {#if reviewing}
      <ReviewList {review} />
    {:else if project.check.status.state === 'never' && !all.length}
      <div class="mx-auto max-w-[460px] py-24 text-center">
        <h2 class="mb-2 font-book text-[20px] font-semibold">Not checked yet</h2>
        <p class="mb-5 text-soft">Give threads their references, drop the pictures on the Sheet, mark who stands where; then check. Only what changed is measured again.</p>
        <button class="btn btn-main" onclick={() => project.check.start()}>Check now</button>
      </div>
    {:else if threadId === GENERAL}
      <h2 class="mb-3 font-book text-[18px] font-semibold">Technical <span class="font-sans text-[13.5px] font-normal text-soft">— on single pictures</span></h2>
      <div class="grid grid-cols-[repeat(auto-fill,minmax(200px,1fr))] gap-3">
        {#each general as f (f.key)}
          {@const p = project.pictureOf(f.shot)}
          <button class="self-start text-left {view.key === f.key ? 'bg-wash' : ''}" onclick={() => view.show(f.key)}>
            <span class="well block h-[134px] {project.decidedByKey.has(f.key) ? '' : 'outline-2 outline-red'}">{#if p}<img src={thumb(p.sha, 960)} alt="" class="size-full object-contain" />{/if}</span>
            <span class="mt-1 block"><b class="font-book">{project.number(f.shot)}</b> {f.title}</span>
          </button>
        {/each}
      </div>
    {:else if threadId === CUTS}
      <h2 class="mb-3 font-book text-[18px] font-semibold">Cuts <span class="font-sans text-[13.5px] font-normal text-soft">— between neighbours in one scene</span></h2>
      <div class="grid grid-cols-[repeat(auto-fill,minmax(330px,1fr))] gap-x-4 gap-y-3">
        {#each cuts as f (f.key)}
          {@const pair = [f.before, f.shot]}
          <button class="self-start text-left {view.key === f.key ? 'bg-wash' : ''}" onclick={() => view.show(f.key)} data-cut-finding={f.kind}>
            <span class="grid grid-cols-2 gap-0.5 {project.decidedByKey.has(f.key) ? '' : 'outline-2 outline-red'}">
              {#each pair as shot (shot)}{@const p = project.pictureOf(shot)}<span class="well block h-[110px]">{#if p}<img src={thumb(p.sha, 960)} alt="Shot {project.number(shot)}" class="size-full object-contain" />{/if}</span>{/each}
            </span>
            <span class="mt-1 block"><b class="font-book">{project.number(f.before)}|{project.number(f.shot)}</b> {f.title}</span>
          </button>
        {/each}
      </div>
    {:else if thread && lineup}
      <h2 class="mb-2 truncate font-book text-[18px] font-semibold">{thread.name} <span class="font-sans text-[13.5px] font-normal text-soft">{view.costumes && `— ${view.costumes}`}{#if view.unmarked}<span class="ml-1.5 text-pencil">· not marked in {view.unmarked}</span>{/if}</span></h2>
      {#if lineup.cells.length}
        <DriftChart {lineup} chosen={view.shot} onchoose={(shot) => view.chooseShot(shot)} />
        <div class="mt-3 grid gap-x-2 gap-y-3 {wide ? 'grid-cols-[repeat(auto-fill,minmax(150px,1fr))]' : 'grid-cols-[repeat(auto-fill,minmax(104px,1fr))]'}">
          {#each lineup.anchors as anchor (anchor.sha)}
            <div>
              <span class="well block {wide ? 'h-[104px]' : 'h-[132px]'}">
                <img src={wide ? thumb(anchor.sha, 960) : crop(anchor.sha, anchor.box, 264)} alt="Anchor" class="size-full object-contain" />
              </span>
              <span class="mt-1 flex items-baseline justify-between gap-1"><b class="font-book">Anchor</b><span class="truncate text-[12px] text-soft">{anchor.costume || anchor.name}</span></span>
              {#each (project.traitsByThread.get(thread.id) ?? []).filter((t) => (project.references.get(t.reference_id)?.costume ?? '') === anchor.costume) as trait (trait.id)}
                <span class="mt-[2px] flex h-[9px]" title={trait.name}>{#each trait.colours as hex (hex)}<span class="flex-1" style="background:{hex}"></span>{/each}</span>
              {/each}
            </div>
          {/each}
          {#each lineup.cells as cell (cell.shot_id)}
            <LineupCell {cell} thread={thread.id} {wide} chosen={view.shot === cell.shot_id} onchoose={() => view.chooseShot(cell.shot_id)} />
          {/each}
        </div>
      {:else}
        <p class="py-10 text-center text-soft">
          {thread.kind === 'character' || thread.kind === 'prop'
            ? [...project.marks.values()].some((m) => m.thread_id === thread.id)
              ? !project.referencesByThread.get(thread.id)?.length
                ? `${thread.name} has no references to be held against: give it one on Model sheets, then check.`
                : `${thread.name} is marked, and has not been checked yet. ${project.check.running ? 'The check goes on.' : 'Check, and see how it holds.'}`
              : `${thread.name} is not marked in any picture yet: on Takes, drag a box round it; then check.`
            : thread.kind === 'setting'
              ? 'No picture of this place has been checked yet: give it references, assign it to shots, then check.'
              : 'No picture with this style has been checked yet.'}
        </p>
        <div class="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-3">
          {#each project.order.filter((s) => project.bead(s.id, thread.id) && project.pictureOf(s.id)) as s (s.id)}
            <div><span class="well block h-[110px]"><img src={thumb(project.pictureOf(s.id)!.sha, 960)} alt="" class="size-full object-contain" /></span><b class="font-book">{project.number(s.id)}</b></div>
          {/each}
        </div>
      {/if}
    {/if}
  </section>

  <aside class="w-[282px] shrink-0 overflow-y-auto border-l border-line p-4" aria-label="Evidence" bind:this={evidence}>
    {#if found}
      <Evidence {found} {lineup} place={(reviewing ? review.order : all).indexOf(found) + 1} count={(reviewing ? review.order : all).length} bind:stetOpen={view.stetOpen} onreplace={() => chooser?.click()} onstood={() => reviewing && review.next()} onretake={() => (reviewing ? review.decide('retake') : view.retake())} />
      {#if others.length && !reviewing}
        <h2 class="mt-4 mb-1 font-semibold">Also on this thread</h2>
        {#each others as f (f.key)}
          <button class="block w-full py-0.5 text-left hover:underline {project.decidedByKey.has(f.key) ? 'text-soft' : view.isQuestion(f) ? 'text-pencil' : 'text-red'}" onclick={() => view.show(f.key)}>{project.number(f.shot)} · {f.title}</button>
        {/each}
      {/if}
    {:else if project.check.status.state === 'done'}
      <p class="text-soft">
        {threadId && view.open(threadId) === 0 ? 'Nothing to look at here: this thread holds.' : 'Choose a shot with a red kink.'}
      </p>
      {#if all.length}<button class="btn mt-3" onclick={() => view.show(all[0]!.key)}>Show the first finding</button>{/if}
    {/if}
    {#if project.check.status.state === 'done' && project.check.status.message}
      <p class="mt-4 border-l-4 border-red pl-3">{project.check.status.message}</p>
    {/if}
    {#each Object.entries(project.check.trouble) as [shot, why] (shot)}
      <p class="mt-4 border-l-4 border-red pl-3"><b>Shot {project.number(shot)} was not measured:</b> {why}</p>
    {/each}
  </aside>
</div>
<input type="file" accept={PICTURES} class="hidden" bind:this={chooser} onchange={(e) => { const file = e.currentTarget.files?.[0]; e.currentTarget.value = ''; if (file) void view.replace(file); }} data-choose="replace" />
