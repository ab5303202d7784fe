<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { api, ok, type Take } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { counted } from '../../lib/words';

  /** Make takes that go on from one: with the same words, or with one phrase changed. */
  let { open = $bindable(false), take, number }: { open?: boolean; take: Take; number: number } = $props();
  const project = useProject();
  let phrases = $state.raw<[string, string][]>([]);
  let key = $state('');
  let now = $state('');
  let count = $state(4);
  let seed = $state<'same' | 'other'>('other');
  let quality = $state<'draft' | 'final'>('draft');
  let fromPicture = $state(false);
  let trouble = $state('');

  onMount(async () => {
    const got = await ok(api.GET('/api/projects/{project_id}/takes/{take_id}/words', { params: { path: { project_id: project.id, take_id: take.id } } })).catch(() => []);
    phrases = (got as [string, string][]).filter(([k, words]) => words && !k.startsWith('hold:'));
  });

  function choose(k: string) {
    key = k;
    now = phrases.find(([p]) => p === k)?.[1] ?? '';
    if (k) seed = 'same';
  }

  async function make(event: Event) {
    event.preventDefault();
    trouble = '';
    try {
      const body = { count, quality, same_seed: seed === 'same', key: key || null, now, from_picture: fromPicture, service_id: null, model: '' };
      await ok(api.POST('/api/projects/{project_id}/takes/{take_id}/remake', { params: { path: { project_id: project.id, take_id: take.id } }, body }));
      project.queue.told();
      notices.say(`${counted(count, 'take')} asked for, from take ${number}.`);
      open = false;
    } catch (error) {
      trouble = (error as Error).message;
    }
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[560px] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto p-6" data-remake>
      <Dialog.Title class="font-book text-[18px] font-semibold">Go on from take {number}</Dialog.Title>
      <Dialog.Description class="label mb-4">Same references, same weights; all words stay but the phrase that you change.</Dialog.Description>
      <form onsubmit={make} class="flex flex-col gap-3">
        <div class="grid grid-cols-[84px_1fr] items-center gap-x-3 gap-y-2.5">
          <label class="label" for="rm-phrase">Change</label>
          <select id="rm-phrase" class="field" value={key} onchange={(e) => choose(e.currentTarget.value)}>
            <option value="">no word</option>{#each phrases as [k, words] (k)}<option value={k}>{words.length > 60 ? `${words.slice(0, 58)} …` : words}</option>{/each}
          </select>
          {#if key}<label class="label self-start pt-1" for="rm-now">to</label><textarea id="rm-now" class="field resize-none font-book" rows="3" bind:value={now}></textarea>{/if}
          <label class="label" for="rm-count">Takes</label><input id="rm-count" class="field !w-20" type="number" min="1" max="40" required bind:value={count} />
          <span class="label">Seeds</span><Choice value={seed} options={[['same', 'from its own on'], ['other', 'others']]} label="Seeds" onchoose={(v) => (seed = v)} />
          <span class="label">As</span><Choice value={quality} options={[['draft', 'draft'], ['final', 'final']]} label="Draft or final" onchoose={(v) => (quality = v)} />
        </div>
        <label class="flex items-center gap-2"><input type="checkbox" bind:checked={fromPicture} />Send the picture too, to be worked on from</label>
        {#if trouble}<p class="border-l-4 border-red pl-3 text-red" role="alert">{trouble}</p>{/if}
        <div class="flex justify-end gap-2"><button type="button" class="quiet" onclick={() => (open = false)}>Not now</button><button class="btn btn-main">Make {counted(count, 'take')}</button></div>
      </form>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
