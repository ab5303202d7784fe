<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { useProject } from '../lib/project-context';

  const project = useProject();
  const states = $derived(project.edits.conflict);
  const told = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value));
  const fields = $derived(
    states ? Object.keys(states.mine).filter((k) => k !== 'revision' && JSON.stringify(states.mine[k]) !== JSON.stringify(states.theirs[k])) : [],
  );

  /** What was written here goes over the other version, as a change of its own. */
  function keepMine() {
    const held = states;
    project.edits.conflict = null;
    void project.edits.keepMine(held);
  }

  function keepTheirs() {
    states?.settled?.();
    project.edits.conflict = null;
    void project.clock.catchUp().catch(() => undefined);
  }
</script>

<Dialog.Root open={states !== null} onOpenChange={(open) => !open && keepTheirs()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 w-[640px] -translate-x-1/2 -translate-y-1/2 p-6">
      <Dialog.Title class="font-book text-[18px] font-semibold">Changed by somebody else meanwhile</Dialog.Title>
      <Dialog.Description class="mb-4 text-soft">Nothing is lost: both versions are below. Keep yours over it, or take the other one; undo brings either back.</Dialog.Description>
      {#each fields as field (field)}
        <p class="label mt-2">{field.replace('_s', '')}</p>
        <div class="grid grid-cols-2 gap-3">
          <div class="max-h-[32vh] overflow-y-auto rounded-sm border border-line p-2"><span class="label">yours</span><br /><span class="whitespace-pre-wrap select-all">{told(states?.mine[field])}</span></div>
          <div class="max-h-[32vh] overflow-y-auto rounded-sm border border-line p-2"><span class="label">theirs</span><br /><span class="whitespace-pre-wrap select-all">{told(states?.theirs[field])}</span></div>
        </div>
      {/each}
      <div class="mt-5 flex gap-2">
        <button class="btn btn-main" onclick={keepMine}>Keep mine</button>
        <button class="btn" onclick={keepTheirs}>Take the other version</button>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
