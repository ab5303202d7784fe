<script lang="ts">
  import { api, ok, type FaultKind, type Schemas } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';

  /** What recurring fault marks share, over the whole project; what can be done; what it brought. */
  const project = useProject();
  let told = $state.raw<Schemas['FaultsTold'] | null>(null);
  let timer: ReturnType<typeof setTimeout> | undefined;

  $effect(() => {
    void [project.faultMarks, project.row, project.takes];
    clearTimeout(timer);
    timer = setTimeout(() => void load(), told ? 600 : 50);
    return () => clearTimeout(timer);
  });

  async function load() {
    const got = await ok(api.GET('/api/projects/{project_id}/faults', { params: { path: { project_id: project.id } } })).catch(() => null);
    if (got) told = got as Schemas['FaultsTold'];
  }

  async function mend(cause: Schemas['CauseView'], how: 'dont' | 'phrase', what = cause.what) {
    const done = await project.send(() => api.POST('/api/projects/{project_id}/faults/mend', { params: { path: { project_id: project.id } }, body: { fault: cause.fault as FaultKind, kind: cause.kind, what, how } }));
    if (done) notices.say(how === 'dont' ? `“${cause.dont}” is left out of these briefs from now on. The next takes show whether it helps.` : 'The words are out of these briefs. The next takes show whether it helps.');
  }

  function toBrief(cause: Schemas['CauseView']) {
    project.currentId = cause.shot_ids[0] ?? project.currentId;
    router.go(project.id, cause.kind === 'reference' ? 'models' : 'briefs');
  }
</script>

{#if told && (told.causes.length || told.effects.length || Object.keys(told.counts).length)}
  <section data-recurring>
    <h2 class="mb-1 font-semibold">Marks that recur</h2>
    {#each told.causes as cause (cause.fault + cause.kind + cause.what)}
      <div class="border-t border-hair py-2">
        <p>{cause.told}</p>
        {#if cause.beside}<p class="label mt-0.5">{cause.beside}</p>{/if}
        <p class="mt-1 flex flex-wrap gap-x-3 gap-y-1">
          {#each cause.words as words (words)}<button class="text-pencil hover:underline" onclick={() => mend(cause, 'phrase', words)} data-mend-phrase>Leave “{words}” out</button>{/each}
          {#if cause.dont}<button class="text-pencil hover:underline" onclick={() => mend(cause, 'dont')}>Add a don’t</button>{/if}
          <button class="text-pencil hover:underline" onclick={() => toBrief(cause)}>{cause.kind === 'reference' ? 'Another reference …' : 'Say it another way …'}</button>
        </p>
      </div>
    {:else}
      <p class="label">{Object.entries(told.counts).map(([kind, n]) => `${n} × ${kind}`).join(', ')} in {told.looked_at} takes looked at. What they share is told once the takes bear it.</p>
    {/each}
    {#each told.effects as e, i (i)}<p class="border-t border-hair py-2 {e.helped === false ? 'text-red' : ''}">{e.told}</p>{/each}
  </section>
{/if}
