<script lang="ts">
  import { duration } from '../lib/order';
  import { useProject } from '../lib/project-context';
  import { router } from '../lib/router.svelte';
  import { theme } from '../lib/theme.svelte';
  import LedgerPanel from './LedgerPanel.svelte';
  import OwnAccount from './OwnAccount.svelte';
  import PeoplePanel from './people/PeoplePanel.svelte';
  import QueuePanel from './QueuePanel.svelte';
  import Wordmark from './Wordmark.svelte';

  let { onkeys, onhistory }: { onkeys: () => void; onhistory: () => void } = $props();
  const project = useProject();
  const running = $derived(project.check.status.state === 'running' || project.check.status.state === 'queued');
  const part = $derived(project.check.status.total ? project.check.status.done / project.check.status.total : 0);

  const decided = $derived.by(() => {
    const { again, stood } = project.findings.check;
    return [again.length ? `${again.length} retake` : '', stood.length ? `${stood.length} stet` : ''].filter(Boolean).join(' · ');
  });

  function rename(event: Event) {
    const field = event.target as HTMLInputElement;
    const title = field.value.trim();
    // What was refused, and what is empty, does not stay in the field.
    if (title && title !== project.title) void project.editProject({ title }).finally(() => (field.value = project.title));
    else field.value = project.title;
  }
</script>

<header class="flex h-12 shrink-0 items-center gap-3 border-b border-line px-[18px]">
  <button onclick={() => router.go(null)} title="All projects" class="rounded-sm"><Wordmark /></button>
  <span class="h-4 w-px bg-line"></span>
  <input
    class="plainselect max-w-[340px] min-w-[190px] truncate font-book text-[16px] font-semibold"
    aria-label="Title"
    value={project.title}
    onchange={rename}
    onkeydown={(e) => e.key === 'Enter' && (e.target as HTMLElement).blur()}
  />
  <!-- It stands there whole, or not at all: where there is no room it falls into a line below that is not shown. -->
  <span class="flex h-6 min-w-0 flex-1 flex-wrap overflow-hidden leading-6 text-soft"><span class="h-6 w-0"></span><span class="h-6 whitespace-nowrap">
    {project.order.length} {project.order.length === 1 ? 'shot' : 'shots'}{project.order.length ? ` · ${duration(project.length_s)}` : ''}{project.target_s
      ? ` of ${duration(project.target_s)}`
      : ''}
  </span></span>
  {#if project.reviews}
    <span class="shrink-0 rounded-sm border border-line px-2 text-soft" title="You may look at everything here. To change something, ask an owner of the project to make you an illustrator." data-reviews>You review this</span>
  {:else}
  <button class="quiet max-w-[200px] min-w-[84px] truncate" disabled={!project.undoLabel} onclick={() => project.undo()} title="Ctrl+Z">
    {project.undoLabel ? `Undo “${project.undoLabel}”` : 'Nothing to undo'}
  </button>
  {#if project.redoLabel}
    <button class="quiet" onclick={() => project.redo()} title="Ctrl+Shift+Z: {project.redoLabel}">Redo</button>
  {/if}
  {/if}
  <PeoplePanel />
  <LedgerPanel />
  <QueuePanel />
  {#if project.findings.check.open.length}
    <button class="rounded-sm px-1 font-semibold whitespace-nowrap text-red" onclick={() => router.go(project.id, 'continuity')}>{project.findings.check.open.length} to look at</button>
  {:else if project.check.status.state === 'done' && !project.staleCheck}
    <span class="whitespace-nowrap text-soft">all holds</span>
  {/if}
  {#if decided}<span class="whitespace-nowrap text-soft">{decided}</span>{/if}
  <button class="quiet shrink-0" onclick={onhistory} title="Everything that was done (H)">History</button>
  <button class="quiet shrink-0" onclick={() => theme.turn()} title="Light or dark surroundings">{theme.now === 'dark' ? 'Light' : 'Dark'}</button>
  <button class="quiet shrink-0" onclick={onkeys} title="Keys (?)">?</button>
  <OwnAccount short />
  {#if running}
    <button class="btn relative w-[148px] overflow-hidden" onclick={() => project.check.stop()} data-check="stop">
      <span class="absolute inset-y-0 left-0 bg-wash" style="width:{part * 100}%"></span>
      <span class="relative">{project.check.status.done} of {project.check.status.total} · Stop</span>
    </button>
  {:else if !project.reviews}
    <button
      class="btn relative"
      onclick={() => project.check.start()}
      data-check="start"
      title={project.staleCheck ? 'Something changed since the last check (C)' : 'Check all pictures against their threads (C)'}
      >Check{#if project.staleCheck}<span class="absolute -top-1 -right-1 size-2.5 rounded-full border-2 border-paper bg-pencil"></span>{/if}</button
    >
  {/if}
</header>
