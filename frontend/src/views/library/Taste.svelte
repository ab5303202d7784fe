<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ok, thumb, type Schemas } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';

  /** Two pictures, pick one or skip, again and again; beside them the ranking with what is not sure yet. */
  let { tag = '', onclose }: { tag?: string; onclose: () => void } = $props();
  const project = useProject();
  let round = $state.raw<Schemas['Round'] | null>(null);
  let busy = $state(false);
  const styles = $derived(project.columns.filter((t) => t.kind === 'style'));
  const proposed = $derived(round?.ranking.filter((r) => r.weight > 0) ?? []);
  const reach = $derived(Math.max(1, ...(round?.ranking ?? []).map((r) => Math.abs(r.score) + r.sd)));

  async function load() {
    try {
      round = (await ok(api.GET('/api/projects/{project_id}/library/taste', { params: { path: { project_id: project.id }, query: { tag } } }))) as Schemas['Round'];
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async function choose(chosen: 'left' | 'right' | 'skip') {
    if (busy || !round?.left || !round.right) return;
    busy = true;
    const { left, right } = round;
    await project.send(() => api.POST('/api/projects/{project_id}/library/taste', { params: { path: { project_id: project.id } }, body: { left, right, chosen } }));
    await load();
    busy = false;
  }

  async function back() {
    await project.undo();
    await load();
  }

  async function toStyle(thread_id: string) {
    if (!thread_id) return;
    const done = await project.send(() => api.POST('/api/projects/{project_id}/library/taste/style', { params: { path: { project_id: project.id } }, body: { thread_id, tag } }));
    if (done) notices.say(`${done.label[0]!.toUpperCase()}${done.label.slice(1)}.`);
  }

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const what = ({ ArrowLeft: 'left', ArrowRight: 'right', ArrowDown: 'skip', ' ': 'skip' } as const)[event.key as 'ArrowLeft'];
    if (what) void choose(what);
    else if (event.key === 'Escape') onclose();
    else if (event.key === 'Backspace') void back();
    else return;
    event.preventDefault();
  }

  onMount(load);
</script>

<svelte:window {onkeydown} />

<div class="flex h-full" role="region" aria-label="Taste round" data-taste>
  <section class="flex min-w-0 flex-1 flex-col p-4">
    <div class="mb-3 flex items-baseline gap-3">
      <h2 class="font-book text-[18px] font-semibold">Which one would you rather have made?</h2>
      <span class="label">{round ? `${round.chosen} chosen, ${round.skipped} skipped` : ''}{tag ? ` · tagged ${tag}` : ''}</span>
      <button class="quiet ml-auto" onclick={onclose}>To the library</button>
    </div>
    {#if round?.left && round.right}
      <div class="grid min-h-0 flex-1 grid-cols-2 gap-4">
        {#each [['left', round.left, '←'], ['right', round.right, '→']] as const as [side, sha, key] (side)}
          <button class="well relative min-h-0 hover:outline-3 hover:outline-pencil" onclick={() => choose(side)} data-side={side}>
            <img src={thumb(sha, 960)} alt="The {side} picture" class="absolute inset-0 size-full object-contain p-2" draggable="false" /><span class="key absolute bottom-2 left-1/2 bg-paper">{key}</span>
          </button>
        {/each}
      </div>
      <div class="mt-3 flex justify-center gap-3"><button class="btn" onclick={() => choose('skip')}>Neither, or both <span class="key">↓</span></button><button class="quiet" onclick={back} disabled={!round.chosen && !round.skipped}>take the last back <span class="key">⌫</span></button></div>
    {:else if round}
      <p class="m-auto max-w-[380px] text-center text-soft">A taste round needs at least two pictures{tag ? ` tagged ${tag}` : ''}. Drop some into the library: whatever you like the look of.</p>
    {/if}
  </section>
  <aside class="w-[300px] shrink-0 overflow-y-auto border-l border-line p-4" aria-label="Ranking">
    <h2 class="font-semibold">Ranking</h2>
    <p class="label mb-2">The bar is how sure it is: where two bars part, one is liked better.</p>
    {#each round?.ranking ?? [] as r, i (r.sha)}
      <div class="flex items-center gap-2 py-0.5" data-ranked={r.weight > 0 ? 'proposed' : ''}>
        <span class="w-5 text-right text-[12px] text-soft">{i + 1}</span>
        <span class="well size-9 shrink-0 {r.weight ? 'outline-2 outline-pencil' : ''}"><img src={thumb(r.sha)} alt={r.name} class="size-full object-cover" /></span>
        <span class="relative h-3 flex-1 border-x border-hair" title="{r.score > 0 ? '+' : ''}{r.score} ± {r.sd}, seen {r.seen} times">
          <span class="absolute inset-y-0 left-1/2 w-px bg-hair"></span>
          <span class="absolute top-1 h-1 bg-soft" style="left:{50 + (50 * (r.score - r.sd)) / reach}%;width:{(100 * r.sd) / reach}%"></span>
          <span class="absolute top-0 h-3 w-[3px] bg-ink" style="left:calc({50 + (50 * r.score) / reach}% - 1px)"></span>
        </span>
        <span class="w-10 text-right text-[12px]">{r.weight ? `${Math.round(r.weight * 100)} %` : ''}</span>
      </div>
    {:else}<p class="text-soft">After a few choices the pictures stand here, best first.</p>{/each}
    {#if proposed.length}
      <p class="mt-3 mb-1">{proposed.length} {proposed.length === 1 ? 'picture is' : 'pictures are'} surely liked better than the middle.</p>
      <select class="field" aria-label="Make them the pictures of a style" value="" onchange={(e) => { void toStyle(e.currentTarget.value); e.currentTarget.value = ''; }}><option value="">make them the pictures of …</option>{#each styles as s (s.id)}<option value={s.id}>{s.name}</option>{/each}</select>
      {#if !styles.length}<p class="label mt-1">Make a style on the model sheets first.</p>{/if}
    {/if}
  </aside>
</div>
