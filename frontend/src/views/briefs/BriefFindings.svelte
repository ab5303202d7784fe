<script lang="ts">
  import Kink from '../../components/Kink.svelte';
  import Because from '../../components/Because.svelte';
  import type { BriefsState } from './briefs-state.svelte';

  /** What preflight says of the brief: each with its mend on one key, or let stand with a reason. */
  let { briefs }: { briefs: BriefsState } = $props();
</script>

<div class="p-4" aria-label="Preflight" role="region">
  <h2 class="mb-1 flex items-baseline justify-between font-semibold">Preflight<span class="label">{briefs.open.length ? `${briefs.at + 1} of ${briefs.open.length}` : 'nothing to mend'}</span></h2>
  {#each briefs.open as k (k.key)}
    {@const now = k.key === briefs.finding?.key}
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
    <article class="-mx-2 flex gap-2 rounded-sm border-l-[3px] px-2 py-2 {now ? 'border-red bg-redwash' : 'border-transparent'}" data-finding={k.kind} onclick={() => briefs.choose(k.key)}>
      <span class="mt-1.5 shrink-0"><Kink /></span>
      <div class="min-w-0 flex-1">
        <p class="font-semibold">{k.title}</p>
        {#if now}
          <p class="text-soft">{k.advice}{k.words?.shared ? ' It is the same in every brief that has it.' : ''}</p>
          {#if briefs.because === k.key}
            <Because stand={(reason) => briefs.stet(k.key, reason)} leave={() => (briefs.because = null)} />
          {:else}
            <div class="mt-1.5 flex flex-wrap gap-2">
              {#if k.mend}<button class="btn" onclick={() => briefs.mend(k)} data-mend>{k.mend.label} <span class="key">↵</span></button>{/if}
              <button class="quiet" onclick={() => (briefs.because = k.key)}>Stet, because … <span class="key">S</span></button>
            </div>
          {/if}
        {/if}
      </div>
    </article>
  {/each}
  {#each briefs.stood as k (k.key)}
    <p class="flex items-baseline gap-2 py-1 text-soft"><Kink stet /><span class="flex-1">{k.title}: {briefs.project.stetByKey.get(k.key)?.reason}</span><button class="quiet" onclick={() => briefs.project.unstand(k.key)}>Take back</button></p>
  {/each}
</div>
