<script lang="ts">
  import { api, crop, ok, sendPicture, thumb, type Finding, type Lineup } from '../../api/client';
  import { columnOrder, grouped, ranges } from '../../lib/order';
  import { notices } from '../../lib/notices.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import DriftChart from './DriftChart.svelte';
  import Evidence from './Evidence.svelte';
  import LineupCell from './LineupCell.svelte';

  const GENERAL = 'general';
  const GROUPS = { character: 'Characters', setting: 'Settings', style: 'Style', prop: 'Props' } as const;
  const project = useProject();
  let threadId = $state<string | null>(null);
  let key = $state<string | null>(null);
  let lineup = $state.raw<Lineup | null>(null);
  let stetOpen = $state(false);
  let chooser = $state<HTMLInputElement | null>(null);
  let evidence = $state<HTMLElement | null>(null);

  const threads = $derived(columnOrder(project.threads.values()));
  const isQuestion = (f: Finding) => f.kind === 'figure_doubtful';
  const open = (id: string | null) => project.findings.check.open.filter((f) => (f.thread ?? GENERAL) === id && !isQuestion(f)).length;
  const asked = (id: string) => project.findings.check.open.filter((f) => f.thread === id && isQuestion(f)).length;
  const all = $derived([...project.findings.check.open, ...project.findings.check.stood].sort((a, b) => Number(isQuestion(a)) - Number(isQuestion(b)) || project.number(a.shot) - project.number(b.shot)));
  const found = $derived<Finding | undefined>(all.find((f) => f.key === key));
  const thread = $derived(threadId ? project.threads.get(threadId) : undefined);
  const general = $derived(all.filter((f) => !f.thread));
  const costumes = $derived.by(() => {
    if (!lineup || !thread) return '';
    const by = grouped(lineup.cells, (c) => c.costume);
    if (by.size < 2) return lineup.cells.length ? `shots ${ranges(lineup.cells.map((c) => project.number(c.shot_id)))}` : '';
    return [...by].map(([name, cells]) => `${name || 'usual costume'}, shots ${ranges(cells.map((c) => project.number(c.shot_id)))}`).join(' · ');
  });
  const others = $derived(all.filter((f) => f.thread === threadId && f.key !== key));

  $effect(() => {
    if (router.about && all.some((f) => f.key === router.about)) {
      show(router.about);
      router.about = null;
    } else if (threadId === null && project.findings.read) {
      const first = all.find((f) => f.shot === project.currentId) ?? project.findings.check.open[0];
      if (first) show(first.key);
      else threadId = threads[0]?.id ?? GENERAL;
    }
  });

  $effect(() => {
    void project.check.status.at;
    const id = threadId;
    if (!id || id === GENERAL) lineup = null;
    else
      ok(api.GET('/api/projects/{project_id}/lineups/{thread_id}', { params: { path: { project_id: project.id, thread_id: id } } }))
        .then((got) => id === threadId && (lineup = got as Lineup))
        .catch((error: Error) => notices.say(error.message, 'trouble'));
  });

  $effect(() => {
    void key;
    evidence?.scrollTo(0, 0);
  });

  function show(next: string) {
    const f = all.find((x) => x.key === next);
    if (!f) return;
    key = next;
    stetOpen = false;
    threadId = f.thread ?? GENERAL;
    project.currentId = f.shot ?? null;
  }

  function chooseThread(id: string) {
    threadId = id;
    key = all.find((f) => (f.thread ?? GENERAL) === id)?.key ?? null;
    stetOpen = false;
  }

  function chooseShot(shot: string) {
    project.currentId = shot;
    key = all.find((f) => f.thread === threadId && f.shot === shot)?.key ?? null;
    stetOpen = false;
  }

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const ids = [...threads.map((t) => t.id), ...(general.length ? [GENERAL] : [])];
    const at = all.findIndex((f) => f.key === key);
    if (event.key === ']') show((all[at + 1] ?? all[0])?.key ?? '');
    else if (event.key === '[') show((all[at - 1] ?? all.at(-1))?.key ?? '');
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp')
      chooseThread(ids[Math.min(ids.length - 1, Math.max(0, ids.indexOf(threadId ?? '') + (event.key === 'ArrowDown' ? 1 : -1)))] ?? GENERAL);
    else if (event.key === 's' && found && !project.stetByKey.has(found.key)) stetOpen = true;
    else if (event.key === 'g' && found) {
      project.currentId = found.shot ?? null;
      router.go(project.id, found.kind === 'named_absent' ? 'sheet' : 'takes');
    } else if (event.key === 'r' && found) chooser?.click();
    else return;
    event.preventDefault();
  }

  async function replaced(event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    const shot = found?.shot ?? project.currentId;
    if (!file || !shot) return;
    try {
      const taken = await sendPicture(project.id, file, file.name);
      if (!taken.sha) return notices.say(`${taken.name}: ${taken.refused}`, 'trouble');
      const done = await project.send(() =>
        api.POST('/api/projects/{project_id}/shots/{shot_id}/replace', {
          params: { path: { project_id: project.id, shot_id: shot } },
          body: { sha: taken.sha!, name: taken.name },
        }),
      );
      if (done) void project.check.start();
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }
</script>

<svelte:window {onkeydown} />

<div class="flex h-full">
  <aside class="w-[190px] shrink-0 overflow-y-auto border-r border-line py-3" aria-label="Threads">
    {#each Object.entries(GROUPS) as [kind, name] (kind)}
      {@const own = threads.filter((t) => t.kind === kind)}
      {#if own.length}
        <h2 class="px-3.5 pt-2 pb-1 text-[12px] font-semibold">{name}</h2>
        {#each own as t (t.id)}
          {@const face = project.face(t.id)}
          {@const n = open(t.id)}
          <button class="flex h-10 w-full items-center gap-2 px-3.5 text-left {threadId === t.id ? 'bg-wash' : ''}" onclick={() => chooseThread(t.id)} data-thread={t.name}>
            <span class="well size-7 shrink-0 overflow-hidden">{#if face}<img src={thumb(face.picture_sha)} alt="" class="size-full object-cover object-top" />{/if}</span>
            <span class="min-w-0 flex-1 truncate">{t.name}</span>
            {#if asked(t.id)}<span class="text-pencil" title="{asked(t.id) === 1 ? 'A question' : `${asked(t.id)} questions`}">{asked(t.id) > 1 ? asked(t.id) : ''}?</span>{/if}
            {#if n}<span class="font-semibold text-red">{n}</span>{:else if !asked(t.id) && project.check.measured.get(t.id)}<span class="text-[12px] text-soft">holds</span>{/if}
          </button>
        {/each}
      {/if}
    {/each}
    {#if general.length}
      <h2 class="px-3.5 pt-2 pb-1 text-[12px] font-semibold">Pictures</h2>
      <button class="flex h-10 w-full items-center gap-2 px-3.5 text-left {threadId === GENERAL ? 'bg-wash' : ''}" onclick={() => chooseThread(GENERAL)}>
        <span class="flex-1">Technical</span>{#if open(GENERAL)}<span class="font-semibold text-red">{open(GENERAL)}</span>{/if}
      </button>
    {/if}
  </aside>

  <section class="min-w-0 flex-1 overflow-y-auto bg-panel p-4" aria-label="Lineup">
    {#if project.check.status.state === 'never' && !all.length}
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
          <button class="text-left {key === f.key ? 'bg-wash' : ''}" onclick={() => show(f.key)}>
            <span class="well block h-[134px] {project.stetByKey.has(f.key) ? '' : 'outline-2 outline-red'}">{#if p}<img src={thumb(p.sha, 960)} alt="" class="size-full object-contain" />{/if}</span>
            <span class="mt-1 block"><b class="font-book">{project.number(f.shot)}</b> {f.title}</span>
          </button>
        {/each}
      </div>
    {:else if thread && lineup}
      <h2 class="mb-2 truncate font-book text-[18px] font-semibold">{thread.name} <span class="font-sans text-[13.5px] font-normal text-soft">{costumes && `— ${costumes}`}</span></h2>
      {#if lineup.cells.length}
        <DriftChart {lineup} chosen={found?.shot ?? project.currentId} onchoose={chooseShot} />
        <div class="mt-3 grid gap-x-2 gap-y-3 {thread.kind === 'style' ? 'grid-cols-[repeat(auto-fill,minmax(150px,1fr))]' : 'grid-cols-[repeat(auto-fill,minmax(104px,1fr))]'}">
          {#each lineup.anchors as anchor (anchor.sha)}
            <div>
              <span class="well block {thread.kind === 'style' ? 'h-[104px]' : 'h-[132px]'}">
                <img src={thread.kind === 'style' ? thumb(anchor.sha, 960) : crop(anchor.sha, anchor.box, 264)} alt="Anchor" class="size-full object-contain" />
              </span>
              <span class="mt-1 flex items-baseline justify-between gap-1"><b class="font-book">Anchor</b><span class="truncate text-[12px] text-soft">{anchor.costume || anchor.name}</span></span>
              {#each (project.traitsByThread.get(thread.id) ?? []).filter((t) => (project.references.get(t.reference_id)?.costume ?? '') === anchor.costume) as trait (trait.id)}
                <span class="mt-[2px] flex h-[9px]" title={trait.name}>{#each trait.colours as hex (hex)}<span class="flex-1" style="background:{hex}"></span>{/each}</span>
              {/each}
            </div>
          {/each}
          {#each lineup.cells as cell (cell.shot_id)}
            <LineupCell {cell} thread={thread.id} wide={thread.kind === 'style'} chosen={(found?.shot ?? project.currentId) === cell.shot_id} onchoose={() => chooseShot(cell.shot_id)} />
          {/each}
        </div>
      {:else}
        <p class="py-10 text-center text-soft">
          {thread.kind === 'character' || thread.kind === 'prop'
            ? `${thread.name} is not marked in any picture yet: on Takes, drag a box round it; then check.`
            : thread.kind === 'setting'
              ? 'Settings are not measured yet; what they show beside the characters is judged by eye.'
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
      <Evidence {found} {lineup} place={all.indexOf(found) + 1} count={all.length} bind:stetOpen onreplace={() => chooser?.click()} />
      {#if others.length}
        <h2 class="mt-4 mb-1 font-semibold">Also on this thread</h2>
        {#each others as f (f.key)}
          <button class="block w-full py-0.5 text-left hover:underline {project.stetByKey.has(f.key) ? 'text-soft' : isQuestion(f) ? 'text-pencil' : 'text-red'}" onclick={() => show(f.key)}>{project.number(f.shot)} · {f.title}</button>
        {/each}
      {/if}
    {:else if project.check.status.state === 'done'}
      <p class="text-soft">
        {threadId && open(threadId) === 0 ? 'Nothing to look at here: this thread holds.' : 'Choose a shot with a red kink.'}
      </p>
      {#if all.length}<button class="btn mt-3" onclick={() => show(all[0]!.key)}>Show the first finding</button>{/if}
    {/if}
    {#if project.check.status.state === 'done' && project.check.status.message}
      <p class="mt-4 border-l-4 border-red pl-3">{project.check.status.message}</p>
    {/if}
    {#each Object.entries(project.check.trouble) as [shot, why] (shot)}
      <p class="mt-4 border-l-4 border-red pl-3"><b>Shot {project.number(shot)} was not measured:</b> {why}</p>
    {/each}
  </aside>
</div>
<input type="file" accept="image/png,image/jpeg,image/webp" class="hidden" bind:this={chooser} onchange={replaced} data-choose="replace" />
