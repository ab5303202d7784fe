<script lang="ts">
  import { crop, thumb, type LineupCell } from '../../api/client';
  import { isQuestion } from '../../lib/findings.svelte';
  import { useProject } from '../../lib/project-context';

  let { cell, thread, chosen, wide, onchoose }: { cell: LineupCell; thread: string; chosen: boolean; wide: boolean; onchoose: () => void } = $props();
  const project = useProject();
  const here = $derived(project.findings.check.open.filter((f) => f.shot === cell.shot_id && f.thread === thread));
  const open = $derived(here.some((f) => !isQuestion(f)));
  const asked = $derived(!open && here.length > 0);
  const told = $derived(cell.verdict === 'swapped' ? [] : (cell.traits ?? []));
  const stood = $derived(project.findings.check.stood.some((f) => f.shot === cell.shot_id && f.thread === thread));
</script>

<button class="block self-start text-left {chosen ? 'bg-wash' : ''}" onclick={onchoose} data-cell={cell.shot_id}>
  <span class="well block overflow-hidden {wide ? 'h-[104px]' : 'h-[132px]'} {open ? 'outline-2 outline-red' : chosen ? 'outline-2 outline-pencil' : asked ? 'outline-2 outline-dashed outline-pencil' : ''}">
    <img src={cell.box ? crop(cell.sha, cell.box, 264) : thumb(cell.sha, 960)} alt="Shot {project.number(cell.shot_id)}" class="size-full object-contain" loading="lazy" />
  </span>
  <span class="mt-1 flex items-baseline justify-between px-0.5">
    <b class="font-book">{project.number(cell.shot_id)}</b>
    <span class="text-[12px] {open ? 'font-semibold text-red' : asked ? 'font-semibold text-pencil' : 'text-soft'}">{stood && !open ? '•••• ' : ''}{asked ? 'is it?' : `drift ${cell.distance.toFixed(2)}`}</span>
  </span>
  {#each told as trait (trait.name)}
    {@const off = trait.verdict === 'changed' || trait.verdict === 'missing'}
    <span class="mt-[2px] flex h-[9px] {off && open ? 'outline-[1.5px] outline-red' : ''}" title="{trait.name}: {trait.verdict.replace('_', ' ')}">
      <span class="flex-1" style="background:{trait.expected[0]}"></span>
      {#if trait.verdict === 'missing'}
        <span class="hatched flex-1"></span>
      {:else if trait.verdict === 'not_seen'}
        <span class="flex-1 border border-dashed border-line"></span>
      {:else}
        <span class="flex-1" style="background:{trait.seen}"></span>
      {/if}
    </span>
  {/each}
</button>
