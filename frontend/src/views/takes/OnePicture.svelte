<script lang="ts">
  import { whole } from '../../api/client';
  import BoxStage from '../../components/BoxStage.svelte';
  import type { ContactSheetState } from './contact-sheet-state.svelte';
  import type { TakesState } from './takes-state.svelte';

  /** One take, large: who stands where in it, and its faults. */
  let { view, sheet, onback }: { view: TakesState; sheet: ContactSheetState; onback: () => void } = $props();
  const { take, picture, people } = $derived(view);
</script>

<div class="flex min-h-0 flex-1 flex-col px-4 pb-3">
  <div class="flex h-9 shrink-0 items-center gap-3">
    <button class="quiet" onclick={onback} data-all-takes>← All takes <span class="key">Esc</span></button>
    {#if take}<span class="text-soft">take {sheet.numberOf.get(take.id)}{take.picked ? ' · picked' : ''}</span>{/if}
  </div>
  <div class="min-h-0 flex-1">
    {#if take && picture}
      {#key take.id}
        <BoxStage
          src={whole(take.picture_sha)} width={picture.width} height={picture.height} boxes={view.boxes} bind:chosen={view.chosen} drawing={view.faulting !== null || people.length > 0}
          ondraw={(box) => view.draw(box)} onchange={(id, box) => view.move(id, box)}
        />
      {/key}
    {/if}
  </div>
</div>
