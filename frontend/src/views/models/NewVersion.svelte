<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { PICTURES, brought } from '../../lib/pictures';
  import { api, ok, thumb, type Reference } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { ranges } from '../../lib/order';
  import { useProject } from '../../lib/project-context';

  /** A new version in a reference's place, everywhere or from a shot on; what would become stale is shown before. */
  let { reference, onclose }: { reference: Reference; onclose: () => void } = $props();
  const project = useProject();
  let taken = $state<{ sha: string; name: string } | null>(null);
  let from = $state<string | null>(null);
  let stale = $state.raw<string[]>([]);
  const usable = $derived(project.order.slice(1));

  $effect(() => {
    const query = from ? { from_shot_id: from } : {};
    ok(api.GET('/api/projects/{project_id}/references/{reference_id}/stale', { params: { path: { project_id: project.id, reference_id: reference.id }, query } }))
      .then((got) => (stale = got as string[]))
      .catch((error: Error) => notices.say(error.message, 'trouble'));
  });

  async function choose(files: FileList | null) {
    const file = files?.[0];
    if (!file) return;
    const sha = await brought(project.id, file);
    if (sha) taken = { sha, name: file.name };
  }

  async function replace() {
    const { sha, name } = taken!;
    const done = await project.send(() =>
      api.POST('/api/projects/{project_id}/references/{reference_id}/replace', {
        params: { path: { project_id: project.id, reference_id: reference.id } }, body: { sha, name, from_shot_id: from },
      }),
    );
    if (done) onclose();
  }
</script>

<Dialog.Root open onOpenChange={(now) => !now && onclose()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 z-50 w-[560px] -translate-x-1/2 -translate-y-1/2 p-6" data-new-version>
      <Dialog.Title class="font-book text-[18px] font-semibold">A new version of {project.threads.get(reference.thread_id)?.name}, {reference.name}</Dialog.Title>
      <Dialog.Description class="label mb-4">The old one is kept, and goes on where the new one does not hold.</Dialog.Description>
      <div class="mb-4 flex items-center gap-4">
        <span class="well size-[150px]"><img src={thumb(reference.picture_sha)} alt="Now" class="size-full object-contain" /></span>
        <span class="text-[20px] text-soft">→</span>
        {#if taken}<span class="well size-[150px]"><img src={thumb(taken.sha)} alt="New" class="size-full object-contain" /></span>
        {:else}<label class="grid size-[150px] cursor-pointer place-items-center border border-dashed border-pencil text-center"><span class="btn">Choose …</span><input type="file" accept={PICTURES} class="sr-only" data-choose="version" onchange={(e) => choose(e.currentTarget.files)} /></label>{/if}
      </div>
      <div class="mb-3 flex items-center gap-3">
        <label class="flex items-center gap-2"><input type="radio" name="where" checked={from === null} onchange={() => (from = null)} />everywhere</label>
        <label class="flex items-center gap-2"><input type="radio" name="where" checked={from !== null} disabled={!usable.length} onchange={() => (from = (project.currentIndex > 0 ? project.currentId : usable[0]?.id) ?? null)} />from shot</label>
        <select class="field !w-[240px]" disabled={from === null} value={from ?? ''} aria-label="From shot" onchange={(e) => (from = e.currentTarget.value)}>
          {#each usable as s (s.id)}<option value={s.id}>{project.number(s.id)} · {s.shows.slice(0, 40)}</option>{/each}
        </select>
      </div>
      <p class="mb-5 border-l-[3px] pl-3 {stale.length ? 'border-red' : 'border-hair'}" data-would-be-stale>
        {#if stale.length}<b>{stale.length} {stale.length === 1 ? 'picture' : 'pictures'} would become stale:</b> {stale.length === 1 ? 'shot' : 'shots'} {ranges(stale.map((id) => project.number(id)))}. A retake or a stet clears them.
        {:else}No picture was made from it there: nothing becomes stale.{/if}
      </p>
      <div class="flex justify-end gap-2"><button class="btn" onclick={onclose}>Leave it</button><button class="btn btn-main" disabled={!taken} onclick={replace}>Replace {from ? `from shot ${project.number(from)} on` : 'everywhere'}</button></div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
