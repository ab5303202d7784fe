<script lang="ts">
  import { api, type Finding } from '../../api/client';
  import Because from '../../components/Because.svelte';
  import Kink from '../../components/Kink.svelte';
  import { ranges } from '../../lib/order';
  import { useProject } from '../../lib/project-context';

  /** What the plan says of itself, each to be mended or let stand. */
  const project = useProject();
  let because = $state<string | null>(null);
  const where = (f: Finding) => {
    const from = project.number(f.shot);
    const to = f.until ? project.number(f.until) : from;
    return ranges(Array.from({ length: Math.max(1, to - from + 1) }, (_, i) => from + i));
  };

  function stand(key: string, reason: string) {
    because = null;
    void project.stand(key, reason);
  }

  const toMotion = (shot_id: string) =>
    void project.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/to-motion', { params: { path: { project_id: project.id, shot_id } } }));
</script>

<div class="min-h-0 flex-1 overflow-y-auto p-4" aria-label="To look at in the plan" data-plan-findings role="region">
  {#if project.lost.length}
    <h2 class="font-semibold">Not in the text any more</h2>
    {#each project.lost as shot (shot.id)}
      <button class="block w-full py-1 text-left" onclick={() => (project.currentId = shot.id)}><span class="font-book text-[16px]">{project.number(shot.id)}</span> <span class="font-book text-soft">{shot.lost}</span></button>
    {/each}
  {/if}
  {#each project.reading?.troubles ?? [] as t (t.line)}
    <p class="flex gap-2 py-1 text-red"><span class="mt-1.5"><Kink /></span>Line {t.line}: {t.message}</p>
  {/each}
  {#each project.findings.plan.open as f (f.key)}
    <article class="border-b border-hair py-2.5">
      <button class="flex w-full items-baseline gap-3 text-left" onclick={() => (project.currentId = f.shot ?? null)}>
        <span class="w-12 shrink-0 font-book text-[16px]">{where(f)}</span><span class="flex-1 font-semibold">{f.title}</span>
      </button>
      <div class="ml-[60px]">
        <p class="text-soft">{f.advice}</p>
        {#if f.unit === 's' || f.unit === 'shots'}<p class="label">{f.measured} {f.unit}, allowed {f.expected ?? 0}</p>{/if}
        {#if because === f.key}
          <Because stand={(reason) => stand(f.key, reason)} leave={() => (because = null)} />
        {:else}
          {#if f.kind === 'moves_in_still'}<button class="quiet -ml-1.5" onclick={() => toMotion(f.shot!)}>Move it there</button>{/if}
          <button class="quiet {f.kind === 'moves_in_still' ? '' : '-ml-1.5'}" onclick={() => (because = f.key)}>Stet, because …</button>
        {/if}
      </div>
    </article>
  {:else}
    {#if !project.lost.length}<p class="py-16 text-center text-soft">{project.order.length ? 'The plan holds: nothing to look at.' : 'There is no plan yet.'}</p>{/if}
  {/each}
  {#each project.findings.plan.stood as f (f.key)}
    <p class="flex items-baseline gap-3 py-1.5 text-soft">
      <span class="w-12 shrink-0"><Kink stet /></span><span class="flex-1">{where(f)} · {f.title}: {project.stetByKey.get(f.key)?.reason}</span><button class="quiet" onclick={() => project.unstand(f.key)}>Take back</button>
    </p>
  {/each}
</div>
