<script lang="ts">
  import { tick } from 'svelte';
  import { api, thumb } from '../../api/client';
  import ShotFacts from '../../components/ShotFacts.svelte';
  import ShotLength from '../../components/ShotLength.svelte';
  import { duration } from '../../lib/order';
  import { typing, useProject } from '../../lib/project-context';
  import { SheetState } from '../sheet/sheet-state.svelte';
  import ShotMenu from '../sheet/ShotMenu.svelte';
  import { blocks, headingWords, lanes } from './brackets';
  import { router } from '../../lib/router.svelte';

  interface Bracket {
    id: string;
    top: number;
    bottom: number;
    lane: number;
  }

  const project = useProject();
  const sheet = new SheetState(project);
  let writing = $state(false);
  let draft = $state('');
  let page = $state<HTMLElement | null>(null);
  let pageWidth = $state(0);
  let list = $state<HTMLElement | null>(null);
  let brackets = $state.raw<Bracket[]>([]);

  const words = $derived(project.text.trim() ? project.text.replace(/^#.*$/gm, '').trim().split(/\s+/).length : 0);
  const parts = $derived(blocks(project.text, project.order));
  const empty = $derived(!project.text.trim());
  const editing = $derived(writing || empty);
  const share = $derived(project.target_s ? project.length_s / project.target_s : 0);

  $effect(() => {
    void [parts, pageWidth, editing];
    if (page && !editing) void tick().then(() => document.fonts.ready).then(measure);
  });

  $effect(() => {
    if (project.currentId && list) list.querySelector(`[data-shot="${project.currentId}"]`)?.scrollIntoView({ block: 'nearest' });
  });

  function measure() {
    if (!page) return;
    const zero = page.getBoundingClientRect().top;
    const extents = new Map<string, { top: number; bottom: number }>();
    for (const node of page.querySelectorAll<HTMLElement>('[data-covers]')) {
      const rects = [...node.getClientRects()].filter((r) => r.width > 1);
      if (!rects.length) continue;
      for (const id of node.dataset.covers!.split(' ')) {
        const held = extents.get(id) ?? { top: Infinity, bottom: -Infinity };
        extents.set(id, { top: Math.min(held.top, rects[0]!.top - zero), bottom: Math.max(held.bottom, rects.at(-1)!.bottom - zero) });
      }
    }
    const ordered = [...extents].sort((a, b) => a[1].top - b[1].top || a[1].bottom - b[1].bottom);
    const lane = lanes(ordered.map(([, e]) => e));
    brackets = ordered.map(([id, e], i) => ({ id, ...e, lane: lane[i]! }));
  }

  async function make() {
    const text = editing ? draft : project.text;
    const done = await project.send(() =>
      api.POST('/api/projects/{project_id}/breakdown', { params: { path: { project_id: project.id } }, body: { text } }),
    );
    if (done) writing = false;
  }

  async function keep() {
    const done = await project.send(() =>
      api.PUT('/api/projects/{project_id}/text', { params: { path: { project_id: project.id } }, body: { text: draft } }),
    );
    if (done) writing = false;
  }

  function write() {
    draft = project.text;
    writing = true;
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && editing && draft.trim()) {
      event.preventDefault();
      return void make();
    }
    if (typing(event) || event.ctrlKey || event.metaKey) return;
    if ((event.target as HTMLElement).closest('[role=menu],[role=dialog],button')) return;
    if (sheet.column === -1 && sheet.key(event)) event.preventDefault();
    sheet.column = -1;
  }
</script>

<svelte:window {onkeydown} />

<div class="flex h-full">
  <section class="flex min-w-0 flex-1 flex-col" aria-label="Text">
    {#if editing}
      <div class="flex min-h-0 flex-1 flex-col px-10 py-6">
        <textarea
          class="mx-auto min-h-0 w-full max-w-[620px] flex-1 resize-none font-book text-[18px] leading-[30px] outline-none" bind:value={draft} name="story" spellcheck="true"
          placeholder={'Paste or type the story here.\n\nA line that begins with # starts a scene, and so does a heading such as EXT. HARBOUR – DUSK.\nEach sentence or two becomes a shot; every shot can be changed, split and merged afterwards.'}
        ></textarea>
      </div>
    {:else}
      <div class="min-h-0 flex-1 overflow-y-auto">
        <div class="relative mx-auto max-w-[640px] py-6 pr-10 pl-[130px]" bind:this={page} bind:clientWidth={pageWidth} data-page>
          {#each parts as block (block.start)}
            {#if block.kind === 'heading'}
              <h2 class="mt-5 mb-1 font-book text-[16px] font-semibold text-soft first:mt-0">{headingWords(project.text.slice(block.start, block.end))}</h2>
            {:else}
              <p class="mb-2 font-book text-[18px] leading-[30px]">
                {#each block.pieces as piece (piece.start)}
                  {@const own = piece.shots.includes(project.currentId ?? '')}
                  {@const blank = !project.text.slice(piece.start, piece.end).trim()}
                  {#if piece.shots.length}<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions --><span
                      class="cursor-pointer {own ? 'bg-wash' : ''} {piece.shots.length > 1 ? 'underline decoration-red decoration-double' : ''}"
                      data-covers={piece.shots.join(' ')} onclick={() => (project.currentId = piece.shots[0]!)}>{project.text.slice(piece.start, piece.end)}</span
                    >{:else if blank}{project.text.slice(piece.start, piece.end)}{:else}<span class="underline decoration-red decoration-wavy decoration-1 underline-offset-[5px]" title="in no shot">{project.text.slice(piece.start, piece.end)}</span>{/if}
                {/each}
              </p>
            {/if}
          {/each}
          {#each brackets as b (b.id)}
            {@const on = b.id === project.currentId}
            <button
              class="absolute" style="left:{76 - b.lane * 22}px;top:{b.top + 3}px;height:{Math.max(12, b.bottom - b.top - 6)}px;width:34px"
              onclick={() => (project.currentId = b.id)} aria-label="Shot {project.number(b.id)}"
            >
              <span
                class="absolute inset-y-0 right-0 w-[11px] border-y-2 border-l-2 {on ? '!border-y-[3px] !border-l-[3px] border-pencil' : project.picked.has(b.id) ? 'border-ink' : 'border-dashed border-pencil'}"
              ></span>
              <span class="absolute top-1/2 right-[19px] -translate-y-1/2 font-book text-[15px] {on ? 'font-bold text-pencil' : project.picked.has(b.id) ? '' : 'text-pencil'}">{project.number(b.id)}</span>
            </button>
          {/each}
        </div>
      </div>
    {/if}
    <footer class="flex h-11 shrink-0 items-center gap-4 border-t border-line px-5">
      {#if editing}
        <button class="btn btn-main" onclick={make} disabled={!draft.trim()} title="Ctrl+Enter">Make shots</button>
        {#if !empty}
          <button class="btn" onclick={keep} title="The shots stay as they are">Keep the text only</button>
          <button class="btn" onclick={() => (writing = false)}>Back</button>
          <span class="text-soft">Make shots replaces the {project.order.length} shots there are; undo brings them back.</span>
        {:else}
          <span class="text-soft">{draft.trim() ? `${draft.trim().split(/\s+/).length} words` : ''}</span>
        {/if}
      {:else}
        <span class="text-soft">Length</span>
        <span class="relative h-2 w-[180px] bg-hair">
          <span class="absolute inset-y-0 left-0 bg-well" style="width:{Math.min(1, share || 1) * 100}%"></span>
          {#if project.target_s && share <= 1}<span class="absolute -inset-y-1 right-0 w-0.5 bg-ink"></span>{/if}
        </span>
        <span class="whitespace-nowrap">{duration(project.length_s)}{project.target_s ? ` of ${duration(project.target_s)}` : ''}</span>
        <span class="truncate whitespace-nowrap text-soft" title="Read aloud, 130 words a minute">{words} words</span>
        <button class="btn ml-auto" onclick={write}>Change the text</button>
      {/if}
    </footer>
  </section>
  <aside class="w-[46%] max-w-[560px] shrink-0 overflow-y-auto border-l border-line bg-panel px-4" bind:this={list} aria-label="Shots">
    {#if !project.order.length}
      <p class="mx-auto max-w-[300px] py-24 text-center text-soft">The shots stand here as soon as the text is made into shots.</p>
    {/if}
    {#each sheet.rows as row (row.kind === 'scene' ? row.scene.id : row.shot.id)}
      {#if row.kind === 'scene'}
        <h3 class="mt-3 border-b border-hair pb-1 font-book font-semibold text-soft">{project.story.scenes.indexOf(row.scene) + 1} · {row.scene.title || 'Scene'}</h3>
      {:else}
        {@const shot = row.shot}
        {@const picture = project.pictureOf(shot.id)}
        <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
        <div
          class="group -mx-4 flex gap-3 border-b border-hair px-4 py-2.5 {shot.id === project.currentId ? 'bg-wash' : ''}"
          data-shot={shot.id} onclick={() => (project.currentId = shot.id)}
        >
          <span class="w-7 pt-1 font-book text-[18px] {picture ? '' : 'text-pencil'}">{row.number}</span>
          <button class="h-[56px] w-[84px] shrink-0 {picture ? 'well' : 'border border-dashed border-pencil'}" onclick={() => { project.currentId = shot.id; router.go(project.id, 'takes'); }} aria-label="Takes of shot {row.number}">
            {#if picture}<img src={thumb(picture.sha)} alt="" class="size-full object-contain" />{/if}
          </button>
          <div class="min-w-0 flex-1">
            <ShotFacts {shot} bind:editing={sheet.editing} lines={3} />
            {#if shot.spoken}<p class="mt-0.5 truncate font-book text-[13px] text-soft italic" title={shot.spoken}>“{shot.spoken}”</p>{/if}
          </div>
          <div class="flex flex-col items-end"><ShotLength {shot} /><span class="opacity-0 group-hover:opacity-100 focus-within:opacity-100"><ShotMenu {sheet} {shot} onreplace={() => { project.currentId = shot.id; router.go(project.id, 'takes'); }} /></span></div>
        </div>
      {/if}
    {/each}
  </aside>
</div>
