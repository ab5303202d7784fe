<script lang="ts">
  import { onDestroy, onMount, untrack } from 'svelte';
  import Choice from '../../components/Choice.svelte';
  import { commands } from '../../lib/commands.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import BookMaking from './BookMaking.svelte';
  import { DummyState, pagesOf } from './dummy-state.svelte';
  import Pages from './Pages.svelte';

  /** The book as a dummy: the flat plan of all pages, two of them open, and what would go wrong in print. */
  const project = useProject();
  const view = new DummyState(project);
  const FLAT = 150;
  let room = $state({ width: 800, height: 420 });
  let strip = $state<HTMLElement | null>(null);
  /** What of the flat plan is in sight; the rest is paper without its picture, so that a thousand pages cost no more than twenty. */
  let sight = $state({ left: 0, width: 1200 });
  const BESIDE = 3;
  const STEP = FLAT + 12;
  const inSight = (i: number) => (i + 1 + BESIDE) * STEP > sight.left && (i - BESIDE) * STEP < sight.left + sight.width;
  const wide = $derived.by(() => {
    if (!view.book) return 0;
    const form = (2 * view.book.trim_w) / view.book.trim_h;
    return Math.floor(Math.min(room.width - 40, (room.height - 40) * form));
  });

  onMount(() => {
    return commands.offer('Dummy', [
      { name: 'Turn the page', key: '→', run: () => view.turn(1) },
      { name: 'Turn back', key: '←', run: () => view.turn(-1) },
      { name: 'Fold, safe area and notes on the page', key: 'G', run: () => (view.guides = !view.guides) },
    ]);
  });
  onDestroy(() => view.close());
  $effect(() => {
    void [project.shots, project.takes, project.marks, project.row, project.text];
    untrack(() => view.readSoon(view.view ? undefined : 0));
  });
  $effect(() => {
    const id = view.shotId;
    untrack(() => id && (project.currentId = id));
  });
  $effect(() => {
    const id = project.currentId;
    untrack(() => id && id !== view.shotId && view.openAt(id));
  });
  $effect(() => {
    strip?.querySelector(`[data-opening='${view.at}']`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  });

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || project.table.open || event.ctrlKey || event.metaKey || event.altKey) return;
    if ((event.target as HTMLElement).getAttribute('role') === 'radio') return;
    if (event.key === 'ArrowRight' || event.key === 'PageDown') view.turn(1);
    else if (event.key === 'ArrowLeft' || event.key === 'PageUp') view.turn(-1);
    else if (event.key === 'Home') view.turn(-view.openings.length);
    else if (event.key === 'End') view.turn(view.openings.length);
    else if (event.key === 'g') view.guides = !view.guides;
    else return;
    event.preventDefault();
  }
  const placed = $derived(view.opening?.words.find((w) => w.shot === view.shotId));
</script>

<svelte:window {onkeydown} />

{#if !project.order.length}
  <div class="mx-auto max-w-[460px] py-24 text-center">
    <h2 class="mb-2 font-book text-[20px] font-semibold">No pages yet</h2>
    <p class="mb-5 text-soft">The dummy lays your shots out as the pages of a book, with their words. Plan shots first.</p>
    <button class="btn btn-main" onclick={() => router.go(project.id, 'story')}>To the story</button>
  </div>
{:else if view.view && view.book}
  <div class="flex h-full">
    <section class="flex min-w-0 flex-1 flex-col" aria-label="The book">
      <div class="flex h-[46px] shrink-0 items-center gap-4 border-b border-line px-4">
        <span class="min-w-0 flex-1 truncate"><b class="font-book text-[15px]">{pagesOf(view.opening).replace('p', 'P')}</b> <span class="text-soft">of {view.view.layout.pages.length}, {view.book.trim_w} × {view.book.trim_h} mm</span></span>
        <label class="flex items-center gap-1.5"><input type="checkbox" bind:checked={view.guides} />fold, safe area, notes <span class="key">G</span></label>
        <button class="btn" onclick={() => view.turn(-1)} disabled={view.at === 0} aria-label="Turn back">←</button>
        <button class="btn" onclick={() => view.turn(1)} disabled={view.at >= view.openings.length - 1} aria-label="Turn the page">→</button>
      </div>
      <div class="well grid min-h-0 flex-1 place-items-center" bind:clientWidth={room.width} bind:clientHeight={room.height}>
        {#if view.opening && wide > 0}<Pages {view} opening={view.opening} width={wide} open />{/if}
      </div>
      {#if view.shot}
        {@const shot = view.shot}
        <div class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-4 py-1.5" data-shot-on-page>
          <b class="font-book text-[15px]">{project.number(shot.id)}</b>
          <Choice value={shot.page_form} options={[['half', 'half'], ['single', 'single'], ['spread', 'spread']] as const} label="Page" small onchoose={(page_form) => project.editShot(shot, { page_form })} />
          {#if shot.page_form !== 'spread'}<label class="flex items-center gap-1.5"><input type="checkbox" checked={shot.bleed} onchange={(e) => project.editShot(shot, { bleed: e.currentTarget.checked })} />bleeds off the page</label>{/if}
          <label class="flex items-center gap-1.5" title="A surprise is hidden until the page is turned: it belongs on a left-hand page."><input type="checkbox" checked={shot.surprise} onchange={(e) => project.editShot(shot, { surprise: e.currentTarget.checked })} />a surprise</label>
          {#if placed}
            <span class="flex items-center gap-1"><span class="label">words</span><Choice value={shot.words_tone || 'self'} options={[['self', 'by itself'], ['dark', 'black'], ['light', 'white']] as const} label="Tone of the words" small onchoose={(t) => project.editShot(shot, { words_tone: t === 'self' ? '' : t })} /></span>
            {#if shot.words_at}<button class="quiet" onclick={() => view.letGo(shot)}>Place them by themselves</button>{/if}
          {/if}
        </div>
      {/if}
      <div class="flex shrink-0 gap-3 overflow-x-auto border-t border-line bg-panel p-3" bind:this={strip} bind:clientWidth={sight.width} onscroll={(e) => (sight.left = e.currentTarget.scrollLeft)} role="group" aria-label="Flat plan">
        {#each view.openings as o, i (i)}
          {@const wrong = view.notes.filter((n) => n.kind !== 'filled' && (n.page === o.left?.number || n.page === o.right?.number)).length}
          <button class="shrink-0 text-left {i === view.at ? 'outline-2 outline-offset-2 outline-pencil' : ''}" onclick={() => view.turn(i - view.at)} data-opening={i} aria-current={i === view.at}>
            <span class="sr-only">{pagesOf(o)}{wrong ? `, ${wrong} to look at` : ''}</span>
            <span class="block" aria-hidden="true">{#if inSight(i)}<Pages {view} opening={o} width={FLAT} />{:else}<span class="block bg-white" style="width:{FLAT}px;height:{(FLAT * view.book.trim_h) / (2 * view.book.trim_w)}px"></span>{/if}</span>
            <span aria-hidden="true" class="flex justify-between text-[12px] text-soft"><span>{o.left?.number ?? ''}</span>{#if wrong}<span class="font-semibold text-red">{wrong}</span>{/if}<span>{o.right?.number ?? ''}</span></span>
          </button>
        {/each}
      </div>
    </section>
    <aside class="w-[316px] shrink-0 overflow-y-auto border-l border-line p-4" aria-label="What would go wrong, and how the book is made">
      <h2 class="mb-1 font-book text-[16px] font-semibold">{view.groups.length ? 'To look at' : 'Ready for print'}</h2>
      {#if !view.groups.length}<p class="text-soft">No face in the fold, no words that cannot be read, enough pixels everywhere.</p>{/if}
      <ul class="mb-4">
        {#each view.groups as g, i (i)}
          <li class="border-t border-hair py-1.5" data-note={g.kind}>
            <button class="block w-full text-left font-semibold hover:text-pencil" onclick={() => view.goTo(g.notes[0]!)}>{g.title}</button>
            {#if g.notes.length === 1}<p class="text-soft"><span class="text-ink">{g.notes[0]!.page ? `Page ${g.notes[0]!.page}` : 'The cover'}.</span> {g.notes[0]!.advice}</p>
            {:else}<p class="text-soft">{counted(g.notes.length, 'page')}: {#each g.notes as n, k (k)}<button class="px-1 text-pencil underline" title={n.title} onclick={() => view.goTo(n)}>{n.page}</button>{/each}</p>{/if}
          </li>
        {/each}
      </ul>
      <BookMaking {view} />
    </aside>
  </div>
{/if}
