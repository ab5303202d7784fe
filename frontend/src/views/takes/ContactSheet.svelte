<script lang="ts">
  import { onDestroy } from 'svelte';
  import { virtualRows } from '../../lib/virtual.svelte';
  import { chunks, type ContactSheetState, type Shown } from './contact-sheet-state.svelte';
  import TakeCell from './TakeCell.svelte';

  /** All takes of a shot: in the groups they were made in, or sorted. */
  let { sheet, perLine = $bindable(4), onopen }: { sheet: ContactSheetState; perLine?: number; onopen: () => void } = $props();
  const GAP = 16;
  const WORDS = 132;
  let scroller = $state<HTMLElement | null>(null);
  let room = $state(800);
  let cell = $state(172);
  const grouped = $derived(sheet.sortedBy === 'made');
  const margin = $derived(grouped ? WORDS : 0);
  const bars = $derived(Math.max(1, ...[...sheet.readings.values()].map((r) => sheet.bars(r).length)));
  const tall = $derived(Math.round((cell * 2) / 3) + 24 + bars * 16 + 22);

  interface Line { group: Shown; first: boolean; takes: Shown['takes'] }
  const lines = $derived<Line[]>(sheet.groups.flatMap((group) => chunks(group.takes, perLine).map((takes, i) => ({ group, first: i === 0, takes }))));
  const rows = virtualRows(() => ({ scroller, count: lines.length, height: () => tall }));

  $effect(() => {
    perLine = Math.max(1, Math.floor((room - margin - 24 + GAP) / (cell + GAP)));
  });
  $effect(() => {
    const at = lines.findIndex((line) => line.takes.some((t) => t.id === sheet.chosen?.id));
    if (at >= 0) rows.reveal(at);
  });
  $effect(() => sheet.follow());
  onDestroy(() => sheet.close());
</script>

<div class="relative flex min-h-0 flex-1 flex-col">
  <div class="flex h-9 shrink-0 items-center gap-3 px-4">
    <label class="flex items-center gap-2"><span class="label">Sorted by</span>
      <select class="plainselect" bind:value={sheet.sortedBy} data-sorted-by>
        <option value="made">how they were made</option>
        <option value="worst">what is worst in each</option>
        {#each sheet.measured as of (of)}<option value={of}>{sheet.nameOf(of)}</option>{/each}
        <option value="technical">technical faults</option>
      </select>
    </label>
    <label class="flex items-center gap-1.5 text-soft"><input type="checkbox" bind:checked={sheet.withOut} />with those put out</label>
    {#if sheet.sheet?.message}<span class="min-w-0 truncate text-red" title={sheet.sheet.message}>{sheet.sheet.message}</span>{/if}
    <label class="ml-auto flex items-center gap-2"><span class="label">Size</span><input type="range" min="130" max="400" step="2" bind:value={cell} class="w-24" aria-label="Size of the pictures" /></label>
  </div>
  <div class="min-h-0 flex-1 overflow-y-auto" bind:this={scroller} bind:clientWidth={room} role="group" aria-label="Contact sheet" data-contact-sheet>
    <div class="relative mx-4 mt-2" style="height:{rows.height}px">
      {#each rows.shown as row (row.key)}
        {@const line = lines[row.index]}
        {#if line}
          <div class="absolute inset-x-0 flex [contain:layout_style]" style="top:{row.start}px;height:{tall}px">
            {#if grouped}
              <div class="shrink-0 pr-3" style="width:{margin}px">
                {#if line.first}
                  <p class="line-clamp-4 font-book text-[14px] leading-[18px] italic">{line.group.title}</p>
                  <p class="label mt-0.5 leading-4">{line.group.detail}</p>
                {/if}
              </div>
            {/if}
            <div class="flex {grouped && line.group.from ? 'border-l-2 border-pencil pl-2' : grouped ? 'pl-2.5' : ''}" style="gap:{GAP}px">
              {#each line.takes as take (take.id)}<TakeCell {sheet} {take} width={cell} {bars} {onopen} />{/each}
            </div>
          </div>
        {/if}
      {/each}
    </div>
  </div>
</div>
