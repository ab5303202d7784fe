<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { api, sendFile, whole, type BoxPx, type FoundPanels } from '../../api/client';
  import BoxStage from '../../components/BoxStage.svelte';
  import { useProject } from '../../lib/project-context';

  /** A photographed page, or a sheet of views: what was found is shown, mended, put in order, then taken. */
  let { file, thread = null, onclose }: { file: File; thread?: string | null; onclose: () => void } = $props();
  const project = useProject();
  const sort = $derived(thread ? 'views' : 'page');
  let direction = $state<'left to right' | 'right to left'>('left to right');
  let page = $state.raw<FoundPanels | null>(null);
  let boxes = $state.raw<(BoxPx & { id: string })[]>([]);
  let chosen = $state<string | null>(null);
  let trouble = $state('');
  let looking = $state(true);
  let stage = $state<HTMLElement | null>(null);
  let next = 1;
  const labelled = $derived(boxes.map((b, i) => ({ ...b, label: `${i + 1}` })));
  const what = $derived(thread ? 'view' : 'panel');

  onMount(look);

  async function look() {
    looking = true;
    trouble = '';
    try {
      page = await sendFile<FoundPanels>(`/api/projects/${project.id}/pages`, file, { sort, direction });
      boxes = page.boxes.map((b) => ({ ...b, id: `${next++}` }));
    } catch (error) {
      trouble = (error as Error).message;
    }
    looking = false;
  }

  function turn() {
    direction = direction === 'left to right' ? 'right to left' : 'left to right';
    void look();
  }

  function shift(by: -1 | 1) {
    const at = boxes.findIndex((b) => b.id === chosen);
    if (at < 0 || at + by < 0 || at + by >= boxes.length) return;
    const moved = [...boxes];
    [moved[at], moved[at + by]] = [moved[at + by]!, moved[at]!];
    boxes = moved;
  }

  function drop() {
    boxes = boxes.filter((b) => b.id !== chosen);
    chosen = null;
  }

  async function take() {
    const body = { sha: page!.sha, boxes: boxes.map(({ x, y, w, h }) => ({ x, y, w, h })), thread_id: thread, scene_id: null };
    const path = { project_id: project.id };
    const done = await project.send(() =>
      thread
        ? api.POST('/api/projects/{project_id}/pages/references', { params: { path }, body })
        : api.POST('/api/projects/{project_id}/pages/shots', { params: { path }, body }),
    );
    if (!done) return;
    const first = done.rows.shot?.[0];
    if (first) project.currentId = first.id;
    onclose();
  }

  function onkeydown(event: KeyboardEvent) {
    if ((event.target as HTMLElement).tagName === 'BUTTON' && event.key === 'Enter') return;
    if ((event.key === 'Delete' || event.key === 'Backspace') && chosen) drop();
    else if (event.key === '[') shift(-1);
    else if (event.key === ']') shift(1);
    else if (event.key === 'Enter' && boxes.length) void take();
    else if (event.key === '.' && boxes.length)
      chosen = boxes[(boxes.findIndex((b) => b.id === chosen) + 1) % boxes.length]!.id;
    else if (event.key.startsWith('Arrow') && chosen) nudge(event);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function nudge(event: KeyboardEvent) {
    const step = page!.width / 200;
    const dx = event.key === 'ArrowLeft' ? -step : event.key === 'ArrowRight' ? step : 0;
    const dy = event.key === 'ArrowUp' ? -step : event.key === 'ArrowDown' ? step : 0;
    boxes = boxes.map((b) => (b.id !== chosen ? b : event.shiftKey ? { ...b, w: Math.max(10, b.w + dx), h: Math.max(10, b.h + dy) } : { ...b, x: b.x + dx, y: b.y + dy }));
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed inset-6 flex flex-col p-5" {onkeydown} onOpenAutoFocus={(e) => { e.preventDefault(); stage?.focus(); }} data-page-in>
      <Dialog.Title class="font-book text-[18px] font-semibold">{thread ? 'A sheet of views' : 'A page of panels'}</Dialog.Title>
      <Dialog.Description class="label mb-3">
        {looking ? 'Looking for them …' : `${boxes.length} ${boxes.length === 1 ? what : `${what}s`} found, numbered as they are read. Drag a box to mend it, on the page to add one.`}
        <span class="key">.</span> next <span class="key">[ ]</span> order <span class="key">arrows</span> move <span class="key">Shift arrows</span> size <span class="key">Del</span> leave out
      </Dialog.Description>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="min-h-0 flex-1 outline-none" tabindex="0" bind:this={stage} role="group" aria-label="The page and its boxes">
        {#if trouble}<p class="grid h-full place-items-center text-red">{trouble}</p>
        {:else if page}
          <BoxStage
            src={whole(page.sha)} width={page.width} height={page.height} boxes={labelled} bind:chosen
            ondraw={(box) => { const id = `${next++}`; boxes = [...boxes, { ...box, id }]; chosen = id; }}
            onchange={(id, box) => (boxes = boxes.map((b) => (b.id === id ? { ...b, ...box } : b)))}
          />
        {:else}<div class="well size-full"></div>{/if}
      </div>
      <footer class="mt-4 flex items-center gap-2">
        <button class="btn btn-main" disabled={!boxes.length} onclick={take} data-take-panels>{thread ? `Add ${boxes.length} references` : `Make ${boxes.length} ${boxes.length === 1 ? 'shot' : 'shots'}`}</button>
        {#if !thread}<button class="btn" onclick={turn} disabled={looking}>Read {direction}</button>{/if}
        <button class="btn" disabled={!chosen} onclick={drop}>Leave {chosen ? labelled.find((b) => b.id === chosen)?.label : 'one'} out</button>
        <button class="btn ml-auto" onclick={onclose}>Never mind</button>
      </footer>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
