<script lang="ts">
  import { api, ok, type Schemas, type Take } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import type { LightTableState } from './light-table-state.svelte';

  /** The proof of an edit that lies on the table: one sentence, a map, and the old pixels put back with one button. */
  let { take, view = null, ontaken = () => {} }: { take: Take; view?: LightTableState | null; ontaken?: (take: string) => void } = $props();
  const project = useProject();
  let told = $state.raw<Schemas['Proved'] | null>(null);
  let grown = $state.raw<Schemas['Grown'] | null>(null);
  let trouble = $state('');
  let busy = $state(false);
  const path = $derived({ project_id: project.id, take_id: take.id });
  const picture = $derived(project.pictures.get(project.takes.get(take.parent_id ?? '')?.picture_sha ?? ''));
  const only = $derived(take.made_from.edit?.only ?? false);

  $effect(() => {
    const now = path;
    told = grown = null;
    trouble = '';
    const asked = take.made_from.grown
      ? ok(api.GET('/api/projects/{project_id}/takes/{take_id}/growth', { params: { path: now } })).then((got) => now === path && (grown = got as Schemas['Grown']))
      : ok(api.GET('/api/projects/{project_id}/takes/{take_id}/proof', { params: { path: now } })).then((got) => now === path && (told = got as Schemas['Proved']));
    asked.catch((error: Error) => now === path && (trouble = error.message));
  });

  async function takeOnly() {
    if (busy) return;
    busy = true;
    const done = await project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/only', { params: { path }, body: {} }));
    busy = false;
    const made = (done?.rows?.take ?? []).find((t) => t.parent_id === told?.parent_id && t.revision === 1);
    if (made) ontaken(made.id);
  }

  function show(box: { x: number; y: number; w: number; h: number }) {
    view?.lookAt(box);
  }
</script>

<section data-proof>
  <h2 class="mb-1 font-semibold">{take.made_from.grown ? 'Does what was added match?' : only ? 'The area alone was taken' : 'Did anything else change?'}</h2>
  {#if trouble}<p class="text-red">{trouble}</p>
  {:else if told}
    <p class={told.changed ? 'font-semibold text-red' : 'font-semibold'} data-proof-words>{told.words}</p>
    {#if told.harmless}<p class="label mt-0.5">{told.harmless}</p>{/if}
    <img class="mt-2 w-full bg-well" style={picture ? `aspect-ratio:${picture.width}/${picture.height}` : undefined} src="/api/projects/{project.id}/takes/{take.id}/proof/map?key={encodeURIComponent(told.key)}" alt="The area in blue; what changed outside it striped in red" data-proof-map />
    {#if view && told.places.length}
      <p class="mt-1 flex flex-wrap gap-1">{#each told.places as place, i (i)}<button class="btn !px-2" onclick={() => show(place.box)} title="Look at it">{i + 1} · {place.delta.toFixed(0)} ΔE</button>{/each}</p>
    {/if}
    <p class="label mt-1">Strongest change outside: {told.strength.toFixed(1)} times the noise of this pair ({told.floor.toFixed(1)} codes); more than {told.told_from} is told.</p>
    {#if !only}<button class="btn mt-2" class:btn-main={told.changed} disabled={busy} onclick={takeOnly} data-take-only>{busy ? 'Putting the old pixels back …' : 'Take only the area'}</button><p class="label mt-1">Outside the area not one pixel is changed then; it becomes a take of its own.</p>{/if}
  {:else if grown}
    {#each grown.sides as side (side.words)}<p class={side.matches ? '' : 'text-red'}>{side.words}</p>{/each}
  {:else}<p class="text-soft">Comparing …</p>{/if}
</section>
