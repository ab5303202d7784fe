<script lang="ts">
  import { tick } from 'svelte';
  import type { FrozenShot, NoteView } from '../../api/client';
  import { clock } from '../run/timeline';
  import Pins from './Pins.svelte';
  import type { ShownState } from './shown-state.svelte';

  /** A shot as a viewer sees it: picture, words, good or change, comments with their answers. */
  let { view, shot }: { view: ShownState; shot: FrozenShot } = $props();
  let writing = $state<{ place?: number[]; at_s?: number; parent_id?: string } | null>(null);
  let words = $state('');
  let field = $state<HTMLTextAreaElement | null>(null);
  let busy = $state(false);
  /** The name is asked for as long as this form is open: a field that goes while somebody presses Send would move the button away. */
  let asksName = $state(false);
  const notes = $derived(view.notesByShot.get(shot.id) ?? []);
  const changed = $derived(view.changedOf(shot));
  const said = $derived(view.own.get(shot.id));
  const others = $derived((view.wordsByShot.get(shot.id) ?? []).filter((w) => w.name !== view.name.trim()));
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

  export async function write(where: { place?: number[]; at_s?: number; parent_id?: string }) {
    asksName = !view.name.trim();
    writing = where;
    await tick();
    field?.focus();
    field?.scrollIntoView({ block: 'nearest' });
  }

  async function send(event: Event) {
    event.preventDefault();
    if (!words.trim() || !writing) return;
    busy = true;
    if (await view.comment(shot.id, words, writing)) {
      words = '';
      writing = null;
    }
    busy = false;
  }
</script>

<article class="border-t border-line py-5" data-shown-shot={shot.id}>
  <header class="mb-2 flex flex-wrap items-baseline gap-x-3">
    <h3 class="font-book text-[19px] font-semibold">{shot.number}</h3>
    <span class="label">{shot.scene}</span>
    {#if changed}<span class="rounded-sm bg-wash px-1.5 font-semibold text-pencil" data-changed>{changed}</span>{/if}
    {#if shot.sketch}<span class="label">a sketch: the picture is not there yet</span>{/if}
  </header>
  <Pins {view} {shot} {notes} placed={writing?.place ?? null} onplace={(place) => write({ place })} />
  {#if shot.words}<p class="mt-2 font-book text-[16px] leading-[1.5] whitespace-pre-line">{shot.words}</p>{:else if shot.shows}<p class="mt-2 text-soft">{shot.shows}</p>{/if}
  <div class="mt-3 flex flex-wrap items-center gap-2">
    <button class="btn min-h-10 {said === 'good' ? 'btn-main' : ''}" aria-pressed={said === 'good'} onclick={() => view.say(shot.id, 'good')} data-says="good">Good</button>
    <button class="btn min-h-10 {said === 'change' ? '!border-red !bg-red !text-paper' : ''}" aria-pressed={said === 'change'} onclick={() => view.say(shot.id, 'change')} data-says="change">Change</button>
    <button class="quiet min-h-10" onclick={() => write({})}>Comment</button>
    {#each others as w (w.name)}<span class="label">{w.name}: {w.says}</span>{/each}
  </div>
  <ol class="mt-2">
    {#each notes as n, i (n.id)}
      <li class="border-l-[3px] border-red py-1.5 pl-3" data-note>
        {@render said_(n, n.place ? `${i + 1}` : n.at_s !== null ? `at ${clock(n.at_s)}` : '')}
        {#each view.answersTo.get(n.id) ?? [] as a (a.id)}<div class="mt-1.5 border-l border-line pl-3">{@render said_(a, '')}</div>{/each}
        <button class="quiet" onclick={() => write({ parent_id: n.id })}>Answer</button>
      </li>
    {/each}
  </ol>
  {#if writing}
    <form class="mt-3 rounded-sm bg-panel p-3" onsubmit={send}>
      <label class="label" for="words-{shot.id}">{writing.parent_id ? 'Your answer' : writing.place ? 'What is it, at the blue pin?' : writing.at_s !== undefined ? `What is it, at ${clock(writing.at_s)}?` : 'Your comment; a tap on the picture puts it at a place'}</label>
      <textarea id="words-{shot.id}" class="field mt-1 min-h-20 text-[16px]" maxlength="4000" bind:this={field} bind:value={words}></textarea>
      {#if asksName}<label class="mt-2 block"><span class="label">Your name</span><input class="field mt-1 min-h-10 text-[16px]" maxlength="80" autocomplete="name" bind:value={view.name} /></label>{/if}
      {#if view.trouble}<p class="mt-2 border-l-4 border-red pl-2 text-red" role="alert">{view.trouble}</p>{/if}
      <div class="mt-2 flex gap-2"><button class="btn btn-main min-h-10" disabled={busy || !words.trim()}>Send</button><button type="button" class="quiet" onclick={() => (writing = null)}>Leave it</button></div>
    </form>
  {/if}
</article>

{#snippet said_(n: NoteView, where: string)}
  <p class="label">{n.name}{n.inside ? ', who makes it' : ''}{where ? ` · ${where}` : ''} · {day.format(new Date(n.made_at))}{n.edition !== view.shown?.edition ? ` · of edition ${n.edition}` : ''}</p>
  <p class="whitespace-pre-line">{n.words}</p>
{/snippet}
