<script lang="ts">
  import { api, ok, type Take } from '../../api/client';
  import { onMount } from 'svelte';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';

  /** The words that a take was made from; change one phrase, and the shot's brief starts again from there. */
  let { take }: { take: Take } = $props();
  const project = useProject();
  let phrases = $state.raw<[string, string][]>([]);
  let editing = $state<string | null>(null);

  onMount(async () => {
    const got = await ok(api.GET('/api/projects/{project_id}/takes/{take_id}/words', { params: { path: { project_id: project.id, take_id: take.id } } })).catch(() => []);
    phrases = (got as [string, string][]).filter(([, words]) => words);
  });

  async function vary(event: Event) {
    event.preventDefault();
    const key = editing!;
    const now = new FormData(event.target as HTMLFormElement).get('words')!.toString().trim();
    const done = await project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/vary', { params: { path: { project_id: project.id, take_id: take.id } }, body: { key, now } }));
    if (!done) return;
    editing = null;
    notices.say('The brief is the take’s again, with this phrase changed. Ctrl+Z takes it back.');
    router.go(project.id, 'briefs');
  }
</script>

{#if phrases.length}
  <section>
    <h2 class="mb-1 font-semibold">Made from these words</h2>
    <p class="label mb-1">Change one phrase: all the others stay as they were for this take.</p>
    {#each phrases as [key, words] (key)}
      {#if editing === key}
        <form onsubmit={vary} class="my-1">
          <!-- svelte-ignore a11y_autofocus -->
          <textarea class="field block resize-none font-book text-[14px]" rows="3" name="words" autofocus onkeydown={(e) => { if (e.key === 'Escape') editing = null; if (e.key === 'Enter' && !e.shiftKey) { e.preventDefault(); e.currentTarget.form?.requestSubmit(); } }}>{words}</textarea>
          <span class="mt-1 flex gap-2"><button class="btn">Start again so</button><button type="button" class="quiet" onclick={() => (editing = null)}>Leave it</button></span>
        </form>
      {:else}
        <button class="block min-h-6 w-full rounded-xs py-[3px] text-left font-book text-[13.5px] leading-[18px] hover:bg-wash" data-made-from={key} onclick={() => (editing = key)}>{words}</button>
      {/if}
    {/each}
  </section>
{/if}
