<script lang="ts">
  import { useProject } from '../../lib/project-context';
  import Bead from './Bead.svelte';
  import { SHOT_PX } from './geometry';
  import type { SheetState } from './sheet-state.svelte';

  let { sheet, width }: { sheet: SheetState; width: number } = $props();
  const project = useProject();

  const shotsHere = $derived(sheet.visible.flatMap(({ row }) => (row.kind === 'shot' ? [sheet.shownIndex.get(row.shot.id)!] : [])));
  const beaded = $derived(shotsHere.flatMap((i) => (sheet.shown[i] ? [{ shot: sheet.shown[i], y: sheet.centreOfShot(i) }] : [])));
  const firstShot = $derived(Math.max(0, (shotsHere[0] ?? 0) - 1));
  const lastShot = $derived(Math.min(sheet.shown.length - 1, (shotsHere.at(-1) ?? -1) + 1));
  const top = $derived(sheet.top(sheet.first));
  const height = $derived(sheet.top(sheet.last + 1) - top);

  /** For each column the joins between neighbouring shots, and where the costume changes. */
  const strands = $derived(
    sheet.columns.map((thread, c) => {
      let path = '';
      const breaks: { y: number; to: string }[] = [];
      const x = sheet.centres[c]!;
      for (let i = firstShot; i < lastShot; i++) {
        const a = project.bead(sheet.shown[i]!.id, thread.id);
        const b = project.bead(sheet.shown[i + 1]!.id, thread.id);
        if (!a || !b || project.number(b.shot_id) !== project.number(a.shot_id) + 1) continue;
        const y1 = sheet.centreOfShot(i);
        const y2 = sheet.centreOfShot(i + 1);
        if (a.costume === b.costume) path += `M${x} ${y1}V${y2}`;
        else {
          const y = (y1 + y2) / 2;
          path += `M${x} ${y1}V${y - 9}M${x - 8} ${y - 9}h16M${x - 8} ${y + 9}h16M${x} ${y + 9}V${y2}`;
          breaks.push({ y, to: b.costume || 'usual costume' });
        }
      }
      return { thread, x, path, breaks };
    }),
  );
  const trouble = $derived.by(() => {
    const by = new Map<string, 'open' | 'stet'>();
    for (let i = firstShot; i <= lastShot; i++) {
      const id = sheet.shown[i]?.id;
      if (!id) continue;
      for (const f of project.findings.check.stoodByShot.get(id) ?? []) by.set(`${id} ${f.thread}`, 'stet');
      for (const f of project.findings.check.openByShot.get(id) ?? []) by.set(`${id} ${f.thread}`, 'open');
    }
    return by;
  });
</script>

<!-- Heights are those of the sheet: what stays in view while it scrolls is not drawn anew. -->
<svg class="pointer-events-none absolute left-0 text-ink" style="top:{top}px" {width} {height} aria-hidden="true">
  <g transform="translate(0,{-top})">
    {#each strands as { thread, x, path, breaks } (thread.id)}
      <path d={path} stroke="currentColor" stroke-width="1.8" fill="none" />
      {#each breaks as b (b.y)}
        <text x={x + 13} y={b.y + 4} class="fill-soft text-[11px]">{b.to}</text>
      {/each}
    {/each}
    {#each beaded as { shot, y } (shot.id)}
      {@const stale = project.findings.take.openByShot.get(shot.id)}
      <g transform="translate(0,{y})">
        {#each sheet.columns as thread, c (thread.id)}
          {@const bead = project.bead(shot.id, thread.id)}
          {#if bead}
            {@const state = trouble.get(`${shot.id} ${thread.id}`)}
            <g transform="translate({sheet.centres[c]},0)">
              <Bead kind={thread.kind} hold={bead.hold} weight={bead.weight} planned={!project.picked.has(shot.id)} />
              {#if state === 'open'}
                <path d="M0 {-SHOT_PX / 2 + 4} l5 4 l-10 4 l10 4 l-5 3" class="stroke-red" stroke-width="2" fill="none" />
              {:else if stale?.some((s) => s.thread === thread.id)}
                <circle r={SHOT_PX / 4} fill="none" class="stroke-soft" stroke-width="1.4" stroke-dasharray="3 3" />
              {:else if state === 'stet'}
                {#each [-6, -2, 2, 6] as dx (dx)}<circle cx={dx} cy="15" r="1.4" class="fill-soft" />{/each}
              {/if}
            </g>
          {/if}
        {/each}
      </g>
    {/each}
  </g>
</svg>
