<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, ok, type HistoryEntry } from '../api/client';
  import { notices } from '../lib/notices.svelte';
  import { useProject } from '../lib/project-context';

  /** Everything that was done, newest first; any point can be gone back to. */
  let { open = $bindable(false) }: { open?: boolean } = $props();
  const project = useProject();
  let entries = $state.raw<HistoryEntry[]>([]);
  const here = $derived(entries.find((e) => !e.undone)?.id ?? 0);
  const time = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

  $effect(() => {
    void [open, project.version, project.undoLabel, project.redoLabel];
    if (open) void load();
  });

  async function load() {
    try {
      entries = await ok(api.GET('/api/projects/{project_id}/history', { params: { path: { project_id: project.id } } }));
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  /** What is clicked while the project still goes somewhere follows it: only then it is known where it stands. */
  let going: Promise<void> = Promise.resolve();
  const go = (id: number) => (going = going.then(() => step(id)));

  async function step(id: number) {
    if (id === here) return;
    const done = await project.send(() => api.POST('/api/projects/{project_id}/history/{change_id}', { params: { path: { project_id: project.id, change_id: id } } }));
    if (done) await load();
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/10" />
    <Dialog.Content class="pop fixed inset-y-0 right-0 flex w-[360px] flex-col rounded-none p-5 outline-none" tabindex={-1} onOpenAutoFocus={(e) => { e.preventDefault(); (e.currentTarget as HTMLElement | null)?.focus(); }} data-history>
      <Dialog.Title class="font-book text-[18px] font-semibold">History</Dialog.Title>
      <Dialog.Description class="label mb-3">A click goes to the state right after that step. What is undone can be done again until something new is done.</Dialog.Description>
      <ol class="min-h-0 flex-1 overflow-y-auto">
        {#each entries as e (e.id)}
          <li>
            <button class="flex w-full items-baseline gap-3 border-l-[3px] py-1.5 pl-3 text-left hover:bg-wash {e.id === here ? 'border-pencil font-semibold' : 'border-transparent'} {e.undone ? 'text-soft line-through' : ''}" onclick={() => go(e.id)}>
              <span class="min-w-0 flex-1 first-letter:uppercase">{e.label}</span><span class="label text-right whitespace-nowrap">{#if e.by}{e.by}<br />{/if}{time.format(new Date(e.at))}</span>
            </button>
          </li>
        {/each}
        <li><button class="w-full border-l-[3px] py-1.5 pl-3 text-left text-soft hover:bg-wash {here === 0 ? 'border-pencil font-semibold' : 'border-transparent'}" onclick={() => go(0)}>The beginning</button></li>
      </ol>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
