<script lang="ts">
  import { thumb, type NoteView, type Shot } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import { clock } from '../run/timeline';
  import type { ShowingsState } from './showings-state.svelte';

  /** A viewer's comment with its place on the picture, its answers, and what to do: answer, retake, let stand. */
  let { view, note, shot }: { view: ShowingsState; note: NoteView; shot: Shot } = $props();
  const project = useProject();
  const picture = $derived(project.pictureOf(shot.id));
  const decided = $derived(project.decidedByKey.get(note.key));
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
  let doing = $state<'' | 'answer' | 'stand'>('');
  let words = $state('');

  async function done(event: Event) {
    event.preventDefault();
    if (!words.trim()) return;
    const worked = doing === 'answer' ? await view.answer(note, words) : await project.decide([note.key], 'stet', words);
    if (!worked) return;
    words = '';
    doing = '';
  }
</script>

<div class="mb-3 flex gap-4" data-thread={note.id}>
  {#if picture}
    <span class="relative block w-[150px] shrink-0 self-start">
      <img class="block w-full" src={thumb(picture.sha)} alt="" />
      {#if note.place}<span class="absolute size-4 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-paper bg-red" style="left:{(note.place[0]! + (note.place[2] ?? 0) / 2) * 100}%;top:{(note.place[1]! + (note.place[3] ?? 0) / 2) * 100}%"></span>{/if}
    </span>
  {/if}
  <div class="min-w-0 flex-1">
    <p class="label">{note.name}{note.at_s !== null ? ` · at ${clock(note.at_s)} of the run-through` : ''} · {day.format(new Date(note.made_at))} · edition {note.edition}</p>
    <p class="whitespace-pre-line">{note.words}</p>
    {#each view.answersTo.get(note.id) ?? [] as a (a.id)}<div class="mt-1.5 border-l border-line pl-3"><p class="label">{a.name} · {day.format(new Date(a.made_at))}</p><p class="whitespace-pre-line">{a.words}</p></div>{/each}
    {#if decided}
      <p class="mt-1 text-soft">{decided.verdict === 'retake' ? 'Put down for a retake.' : `Stands: ${decided.reason}`} <button class="quiet" onclick={() => project.unstand(note.key)}>Take that back</button></p>
    {/if}
    {#if doing}
      <form class="mt-2 flex gap-2" onsubmit={done}>
        <!-- svelte-ignore a11y_autofocus -->
        <input class="field flex-1" maxlength="4000" aria-label={doing === 'answer' ? 'Your answer' : 'Why it may stand'} placeholder={doing === 'answer' ? 'Your answer' : 'Why it may stand'} bind:value={words} autofocus /><button class="btn">{doing === 'answer' ? 'Answer' : 'Let it stand'}</button><button type="button" class="quiet" onclick={() => (doing = '')}>Leave it</button>
      </form>
    {:else}
      <div class="mt-1 flex gap-1">
        <button class="quiet -ml-1.5" onclick={() => (doing = 'answer')}>Answer</button>
        {#if !decided}<button class="quiet" onclick={() => project.decide([note.key], 'retake')}>Retake</button><button class="quiet" onclick={() => (doing = 'stand')}>Let it stand …</button>{/if}
      </div>
    {/if}
  </div>
</div>
