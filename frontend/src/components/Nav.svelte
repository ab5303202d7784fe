<script lang="ts">
  import { useProject } from '../lib/project-context';
  import { router, VIEW_NAMES, VIEWS } from '../lib/router.svelte';

  const project = useProject();
</script>

<nav class="flex w-[116px] shrink-0 flex-col border-r border-line pt-4" aria-label="Views">
  {#each VIEWS as view, i (view)}
    <button
      class="flex h-[35px] items-center justify-between border-l-[3px] pr-3 pl-[13px] text-left {router.view === view
        ? 'border-pencil font-bold'
        : 'border-transparent text-soft hover:text-ink'}"
      aria-current={router.view === view ? 'page' : undefined}
      onclick={() => router.go(project.id, view)}
      title="{VIEW_NAMES[view]} ({i + 1} with Alt)"
    >
      {VIEW_NAMES[view]}
      {#if view === 'briefs' && project.findings.brief.open.length}<span class="font-semibold text-red">{project.findings.brief.open.length}</span>{/if}
      {#if view === 'continuity' && project.findings.check.open.length}<span class="font-semibold text-red">{project.findings.check.open.length}</span>{/if}
    </button>
  {/each}
</nav>
