<script lang="ts">
  import { thumb, type Bead } from '../../api/client';
  import BoxStage, { type StageBox } from '../../components/BoxStage.svelte';
  import Choice from '../../components/Choice.svelte';
  import type { Frame } from '../../lib/move-frames';
  import { useProject } from '../../lib/project-context';
  import type { ShotPanelState } from './shot-panel-state.svelte';

  /** Who stands where on the layout guide (or on the empty frame), where they look and with what face. */
  let { view }: { view: ShotPanelState } = $props();
  const project = useProject();
  const { shot, cast } = $derived(view);
  const UNSAID = 'unsaid';
  const FACINGS: [Exclude<Bead['facing'], ''> | typeof UNSAID, string][] = [[UNSAID, 'not said'], ['left', '← left'], ['right', 'right →'], ['camera', 'to us'], ['away', 'away']];
  const placed = $derived(cast.filter((t) => view.standOf(t.id)));
  const [width, height] = $derived(view.frame_px);
  /** The frame as a sheet of paper, where there is no guide. */
  const empty = $derived(`data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#f4f1e8"/></svg>`)}`);
  const boxes = $derived<StageBox[]>(
    placed.map((t) => {
      const [x, y, w, h] = view.standOf(t.id)!;
      return { id: t.id, label: t.name, x: x * width, y: y * height, w: w * width, h: h * height };
    }),
  );
  const shares = (b: { x: number; y: number; w: number; h: number }) => [b.x / width, b.y / height, b.w / width, b.h / height] as Frame;
</script>

{#if shot}
  <div class="col-span-2" data-stands>
    <div class="flex items-baseline gap-2">
      <span class="label flex-1">Who stands where, looks where, and with what face</span>
      {#if shot.sketch_sha && placed.length < cast.length}<button class="quiet" disabled={view.looking} onclick={() => view.lookOnGuide()}>{view.looking ? 'Looking …' : 'Look for them on the guide'}</button>{/if}
    </div>
    <div class="mt-1" style="height:{Math.min(230, Math.round((380 * height) / width))}px">
      <BoxStage
        src={shot.sketch_sha ? thumb(shot.sketch_sha, 960) : empty} {width} {height} {boxes} bind:chosen={view.placing}
        ondraw={(b) => view.drawn(shares(b))} onchange={(id, b) => view.put(id, shares(b))}
      />
    </div>
    <p class="label mt-1 mb-1">{view.drawFor ? `Draw a box where ${project.threads.get(view.drawFor)?.name} stands, or press Place.` : 'Drag a box to move it, its corner to size it. The brief tells it in words.'}</p>
    {#each cast as t (t.id)}
      {@const bead = project.bead(shot.id, t.id)}
      <div class="mb-0.5 flex items-center gap-1"><span class="w-16 shrink-0 truncate" title={t.name}>{t.name}</span>
        <button class="quiet w-[60px] shrink-0 px-1! text-left" onclick={() => (view.standOf(t.id) ? view.put(t.id, null) : view.place(t.id))} data-place={t.id}>{view.standOf(t.id) ? 'Take off' : 'Place'}</button>
        <Choice small value={bead?.facing || UNSAID} options={FACINGS} label="Where {t.name} looks" onchoose={(to) => view.looks(t.id, { facing: to === UNSAID ? '' : to })} />
        <input class="field min-w-0 flex-1" maxlength="80" placeholder="wary …" aria-label="The face of {t.name}" value={bead?.face ?? ''} onchange={(e) => view.looks(t.id, { face: e.currentTarget.value.trim() })} data-face />
      </div>
    {/each}
  </div>
{/if}
