<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { thumb } from '../../api/client';
  import type { NamedFile } from '../../lib/files';
  import { useProject } from '../../lib/project-context';
  import { PicturesInState } from './pictures-in-state.svelte';
  import WhereTheyStand from './WhereTheyStand.svelte';

  /** Files come in one by one; what is refused is told with its reason; the match to shots is shown before it is taken. */
  let { files, shot = null, onclose }: { files: NamedFile[]; shot?: string | null; onclose: () => void } = $props();
  const project = useProject();
  // svelte-ignore state_referenced_locally
  const view = new PicturesInState(project, files, shot);
  const { good, bad, placed, ready } = $derived(view);
  onMount(() => void view.read());

  async function accept() {
    if (await view.accept()) onclose();
  }

  function close() {
    view.stop();
    onclose();
  }
</script>

{#if view.standing}
  <WhereTheyStand takes={view.standing} {onclose} />
{:else}
<Dialog.Root open onOpenChange={(open) => !open && close()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content
      class="pop fixed top-1/2 left-1/2 flex max-h-[88vh] w-[760px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 flex-col" data-pictures-in
      onkeydown={(e) => e.key === 'Enter' && ready && placed.length && !(e.target instanceof HTMLSelectElement) && (e.preventDefault(), accept())}
    >
      <div class="border-b border-hair px-6 py-4">
        <Dialog.Title class="font-book text-[18px] font-semibold">Pictures coming in</Dialog.Title>
        <Dialog.Description class="label">
          {ready ? 'Which file belongs to which shot: mend what is wrong, then take them.' : `${view.done} of ${files.length} read`}
        </Dialog.Description>
        {#if !ready}<div class="mt-2 h-1 bg-hair"><div class="h-1 bg-pencil" style="width:{(100 * view.done) / files.length}%"></div></div>{/if}
      </div>
      <div class="min-h-0 flex-1 overflow-y-auto px-6 py-3">
        {#if bad.length}
          <section class="mb-4 rounded-sm bg-redwash px-4 py-3">
            <h2 class="font-semibold text-red">Refused: {bad.length}</h2>
            {#each bad as t (t.name)}<p class="mt-1" data-refused={t.name}><b class="break-all">{t.name}</b>: {t.refused}</p>{/each}
          </section>
        {/if}
        <table class="w-full">
          <tbody>
            {#each view.sorted as t (t.name)}
              <tr class="border-b border-hair">
                <td class="w-[76px] py-1.5"><span class="well block h-[42px] w-[63px]"><img src={thumb(t.sha!)} alt="" class="size-full object-contain" /></span></td>
                <td class="max-w-[260px] py-1.5 pr-3" title={t.name}><!-- The end of a long name tells most: its number. --><span class="flex"><span class="truncate">{t.name.slice(0, -14)}</span><span class="shrink-0 whitespace-pre">{t.name.slice(-14)}</span></span><span class="label block">{t.width} × {t.height}{#if t.told}{' · '}<span data-told={t.name}>{t.told}</span>{/if}</span></td>
                <td class="w-[250px]">
                  <select class="field {view.target[t.name] ? '' : '!border-red'}" bind:value={view.target[t.name]} aria-label="Shot of {t.name}">
                    <option value="">no shot: leave it out</option>
                    {#each project.order as s, i (s.id)}<option value={s.id}>{i + 1} · {s.shows.slice(0, 44)}</option>{/each}
                  </select>
                </td>
                <td class="label pl-3">{view.reason[t.name] ?? ''}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <div class="flex items-center gap-3 border-t border-hair px-6 py-3">
        <button class="btn btn-main" disabled={!ready || !placed.length} onclick={accept} data-accept>Take {placed.length} {placed.length === 1 ? 'picture' : 'pictures'}</button>
        <button class="btn" onclick={close}>{ready ? 'Leave them' : 'Stop'}</button>
        {#if ready && good.length > placed.length}<span class="text-soft">{good.length - placed.length} without a shot stay out</span>{/if}
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
{/if}
