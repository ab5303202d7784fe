<script lang="ts">
  import { api, ok, type Schemas, type Thread } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';

  /** A style's palette from its pictures, weighed; a colour can be kept for one character alone. */
  let { thread, stamp }: { thread: Thread; stamp: string } = $props();
  const project = useProject();
  let swatches = $state.raw<Schemas['Swatch'][]>([]);
  const characters = $derived(project.columns.filter((t) => t.kind === 'character'));
  let fresh = $state('#dba326');
  let owner = $state('');

  $effect(() => {
    void stamp;
    const thread_id = thread.id;
    ok(api.GET('/api/projects/{project_id}/threads/{thread_id}/palette', { params: { path: { project_id: project.id, thread_id } } }))
      .then((got) => thread_id === thread.id && (swatches = got))
      .catch((error: Error) => notices.say(error.message, 'trouble'));
  });

  function keep(kept_colours: Thread['kept_colours']) {
    const { id } = thread;
    void project.edit(thread, (revision) =>
      api.PATCH('/api/projects/{project_id}/threads/{thread_id}', {
        params: { path: { project_id: project.id, thread_id: id } },
        body: { kept_colours, revision },
      }),
    );
  }
</script>

<div class="p-4" data-palette>
  <h2 class="mb-2 font-semibold">Palette of its pictures</h2>
  <div class="flex h-14 w-full">
    {#each swatches as s (s.hex)}<span style="background:{s.hex};flex:{s.share} 0 0" title="{s.hex}, {Math.round(s.share * 100)} %"></span>{/each}
  </div>
  <div class="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[12px]">
    {#each swatches as s (s.hex)}
      <span class="flex items-center gap-1.5"><span class="inline-block size-4 border border-black/20" style="background:{s.hex}"></span>{s.hex}<span class="text-soft">{Math.round(s.share * 100)} %</span></span>
    {/each}
  </div>
  {#if thread.kind === 'style'}
    <h2 class="mt-6 mb-1 font-semibold">Colours kept for one character</h2>
    <p class="label mb-2">If anything else in a picture wears such a colour, the check tells.</p>
    {#each thread.kept_colours as kept, i (i)}
      <div class="flex items-center gap-2 py-1">
        <span class="inline-block size-5 border border-black/20" style="background:{kept.hex}"></span>{kept.hex}
        <span class="text-soft">for</span>{project.threads.get(kept.thread_id)?.name ?? '?'}
        <button class="quiet px-1" onclick={() => keep(thread.kept_colours.filter((_, k) => k !== i))} aria-label="Remove">×</button>
      </div>
    {/each}
    {#if characters.length}
      <div class="mt-2 flex items-center gap-2">
        <input type="color" bind:value={fresh} class="h-7 w-9 border border-line" aria-label="Colour" />
        <select class="field !w-44" bind:value={owner} aria-label="Character"><option value="">for whom?</option>{#each characters as c (c.id)}<option value={c.id}>{c.name}</option>{/each}</select>
        <button class="btn" disabled={!owner} onclick={() => keep([...thread.kept_colours, { thread_id: owner, hex: fresh }])}>Keep it</button>
      </div>
    {/if}
  {/if}
</div>
