<script lang="ts">
  import type { Snippet } from 'svelte';
  import { thumb, type Kind, type Thread } from '../api/client';
  import { useProject } from '../lib/project-context';

  /** The threads by kind, to choose one; `end` says more of each, `above` and `below` stand over and under the list. */
  let { chosen, onchoose, end, above, below }: { chosen: string | null; onchoose: (thread: string) => void; end?: Snippet<[Thread]>; above?: Snippet; below?: Snippet } = $props();
  const project = useProject();
  const GROUPS: [Kind, string][] = [['character', 'Characters'], ['setting', 'Settings'], ['style', 'Styles'], ['prop', 'Props']];
  const groups = $derived(GROUPS.map(([kind, name]) => ({ name, own: project.columns.filter((t) => t.kind === kind) })).filter((g) => g.own.length));
</script>

<aside class="flex w-[190px] shrink-0 flex-col overflow-y-auto border-r border-line py-3" aria-label="Threads">
  {@render above?.()}
  {#each groups as { name, own } (name)}
    <h2 class="px-3.5 pt-2 pb-1 text-[12px] font-semibold">{name}</h2>
    {#each own as t (t.id)}
      {@const face = project.face(t.id)}
      <button class="flex h-10 w-full shrink-0 items-center gap-2 px-3.5 text-left {chosen === t.id ? 'bg-wash' : ''}" onclick={() => onchoose(t.id)} aria-current={chosen === t.id} data-thread={t.name}>
        <span class="size-7 shrink-0 overflow-hidden {face ? 'well' : 'border border-dashed border-pencil'}">{#if face}<img src={thumb(face.picture_sha)} alt="" class="size-full object-cover object-top" />{/if}</span>
        <span class="min-w-0 flex-1 truncate">{t.name}</span>
        {@render end?.(t)}
      </button>
    {/each}
  {/each}
  {@render below?.()}
</aside>
