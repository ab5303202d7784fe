<script lang="ts">
  import { thumb } from '../../api/client';
  import FramingSign from '../../components/FramingSign.svelte';
  import { useProject } from '../../lib/project-context';
  import type { BridgeState } from './bridge-state.svelte';

  /** Shots proposed between two, each with both pictures and why; one key puts it in, another one does not. */
  let { bridges }: { bridges: BridgeState } = $props();
  const project = useProject();
  let list = $state<HTMLElement | null>(null);
  /** What is seen of a shot where the bridge joins it: of a clip that frame. */
  function seen(shot: string, end: 'first_sha' | 'last_sha') {
    const take = project.picked.get(shot);
    return take?.[end] ?? take?.picture_sha ?? project.shots.get(shot)?.sketch_sha ?? null;
  }

  $effect(() => {
    list?.querySelector(`[data-bridge='${bridges.at}']`)?.scrollIntoView({ block: 'nearest' });
  });
</script>

{#if bridges.read && !bridges.all.length}
  <div class="px-5 py-10 text-center">
    <h2 class="mb-2 font-book text-[18px] font-semibold">No shot is missing</h2>
    <p class="text-soft">Where a cut jars, or words take longer than their picture, a shot between is proposed here. Run the check first, so that the cuts are looked at.</p>
  </div>
{:else}
  <div class="flex h-full flex-col">
    <ol class="min-h-0 flex-1 overflow-y-auto" bind:this={list} aria-label="Shots proposed between two">
      {#each bridges.all as b, i (b.key)}
        {@const chosen = i === bridges.at}
        <li class="border-b border-line px-4 py-3 {chosen ? 'bg-wash' : ''}" data-bridge={i}>
          <button class="block w-full text-left" onclick={() => bridges.look(i)} aria-current={chosen}>
            <span class="mb-1.5 flex items-stretch gap-2">
              {#each [b.before_id, null, b.after_id] as shot, k (k)}
                {#if shot}
                  {@const sha = seen(shot, shot === b.before_id ? 'last_sha' : 'first_sha')}
                  <span class="well relative h-[72px] w-[108px] shrink-0">{#if sha}<img src={thumb(sha)} alt="" class="size-full object-contain" />{/if}<span class="absolute bottom-0 left-0 bg-paper px-1 font-book text-[13px]">{project.number(shot)}</span></span>
                {:else}
                  <span class="flex w-[108px] shrink-0 flex-col items-center justify-center border border-dashed border-pencil text-pencil"><FramingSign size={b.size} /><span class="text-[12px]">{b.size}{b.angle === 'eye level' ? '' : `, ${b.angle}`}</span></span>
                {/if}
              {/each}
            </span>
            {#each b.because as why (why)}<span class="block font-semibold">{why}.</span>{/each}
            <span class="block"><span class="font-book text-[14px]">{b.shows || 'Nobody and no place is planned there.'}</span> <span class="text-soft">{b.why} {b.length_s.toFixed(1)} s.</span></span>
          </button>
          {#if chosen}
            <span class="mt-2 flex gap-2">
              <button class="btn btn-main" onclick={() => bridges.putIn(b)} data-put-in>Put it in <span class="key ml-1 !border-current !text-inherit">Enter</span></button>
              <button class="btn" onclick={() => bridges.refuse(b)} data-not-here>Not here <span class="key ml-1">X</span></button>
            </span>
          {/if}
        </li>
      {/each}
    </ol>
    <p class="shrink-0 border-t border-line px-4 py-2 text-[12.5px] text-soft"><span class="key">↑</span> <span class="key">↓</span> the next one. What is put in is undone with <span class="key">Ctrl Z</span>.</p>
  </div>
{/if}
