<script lang="ts">
  import type { Source } from '../api/client';
  import { useProject } from '../lib/project-context';
  import { router, VIEW_NAMES, VIEWS, type View } from '../lib/router.svelte';

  const project = useProject();
  /** Where what each room finds is looked at. */
  const LOOKED_AT: Partial<Record<View, Source[]>> = { story: ['plan'], models: ['reference'], briefs: ['brief', 'take'], continuity: ['check'], showings: ['viewer'] };
  /** A longer number has no room beside the longest name. */
  const MOST_SHOWN = 99;
  const open = (view: View) => (LOOKED_AT[view] ?? []).reduce((sum, source) => sum + project.findings[source].open.length, 0);
</script>

<nav class="flex w-[126px] shrink-0 flex-col border-r border-line pt-4" aria-label="Views">
  {#each VIEWS as view, i (view)}
    <button
      class="flex h-[35px] items-center justify-between border-l-[3px] pr-2.5 pl-[13px] text-left whitespace-nowrap {router.view === view
        ? 'border-pencil font-bold'
        : 'border-transparent text-soft hover:text-ink'}"
      aria-current={router.view === view ? 'page' : undefined}
      onclick={() => router.go(project.id, view)}
      title="{VIEW_NAMES[view]} ({i + 1} with Alt)"
    >
      {VIEW_NAMES[view]}
      {#if open(view)}<span class="ml-1 font-semibold text-red {open(view) > MOST_SHOWN ? 'text-[11px]' : ''}" title="{open(view)} to look at">{open(view) > MOST_SHOWN ? `${MOST_SHOWN}+` : open(view)}</span>{/if}
    </button>
  {/each}
</nav>
