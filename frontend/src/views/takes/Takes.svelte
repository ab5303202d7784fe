<script lang="ts">
  import { api, thumb, whole, type BoxPx, type Take } from '../../api/client';
  import BoxStage from '../../components/BoxStage.svelte';
  import Kink from '../../components/Kink.svelte';
  import MadeFrom from './MadeFrom.svelte';
  import PicturesIn from '../../components/PicturesIn.svelte';
  import ShotFacts from '../../components/ShotFacts.svelte';
  import WhereTheyStand from '../../components/WhereTheyStand.svelte';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { notices } from '../../lib/notices.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';

  const project = useProject();
  let shownId = $state<string | null>(null);
  let who = $state(0);
  let chosen = $state<string | null>(null);
  let editing = $state<string | null>(null);
  let incoming = $state<NamedFile[] | null>(null);
  let looking = $state(false);
  let asked = $state.raw<{ thread: string; take: string; shot: string; box: BoxPx } | null>(null);
  let chooser = $state<HTMLInputElement | null>(null);

  const shot = $derived(project.current);
  const takes = $derived(shot ? (project.takesByShot.get(shot.id) ?? []) : []);
  const take = $derived<Take | undefined>(takes.find((t) => t.id === shownId) ?? takes.find((t) => t.picked) ?? takes[0]);
  const picture = $derived(take && project.pictures.get(take.picture_sha));
  const marks = $derived(take ? (project.marksByTake.get(take.id) ?? []) : []);
  const markedIds = $derived(new Set(marks.map((m) => m.thread_id)));
  /** Figures have one number in every shot: characters first, then props, as on the Sheet. */
  const figures = $derived([...project.columns.filter((t) => t.kind === 'character'), ...project.columns.filter((t) => t.kind === 'prop')]);
  const numberOf = $derived(new Map(figures.map((t, i) => [t.id, i + 1])));
  const people = $derived.by(() => {
    const here = (id: string) => (shot && project.bead(shot.id, id) ? 0 : 1);
    return [...figures].sort((a, b) => here(a.id) - here(b.id));
  });
  const proposals = $derived(take ? project.standings.of(take.id) : []);
  const placed = $derived(proposals.filter((p) => p.box));
  const waiting = $derived(project.standings.all.filter((p) => p.box));
  const boxes = $derived([
    ...marks.map((m) => ({ ...m, label: project.threads.get(m.thread_id)?.name ?? '?' })),
    ...placed.map((p) => {
      const name = project.threads.get(p.figure)?.name ?? '?';
      return { ...p.box!, id: p.key, label: p.answer === 'found' ? name : `${name}?`, proposed: true };
    }),
  ]);

  $effect(() => {
    if (project.currentId) {
      shownId = null;
      chosen = null;
      asked = null;
    }
  });

  let looked = '';
  $effect(() => {
    project.standings.want(take && !take.picked ? [take.id] : []);
    // Whom the plan puts here, and nobody has marked, is looked for.
    const open = people.filter((p) => shot && project.bead(shot.id, p.id) && !markedIds.has(p.id) && project.referencesByThread.has(p.id));
    const what = take && open.length ? `${take.id} ${open.map((p) => p.id).join(' ')}` : '';
    if (!what || what === looked) return;
    looked = what;
    void project.standings.look([take!.id]);
  });

  $effect(() => {
    const unmarked = people.findIndex((p) => shot && project.bead(shot.id, p.id) && p.kind === 'character' && !markedIds.has(p.id));
    who = unmarked >= 0 ? unmarked : 0;
  });

  function draw(box: BoxPx) {
    const thread = people[who];
    if (!thread || !take || !shot) return notices.say('Make a character first: its box needs a name.', 'trouble');
    if (project.bead(shot.id, thread.id)) void project.mark(take.id, thread.id, box);
    else asked = { thread: thread.id, take: take.id, shot: shot.id, box };
  }

  /** Somebody was marked whom the plan does not put here: put there, then marked. */
  async function putThere() {
    const put = asked;
    asked = null;
    if (!put) return;
    const path = { project_id: project.id, thread_id: put.thread };
    const done = await project.send(() => api.PUT('/api/projects/{project_id}/threads/{thread_id}/run', { params: { path }, body: { shot_ids: [put.shot], on: true } }));
    if (done) await project.mark(put.take, put.thread, put.box);
  }

  /** A box was dragged: a proposal is confirmed where it was put. */
  function moved(id: string, box: BoxPx) {
    const figure = marks.find((m) => m.id === id)?.thread_id ?? proposals.find((p) => p.key === id)?.figure;
    if (figure && take) void project.mark(take.id, figure, box);
  }

  function refuse() {
    const refused = placed.find((p) => p.key === chosen) ?? placed[0];
    if (refused && take) void project.refuse(take, refused.figure);
  }

  function unmark(mark_id: string) {
    chosen = null;
    return project.send(() => api.DELETE('/api/projects/{project_id}/marks/{mark_id}', { params: { path: { project_id: project.id, mark_id } } }));
  }

  const proposal = (thread: string) => proposals.find((p) => p.figure === thread);

  /** What is known of a figure's place in this picture, in a word or two. */
  function told(thread: string, marked: boolean, here: boolean): string {
    if (marked) return 'marked';
    if (take?.not_here.includes(thread)) return 'not there';
    const p = proposal(thread);
    if (p?.box) return p.answer === 'found' ? 'found' : 'this one?';
    if (p) return 'not found';
    return here && project.threads.get(thread)?.kind === 'character' ? 'to mark' : '';
  }

  function pick() {
    if (take && !take.picked)
      void project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/pick', { params: { path: { project_id: project.id, take_id: take.id } } }));
  }

  function remove(id: string) {
    void project.send(() => api.DELETE('/api/projects/{project_id}/takes/{take_id}', { params: { path: { project_id: project.id, take_id: id } } }));
  }

  function nextPicture(by: number) {
    const n = project.order.length;
    for (let i = 1; i <= n; i++) {
      const other = project.order[(project.currentIndex + by * i + n * i) % n];
      if (other && project.takesByShot.has(other.id)) return (project.currentId = other.id);
    }
  }

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || incoming || looking || event.ctrlKey || event.metaKey || event.altKey) return;
    const digit = Number(event.key);
    const numbered = people.findIndex((t) => numberOf.get(t.id) === digit);
    if (asked && (event.key === 'Enter' || event.key === 'y')) void putThere();
    else if (asked && (event.key === 'Escape' || event.key === 'n')) asked = null;
    else if (numbered >= 0) who = numbered;
    else if (event.key === '.' || event.key === ',') nextPicture(event.key === '.' ? 1 : -1);
    else if (event.key === 'p') pick();
    else if (event.key === 'Enter' && placed.length && !(event.target instanceof HTMLButtonElement)) void project.confirm(placed);
    else if (event.key === 'n' && placed.length) refuse();
    else if (event.key === '[' || event.key === ']') {
      const at = takes.findIndex((t) => t.id === take?.id) + (event.key === ']' ? 1 : -1);
      shownId = takes[Math.min(takes.length - 1, Math.max(0, at))]?.id ?? null;
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && chosen) {
      if (placed.some((p) => p.key === chosen)) refuse();
      else void unmark(chosen);
    }
    else if (event.key === 'Escape') chosen = null;
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') project.step(event.key === 'ArrowDown' ? 1 : -1);
    else return;
    event.preventDefault();
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
              src={whole(take.picture_sha)} width={picture.width} height={picture.height} {boxes} bind:chosen drawing={people.length > 0}
              ondraw={draw} onchange={moved}
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
              class="well block h-[66px] w-[100px] outline-offset-0 {t.id === take?.id ? 'outline-3 outline-pencil' : ''}" onclick={() => (shownId = t.id)} title={t.name}
            ><img src={thumb(t.picture_sha)} alt="Take {i + 1}" class="size-full object-contain" /></button>
            <div class="flex w-[100px] items-center justify-between text-[12px]">
              <span class="text-[12px] whitespace-nowrap {t.picked ? 'font-bold' : 'text-soft'}">take {i + 1}{t.picked ? ' · picked' : ''}</span>
              <button class="quiet px-1" onclick={() => remove(t.id)} aria-label="Remove take {i + 1}" title="Remove this take">×</button>
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
            {@const here = project.bead(shot.id, thread.id)}
            <div class="flex h-9 items-center gap-2 border-l-[3px] pl-2 {who === i ? 'border-pencil bg-wash' : 'border-transparent'}">
              <button class="flex min-w-0 flex-1 items-center gap-2 text-left {here ? '' : 'text-soft'}" onclick={() => { who = i; chosen = m?.id ?? null; }} data-who={numberOf.get(thread.id)}>
                <span class="key">{numberOf.get(thread.id)}</span><span class="truncate">{thread.name}</span>
                <span class="label ml-auto shrink-0 pr-1">{told(thread.id, !!m, !!here)}</span>
              </button>
              {#if proposal(thread.id)?.box}
                <button class="quiet px-1" onclick={() => project.confirm([proposal(thread.id)!])} aria-label="{thread.name} stands there" title="Yes, there">✓</button>
                <button class="quiet px-1" onclick={() => project.refuse(take!, thread.id)} aria-label="{thread.name} is not there" title="Not there">×</button>
              {/if}
              {#if m}<button class="quiet px-1" onclick={() => unmark(m.id)} aria-label="Remove the mark of {thread.name}">×</button>{/if}
            </div>
          {/each}
          {#if asked}
            <div class="mt-2 rounded-sm border border-pencil p-2" role="alert" data-put-there>
              <p class="mb-2">{project.threads.get(asked.thread)?.name} does not run through shot {project.number(asked.shot)}. Put them there, and mark the box?</p>
              <button class="btn btn-main" onclick={putThere}>Put there <span class="ml-1 opacity-70">Y</span></button>
              <button class="quiet" onclick={() => (asked = null)}>No <span class="key">N</span></button>
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
      {#if take && !take.picked}<button class="btn btn-main" onclick={pick}>Pick this take <span class="ml-1 opacity-70">P</span></button>{/if}
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
