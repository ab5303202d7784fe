<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onDestroy } from 'svelte';
  import Choice from '../../components/Choice.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import ServiceList from '../../components/ServiceList.svelte';
  import { MakeTakesState } from './make-takes-state.svelte';

  /** Ask a service for takes: of which shots, how many, by whom, what it costs, and what is to be mended first. */
  let { open = $bindable(false), shots = [], onclose }: { open?: boolean; shots?: string[]; onclose?: () => void } = $props();
  const project = useProject();
  // svelte-ignore state_referenced_locally
  const make = new MakeTakesState(project, shots);
  const credits = new Intl.NumberFormat(undefined, { maximumFractionDigits: 1 });
  let settings = $state(false);
  const offer = $derived(make.offer);
  const left = $derived(offer?.month.allowance == null ? null : offer.month.allowance - offer.month.spent - offer.month.bound);

  $effect(() => make.follow());
  onDestroy(() => make.close());

  async function order(event: Event) {
    event.preventDefault();
    const wanted = make.going * make.count;
    if (!(await make.make())) return;
    notices.say(`${counted(wanted, 'take')} asked for. They come here as they are made.`);
    open = false;
    onclose?.();
  }

  function mend(shot: string) {
    project.currentId = shot;
    open = false;
    onclose?.();
    router.go(project.id, 'briefs');
  }
</script>

<Dialog.Root bind:open onOpenChange={(now) => !now && onclose?.()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[620px] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto p-6" data-make-takes>
      <Dialog.Title class="mb-1 font-book text-[18px] font-semibold">{!make.services.length || settings ? 'Services' : 'Make takes'}</Dialog.Title>
      {#if !make.services.length || settings}
        <Dialog.Description class="label mb-4">Who makes the pictures. The Understudy ships with Juxtaform and simulates a service on this machine; others are added by their address.</Dialog.Description>
        <ServiceList />
        {#if make.services.length}<div class="mt-4 flex justify-end"><button class="btn btn-main" onclick={() => (settings = false)}>Back to the order</button></div>{/if}
      {:else}
        <Dialog.Description class="label mb-4">Each shot’s brief goes out as it stands, with its references.</Dialog.Description>
        <form onsubmit={order} class="flex flex-col gap-3">
          <div class="grid grid-cols-[84px_1fr] items-center gap-x-3 gap-y-2.5">
            <span class="label">Of</span>
            <Choice value={make.scope} options={make.scopes.map((s) => [s.scope, s.name] as const)} label="Of which shots" onchoose={(v) => (make.scope = v)} />
            <label class="label" for="mt-count">Takes each</label>
            <input id="mt-count" class="field !w-20" type="number" min="1" max="40" required bind:value={make.count} />
            <label class="label" for="mt-service">By</label>
            <div class="flex items-center gap-2">
              <select id="mt-service" class="field" value={make.service?.id} onchange={(e) => (make.serviceId = e.currentTarget.value)}>
                {#each make.services as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
              </select>
              {#if make.models.length > 1}
                <select class="field" aria-label="Model" value={make.model?.id} onchange={(e) => (make.modelId = e.currentTarget.value)}>{#each make.models as m (m.id)}<option value={m.id}>{m.name}</option>{/each}</select>
              {/if}
              <button type="button" class="quiet whitespace-nowrap" onclick={() => (settings = true)}>Services …</button>
            </div>
            <span class="label">As</span>
            <Choice value={make.quality} options={(make.model?.qualities ?? []).map((q) => [q.id, `${q.id}, ${q.side_px} px, ${counted(q.credits, 'credit')} each`] as const)} label="Draft or final" onchoose={(v) => (make.quality = v)} />
          </div>
          {#if make.view && !make.view.can}
            <p class="border-l-4 border-red pl-3 text-red" role="alert">{make.view.trouble || 'This service was not asked yet what it can do.'} <button type="button" class="underline" onclick={() => (settings = true)}>Services …</button></p>
          {:else if make.trouble}
            <p class="border-l-4 border-red pl-3 text-red" role="alert">{make.trouble}</p>
          {:else if offer}
            {#if make.held.length}
              <section class="border-t border-hair pt-3" data-held-back>
                <h3 class="font-semibold">{make.asItIs ? 'Goes out with these concerns' : `Stays back: ${counted(make.held.length, 'shot')}`}</h3>
                <ul class="mt-1 max-h-[180px] overflow-y-auto">
                  {#each make.held as s (s.shot_id)}
                    <li class="flex items-baseline gap-3 py-0.5"><button type="button" class="w-8 shrink-0 text-left font-book underline" onclick={() => mend(s.shot_id)} title="To its brief">{s.number}</button><span class="min-w-0 flex-1">{s.held_back.join('; ')}</span></li>
                  {/each}
                </ul>
                <label class="mt-1 flex items-center gap-2"><input type="checkbox" bind:checked={make.asItIs} />Send them all the same</label>
              </section>
            {/if}
            {#if make.shortened.length}
              <details class="border-t border-hair pt-2"><summary class="cursor-pointer">Left out of {counted(make.shortened.length, 'brief')}, to fit what {make.service?.name} takes</summary>
                <ul class="mt-1 max-h-[140px] overflow-y-auto">{#each make.shortened as s (s.shot_id)}<li class="flex gap-3 py-0.5"><span class="w-8 shrink-0 font-book">{s.number}</span><span class="min-w-0 flex-1">{s.left_out.join(' ')}</span></li>{/each}</ul>
              </details>
            {/if}
            <p class="border-t border-hair pt-3" data-offer>
              <strong>{counted(make.going * make.count, 'take')}</strong> of {counted(make.going, 'shot')}, <strong>{credits.format(offer.credits)} credits</strong>{left === null ? '' : ` of ${credits.format(left)} left this month`}.
              {#if offer.over > 0}<span class="text-red">{credits.format(offer.over)} credits are over the allowance: those jobs wait for your yes.</span>{/if}
            </p>
          {/if}
          <div class="flex justify-end gap-2"><button type="button" class="quiet" onclick={() => (open = false)}>Not now</button><button class="btn btn-main" disabled={!offer || !make.going || make.busy} data-make>Make them</button></div>
        </form>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
