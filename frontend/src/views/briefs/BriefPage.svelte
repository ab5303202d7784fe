<script lang="ts">
  import type { Phrase } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import { underlined, type BriefsState } from './briefs-state.svelte';

  /** The brief as a page: a line for each part of its order, every phrase to be edited where it stands. */
  let { briefs }: { briefs: BriefsState } = $props();
  const PARTS: Record<Phrase['kind'], string> = {
    action: 'Shows', cast: 'Cast', prop: 'Props', setting: 'Setting', style: 'Style', framing: 'Framing', palette: 'Palette', dont: 'Without', technical: 'Technical',
  };
  const brief = $derived(briefs.brief!);
  const phrases = $derived(brief.whole.phrases as Phrase[]);
  const dropped = $derived(new Map(brief.fitted.left.map((x) => [x.key, x.why] as const)));
  const kept = $derived(new Map((brief.fitted.brief.phrases as Phrase[]).map((p) => [p.key, p.text] as const)));
  const lines = $derived.by(() => {
    const out: { kind: Phrase['kind']; phrases: Phrase[] }[] = [];
    for (const p of phrases) {
      const last = out.at(-1);
      if (last?.kind === p.kind) last.phrases.push(p);
      else out.push({ kind: p.kind, phrases: [p] });
    }
    return out;
  });
  const shown = $derived(phrases.find((p) => p.key === (briefs.hovered ?? briefs.editing)));

  const focus = (node: HTMLTextAreaElement) => {
    node.focus();
    node.setSelectionRange(node.value.length, node.value.length);
  };

  function done(event: Event, p: Phrase | null) {
    const key = briefs.editing!;
    const now = (event.target as HTMLTextAreaElement).value.trim();
    briefs.editing = null;
    if (now !== (p?.text ?? '')) void briefs.edit(key, now);
  }

  function onkeydown(event: KeyboardEvent) {
    const area = event.target as HTMLTextAreaElement;
    if (event.key === 'Escape') area.value = area.defaultValue;
    else if (event.key !== 'Enter' || event.shiftKey) return;
    event.preventDefault();
    event.stopPropagation();
    area.blur();
  }
</script>

{#snippet field(p: Phrase | null, words: string, hint: string)}
  <textarea
    class="field my-0.5 block resize-none font-book text-[16px] leading-[24px]" rows={Math.max(2, Math.ceil(words.length / 58))} value={words} placeholder={hint}
    aria-label="Words of the brief" onblur={(e) => done(e, p)} {onkeydown} {@attach focus}
  ></textarea>
{/snippet}

<div class="flex min-h-0 flex-1 flex-col">
  <div class="flex h-9 shrink-0 items-center border-b border-hair px-6">
    <Choice value={briefs.view} options={[['parts', 'By its parts'], ['sent', 'As it is sent'], ['motion', 'Motion']]} label="How to see the brief" onchoose={(how) => (briefs.view = how)} small />
  </div>
  <div class="min-h-0 flex-1 overflow-y-auto px-6 py-5" data-brief>
    {#if briefs.view === 'sent'}
      <div class="mx-auto max-w-[640px]" data-as-sent>
        <p class="label mb-2">The words for {brief.profile.name}{brief.profile.template ? ', by its template' : ''}. Pictures are named by their numbers.</p>
        <p class="font-book text-[16px] leading-[25px] whitespace-pre-line select-text">{brief.text}</p>
      </div>
    {:else if briefs.view === 'motion'}
      <div class="mx-auto max-w-[640px]" data-motion-brief>
        <p class="label mb-2">What a service for clips is told, {brief.profile.motion === 'fields' ? 'as fields' : 'as sentences'}. The camera comes from the shot’s move.</p>
        <label class="mb-4 block"><span class="label">What moves</span>
          <textarea
            class="field mt-1 resize-none font-book text-[16px] leading-[24px]" rows="2" maxlength="2000" placeholder="who or what moves, and how: “the tide creeps up the steps”" value={briefs.motionNote} data-motion-note
            onchange={(e) => briefs.noteMotion(e.currentTarget.value)}
          ></textarea></label>
        {#if brief.profile.motion === 'fields'}
          <dl class="grid grid-cols-[72px_1fr] gap-x-4">
            {#each brief.motion as f (f.name)}<dt class="label pt-2 text-right">{f.name}</dt><dd class="border-b border-hair py-1.5 font-book text-[16px] leading-[25px]">{f.words}</dd>{/each}
          </dl>
        {:else}<p class="font-book text-[16px] leading-[25px] select-text">{brief.motion_text}</p>{/if}
      </div>
    {:else}
    <dl class="mx-auto grid max-w-[640px] grid-cols-[72px_1fr] gap-x-4">
      {#each lines as line (line.phrases[0]!.key)}
        <dt class="label pt-2 text-right">{PARTS[line.kind]}</dt>
        <dd class="border-b border-hair py-1.5 font-book text-[16px] leading-[25px]">
          {#each line.phrases as p (p.key)}
            {#if briefs.editing === p.key}
              {@render field(p, p.text, 'Leave it empty to leave it out')}
            {:else}
              {@const gone = dropped.get(p.key)}
              {@const fit = kept.get(p.key)}
              {@const bare = p.text === '' && p.plain === null && !p.pointing ? (briefs.project.threads.get(p.thread)?.name ?? '') : ''}
              {@const said = p.pointing && p.plain === null && fit !== undefined ? { ...p, text: fit } : p}
              <!-- svelte-ignore a11y_mouse_events_have_key_events -->
              <span
                role="button" tabindex="0" data-phrase={p.key} title={bare ? `${bare} has no words yet. Write some here for this picture alone, or on the Model sheets for all.` : p.source}
                class="rounded-xs hover:bg-wash {p.plain !== null ? 'border-b border-dashed border-pencil' : ''} {gone && !fit ? 'text-soft line-through' : ''} {said.text ? '' : bare ? 'mr-2 font-sans text-[12px] text-soft' : 'text-soft italic'}"
                onclick={() => (briefs.editing = p.key)} onkeydown={(e) => { if (e.key === 'Enter') { e.stopPropagation(); briefs.editing = p.key; } }}
                onmouseover={() => (briefs.hovered = p.key)} onmouseout={() => (briefs.hovered = null)}
              >{#each underlined(said, briefs.open, briefs.finding?.key) as piece, i (i)}<span class="{piece.keys.length ? 'found' : ''} {piece.now ? 'now' : ''}">{piece.words.replaceAll(' %', '\u00a0%')}</span>{/each}{#if bare}+ words for {bare}{:else if !said.text}{p.plain === null ? 'its pictures do not go along' : 'left out by hand'}{/if}</span>{' '}
            {/if}
          {/each}
          {#if line.kind === 'action' && !phrases.some((p) => p.key === 'extra')}
            {#if briefs.editing === 'extra'}{@render field(null, '', 'Words for this picture alone')}{:else}<button class="quiet -my-1 px-1 font-sans text-[12px]" onclick={() => (briefs.editing = 'extra')} title="Words for this picture alone (A)">+ words</button>{/if}
          {/if}
        </dd>
      {/each}
    </dl>
    {/if}
    {#if brief.whole.orphans.length && briefs.view === 'parts'}
      <div class="mx-auto mt-4 max-w-[640px] pl-[88px]">
        <h2 class="label">Edits whose phrase is not in the brief any more</h2>
        {#each brief.whole.orphans as o (o.key)}
          <p class="flex gap-2 py-0.5 font-book text-soft"><span class="flex-1">{o.now || 'left out'}</span><button class="quiet font-sans" onclick={() => briefs.edit(o.key, null)}>Forget it</button></p>
        {/each}
      </div>
    {/if}
    {#if briefs.pieces}
      <div class="mx-auto mt-5 max-w-[640px] border-t border-line pt-3 pl-[88px] font-book text-[15px] leading-[23px] whitespace-pre-line" aria-label="What differs" data-difference>
        {#each briefs.pieces as piece, i (i)}{#if piece.kind === 'gone'}<del class="text-red">{piece.words}</del>{:else if piece.kind === 'new'}<ins class="bg-wash decoration-pencil">{piece.words}</ins>{:else}<span class="text-soft">{piece.words}</span>{/if}{/each}
      </div>
    {:else if briefs.nothing}<p class="mx-auto mt-4 max-w-[640px] pl-[88px] text-soft">{briefs.nothing}</p>{/if}
  </div>
  <footer class="flex h-9 shrink-0 items-center gap-3 border-t border-line px-6 text-[12.5px] text-soft" aria-live="polite">
    {#if shown}
      <span class="truncate"><b class="font-semibold text-ink">{shown.source}</b>{dropped.has(shown.key) ? ` · ${dropped.get(shown.key)}` : ''}</span>
      {#if shown.plain !== null && shown.key !== 'extra'}
        <span class="truncate">· edited by hand{shown.outdated ? ', and what it was made on has changed' : ''}: “{shown.plain}”</span>
      {/if}
    {:else}
      <span>{brief.text.length} characters{brief.profile.text_limit ? ` of ${brief.profile.text_limit}` : ''} · {brief.fitted.brief.pictures.length} {brief.fitted.brief.pictures.length === 1 ? 'picture' : 'pictures'}{brief.fitted.left.length ? ` · ${brief.fitted.left.length} left out or shortened` : ''}</span>
    {/if}
    {#each phrases.filter((p) => p.plain !== null) as p (p.key)}
      {#if p.key === (briefs.hovered ?? '')}{:else if p.outdated}<button class="quiet whitespace-nowrap text-red" onclick={() => briefs.edit(p.key, null)} title="Its words changed to: {p.plain}">Take the plan’s new words for {p.source.split(',')[0]}</button>{/if}
    {/each}
  </footer>
</div>

<style>
  .found {
    text-decoration: underline wavy var(--red) 1.5px;
    text-underline-offset: 4px;
  }
  .now {
    background: var(--redwash);
  }
</style>
