<script lang="ts">
  import type { Lineup } from '../../api/client';
  import { isQuestion } from '../../lib/findings.svelte';
  import { useProject } from '../../lib/project-context';

  let { lineup, chosen, onchoose }: { lineup: Lineup; chosen: string | null; onchoose: (shot: string) => void } = $props();
  const project = useProject();
  let width = $state(640);
  const HEIGHT = 118;
  const LEFT = 52;
  const BASE = 92;
  const cells = $derived(lineup.cells);
  const top = $derived(Math.max(1.6, ...cells.map((c) => c.distance)) * 1.12);
  const x = (i: number) => LEFT + 18 + (cells.length > 1 ? (i * (width - LEFT - 50)) / (cells.length - 1) : 0);
  const y = (d: number) => BASE - (BASE - 12) * (d / top);
  const every = $derived(Math.max(1, Math.ceil(cells.length / Math.max(1, (width - 80) / 26))));
  const begin = $derived(lineup.begins ? cells.findIndex((c) => c.shot_id === lineup.begins) : -1);
  const flagged = (shot: string) => project.findings.check.open.some((f) => f.shot === shot && f.thread === lineup.thread_id && !isQuestion(f));
  const asked = (shot: string) => lineup.cells.some((c) => c.shot_id === shot && c.verdict === 'doubtful');
</script>

<div class="border border-hair bg-paper" bind:clientWidth={width}>
  <svg {width} height={HEIGHT} role="img" aria-label="Drift along the shots, against its tolerance">
    <rect x={LEFT} y={y(1)} width={Math.max(0, width - LEFT - 12)} height={BASE - y(1)} class="fill-hair" />
    <text x={LEFT - 6} y={y(1) + 4} text-anchor="end" class="fill-soft text-[11px]">tolerance</text>
    <polyline points={cells.map((c, i) => `${x(i)},${y(c.distance)}`).join(' ')} class="fill-none stroke-ink" stroke-width="1.7" />
    {#if begin > 0}
      {@const bx = (x(begin - 1) + x(begin)) / 2}
      <line x1={bx} x2={bx} y1="6" y2={BASE} class="stroke-pencil" stroke-dasharray="4 3" stroke-width="1.6" />
      <text x={bx + (bx > width / 2 ? -8 : 8)} y="16" text-anchor={bx > width / 2 ? 'end' : 'start'} class="fill-pencil text-[12.5px]">
        {lineup.change === 'slide' ? 'slides' : 'changes'} from {project.number(lineup.begins!)}; go back to {project.number(lineup.back_to!)}
      </text>
    {/if}
    {#each cells as cell, i (cell.shot_id)}
      <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
      <g transform="translate({x(i)},{y(cell.distance)})" onclick={() => onchoose(cell.shot_id)} class="cursor-pointer">
        <circle r="10" fill="transparent" />
        {#if chosen === cell.shot_id}<circle r="8.5" class="fill-none stroke-pencil" stroke-width="2" />{/if}
        {#if flagged(cell.shot_id)}<path d="M-6 3 L-1.5 -4 L1.5 4 L6 -4" class="fill-none stroke-red" stroke-width="2.2" />
        {:else if asked(cell.shot_id)}<text y="4.5" text-anchor="middle" class="fill-pencil font-book text-[15px] font-semibold">?</text>
        {:else}<circle r="4" class="fill-ink" />{/if}
        <title>Shot {project.number(cell.shot_id)}: {cell.distance.toFixed(2)} × tolerance</title>
      </g>
      {#if i % every === 0}<text x={x(i)} y={HEIGHT - 9} text-anchor="middle" class="fill-soft text-[12px]">{project.number(cell.shot_id)}</text>{/if}
    {/each}
  </svg>
</div>
