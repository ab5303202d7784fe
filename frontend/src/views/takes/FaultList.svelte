<script lang="ts">
  import type { FaultKind, Take } from '../../api/client';
  import { FAULTS, type ContactSheetState } from './contact-sheet-state.svelte';

  /** The fault marks of a take; with `faulting`, the next box that is drawn marks a fault of that kind. */
  let { sheet, take, faulting = $bindable(undefined) }: { sheet: ContactSheetState; take: Take; faulting?: FaultKind | null | undefined } = $props();
  const faults = $derived(sheet.project.faultsByTake.get(take.id) ?? []);
  const name = (kind: FaultKind) => FAULTS.find(([k]) => k === kind)![1];
</script>

{#if faults.length || faulting !== undefined}
  <section data-faults>
    <h2 class="mb-1 font-semibold">Faults</h2>
    {#each faults as f (f.id)}
      <div class="flex h-7 items-center gap-2"><span class="size-2.5 rounded-full border-2 border-red"></span><span class="shrink-0">{name(f.kind)}</span><input class="plainselect min-w-0 flex-1 truncate text-soft" value={f.note} maxlength="200" placeholder="a word about it" aria-label="A word about this fault" onchange={(e) => sheet.noteFault(f, e.currentTarget.value)} /><button class="quiet px-1" onclick={() => sheet.unmark(f.id)} aria-label="Remove the mark: {name(f.kind)}" title="Remove this mark">×</button></div>
    {/each}
    {#if faulting !== undefined}
      <select class="field mt-1" aria-label="Mark a fault" value={faulting ?? ''} onchange={(e) => (faulting = (e.currentTarget.value || null) as FaultKind | null)}>
        <option value="">Mark a fault …</option>{#each FAULTS as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
      </select>
      {#if faulting}<p class="label mt-1">Drag a box round it. <button class="underline" onclick={() => (faulting = null)}>Leave it</button></p>{/if}
    {/if}
  </section>
{/if}
