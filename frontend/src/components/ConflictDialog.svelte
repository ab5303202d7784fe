<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { useProject } from '../lib/project-context';
  import type { Rows } from '../api/client';

  const project = useProject();
  const states = $derived(project.conflict);
  const fields = $derived(
    states ? Object.keys(states.mine).filter((k) => k !== 'revision' && JSON.stringify(states.mine[k]) !== JSON.stringify(states.theirs[k])) : [],
  );

  function keepTheirs() {
    const theirs = states?.theirs;
    project.conflict = null;
    if (theirs && 'shows' in theirs) project.apply({ ...blank(), rows: { shot: [theirs] } as unknown as Rows });
    else void project.load();
  }

  const blank = () => ({
    project_id: project.id, change_id: project.changeId, label: '', gone: {}, pictures: [],
    undo_label: project.undoLabel, redo_label: project.redoLabel,
  });
</script>

<Dialog.Root open={states !== null} onOpenChange={(open) => !open && keepTheirs()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 w-[640px] -translate-x-1/2 -translate-y-1/2 p-6">
      <Dialog.Title class="font-book text-[18px] font-semibold">Changed by somebody else meanwhile</Dialog.Title>
      <Dialog.Description class="mb-4 text-soft">Nothing is lost: your words are below. To keep yours, copy them, take the other version and change it again.</Dialog.Description>
      {#each fields as field (field)}
        <p class="label mt-2">{field.replace('_s', '')}</p>
        <div class="grid grid-cols-2 gap-3">
          <div class="rounded-sm border border-line p-2"><span class="label">yours</span><br /><span class="select-all">{states?.mine[field]}</span></div>
          <div class="rounded-sm border border-line p-2"><span class="label">theirs</span><br />{states?.theirs[field]}</div>
        </div>
      {/each}
      <button class="btn btn-main mt-5" onclick={keepTheirs}>Take the other version</button>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
