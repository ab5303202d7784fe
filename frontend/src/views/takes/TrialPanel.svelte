<script lang="ts">
  import { onDestroy } from 'svelte';
  import { thumb, type Trial } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { TrialReading } from './trial-state.svelte';

  /** A trial: its settings below each other, their takes, and every measure on one scale. */
  let { trial, onclose, onshow }: { trial: Trial; onclose: () => void; onshow: (take: string) => void } = $props();
  const project = useProject();
  // svelte-ignore state_referenced_locally
  const reading = new TrialReading(project, trial.id);
  let chosen = $state<number | null>(null);
  const view = $derived(reading.view);
  const measure = $derived(reading.measure);
  const best = $derived(view?.cells.findIndex((c) => c.name === measure?.best) ?? -1);
  const at = $derived(chosen ?? (best >= 0 ? best : 0));
  const nameOf = (of: string) => project.threads.get(of)?.name ?? '?';
  const SCALE = 190;
  const x = (value: number) => 6 + (Math.min(value, reading.most) / reading.most) * (SCALE - 12);

  $effect(() => reading.follow());
  onDestroy(() => reading.close());

  async function use(everywhere: boolean) {
    const cell = view?.cells[at];
    if (cell && (await reading.take([...cell.at], everywhere))) notices.say(`${cell.name} holds ${everywhere ? 'everywhere' : 'in this shot'} from now on. Ctrl+Z takes it back.`);
  }

  async function remove() {
    if (await reading.remove()) onclose();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key !== 'Escape' || document.querySelector('[role=dialog]')) return;
    onclose();
    event.stopImmediatePropagation();
  }
</script>

<svelte:window onkeydowncapture={onkeydown} />

<div class="absolute inset-0 z-10 flex flex-col bg-paper" role="region" aria-label="Trial" data-trial>
  <div class="flex h-9 shrink-0 items-center gap-3 px-4">
    <button class="quiet" onclick={onclose}>← All takes <span class="key">Esc</span></button>
    <h2 class="font-book text-[15px] font-semibold">{view?.title ?? 'Trial'}</h2>
    {#if view && (view.coming || view.waiting)}<span class="label" aria-live="polite">{view.coming ? `${view.coming} takes to come` : ''}{view.coming && view.waiting ? ', ' : ''}{view.waiting ? `${view.waiting} being measured` : ''}</span>{/if}
    <span class="ml-auto"></span>
    {#if view && view.measures.length > 1}
      <label class="flex items-center gap-2"><span class="label">Measured by</span><select class="plainselect" value={measure?.of} onchange={(e) => (reading.of = e.currentTarget.value)} data-measured-by>{#each view.measures as m (m.of)}<option value={m.of}>{nameOf(m.of)}{m.apart ? ' (differs)' : ''}</option>{/each}</select></label>
    {/if}
    <button class="quiet" onclick={remove}>Put the trial away</button>
  </div>
  {#if reading.trouble}<p class="px-4 text-red">{reading.trouble}</p>{/if}
  {#if view}
    <div class="min-h-0 flex-1 overflow-y-auto px-4">
      {#each view.cells as cell, i (cell.name)}
        {@const worse = measure?.worse[cell.name]}
        <div class="grid grid-cols-[150px_200px_1fr] items-center gap-3 border-t border-hair py-2 {i === at ? 'bg-wash' : ''}" data-setting={cell.name}>
          <button class="border-l-[3px] py-2 pl-2 text-left {i === at ? 'border-pencil font-semibold' : 'border-transparent'}" onclick={() => (chosen = i)} aria-pressed={i === at}>
            {cell.name}
            {#if measure?.apart}<span class="label block font-normal">{cell.name === measure.best ? 'holds best' : worse ? `holds less, by ${worse[0].toFixed(2)} to ${worse[1].toFixed(2)}` : measure.alike.includes(cell.name) ? 'cannot be told from the best' : ''}</span>{/if}
          </button>
          <svg width={SCALE} height="34" viewBox="0 0 {SCALE} 34" role="img" aria-label="{cell.name}: {reading.values(cell.name).map(([, v]) => v.toFixed(2)).join(', ')}">
            <rect x="6" y="15" width={SCALE - 12} height="4" fill="var(--hair)" />
            <line x1={x(1)} x2={x(1)} y1="6" y2="28" stroke="var(--ink)" stroke-width="1.2" />
            {#each reading.values(cell.name) as [seed, value] (seed)}<circle cx={x(value)} cy="17" r="4.5" fill={value > 1 ? 'var(--red)' : 'var(--ink)'} fill-opacity="0.62"><title>seed {seed}: {value.toFixed(2)}</title></circle>{/each}
            {#if measure?.middle[cell.name] != null}<path d="M{x(measure.middle[cell.name]!)} 27 l-4 6 h8 Z" fill="var(--pencil)" />{/if}
          </svg>
          <div class="flex gap-1.5 overflow-x-auto">
            {#each Object.entries(cell.take_ids) as [seed, id] (seed)}
              <button class="well h-[60px] w-[90px] shrink-0" onclick={() => onshow(id)} aria-label="Seed {seed}" title="seed {seed}">{#if project.takes.get(id)}<img src={thumb(project.takes.get(id)!.picture_sha)} alt="" class="size-full object-contain" loading="lazy" />{/if}</button>
            {/each}
          </div>
        </div>
      {/each}
    </div>
    <div class="flex shrink-0 items-center gap-3 border-t border-line px-4 py-2">
      <p class="min-w-0 flex-1" data-trial-told>{measure?.told ?? 'The takes are still being made and measured.'}</p>
      <button class="btn" onclick={() => use(false)} data-use-setting>Use {view.cells[at]?.name} here</button>
      <button class="btn" onclick={() => use(true)}>… everywhere</button>
    </div>
  {/if}
</div>
