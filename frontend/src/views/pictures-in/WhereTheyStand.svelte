<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { thumb, whole } from '../../api/client';
  import BoxStage, { type StageBox } from '../../components/BoxStage.svelte';
  import { typing, useProject } from '../../lib/project-context';
  import { counted } from '../../lib/words';
  import { LookThrough } from './look-through.svelte';

  /** Who stands where in pictures that came in: what is found is confirmed by one key, what is doubtful is asked, boxes are mended by dragging. */
  let { takes = null, onclose }: { takes?: string[] | null; onclose: () => void } = $props();
  const project = useProject();
  // svelte-ignore state_referenced_locally
  const look = new LookThrough(project, takes);
  const name = (id: string) => project.threads.get(id)?.name ?? '?';
  const picture = $derived(look.current && project.pictures.get(look.current.picture_sha));
  const shot = $derived(look.current && project.shots.get(look.current.shot_id));
  const marks = $derived(look.current ? (project.marksByTake.get(look.current.id) ?? []) : []);
  const boxes = $derived<StageBox[]>([
    ...marks.map((m) => ({ ...m, label: name(m.thread_id) })),
    ...look.here.flatMap((p) => (p.box ? [{ ...p.box, id: p.key, label: p.answer === 'found' ? name(p.figure) : `${name(p.figure)}?`, proposed: true }] : [])),
  ]);
  let shown = $state<string | null>(null);
  $effect(() => {
    shown = look.asked?.key ?? null;
  });
  const running = $derived(project.standings.running);
  const waiting = $derived(look.found.length + look.doubtful.length);
  let list = $state<HTMLElement | null>(null);
  $effect(() => {
    list?.querySelector(`[data-look="${look.current?.id}"]`)?.scrollIntoView({ block: 'nearest' });
  });

  function changed(id: string, box: { x: number; y: number; w: number; h: number }) {
    const figure = marks.find((m) => m.id === id)?.thread_id ?? look.here.find((p) => p.key === id)?.figure;
    if (figure) void look.put(figure, box);
  }

  function drawn(box: { x: number; y: number; w: number; h: number }) {
    const figure = look.drawFor ?? look.here.find((p) => !p.box)?.figure ?? look.asked?.figure;
    if (figure) void look.put(figure, box);
  }

  let content = $state<HTMLElement | null>(null);

  /** Keys are heard wherever the focus is: a button that was pressed may be gone, and the focus with it. */
  function onkeydown(event: KeyboardEvent) {
    const on = event.target as HTMLElement;
    const over = on.closest('[role=dialog],[role=menu]');
    if (event.defaultPrevented || typing(event) || (over && over !== content)) return;
    if (event.key === 'Enter' && on.tagName === 'BUTTON' && !on.dataset.look) return;
    if (look.key(event)) event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content
      class="pop fixed top-1/2 left-1/2 flex h-[88vh] w-[1140px] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 flex-col outline-none" data-where-they-stand bind:ref={content}
      tabindex={-1} onOpenAutoFocus={(e) => { e.preventDefault(); content?.focus(); }}
    >
      <div class="border-b border-hair px-6 py-4">
        <Dialog.Title class="font-book text-[18px] font-semibold">Who stands where</Dialog.Title>
        <Dialog.Description class="label" aria-live="polite">
          {#if running}
            {project.standings.status.done} of {project.standings.status.total} pictures looked through
            <button class="quiet underline" onclick={() => project.standings.stop()}>Stop looking</button>
          {:else if project.standings.status.message}
            {project.standings.status.message}
          {:else if waiting}
            Dashed boxes are proposals. Drag one to mend it; what you drag counts as confirmed.
          {:else if look.confirmed}
            {counted(look.confirmed, 'figure')} confirmed. Nothing waits here any more.
          {:else}
            Nothing waits here.
          {/if}
        </Dialog.Description>
        {#if running}
          <div class="mt-2 h-1 bg-hair"><div class="h-1 bg-pencil" style="width:{(100 * project.standings.status.done) / Math.max(1, project.standings.status.total)}%"></div></div>
        {/if}
      </div>
      <div class="flex min-h-0 flex-1">
        <div class="w-[210px] shrink-0 overflow-y-auto border-r border-hair p-2" bind:this={list} role="listbox" aria-label="Pictures">
          {#each look.takes as take (take.id)}
            {@const size = project.pictures.get(take.picture_sha)}
            {@const own = project.standings.of(take.id)}
            {@const asks = own.filter((p) => p.answer === 'doubtful' && p.box).length}
            <button
              class="mb-1 flex w-full items-center gap-2 rounded-xs p-1 text-left outline-offset-0 {take.id === look.current?.id ? 'bg-wash outline-2 outline-pencil' : 'outline-none hover:bg-panel'}"
              role="option" aria-selected={take.id === look.current?.id} data-look={take.id} onclick={() => look.go(take.id)}
            >
              <span class="well relative block h-[54px] w-[84px] shrink-0">
                {#if size}
                  <svg viewBox="0 0 {size.width} {size.height}" class="absolute inset-0 size-full" aria-hidden="true">
                    <image href={thumb(take.picture_sha)} width={size.width} height={size.height} />
                    {#each project.marksByTake.get(take.id) ?? [] as m (m.id)}
                      <rect x={m.x} y={m.y} width={m.w} height={m.h} fill="none" stroke="#2373a2" stroke-width={size.width / 42} />
                    {/each}
                    {#each own as p (p.key)}
                      {#if p.box}<rect x={p.box.x} y={p.box.y} width={p.box.w} height={p.box.h} fill="none" stroke="#8fd0f5" stroke-width={size.width / 42} stroke-dasharray={size.width / 16} />{/if}
                    {/each}
                  </svg>
                {/if}
              </span>
              <span class="min-w-0">
                <b class="font-book text-[15px]">{project.number(take.shot_id)}</b>
                <span class="label block leading-tight">{asks ? `${asks} to ask` : own.some((p) => p.box) ? 'found' : own.length ? 'not found' : 'done'}</span>
              </span>
            </button>
          {:else}
            <p class="label p-3">Nothing waits here.</p>
          {/each}
        </div>
        <div class="min-w-0 flex-1 bg-panel p-3">
          {#if look.current && picture}
            {#key look.current.id}
              <BoxStage
                src={whole(look.current.picture_sha)} width={picture.width} height={picture.height} {boxes}
                bind:chosen={() => shown, (id) => { shown = id; look.chosen = id; }} onchange={changed} ondraw={drawn}
              />
            {/key}
          {:else}
            <div class="grid size-full place-items-center text-soft">{running ? 'Looking …' : 'All is told. You can close this.'}</div>
          {/if}
        </div>
        <aside class="flex w-[230px] shrink-0 flex-col gap-3 overflow-y-auto border-l border-hair p-4">
          {#if shot && look.current}
            <p class="font-book text-[14px] leading-5"><b>{project.number(shot.id)}</b> {shot.shows}</p>
            {#each [...look.here].sort((a, b) => Number(!a.box) - Number(!b.box)) as p (p.key)}
              <div class="rounded-xs border p-2 {look.asked?.key === p.key ? 'border-pencil bg-wash' : 'border-hair'}" data-standing={p.answer}>
                <button class="block w-full text-left font-semibold" onclick={() => { look.chosen = p.key; if (!p.box) look.drawFor = p.figure; }}>
                  {p.answer === 'doubtful' ? `Is this ${name(p.figure)}?` : name(p.figure)}
                </button>
                <p class="label">
                  {#if !p.box}{p.rival ? `Not found: ${name(p.rival)} fits the likeliest place better.` : 'Not found; half hidden, perhaps.'} {look.drawFor === p.figure ? 'Drag a box round it now.' : 'Drag a box round it, or say that it is not there.'}
                  {:else if p.rival}{name(p.rival)} fits this place too.
                  {:else if p.answer === 'doubtful'}{project.threads.get(p.figure)?.kind === 'prop' ? 'It may be something else.' : 'It may be somebody else.'}
                  {:else}Found.{/if}
                </p>
                <div class="mt-1.5 flex gap-1.5">
                  {#if p.box}<button class="btn" onclick={() => look.yes(p)}>Yes {#if look.asked?.key === p.key}<span class="key">Y</span>{/if}</button>{/if}
                  <button class="btn" onclick={() => look.no(p)}>{p.box ? 'No' : 'Not there'} {#if look.asked?.key === p.key}<span class="key">N</span>{/if}</button>
                </div>
              </div>
            {:else}
              <p class="label">Everybody in this picture has a place.</p>
            {/each}
          {/if}
        </aside>
      </div>
      <div class="flex items-center gap-3 border-t border-hair px-6 py-3">
        <button class="btn btn-main" disabled={!look.found.length} onclick={() => look.confirmAll()} data-confirm-all>
          {look.found.length ? `Confirm ${counted(look.found.length, 'box', 'boxes')}` : 'Nothing to confirm'} <span class="ml-1 opacity-70">Enter</span>
        </button>
        <button class="btn" onclick={onclose}>{waiting || running ? 'Later' : 'Close'}</button>
        <span class="text-soft">
          {#if look.doubtful.length}{counted(look.doubtful.length, 'question')} left: <span class="key">Y</span> or <span class="key">N</span>{/if}
          {#if look.absent.length}{look.doubtful.length ? ' · ' : ''}{look.absent.length} not found{/if}
        </span>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
