<script lang="ts">
  import { Popover } from 'bits-ui';
  import { api, thumb, type Bead } from '../../api/client';
  import { ranges } from '../../lib/order';
  import { useProject } from '../../lib/project-context';
  import type { SheetState } from './sheet-state.svelte';

  let { sheet, anchor }: { sheet: SheetState; anchor: HTMLElement | null } = $props();
  const project = useProject();
  const open = $derived(sheet.popover !== null);
  const thread = $derived(sheet.popover ? project.threads.get(sheet.popover.thread) : undefined);
  const shots = $derived(sheet.popover?.shots ?? []);
  const bead = $derived(thread && shots[0] ? project.bead(shots[0], thread.id) : undefined);
  const held = $derived(thread ? (project.referencesByThread.get(thread.id) ?? []) : []);
  const references = $derived(held.filter((r) => !held.some((o) => o.replaces_id === r.id && !o.from_shot_id)));
  /** Those that have words alone count too: a costume needs no picture to be worn. */
  const costumes = $derived([...new Set([...references.map((r) => r.costume), ...(thread?.costumes ?? []).map((c) => c.name), bead?.costume ?? ''])].sort());
  const wears = $derived(thread?.kind === 'setting' ? 'Variant' : 'Costume');
  const holds = $derived<[Bead['hold'], string][]>(
    thread?.kind === 'character'
      ? [['figure', 'all of the figure'], ['face', 'the face alone'], ['outfit', 'the outfit alone']]
      : thread?.kind === 'setting'
        ? [['place', 'the place'], ['light', 'its light'], ['layout', 'its layout']]
        : [],
  );

  function set(values: Partial<Pick<Bead, 'hold' | 'weight' | 'costume' | 'reference_id'>>) {
    if (!thread) return;
    const [{ id }, shot_ids] = [thread, shots];
    void project.editAll(shot_ids.flatMap((shot) => project.bead(shot, id) ?? []), (revisions) =>
      api.PATCH('/api/projects/{project_id}/threads/{thread_id}/beads', {
        params: { path: { project_id: project.id, thread_id: id } },
        body: { shot_ids, ...values, revisions },
      }),
    );
  }

  function clear() {
    const ids = shots;
    if (thread) void sheet.run(thread.id, ids, false);
    sheet.popover = null;
  }
</script>

<Popover.Root {open} onOpenChange={(now) => !now && (sheet.popover = null)}>
  <Popover.Portal>
    <Popover.Content role="dialog" aria-label="How it holds here" customAnchor={anchor} side="left" sideOffset={14} class="pop w-[290px] p-4" data-bead-popover>
      {#if thread && bead}
        <div class="mb-3 flex items-baseline justify-between gap-2">
          <span class="font-book text-[16px] font-semibold">{thread.name}</span>
          <span class="label">shot {ranges(shots.map((s) => project.number(s)))}</span>
        </div>
        {#if holds.length}
          <div class="label mb-1">Hold</div>
          <div class="mb-3 flex flex-col gap-0.5" role="radiogroup" aria-label="Hold">
            {#each holds as [hold, name] (hold)}
              <label class="flex min-h-6 items-center gap-2">
                <input type="radio" name="hold" class="accent-[var(--pencil)]" checked={bead.hold === hold || (hold === 'place' && bead.hold === 'figure')} onchange={() => set({ hold })} />{name}
              </label>
            {/each}
          </div>
        {/if}
        <label class="mb-3 block">
          <span class="flex justify-between"><span class="label">Weight</span><span>{Math.round(bead.weight * 100)} %</span></span>
          <input
            type="range" min="0" max="100" step="5" class="w-full accent-[var(--pencil)]" aria-label="Weight"
            value={Math.round(bead.weight * 100)} onchange={(e) => set({ weight: Number(e.currentTarget.value) / 100 })}
          />
        </label>
        {#if costumes.length > 1}
          <label class="mb-3 block">
            <span class="label">{wears}</span>
            <select class="field mt-0.5" value={bead.costume} aria-label={wears} onchange={(e) => set({ costume: e.currentTarget.value })}>
              {#each costumes as costume (costume)}<option value={costume}>{costume || 'usual'}</option>{/each}
            </select>
          </label>
        {/if}
        {#if references.length}
          <div class="label mb-1">View</div>
          <div class="mb-3 flex flex-wrap gap-1.5">
            <button class="rounded-sm border px-2 {bead.reference_id === null ? 'border-pencil bg-wash' : 'border-line'}" onclick={() => set({ reference_id: null })}>any</button>
            {#each references.filter((r) => r.costume === bead.costume) as reference (reference.id)}
              <button
                class="well size-11 overflow-hidden outline-offset-1 {bead.reference_id === reference.id ? 'outline-2 outline-pencil' : ''}"
                title={reference.name} onclick={() => set({ reference_id: reference.id })}
              ><img src={thumb(reference.picture_sha)} alt={reference.name} class="size-full object-contain" /></button>
            {/each}
          </div>
        {/if}
        <button class="btn w-full" onclick={clear}>Take {thread.name} out of {shots.length === 1 ? 'this shot' : `these ${shots.length} shots`}</button>
      {/if}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
