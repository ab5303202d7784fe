<script lang="ts">
  import { api, thumb, type Finding, type Reference, type Thread } from '../../api/client';
  import Because from '../../components/Because.svelte';
  import Kink from '../../components/Kink.svelte';
  import { useProject } from '../../lib/project-context';

  /** A thread's pictures in their order: what view each is, which is the anchor, its weight, and what is wrong with it. */
  let { thread, references, shown, faults, total, onshow, onreplace }: {
    thread: Thread; references: Reference[]; shown: Reference | undefined; faults: Map<string, Finding[]>; total: number;
    onshow: (id: string) => void; onreplace: (reference: Reference) => void;
  } = $props();
  const project = useProject();
  const VIEWS: [Reference['view'], string][] = [['', 'no view said'], ['front', 'front'], ['three-quarter', 'three-quarter'], ['profile', 'profile'], ['back', 'back'], ['expression', 'expression'], ['detail', 'detail']];
  const figure = $derived(thread.kind === 'character' || thread.kind === 'prop');
  let dragged = $state<string | null>(null);
  let before = $state<string | null>(null);
  let because = $state<string | null>(null);

  function edit(id: string, values: Partial<Reference>) {
    const row = references.find((r) => r.id === id);
    if (row) void project.edit(row, (revision) => api.PATCH('/api/projects/{project_id}/references/{reference_id}', { params: { path: { project_id: project.id, reference_id: id } }, body: { ...values, revision } }));
  }

  function place(id: string, at: number) {
    const rest = references.filter((r) => r.id !== id);
    const left = rest[at - 1]?.position ?? (rest[0]?.position ?? 0) - 2;
    const right = rest[at]?.position ?? (rest.at(-1)?.position ?? 0) + 2;
    edit(id, { position: (left + right) / 2 });
  }

  function dropped(event: DragEvent, on: Reference) {
    if (!dragged || dragged === on.id) return;
    event.preventDefault();
    event.stopPropagation();
    const rest = references.filter((r) => r.id !== dragged);
    place(dragged, rest.findIndex((r) => r.id === on.id));
    dragged = before = null;
  }

  function key(event: KeyboardEvent, r: Reference) {
    const at = references.indexOf(r);
    if (event.altKey && event.key === 'ArrowLeft' && at > 0) place(r.id, at - 1);
    else if (event.altKey && event.key === 'ArrowRight' && at < references.length - 1) place(r.id, at + 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const version = (r: Reference): number => {
    let n = 1;
    for (let held: Reference | undefined = r; held?.replaces_id && n < 99; n++) held = project.references.get(held.replaces_id);
    return n;
  };
</script>

{#each references as r (r.id)}
  {@const wrong = faults.get(r.id) ?? []}
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <figure
    class="w-[122px] {before === r.id ? 'border-l-2 border-pencil pl-1' : ''}" data-reference={r.name} draggable="true"
    ondragstart={(e) => { dragged = r.id; e.dataTransfer?.setData('text/plain', r.name); }} ondragend={() => (dragged = before = null)}
    ondragover={(e) => { if (dragged) { e.preventDefault(); e.stopPropagation(); before = r.id; } }} ondrop={(e) => dropped(e, r)}
  >
    <button class="well relative block h-[92px] w-full {shown?.id === r.id ? 'outline-2 outline-offset-1 outline-pencil' : ''}" onclick={() => onshow(r.id)} onkeydown={(e) => key(e, r)} title="{r.name}: Alt ← → moves it">
      <img src={thumb(r.picture_sha)} alt={r.name} class="size-full object-contain" draggable="false" />
      {#if r.anchor}<span class="absolute top-1 left-1 bg-ink px-1 text-[10px] leading-[14px] font-bold text-paper">anchor</span>{/if}
      {#if version(r) > 1}<span class="absolute top-1 right-1 border border-ink bg-paper px-1 text-[10px] leading-[13px]">v{version(r)}{r.from_shot_id ? ` from ${project.number(r.from_shot_id)}` : ''}</span>{/if}
    </button>
    <input class="plainselect mt-1 w-full truncate font-semibold" value={r.name} aria-label="Name of the view" onchange={(e) => e.currentTarget.value.trim() && edit(r.id, { name: e.currentTarget.value.trim() })} />
    {#if figure}
      <div class="flex items-center gap-1 text-[12px]">
        <select class="plainselect min-w-0 flex-1 truncate text-soft" value={r.view} aria-label="View" onchange={(e) => edit(r.id, { view: e.currentTarget.value as Reference['view'] })}>{#each VIEWS as [view, name] (view)}<option value={view}>{name}</option>{/each}</select>
        {#if !r.anchor}<button class="quiet -mr-1 px-1" onclick={() => edit(r.id, { anchor: true })} title="The view that counts as true">anchor</button>{/if}
      </div>
      {#if thread.kind === 'character'}<input class="plainselect w-full truncate text-[12px] text-soft" value={r.costume} placeholder="usual costume" aria-label="Costume" onchange={(e) => edit(r.id, { costume: e.currentTarget.value.trim() })} />{/if}
    {:else if thread.kind === 'setting'}
      <input class="plainselect w-full truncate text-[12px] text-soft" value={r.costume} placeholder="as it usually is" aria-label="Variant" onchange={(e) => edit(r.id, { costume: e.currentTarget.value.trim() })} />
    {/if}
    <div class="flex items-center gap-1">
      <input type="range" min="0" max="100" step="5" class="min-w-0 flex-1 accent-[var(--pencil)]" value={Math.round(r.weight * 100)} aria-label="Weight of {r.name}" onchange={(e) => edit(r.id, { weight: Number(e.currentTarget.value) / 100 })} />
      <span class="w-9 text-right text-[12px] whitespace-nowrap">{thread.kind === 'style' ? Math.round((100 * r.weight) / (total || 1)) : Math.round(r.weight * 100)} %</span>
      <button class="quiet px-1" onclick={() => project.send(() => api.DELETE('/api/projects/{project_id}/references/{reference_id}', { params: { path: { project_id: project.id, reference_id: r.id } } }))} aria-label="Remove {r.name}">×</button>
    </div>
    <button class="quiet -ml-1.5 text-[12px]" onclick={() => onreplace(r)}>New version …</button>
    {#each wrong.slice(0, 3) as f (f.key)}
      <p class="flex gap-1 text-[11.5px] leading-[14px] text-red" title="{f.advice} Measured: {f.measured ?? 0} {f.unit ?? ''}; wanted: {f.expected ?? 0}." data-fault={f.kind}><span class="mt-0.5 shrink-0"><Kink /></span><span>{f.title}
        {#if because !== f.key}<button class="text-soft underline decoration-dotted hover:text-ink" onclick={() => (because = f.key)} title="Let it stand, with a reason">stet</button>{/if}</span></p>
      {#if because === f.key}<Because stand={(reason) => void project.stand(f.key, reason).then(() => (because = null))} leave={() => (because = null)} />{/if}
    {/each}
  </figure>
{/each}
