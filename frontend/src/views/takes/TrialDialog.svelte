<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { round } from '../../lib/ledger.svelte';
  import { useProject } from '../../lib/project-context';
  import { counted } from '../../lib/words';
  import { TrialDraft } from './trial-state.svelte';

  /** Begin a trial: one or two things varied, each setting with the same seeds. */
  let { open = $bindable(false), onbegun }: { open?: boolean; onbegun: (trial: string) => void } = $props();
  const project = useProject();
  const trial = new TrialDraft(project);
  const names = $derived(new Map([...[...project.threads.values()].map((t) => [t.id, t.name] as const), ...trial.makers]));

  onMount(() => void trial.loadPhrases());

  async function begin(event: Event) {
    event.preventDefault();
    const id = await trial.begin();
    if (!id) return;
    open = false;
    onbegun(id);
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[600px] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto p-6" data-trial-dialog>
      <Dialog.Title class="font-book text-[18px] font-semibold">Try settings on shot {project.number(project.currentId)}</Dialog.Title>
      <Dialog.Description class="label mb-4">Every setting is made with the same seeds, so that only the setting differs.</Dialog.Description>
      {#if !trial.service}
        <p>There is no service to ask yet. Add one in <em>Make takes …</em> first.</p>
      {:else}
        <form onsubmit={begin} class="flex flex-col gap-3">
          {#each trial.axes as axis, i (i)}
            <fieldset class="grid grid-cols-[84px_1fr] items-center gap-x-3 gap-y-2 {i ? 'border-t border-hair pt-3' : ''}">
              <label class="label" for="tr-varies-{i}">{i ? 'and' : 'Vary'}</label>
              <div class="flex gap-2">
                <select id="tr-varies-{i}" class="field" value={axis.varies} onchange={(e) => trial.vary(i, e.currentTarget.value as never)}>{#each trial.kinds as [kind, name] (kind)}<option value={kind}>{name}</option>{/each}</select>
                {#if axis.varies === 'weight'}
                  <select class="field" aria-label="Whose weight" value={axis.about} onchange={(e) => trial.about(i, e.currentTarget.value)}>{#each trial.members as t (t.id)}<option value={t.id}>{t.name}</option>{/each}</select>
                {:else if axis.varies === 'phrase'}
                  <select class="field" aria-label="Which phrase" value={axis.about} onchange={(e) => trial.about(i, e.currentTarget.value)}>{#each trial.phrases as [key, words] (key)}<option value={key}>{words.slice(0, 48)}</option>{/each}</select>
                {/if}
                {#if i}<button type="button" class="quiet" onclick={() => trial.axes.splice(i, 1)} aria-label="Do not vary this">×</button>{/if}
              </div>
              <span class="label self-start pt-1">over</span>
              <div class="flex flex-wrap items-center gap-2">
                {#each axis.choices as choice, k (k)}
                  {#if axis.varies === 'weight'}
                    <label class="flex items-center gap-1"><input class="field !w-[58px] !px-1.5" type="number" min="0" max="100" step="5" value={choice} aria-label="Weight {k + 1}" onchange={(e) => (axis.choices[k] = e.currentTarget.value)} />%</label>
                  {:else if axis.varies === 'phrase'}
                    <textarea class="field resize-none font-book" rows="2" value={choice} aria-label="Words {k + 1}" placeholder="without the phrase" onchange={(e) => (axis.choices[k] = e.currentTarget.value)}></textarea>
                  {:else}
                    <span class="rounded-sm bg-wash px-2 py-0.5">{names.get(choice)}</span>
                  {/if}
                {/each}
                {#if axis.varies === 'weight' || axis.varies === 'phrase'}
                  {#if axis.choices.length < 8}<button type="button" class="quiet" onclick={() => axis.choices.push(axis.varies === 'weight' ? '100' : (axis.choices.at(-1) ?? ''))}>+ one more</button>{/if}
                  {#if axis.choices.length > 2}<button type="button" class="quiet" onclick={() => axis.choices.pop()}>− one less</button>{/if}
                {/if}
              </div>
            </fieldset>
          {/each}
          {#if trial.axes.length < 2}<div><button type="button" class="quiet" onclick={() => trial.add()}>+ vary a second thing</button></div>{/if}
          <label class="grid grid-cols-[84px_1fr] items-center gap-x-3"><span class="label">Seeds each</span><input class="field !w-20" type="number" min="1" max="12" required bind:value={trial.seeds} /></label>
          {#if trial.trouble}<p class="border-l-4 border-red pl-3 text-red" role="alert">{trial.trouble}</p>{/if}
          <p class="border-t border-hair pt-3"><strong>{counted(trial.cells, 'setting')} × {counted(trial.seeds, 'seed')}</strong>, {counted(trial.cells * trial.seeds, 'take')}, {round(trial.credits)} credits by {trial.service.name}.{#if trial.seeds < 3} <span class="text-red">Fewer than 3 seeds cannot tell settings apart.</span>{/if}</p>
          <div class="flex justify-end gap-2"><button type="button" class="quiet" onclick={() => (open = false)}>Not now</button><button class="btn btn-main" disabled={!trial.ready} data-begin-trial>Begin the trial</button></div>
        </form>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
