<script lang="ts">
  import { api, ok, whole, type BoxPx, type Reference, type Thread, type Trait } from '../../api/client';
  import BodyMap from './BodyMap.svelte';
  import Choice from '../../components/Choice.svelte';
  import BoxStage from '../../components/BoxStage.svelte';
  import Swatch from '../../components/Swatch.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';

  /** A reference picture with its traits: drag a box, its main colours are proposed; name it, mend its colours. */
  let { thread, reference }: { thread: Thread; reference: Reference } = $props();
  const project = useProject();
  let chosen = $state<string | null>(null);
  let outlines = $state(false);
  let fresh = $state<{ box: BoxPx; outline?: [number, number][]; colours: string[]; name: string; part: Trait['part'] } | null>(null);
  const picture = $derived(project.pictures.get(reference.picture_sha));
  const traits = $derived((project.traitsByThread.get(thread.id) ?? []).filter((t) => t.reference_id === reference.id));
  const boxes = $derived([
    ...traits.map((t) => ({ id: t.id, label: t.name, x: t.x, y: t.y, w: t.w, h: t.h, outline: t.outline as [number, number][] | null })),
    ...(fresh ? [{ id: 'fresh', label: fresh.name || 'new trait', ...fresh.box, outline: fresh.outline }] : []),
  ]);
  const PARTS: [Trait['part'], string][] = [['figure', 'always'], ['face', 'with the face'], ['outfit', 'with the outfit']];

  async function draw(box: BoxPx, outline?: [number, number][]) {
    fresh = { box, outline, colours: [], name: '', part: 'figure' };
    chosen = 'fresh';
    try {
      const found = await ok(
        api.POST('/api/projects/{project_id}/references/{reference_id}/colours', {
          params: { path: { project_id: project.id, reference_id: reference.id } },
          body: { ...box, outline },
        }),
      );
      if (fresh?.box === box || fresh) fresh.colours = found.map((s) => s.hex);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async function add(event: Event) {
    event.preventDefault();
    if (!fresh?.name.trim()) return;
    const { box, outline, colours, name, part } = fresh;
    const done = await project.send(() =>
      api.POST('/api/projects/{project_id}/references/{reference_id}/traits', {
        params: { path: { project_id: project.id, reference_id: reference.id } },
        body: { box, outline, colours, name: name.trim(), part },
      }),
    );
    if (done) fresh = null;
  }

  function edit(trait: Trait, values: Partial<Trait>) {
    void project.edit(trait, (revision) =>
      api.PATCH('/api/projects/{project_id}/traits/{trait_id}', {
        params: { path: { project_id: project.id, trait_id: trait.id } },
        body: { ...values, revision },
      }),
    );
  }

  function remove(trait_id: string) {
    void project.send(() => api.DELETE('/api/projects/{project_id}/traits/{trait_id}', { params: { path: { project_id: project.id, trait_id } } }));
  }

  const focus = (node: HTMLElement) => node.focus();
</script>

<div class="flex min-h-[420px] flex-1">
  <div class="min-w-0 flex-1 p-4">
    {#if picture}<BoxStage src={whole(reference.picture_sha)} width={picture.width} height={picture.height} {boxes} bind:chosen {outlines} ondraw={draw} />{/if}
  </div>
  <aside class="w-[300px] shrink-0 p-4 pl-0" aria-label="Traits">
    <h2 class="flex items-baseline justify-between font-semibold">Traits on this view
      <span class="font-normal"><Choice value={outlines ? 'outlines' : 'boxes'} options={[['boxes', 'boxes'], ['outlines', 'outlines']]} label="How to draw" onchoose={(how) => (outlines = how === 'outlines')} small /></span></h2>
    <p class="label mb-2">Draw on the picture; its main colours are proposed. Click a colour to mend it. Without traits the check proposes its own.</p>
    {#if thread.kind === 'character' && traits.length}<BodyMap {traits} bind:chosen onplace={(t, body_x, body_y) => edit(t, { body_x, body_y })} />{/if}
    {#if fresh}
      <form class="mb-3 rounded-sm border border-pencil p-3" onsubmit={add}>
        <input class="field" name="trait-name" placeholder="What is it? Coat, hair, badge …" bind:value={fresh.name} maxlength="80" {@attach focus} onkeydown={(e) => e.key === 'Escape' && (fresh = null)} />
        <div class="my-2 flex gap-2">
          {#each fresh.colours as hex, i (i)}
            <Swatch {hex} onchange={(c) => (fresh!.colours[i] = c)} onremove={() => fresh!.colours.splice(i, 1)} />
          {/each}
        </div>
        <select class="field" bind:value={fresh.part} aria-label="Belongs to">{#each PARTS as [value, name] (value)}<option {value}>held {name}</option>{/each}</select>
        <div class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={!fresh.name.trim()}>Add the trait</button>
          <button type="button" class="btn" onclick={() => (fresh = null)}>Drop it</button>
        </div>
      </form>
    {/if}
    {#each traits as trait (trait.id)}
      <div class="border-b border-hair py-2 {chosen === trait.id ? 'bg-wash' : ''}" data-trait={trait.name}>
        <div class="flex items-center gap-2">
          <input class="plainselect min-w-0 flex-1 font-semibold" value={trait.name} aria-label="Trait" onfocus={() => (chosen = trait.id)} onchange={(e) => e.currentTarget.value.trim() && edit(trait, { name: e.currentTarget.value.trim() })} />
          <button class="quiet px-1" onclick={() => remove(trait.id)} aria-label="Remove {trait.name}">×</button>
        </div>
        <div class="mt-1 flex items-center gap-2">
          {#each trait.colours as hex, i (i)}
            <Swatch {hex} onchange={(c) => edit(trait, { colours: trait.colours.map((h, k) => (k === i ? c : h)) })} onremove={trait.colours.length > 1 ? () => edit(trait, { colours: trait.colours.filter((_, k) => k !== i) }) : undefined} />
          {/each}
          <select class="plainselect ml-auto text-[12px] text-soft" value={trait.part} aria-label="Belongs to" onchange={(e) => edit(trait, { part: e.currentTarget.value as Trait['part'] })}>
            {#each PARTS as [value, name] (value)}<option {value}>held {name}</option>{/each}
          </select>
        </div>
        <div class="mt-1 flex items-center gap-3 text-[12px] text-soft">
          <label class="flex items-center gap-1" title="It may change, with the costume or from shot to shot: the check says nothing of it"><input type="checkbox" checked={trait.free} onchange={(e) => edit(trait, { free: e.currentTarget.checked })} />free</label>
          <label class="ml-auto flex items-center gap-1" title="How far its colour may differ (CIEDE2000); empty: learned from the references">may differ by<input class="plainselect w-12 text-right" inputmode="decimal" placeholder="learned" value={trait.tolerance ?? ''} onchange={(e) => { const v = Number(e.currentTarget.value.replace(',', '.')); edit(trait, { tolerance: v >= 1 && v <= 60 ? v : null }); }} />ΔE</label>
        </div>
      </div>
    {/each}
  </aside>
</div>
