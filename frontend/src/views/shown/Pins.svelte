<script lang="ts">
  import type { FrozenShot, NoteView } from '../../api/client';
  import type { ShownState } from './shown-state.svelte';

  /** A shot's picture, large, with numbered pins where comments lie; a tap puts a pin down, a drag a box. */
  let { view, shot, notes, placed, onplace }: { view: ShownState; shot: FrozenShot; notes: NoteView[]; placed: number[] | null; onplace: (place: number[]) => void } = $props();
  let area = $state<HTMLElement | null>(null);
  let from = $state<[number, number] | null>(null);
  const LEAST = 0.02;
  const held = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1e4) / 1e4;

  function at(event: PointerEvent): [number, number] {
    const box = area!.getBoundingClientRect();
    return [held((event.clientX - box.left) / box.width), held((event.clientY - box.top) / box.height)];
  }

  function down(event: PointerEvent) {
    from = at(event);
    area?.setPointerCapture(event.pointerId);
  }

  function up(event: PointerEvent) {
    if (!from) return;
    const to = at(event);
    const [x, y] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
    const [w, h] = [Math.abs(from[0] - to[0]), Math.abs(from[1] - to[1])];
    onplace(w > LEAST && h > LEAST ? [x, y, held(w), held(h)] : to);
    from = null;
  }
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div class="relative touch-pan-y select-none" bind:this={area} onpointerdown={down} onpointerup={up} onpointercancel={() => (from = null)} data-picture-of={shot.id}>
  {#if shot.sha}
    <img class="block w-full" src={view.places.thumb(shot.sha, 960)} alt={shot.shows} width={shot.width} height={shot.height} draggable="false" />
  {:else}
    <div class="grid aspect-[3/2] w-full place-items-center border border-dashed border-line p-6 text-center font-book text-[17px]">{shot.shows || 'No picture yet.'}</div>
  {/if}
  {#each notes as n, i (n.id)}
    {#if n.place}{@render pin(n.place, String(i + 1), false)}{/if}
  {/each}
  {#if placed}{@render pin(placed, '+', true)}{/if}
</div>

{#snippet pin(place: number[], words: string, fresh: boolean)}
  {#if place.length === 4}<span class="pointer-events-none absolute border-2 {fresh ? 'border-dashed border-pencil' : 'border-red'}" style="left:{place[0]! * 100}%;top:{place[1]! * 100}%;width:{place[2]! * 100}%;height:{place[3]! * 100}%"></span>{/if}
  <span class="pointer-events-none absolute grid size-6 -translate-x-1/2 -translate-y-1/2 place-items-center rounded-full text-[12px] font-bold text-paper {fresh ? 'bg-pencil' : 'bg-red'}" style="left:{place[0]! * 100}%;top:{place[1]! * 100}%" data-pin>{words}</span>
{/snippet}
