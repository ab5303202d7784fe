<script lang="ts">
  import type { Bead, Shot, Thread } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import type { SheetState } from './sheet-state.svelte';

  /** The Sheet for those who hear it: a grid of shots and threads over the drawn one. The keys are the Sheet's own. */
  let { sheet }: { sheet: SheetState } = $props();
  const project = useProject();
  const KIND = { character: 'character', setting: 'setting', style: 'style', prop: 'prop' } as const;

  const at = $derived(sheet.currentIndex);
  /** The rows near the current one: more is not read at once. */
  const rows = $derived(sheet.shown.map((shot, i) => ({ shot, i })).slice(Math.max(0, at - 2), Math.max(0, at) + 3));
  const cell = (row: number, column: number) => `sheet-${row}-${column}`;

  function says(shot: Shot, thread: Thread, bead: Bead | undefined): string {
    if (!bead) return `${thread.name}: not here`;
    const words = [`${thread.name}: ${bead.hold} held, ${Math.round(bead.weight * 100)} %`];
    if (bead.costume) words.push(bead.costume);
    if (!project.picked.has(shot.id)) words.push('no picture yet');
    for (const f of project.findings.check.openByShot.get(shot.id) ?? []) if (f.thread === thread.id) words.push(`to look at: ${f.title}`);
    for (const f of project.findings.take.openByShot.get(shot.id) ?? []) if (f.thread === thread.id) words.push('made from an older reference');
    return words.join(', ');
  }
</script>

<div
  role="grid" tabindex="0" aria-label="Sheet: shots down, threads across" aria-rowcount={sheet.shown.length + 1} aria-colcount={sheet.columns.length + 1} aria-multiselectable="true"
  aria-activedescendant={at >= 0 ? cell(at, sheet.column) : undefined}
  class="pointer-events-none absolute inset-0 z-20 outline-offset-[-3px] focus-visible:outline-2" data-sheet-grid
>
  <div role="row" aria-rowindex={1} class="sr-only">
    <span role="columnheader">Shot</span>
    {#each sheet.columns as thread (thread.id)}<span role="columnheader">{thread.name}, {KIND[thread.kind]}</span>{/each}
  </div>
  {#each rows as { shot, i } (shot.id)}
    <div role="row" aria-rowindex={i + 2} aria-selected={i >= sheet.range[0] && i <= sheet.range[1]} class="sr-only">
      <span role="rowheader" id={cell(i, -1)}>Shot {project.number(shot.id)}{shot.status === 'proposed' ? ', proposed' : ''}{shot.bridge ? ', put between' : ''}: {shot.shows || 'says nothing yet'}. {shot.size}, {shot.length_s} seconds</span>
      {#each sheet.columns as thread, c (thread.id)}
        <span role="gridcell" id={cell(i, c)}>{says(shot, thread, project.bead(shot.id, thread.id))}</span>
      {/each}
    </div>
  {/each}
</div>
