<script lang="ts">
  import { useProject } from '../../lib/project-context';
  import type { StoryState } from './story-state.svelte';

  /** Who and what the text names that is no thread yet: in blue pencil, one click makes it one. */
  let { story }: { story: StoryState } = $props();
  const project = useProject();
  let hidden = $state(false);
  const found = $derived(project.reading?.found ?? []);
  const KINDS = { character: 'who', setting: 'where', prop: 'with what' } as const;
  const groups = $derived((['character', 'setting', 'prop'] as const).map((kind) => ({ kind, all: found.filter((f) => f.kind === kind && (kind === 'character' || f.mentions > 1)).slice(0, 8) })).filter((g) => g.all.length));
  const people = $derived(found.filter((f) => f.kind !== 'prop' && f.mentions > 1));
</script>

{#if groups.length && !hidden}
  <div class="flex shrink-0 flex-wrap items-center gap-x-1.5 gap-y-1 border-t border-hair px-4 py-1.5" data-found>
    <span class="label">In the text:</span>
    {#each groups as g (g.kind)}
      <span class="label ml-1">{KINDS[g.kind]}</span>
      {#each g.all as f (f.name)}
        <button class="rounded-sm border border-dashed border-pencil px-1.5 text-[12.5px] leading-[20px] text-pencil hover:bg-wash" onclick={() => story.makeThreads([{ kind: g.kind, name: f.name }])} title="Make a thread; it runs where the text names it">{f.name} <span class="opacity-70">{f.mentions}</span></button>
      {/each}
    {/each}
    {#if people.length > 1}<button class="quiet" onclick={() => story.makeThreads(people.map((f) => ({ kind: f.kind, name: f.name })))} data-make-all>Make the {people.length} named twice or more</button>{/if}
    <button class="quiet ml-auto" onclick={() => (hidden = true)}>Not now</button>
  </div>
{/if}
