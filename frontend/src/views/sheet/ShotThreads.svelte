<script lang="ts">
  import type { Shot } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import { drawing, type Knot } from './drawing';
  import type { SheetState } from './sheet-state.svelte';

  /** The threads at one shot, with the way up to the shot above. */
  let { sheet, shot, width }: { sheet: SheetState; shot: Shot; width: number } = $props();
  const project = useProject();
  const index = $derived(sheet.shownIndex.get(shot.id) ?? 0);
  const centre = $derived(sheet.centreOfShot(index));
  const planned = $derived(!project.picked.has(shot.id));
  const above = $derived.by(() => {
    const other = sheet.shown[index - 1];
    return other && project.number(shot.id) === project.number(other.id) + 1 ? { id: other.id, way: centre - sheet.centreOfShot(index - 1) } : null;
  });

  /** Whether something is open on a thread here, or was let stand. */
  function trouble(thread: string): Knot['state'] {
    const { openByShot, stoodByShot } = project.findings.check;
    if (openByShot.get(shot.id)?.some((f) => f.thread === thread)) return 'open';
    return stoodByShot.get(shot.id)?.some((f) => f.thread === thread) ? 'stet' : undefined;
  }

  const knots = $derived.by(() => {
    const stale = new Set(project.findings.take.openByShot.get(shot.id)?.map((f) => f.thread));
    const found: Knot[] = [];
    for (const [c, { id, kind }] of sheet.columns.entries()) {
      const bead = project.bead(shot.id, id);
      if (!bead) continue;
      const other = above && project.bead(above.id, id);
      found.push({ x: sheet.centres[c]!, kind, bead, above: other ? { bead: other, way: above.way } : null, state: trouble(id), stale: stale.has(id) });
    }
    return found;
  });
  const d = $derived(drawing(knots));
</script>

<svg class="pointer-events-none absolute left-0 overflow-visible text-ink" style="top:{centre}px" {width} height="1" aria-hidden="true" data-beads={knots.length}>
  <path d={d.strands} stroke="currentColor" stroke-width="1.8" fill="none" />
  {#each d.breaks as b (b.x)}<text x={b.x} y={b.y} class="fill-soft text-[11px]">{b.to}</text>{/each}
  {#if d.whole}<path d={d.whole} class={planned ? 'fill-paper stroke-pencil' : 'fill-ink stroke-ink'} stroke-width="1.8" />{/if}
  {#if d.partial}<path d={d.partial} class="fill-paper {planned ? 'stroke-pencil' : 'stroke-ink'}" stroke-width="1.8" />{/if}
  {#if d.dots}<path d={d.dots} class={planned ? 'fill-pencil' : 'fill-ink'} />{/if}
  {#if d.bars}<path d={d.bars} class={planned ? 'stroke-pencil' : 'stroke-ink'} stroke-width="2.2" />{/if}
  {#if d.kinks}<path d={d.kinks} class="stroke-red" stroke-width="2" fill="none" />{/if}
  {#if d.stale}<path d={d.stale} fill="none" class="stroke-soft" stroke-width="1.4" stroke-dasharray="3 3" />{/if}
  {#if d.stets}<path d={d.stets} class="fill-soft" />{/if}
</svg>
