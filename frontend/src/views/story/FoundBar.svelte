<script lang="ts">
  import { useProject } from '../../lib/project-context';
  import type { StoryState } from './story-state.svelte';

  /** Who and what the text names that is no thread yet: in blue pencil, one click makes it one. What only might be somebody is offered behind a question. */
  let { story }: { story: StoryState } = $props();
  const project = useProject();
  let hidden = $state(false);
  let doubtful = $state(false);
  const found = $derived(project.reading?.found ?? []);
  const KINDS = { character: 'who', setting: 'where', prop: 'with what' } as const;
  const groups = $derived(
    (['character', 'setting', 'prop'] as const)
      .map((kind) => ({ kind, all: found.filter((f) => f.kind === kind && (f.sure || doubtful) && (kind !== 'prop' || f.mentions > 1)).slice(0, doubtful ? 30 : 12) }))
      .filter((g) => g.all.length),
  );
  const offered = $derived(found.filter((f) => !f.sure && f.kind !== 'prop').length);
  const sure = $derived(found.filter((f) => f.sure && f.kind !== 'prop' && !f.members.length)); // of a group its members run through the story
</script>

{#if (groups.length || offered) && !hidden}
  <div class="flex max-h-[132px] shrink-0 flex-wrap items-center gap-x-1.5 gap-y-1 overflow-y-auto border-t border-hair px-4 py-1.5" data-found>
    <span class="label">In the text:</span>
    {#each groups as g (g.kind)}
      <span class="label ml-1">{KINDS[g.kind]}</span>
      {#each g.all as f (f.name)}
        <button
          class="rounded-sm border px-1.5 text-[12.5px] leading-[20px] text-pencil hover:bg-wash {f.sure ? 'border-pencil' : 'border-dashed border-pencil'}"
          onclick={() => story.makeThreads([{ kind: g.kind, name: f.name }])}
          title="{f.sure ? '' : 'Perhaps. '}Make a thread; it runs where the text names it{f.members.length ? `. A group: ${f.members.join(', ')}` : ''}"
          data-candidate={f.name}
        >{f.name}{#if !f.sure}?{/if} {#if f.members.length}<span class="text-soft">= {f.members.join(', ')}</span>{:else}<span class="text-soft">{f.mentions}</span>{/if}</button>
      {/each}
    {/each}
    {#if offered}<button class="quiet" onclick={() => (doubtful = !doubtful)} data-doubtful>{doubtful ? 'Only the sure ones' : `${offered} more, perhaps`}</button>{/if}
    {#if sure.length > 1}<button class="quiet" onclick={() => story.makeThreads(sure.map((f) => ({ kind: f.kind, name: f.name })))} data-make-all>Make all {sure.length} of who and where</button>{/if}
    <button class="quiet ml-auto" onclick={() => (hidden = true)}>Not now</button>
  </div>
{/if}
