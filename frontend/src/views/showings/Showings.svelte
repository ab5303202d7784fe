<script lang="ts">
  import { onMount } from 'svelte';
  import type { ShowingCard } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import ShownOnce from '../../components/ShownOnce.svelte';
  import { people } from '../../lib/people.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import NoteThread from './NoteThread.svelte';
  import { ShowingsState } from './showings-state.svelte';

  /** Links by which others see the sequence as it was frozen, and what they say of it. */
  const project = useProject();
  const view = new ShowingsState(project);
  let making = $state(false);
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric' });
  const STATES: Record<string, string> = { open: '', revoked: 'taken back', over: 'over' };

  onMount(() => void view.load());
  $effect(() => {
    if (project.shownSaid) void view.load();
  });

  async function make(event: SubmitEvent) {
    event.preventDefault();
    const data = new FormData(event.target as HTMLFormElement);
    const text = (key: string) => String(data.get(key) ?? '');
    if (await view.make({ title: text('title'), words: text('words'), days: Number(text('days')), passphrase: text('passphrase') })) making = false;
  }

  const standing = (c: ShowingCard) => [STATES[c.state], c.state === 'open' ? `until ${day.format(new Date(c.ends_at))}` : '', c.has_passphrase ? 'with a passphrase' : ''].filter(Boolean).join(' · ');
</script>

<div class="flex h-full" data-showings>
  <aside class="flex w-[300px] shrink-0 flex-col overflow-y-auto border-r border-line p-4" aria-label="Links">
    <button class="btn btn-main mb-4" onclick={() => { making = true; view.link = ''; }} disabled={!project.order.length} data-new-showing>Show it to somebody …</button>
    {#each view.cards ?? [] as c (c.id)}
      <button class="mb-1 rounded-sm border-l-[3px] py-2 pl-3 text-left hover:bg-panel {c.id === view.card?.id && !making ? 'border-pencil bg-wash' : 'border-transparent'} {c.state === 'open' ? '' : 'text-soft'}" aria-pressed={c.id === view.card?.id} onclick={() => { view.chosen = c.id; making = false; }} data-showing={c.id}>
        <span class="block truncate font-semibold">{c.title}</span>
        <span class="label block">edition {c.edition} of {day.format(new Date(c.frozen_at))}{standing(c) ? ` · ${standing(c)}` : ''}</span>
        <span class="label block">{c.viewers.length ? `seen by ${[...new Set(c.viewers.filter(Boolean))].join(', ') || counted(c.viewers.length, 'browser')}` : 'not seen yet'}{c.notes.length ? ` · ${counted(c.notes.length, 'comment')}` : ''}</span>
      </button>
    {/each}
  </aside>
  <section class="min-w-0 flex-1 overflow-y-auto p-6" aria-label="What was said">
    {#if making}
      <h2 class="mb-1 font-book text-[20px] font-semibold">A link to the sequence as it stands now</h2>
      <p class="mb-4 max-w-[560px] text-soft">Whoever has the link sees the picked pictures, the words and the run-through, frozen, and nothing else of the project. They comment and sign off without an account.</p>
      {#if !people.closed}<p class="mb-4 max-w-[560px] border-l-4 border-line pl-3">This Juxtaform is reached from this machine alone, and so is the link. docs/reach.md tells how to open it to others.</p>{/if}
      <form class="grid max-w-[560px] gap-3" onsubmit={make}>
        <label><span class="label">Title</span><input class="field mt-1" name="title" maxlength="200" value={project.title} /></label>
        <label><span class="label">A word to those who see it</span><textarea class="field mt-1 min-h-20" name="words" maxlength="4000" placeholder="What is new, and what you want to know of them"></textarea></label>
        <div class="grid grid-cols-2 gap-3">
          <label><span class="label">It opens for</span><select class="field mt-1" name="days"><option value="7">a week</option><option value="14" selected>two weeks</option><option value="60">two months</option><option value="366">a year</option></select></label>
          <label><span class="label">Passphrase, if you like: told apart from the link</span><input class="field mt-1" name="passphrase" maxlength="200" autocomplete="off" /></label>
        </div>
        <div class="flex gap-2"><button class="btn btn-main" disabled={view.busy}>{view.busy ? 'Freezing …' : 'Make the link'}</button><button type="button" class="quiet" onclick={() => (making = false)}>Leave it</button></div>
      </form>
    {:else if view.card}
      {@const card = view.card}
      {#if view.link}<ShownOnce value={view.link} what="The link to “{card.title}”" onput={() => (view.link = '')} />{/if}
      <div class="mb-4 flex flex-wrap items-center gap-3">
        <h2 class="font-book text-[20px] font-semibold">{card.title}</h2>
        {#if card.state === 'open'}
          <button class="btn" disabled={view.busy} onclick={() => view.freeze(card)} data-freeze>{card.behind ? 'Show it as it stands now' : 'Freeze it again'}</button>
          <button class="quiet" onclick={() => view.revoke(card)}>Take the link back</button>
        {:else}<button class="quiet" onclick={() => view.remove(card)}>Delete it with what was said</button>{/if}
        <span class="ml-auto flex whitespace-nowrap">
          <a class="quiet" href="/api/projects/{project.id}/showings/{card.id}/annotations" download title="Web annotations (W3C), for other programs">Comments as a file</a>
          <label class="quiet cursor-pointer">Take comments in …<input type="file" accept=".json,.jsonld,application/ld+json" class="sr-only" onchange={(e) => { const file = e.currentTarget.files?.[0]; if (file) void view.takeIn(card, file); e.currentTarget.value = ''; }} /></label>
        </span>
      </div>
      {#if card.behind && card.state === 'open'}<p class="label mb-3">The project went on since; the link still shows edition {card.edition}. When you show it as it stands, viewers see what changed since their last look.</p>{/if}
      {#each card.signs as s (s.name + s.edition)}<p class="mb-1 border-l-[3px] border-ink pl-3"><strong>{s.name}</strong> signed off edition {s.edition} on {day.format(new Date(s.at))}.{s.words ? ` “${s.words}”` : ''}</p>{/each}
      <div class="mt-4 mb-2 flex items-center gap-3">
        <Choice value={view.only} options={[['open', 'Open comments', project.findings.viewer.open.length], ['all', 'All that was said']]} label="Which comments" onchoose={(v) => (view.only = v)} />
        <span class="label">{view.good} good · {view.wanted.length} to be changed</span>
      </div>
      {#each view.shots as { shot, notes, words } (shot.id)}
        <article class="border-t border-line py-4" data-said-of={shot.id}>
          <button class="mb-2 font-book text-[17px] font-semibold hover:underline" onclick={() => { project.currentId = shot.id; router.go(project.id, 'takes'); }}>Shot {project.number(shot.id)}</button>
          {#each words as w (w.name)}<span class="ml-3 font-semibold text-red">{w.name} wants it changed</span>{/each}
          {#each notes as note (note.id)}<NoteThread {view} {note} {shot} />{/each}
        </article>
      {:else}
        <p class="py-10 text-center text-soft">{card.notes.length ? 'Every comment is answered for.' : 'Nobody said anything yet. What viewers say comes here by itself, and to its shot.'}</p>
      {/each}
    {:else if view.cards}
      <div class="py-24 text-center">
        <h2 class="mb-2 font-book text-[20px] font-semibold">Nothing is shown yet</h2>
        <p class="mx-auto max-w-[460px] text-soft">A link shows the sequence as it stands at that moment to an editor, an author or a friend, on a telephone too. They pin comments, say good or change, and sign off; their comments come here.</p>
      </div>
    {/if}
  </section>
</div>
