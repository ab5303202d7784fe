<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { api, ok, sendPicture, thumb, type TakenIn } from '../api/client';
  import type { NamedFile } from '../lib/files';
  import { notices } from '../lib/notices.svelte';
  import { patiently } from '../lib/outbox.svelte';
  import { useProject } from '../lib/project-context';
  import WhereTheyStand from './WhereTheyStand.svelte';

  /** Files come in one by one; what is refused is told with its reason; the match to shots is shown before it is taken. */
  let { files, shot = null, onclose }: { files: NamedFile[]; shot?: string | null; onclose: () => void } = $props();
  const project = useProject();
  let done = $state(0);
  let stopped = $state(false);
  let taken = $state<TakenIn[]>([]);
  let target = $state<Record<string, string>>({});
  let reason = $state<Record<string, string>>({});
  let ready = $state(false);
  /** The takes that were made, while the user says who stands where in them. */
  let standing = $state<string[] | null>(null);
  const good = $derived(taken.filter((t) => t.sha));
  const bad = $derived(taken.filter((t) => !t.sha));
  const placed = $derived(good.filter((t) => target[t.name]));
  const sorted = $derived([...good].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })));

  onMount(async () => {
    const waiting = [...files];
    const work = async () => {
      for (let next = waiting.shift(); next && !stopped; next = waiting.shift()) {
        taken.push(await sent(next));
        done++;
      }
    };
    await Promise.all([work(), work(), work()]);
    if (stopped) return;
    await match();
    ready = true;
  });

  async function sent({ file, name }: NamedFile): Promise<TakenIn> {
    try {
      return await patiently(() => sendPicture(project.id, file, name), () => stopped);
    } catch (error) {
      return { name, sha: null, width: 0, height: 0, refused: (error as Error).message };
    }
  }

  async function match() {
    if (shot) {
      for (const t of good) {
        target[t.name] = shot;
        reason[t.name] = 'dropped on this shot';
      }
      return;
    }
    try {
      const proposals = await ok(
        api.POST('/api/projects/{project_id}/takes/propose', {
          params: { path: { project_id: project.id } },
          body: { files: good.map((t) => ({ name: t.name, sha: t.sha! })) },
        }),
      );
      for (const p of proposals) {
        target[p.name] = p.shot_id ?? '';
        reason[p.name] = p.reason;
      }
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async function accept() {
    const made = await project.send(() =>
      api.POST('/api/projects/{project_id}/takes', {
        params: { path: { project_id: project.id } },
        body: { files: placed.map((t) => ({ name: t.name, sha: t.sha!, shot_id: target[t.name]! })) },
      }),
    );
    if (!made) return;
    const takes = made.rows.take ?? [];
    if (takes.some((t) => somebodyToFind(t.shot_id))) standing = takes.map((t) => t.id);
    else onclose();
  }

  /** Whether the plan puts somebody into a shot whom references show. */
  function somebodyToFind(shot_id: string): boolean {
    return [...(project.beadsByShot.get(shot_id)?.keys() ?? [])].some((id) => {
      const kind = project.threads.get(id)?.kind;
      return (kind === 'character' || kind === 'prop') && project.referencesByThread.has(id);
    });
  }

  function close() {
    stopped = true;
    onclose();
  }
</script>

{#if standing}
  <WhereTheyStand takes={standing} {onclose} />
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
          {ready ? 'Which file belongs to which shot: mend what is wrong, then take them.' : `${done} of ${files.length} read`}
        </Dialog.Description>
        {#if !ready}<div class="mt-2 h-1 bg-hair"><div class="h-1 bg-pencil" style="width:{(100 * done) / files.length}%"></div></div>{/if}
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
            {#each sorted as t (t.name)}
              <tr class="border-b border-hair">
                <td class="w-[76px] py-1.5"><span class="well block h-[42px] w-[63px]"><img src={thumb(t.sha!)} alt="" class="size-full object-contain" /></span></td>
                <td class="max-w-[260px] truncate pr-3" title={t.name}>{t.name}<br /><span class="label">{t.width} × {t.height}</span></td>
                <td class="w-[250px]">
                  <select class="field {target[t.name] ? '' : '!border-red'}" bind:value={target[t.name]} aria-label="Shot of {t.name}">
                    <option value="">no shot: leave it out</option>
                    {#each project.order as s, i (s.id)}<option value={s.id}>{i + 1} · {s.shows.slice(0, 44)}</option>{/each}
                  </select>
                </td>
                <td class="label pl-3">{reason[t.name] ?? ''}</td>
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
