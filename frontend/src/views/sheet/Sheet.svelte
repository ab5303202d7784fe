<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { PICTURES_AND_CLIPS } from '../../lib/pictures';
  import { thumb } from '../../api/client';
  import PicturesIn from '../pictures-in/PicturesIn.svelte';
  import ShotFacts from '../../components/ShotFacts.svelte';
  import ShotPanel from '../shot/ShotPanel.svelte';
  import ShotLength from '../../components/ShotLength.svelte';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { duration } from '../../lib/order';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { lettersOf, nameOf } from '../../lib/presence.svelte';
  import { router } from '../../lib/router.svelte';
  import { notices } from '../../lib/notices.svelte';
  import Columns from './Columns.svelte';
  import BeadPopover from './BeadPopover.svelte';
  import Bead from './Bead.svelte';
  import { columnAt, COLUMN_PX, FACTS_PX, HEAD_PX, SCENE_PX, SHOT_PX } from './geometry';
  import NewThread from './NewThread.svelte';
  import { clipFrom, SheetState, type SheetClip, type SheetFilter } from './sheet-state.svelte';
  import SheetGrid from './SheetGrid.svelte';
  import MakeTakes from '../takes/MakeTakes.svelte';
  import ShotMenu from './ShotMenu.svelte';
  import Threads from './Threads.svelte';
  import { copied } from '../../lib/without-tls';

  const project = useProject();
  const sheet = new SheetState(project);
  let makeOf = $state<string[] | null>(null);
  let scroller = $state<HTMLElement | null>(null);
  let area = $state<HTMLElement | null>(null);
  let anchor = $state<HTMLElement | null>(null);
  let incoming = $state<{ files: NamedFile[]; shot: string | null } | null>(null);
  let dropOn = $state<string | null>(null);
  let dragging = $state(false);
  let chooser = $state<HTMLInputElement | null>(null);
  let folderChooser = $state<HTMLInputElement | null>(null);
  let chooseFor = $state<string | null>(null);
  let factsOpen = $state(false);
  /** The shot under the pointer: it alone, and the current one, has its menu. */
  let pointed = $state<string | null>(null);

  const wide = $derived((sheet.centres.at(-1) ?? 0) + COLUMN_PX / 2 + 60);
  const total = $derived(sheet.edges.at(-1) ?? 0);
  const longest = $derived(Math.max(6, ...project.order.map((s) => s.length_s)));
  const wash = $derived.by(() => {
    const d = sheet.drag;
    if (d) return { column: d.column, range: [Math.min(d.from, d.to), Math.max(d.from, d.to)] as [number, number] };
    return sheet.column >= 0 && sheet.shown.length ? { column: sheet.column, range: sheet.range } : null;
  });

  onMount(() => show(true));
  onMount(() => project.table.offer(() => (sheet.from === null ? [] : sheet.shotIds(sheet.range).flatMap((id) => project.table.ofShot(id)))));

  const inRange = (shot: string) => {
    const at = sheet.shownIndex.get(shot) ?? -1;
    return at >= sheet.range[0] && at <= sheet.range[1];
  };

  // Another current shot comes into view; who scrolls away from it is left alone.
  $effect(() => {
    if (project.currentId) untrack(() => show(false));
  });

  function show(always: boolean) {
    if (!scroller || sheet.currentIndex < 0) return;
    const to = sheet.scrollTo(sheet.currentIndex);
    if (to !== null || always) scroller.scrollTop = to ?? scroller.scrollTop;
  }

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || sheet.popover || incoming) return;
    if ((event.key === 'Enter' || event.key === ' ') && event.target instanceof HTMLButtonElement) return;
    if (event.key === 'f' && !event.ctrlKey && !event.metaKey) factsOpen = !factsOpen;
    else if (event.key === 'Escape' && factsOpen) factsOpen = false;
    else if (!sheet.key(event)) return;
    // Who moves on the Sheet is on the Sheet: the next Space is not for the button that was clicked before.
    if (document.activeElement instanceof HTMLButtonElement) document.activeElement.blur();
    event.preventDefault();
  }

  const FILTERS = new Set(['all', 'stale', 'findings', 'briefs', 'empty']);
  function filter(value: string) {
    sheet.filter = FILTERS.has(value) ? (value as SheetFilter) : 'all';
    sheet.through = FILTERS.has(value) ? null : value;
    sheet.from = null;
    if (!sheet.shownIndex.has(project.currentId ?? '') && sheet.shown[0]) project.currentId = sheet.shown[0].id;
    if (scroller) scroller.scrollTop = 0;
  }

  const elsewhere = (event: ClipboardEvent) =>
    (event.target instanceof HTMLElement && event.target.closest('input,textarea,[contenteditable=true],[role=dialog]') !== null) || !!getSelection()?.toString();

  async function oncopy(event: ClipboardEvent) {
    if (elsewhere(event)) return;
    event.preventDefault();
    const clip = await sheet.copied();
    if (!clip) return;
    held = clip;
    await copied(JSON.stringify(clip));
    notices.say(clip.juxtaform === 'column' ? `Copied ${clip.beads.length} beads. Ctrl V lays them down.` : `Copied ${clip.shots.length} shots, for this project or another.`);
  }

  function onpaste(event: ClipboardEvent) {
    if (elsewhere(event)) return;
    const clip = clipFrom(event.clipboardData?.getData('text/plain') ?? '') ?? held;
    if (!clip) return;
    event.preventDefault();
    void sheet.paste(clip);
  }

  let held: SheetClip | null = null;

  function place(event: PointerEvent): { column: number; shot: number } {
    const box = area!.getBoundingClientRect();
    return { column: columnAt(sheet.centres, event.clientX - box.left), shot: sheet.shotAt(event.clientY - box.top) };
  }

  function down(event: PointerEvent) {
    if (event.button !== 0) return;
    const { column, shot } = place(event);
    if (column < 0 || shot < 0) return;
    event.preventDefault();
    (document.activeElement as HTMLElement | null)?.blur();
    area!.setPointerCapture(event.pointerId);
    sheet.drag = { column, from: shot, to: shot };
    sheet.column = column;
    sheet.from = null;
    project.currentId = sheet.shown[shot]!.id;
  }

  function moved(event: PointerEvent) {
    if (sheet.drag) sheet.drag.to = place(event).shot;
  }

  function filesOver(event: DragEvent) {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    dragging = true;
    dropOn = (event.target as HTMLElement).closest<HTMLElement>('[data-shot]')?.dataset.shot ?? null;
  }

  async function dropped(event: DragEvent) {
    event.preventDefault();
    dragging = false;
    const shot = dropOn;
    dropOn = null;
    if (!event.dataTransfer) return;
    const files = await droppedFiles(event.dataTransfer);
    if (files.length) incoming = { files, shot: files.length <= 12 ? shot : null };
  }

  function chosen(event: Event) {
    const input = event.target as HTMLInputElement;
    const files = chosenFiles(input.files);
    if (files.length) incoming = { files, shot: chooseFor };
    input.value = '';
    chooseFor = null;
  }
</script>

<svelte:window {onkeydown} />
<svelte:document {oncopy} {onpaste} />

<div
  class="relative flex h-full flex-col" role="region" aria-label="Sheet"
  ondragover={filesOver} ondragleave={(e) => e.relatedTarget === null && (dragging = false)} ondrop={dropped}
>
  <div class="min-h-0 flex-1 overflow-auto" bind:this={scroller} onscroll={(e) => (sheet.scroll = e.currentTarget.scrollTop)} bind:clientHeight={null, (h) => (sheet.height = (h ?? 600) - HEAD_PX)} data-sheet>
    <div class="sticky top-0 z-20 flex border-b border-line bg-panel" style="height:{HEAD_PX}px;width:{FACTS_PX + wide}px;min-width:100%">
      <div class="sticky left-0 z-10 flex shrink-0 items-end gap-2 border-r border-hair bg-panel pb-2 pl-[14px]" style="width:{FACTS_PX}px">
        <button class="btn" onclick={() => chooser?.click()} disabled={!project.order.length}>Add pictures …</button>
        <button class="quiet" onclick={() => folderChooser?.click()} disabled={!project.order.length}>a folder …</button>
        <span class="pb-0.5"><NewThread /></span>
        <span class="pb-0.5"><Columns /></span>
        <select class="plainselect mb-1 max-w-[130px] {sheet.filter === 'all' && !sheet.through ? 'text-soft' : 'font-semibold text-pencil'}" value={sheet.through ?? sheet.filter} aria-label="Which shots" onchange={(e) => filter(e.currentTarget.value)}>
          <option value="all">all shots</option>
          <option value="stale">stale pictures</option><option value="findings">with findings</option><option value="briefs">briefs to mend</option><option value="empty">no picture</option>
          <optgroup label="through which runs">{#each project.columns as t (t.id)}<option value={t.id}>{t.name}</option>{/each}</optgroup>
        </select>
        <span class="label ml-auto pr-4 pb-0.5">Length</span>
      </div>
      <div class="relative flex-1">
        {#each sheet.columns as thread, c (thread.id)}
          {@const face = project.face(thread.id)}
          <button
            class="absolute top-1.5 flex -translate-x-1/2 flex-col items-center" style="left:{sheet.centres[c]}px;width:{COLUMN_PX}px"
            onclick={() => router.go(project.id, 'models', thread.id)} title="{thread.name}: open its model sheet"
          >
            <span class="well block size-[30px] overflow-hidden">
              {#if face}<img src={thumb(face.picture_sha)} alt="" class="size-full object-cover object-top" />{/if}
            </span>
            <span class="mt-0.5 line-clamp-2 max-w-full text-center text-[10.5px] leading-[11.5px] {sheet.column === c ? 'font-bold text-pencil' : ''}">{thread.name}</span>
          </button>
        {/each}
      </div>
    </div>

    {#if !project.order.length}
      <div class="mx-auto max-w-[460px] py-24 text-center">
        <h2 class="mb-2 font-book text-[20px] font-semibold">No shots yet</h2>
        <p class="mb-5 text-soft">Paste the story on its page and it becomes scenes and shots; or begin with one empty shot and write what each picture shows.</p>
        <button class="btn btn-main" onclick={() => router.go(project.id, 'story')}>Paste the story</button>
      </div>
    {:else if !sheet.shown.length}
      <p class="py-24 text-center text-soft">No shot is like that. <button class="underline" onclick={() => filter('all')}>Show all</button></p>
    {:else}
      <div class="relative" style="height:{total}px;width:{FACTS_PX + wide}px;min-width:100%">
        {#each sheet.visible as { row, index } (row.kind === 'scene' ? row.scene.id : row.shot.id)}
          {@const under = row.kind === 'scene' ? 'bg-panel' : inRange(row.shot.id) ? 'bg-wash' : ''}
          <div class="absolute inset-x-0 border-b border-hair [contain:size_layout_style] {under}" style="top:{sheet.top(index)}px;height:{row.kind === 'scene' ? SCENE_PX : SHOT_PX}px"></div>
        {/each}
        <!-- One thing that stays at the left, not one for each row: a browser draws each such thing by itself. -->
        <div class="pointer-events-none sticky left-0 z-10" style="width:{FACTS_PX}px;height:{total}px">
          {#each sheet.visible as { row, index } (row.kind === 'scene' ? row.scene.id : row.shot.id)}
            {#if row.kind === 'scene'}
              <div class="absolute inset-x-0 flex items-center border-b border-hair bg-panel pl-[14px] font-book text-[14px] font-semibold whitespace-nowrap [contain:size_layout_style]" style="top:{sheet.top(index)}px;height:{SCENE_PX}px">
                {project.story.scenes.indexOf(row.scene) + 1} · {row.scene.title || 'Scene'}<span class="ml-3 font-sans text-[12px] font-normal text-soft">{duration(row.length_s)}</span>
              </div>
            {:else}
              {@const shot = row.shot}
              {@const picture = project.pictureOf(shot.id)}
              {@const seen = picture?.sha ?? shot.sketch_sha}
              <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
              <div
                class="pointer-events-auto absolute inset-x-0 flex items-center gap-3 border-r border-b border-hair pl-[14px] [contain:size_layout_style] {inRange(shot.id) ? 'bg-wash' : 'bg-paper'} {dropOn === shot.id ? 'outline-2 -outline-offset-2 outline-pencil' : ''}"
                style="top:{sheet.top(index)}px;height:{SHOT_PX}px" data-shot={shot.id} onpointerenter={() => (pointed = shot.id)}
                onclick={(e) => {
                  if (inRange(shot.id) && (e.target as Element).closest('[aria-haspopup="menu"]')) return; // its menu is of all that are chosen
                  sheet.from = e.shiftKey ? (sheet.from ?? sheet.currentIndex) : null;
                  project.currentId = shot.id;
                }}
              >
                <span class="w-7 font-book text-[19px] {picture ? '' : 'text-pencil'} {shot.status === 'proposed' ? 'underline decoration-dashed underline-offset-4' : ''}" title={shot.status === 'proposed' ? 'proposed' : undefined}>{row.number}</span>
                {#if shot.bridge}<span class="absolute bottom-1 left-[9px] text-[11px] text-soft" title="This shot was put between its neighbours; its brief starts and ends with their pictures" data-between>between</span>{/if}
                {#if project.presence.byShot.has(shot.id)}
                  {@const here = project.presence.byShot.get(shot.id)!}
                  <span class="absolute top-1.5 left-[12px] flex" title="{here.map(nameOf).join(', ')} {here.length === 1 ? 'is' : 'are'} at this shot" data-here-at={shot.id}>{#each here.slice(0, 2) as w (w.window)}<span class="grid h-[15px] min-w-[15px] place-items-center rounded-full border border-pencil bg-paper px-0.5 text-[9px] font-semibold text-pencil">{lettersOf(w)}</span>{/each}</span>
                {/if}
                <button
                  class="h-[62px] w-[93px] shrink-0 overflow-hidden {seen ? 'well' : ''} {picture ? '' : 'border border-dashed border-pencil'}"
                  onclick={() => { project.currentId = shot.id; router.go(project.id, 'takes'); }}
                  title={picture ? 'Takes and marks' : seen ? 'Its sketch; no picture yet: drop one here' : 'No picture yet: drop one here'}
                >
                  {#if seen}<img src={thumb(seen)} alt="" class="size-full object-contain" draggable="false" />{/if}
                </button>
                <div class="min-w-0 flex-1"><ShotFacts {shot} bind:editing={sheet.editing} onframing={() => (factsOpen = true)} /></div>
                <span class="w-7 shrink-0">
                  {#if shot.id === pointed || shot.id === project.currentId}<ShotMenu {sheet} {shot} onmake={(shots) => (makeOf = shots)} onreplace={() => { chooseFor = shot.id; chooser?.click(); }} />{/if}
                </span>
                <div class="w-[66px] shrink-0 pr-4 text-right">
                  <ShotLength {shot} />
                  <div class="mt-1 ml-auto h-[3px] bg-well" style="width:{Math.round((50 * shot.length_s) / longest)}px"></div>
                </div>
              </div>
            {/if}
          {/each}
        </div>
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <div
          class="absolute top-0 cursor-cell touch-none" style="left:{FACTS_PX}px;width:{wide}px;height:{total}px"
          bind:this={area} onpointerdown={down} onpointermove={moved} onpointerup={() => sheet.endDrag()} onpointercancel={() => (sheet.drag = null)} data-threads
        >
          {#if wash && wash.range[0] >= 0}
            {@const y1 = sheet.centreOfShot(wash.range[0]) - 22}
            {@const y2 = sheet.centreOfShot(wash.range[1]) + 22}
            <div
              bind:this={anchor}
              class="pointer-events-none absolute rounded-full border-2 border-pencil {sheet.drag ? 'bg-wash' : ''}"
              style="left:{sheet.centres[wash.column]! - 22}px;width:44px;top:{y1}px;height:{y2 - y1}px"
            ></div>
          {/if}
          <Threads {sheet} width={wide} />
        </div>
      </div>
    {/if}
  </div>

  {#if sheet.shown.length}<SheetGrid {sheet} />{/if}

  <footer class="relative flex h-8 shrink-0 items-center gap-5 border-t border-line px-[14px] text-[12px] text-soft">
    <span class="flex items-center gap-1.5"><svg width="18" height="18" viewBox="-9 -9 18 18"><Bead kind="character" hold="figure" weight={0.4} planned={false} /></svg>held</span>
    <span class="flex items-center gap-1.5"><svg width="18" height="18" viewBox="-9 -9 18 18"><Bead kind="character" hold="face" weight={0.5} planned={false} /></svg>face only</span>
    <span class="flex items-center gap-1.5"><svg width="18" height="18" viewBox="-9 -9 18 18"><Bead kind="character" hold="figure" weight={0.3} planned={true} /></svg>no picture yet</span>
    <span class="flex items-center gap-1.5"><svg width="18" height="18" viewBox="-9 -9 18 18"><Bead kind="prop" hold="figure" weight={0.3} planned={false} /></svg>prop</span>
    {#if project.findings.take.open.length}<span class="flex items-center gap-1.5"><svg width="18" height="18" viewBox="-9 -9 18 18"><circle r="3" class="fill-ink" /><circle r="7.5" fill="none" class="stroke-soft" stroke-width="1.2" stroke-dasharray="2.4 2.4" /></svg>stale: from an older reference</span>{/if}
    <span class="ml-auto">Drag down a column to assign or clear · <span class="key">Space</span> at the cursor · <span class="key">?</span> all keys</span>
  </footer>

  {#if factsOpen}<div class="pop absolute inset-y-0 right-0 z-30 w-[540px] rounded-none"><ShotPanel chosen={sheet.from === null ? [] : sheet.shotIds(sheet.range)} onclose={() => (factsOpen = false)} /></div>{/if}
  {#if dragging}
    <div class="pointer-events-none absolute inset-3 z-30 grid place-items-end justify-center rounded border-2 border-dashed border-pencil pb-16">
      <span class="pop px-4 py-2">{dropOn ? `Drop on shot ${project.number(dropOn)}: new takes of it` : 'Drop: matched to shots by the numbers in the names'}</span>
    </div>
  {/if}
</div>

<input type="file" multiple accept={PICTURES_AND_CLIPS} class="hidden" bind:this={chooser} onchange={chosen} data-choose="files" />
<input type="file" multiple webkitdirectory class="hidden" bind:this={folderChooser} onchange={chosen} data-choose="folder" />
<BeadPopover {sheet} {anchor} />
{#if incoming}
  <PicturesIn files={incoming.files} shot={incoming.shot} onclose={() => (incoming = null)} />
{/if}
{#if makeOf}<MakeTakes open onclose={() => (makeOf = null)} shots={makeOf} />{/if}
