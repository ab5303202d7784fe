<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, ok, thumb, type Schemas } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { round } from '../../lib/ledger.svelte';
  import { useProject } from '../../lib/project-context';
  import { counted } from '../../lib/words';

  /** The final pass: picked drafts made again in full, each held against its draft. */
  let { open = $bindable(false), onshow }: { open?: boolean; onshow: (shot: string, take: string) => void } = $props();
  const project = useProject();
  let pass = $state.raw<Schemas['FinalPass'] | null>(null);
  let trouble = $state('');
  const path = $derived({ project_id: project.id });
  const same = $derived((pass?.finals ?? []).filter((f) => f.ready && !f.differences.length && !f.picked));
  const other = $derived((pass?.finals ?? []).filter((f) => f.differences.length));
  const coming = $derived(project.queue.open.filter((j) => j.quality === 'final').length);

  $effect(() => {
    void [open, project.gauged, project.takes, coming];
    if (open) void load();
  });

  async function load() {
    try {
      pass = (await ok(api.GET('/api/projects/{project_id}/finals', { params: { path } }))) as Schemas['FinalPass'];
    } catch (error) {
      trouble = (error as Error).message;
    }
  }

  async function begin() {
    trouble = '';
    try {
      const got = await ok(api.POST('/api/projects/{project_id}/finals', { params: { path }, body: { shot_ids: null, service_id: null } }));
      notices.say(`${counted(got.job_ids.length, 'final')} asked for.`);
      project.queue.told();
      void load();
    } catch (error) {
      trouble = (error as Error).message;
    }
  }

  async function pick() {
    await project.send(() => api.POST('/api/projects/{project_id}/finals/pick', { params: { path } }));
    void load();
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[720px] -translate-x-1/2 -translate-y-1/2 flex-col p-6" data-final-pass>
      <Dialog.Title class="font-book text-[18px] font-semibold">Final pass</Dialog.Title>
      <Dialog.Description class="label mb-3">Picked drafts are made again in full, with the same words, references and seed; then each final is held against its draft.</Dialog.Description>
      {#if trouble}<p class="mb-2 border-l-4 border-red pl-3 text-red" role="alert">{trouble}</p>{/if}
      {#if pass}
        <div class="flex items-center gap-3 border-y border-hair py-2">
          <p class="flex-1">
            {#if pass.drafts.length}<strong>{counted(pass.drafts.length, 'picked draft')}</strong> without a final, about {round(pass.credits)} credits.
            {:else if coming}{counted(coming, 'final')} being made.
            {:else if pass.finals.length}{same.length ? `${counted(same.length, 'final')} came out as ${same.length === 1 ? 'its draft' : 'their drafts'}. ` : 'Every picked draft has its final. '}{other.length ? `${counted(other.length, 'final')} came out another picture.` : ''}
            {:else}No draft is picked yet. Pick drafts that a service made; their finals are made here.{/if}
          </p>
          {#if pass.drafts.length}<button class="btn {same.length ? '' : 'btn-main'}" onclick={begin} data-begin-finals>Make {counted(pass.drafts.length, 'final')}</button>{/if}
          {#if same.length}<button class="btn btn-main" onclick={pick} data-pick-finals>Pick {same.length === 1 ? 'it' : 'them'}</button>{/if}
        </div>
        <ul class="min-h-0 flex-1 overflow-y-auto">
          {#each pass.finals as f (f.final_id)}
            <li class="grid grid-cols-[32px_120px_120px_1fr_auto] items-center gap-3 border-b border-hair py-2">
              <span class="font-book text-[16px]">{f.number}</span>
              {#each [f.draft_id, f.final_id] as id (id)}
                {#if project.takes.get(id)}<img class="well h-[80px] w-[120px] object-contain" src={thumb(project.takes.get(id)!.picture_sha)} alt={id === f.draft_id ? 'Draft' : 'Final'} />{:else}<span class="well h-[80px] w-[120px]"></span>{/if}
              {/each}
              <span>
                {#if !f.ready}<span class="text-soft">being measured …</span>
                {:else if f.differences.length}{#each f.differences as d (d)}<span class="block text-red">{d}</span>{/each}
                {:else}the draft in full{/if}
                {#if f.picked}<span class="label block">picked</span>{/if}
              </span>
              <button class="quiet" onclick={() => { open = false; onshow(f.shot_id, f.final_id); }}>Look</button>
            </li>
          {/each}
        </ul>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
