<script lang="ts">
  import type { Thread } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import { useProject } from '../../lib/project-context';

  /** The costumes of a character, or the variants of a setting: each with its own words, and views of its own. */
  let { thread, shown = $bindable(''), edit }: { thread: Thread; shown?: string; edit: (values: Partial<Thread>) => void } = $props();
  const project = useProject();
  const USUAL = ' ';
  type Costume = Thread['costumes'][number];
  const setting = $derived(thread.kind === 'setting');
  const names = $derived([...new Set(['', ...thread.costumes.map((c) => c.name), ...(project.referencesByThread.get(thread.id) ?? []).map((r) => r.costume)])]);
  const held = $derived(thread.costumes.find((c) => c.name === shown));
  let fresh = $state<string | null>(null);

  function set(values: Partial<Costume>) {
    const base: Costume = held ?? { name: shown, wording: '', time: '', weather: '', damage: '', light: '' };
    const next = { ...base, ...values };
    edit({ costumes: held ? thread.costumes.map((c) => (c.name === shown ? next : c)) : [...thread.costumes, next] });
  }

  function make(event: Event) {
    event.preventDefault();
    const name = fresh?.trim() ?? '';
    fresh = null;
    if (!name || names.includes(name)) return;
    edit({ costumes: [...thread.costumes, { name, wording: '', time: '', weather: '', damage: '', light: '' }] });
    shown = name;
  }
</script>

<div class="border-b border-hair px-4 py-2">
  <div class="flex flex-wrap items-center gap-1">
    <!-- The usual one has no name; a choice needs one. -->
    <Choice value={shown || USUAL} options={names.map((name) => [name || USUAL, name || (setting ? 'as it usually is' : 'usual costume')] as const)} label={setting ? 'Variants' : 'Costumes'} onchoose={(name) => (shown = name === USUAL ? '' : name)} />
    {#if fresh === null}
      <button class="quiet" onclick={() => (fresh = '')}>+ {setting ? 'variant' : 'costume'}</button>
    {:else}
      <!-- svelte-ignore a11y_autofocus -->
      <form onsubmit={make}><input class="field !w-44" name="costume" bind:value={fresh} autofocus placeholder={setting ? 'at night, after the storm …' : 'night-shirt, Sunday best …'} onblur={make} onkeydown={(e) => e.key === 'Escape' && (fresh = null)} /></form>
    {/if}
    {#if held}<button class="quiet ml-auto" onclick={() => { edit({ costumes: thread.costumes.filter((c) => c.name !== shown) }); shown = ''; }}>Delete {shown}</button>{/if}
  </div>
  {#if shown}
    <div class="mt-2 grid {setting ? 'grid-cols-[1fr_88px_96px_230px_110px]' : 'grid-cols-1'} gap-3">
      <label><span class="label">What is different, in words</span><input class="field font-book text-[14px]" value={held?.wording ?? ''} onchange={(e) => set({ wording: e.currentTarget.value.trim() })} placeholder={setting ? 'Snow on every step' : 'A white night-shirt down to her bare feet'} /></label>
      {#if setting}
        <label><span class="label">Time</span><input class="field" list="times" value={held?.time ?? ''} onchange={(e) => set({ time: e.currentTarget.value.trim() })} /></label>
        <label><span class="label">Weather</span><input class="field" list="weathers" value={held?.weather ?? ''} onchange={(e) => set({ weather: e.currentTarget.value.trim() })} /></label>
        <label><span class="label">Light</span><input class="field" value={held?.light ?? ''} placeholder="one lantern" onchange={(e) => set({ light: e.currentTarget.value.trim() })} /></label>
        <label><span class="label">Damage</span><input class="field" value={held?.damage ?? ''} onchange={(e) => set({ damage: e.currentTarget.value.trim() })} /></label>
        <datalist id="times">{#each ['at dawn', 'in the morning', 'at noon', 'at dusk', 'at night'] as t (t)}<option value={t}></option>{/each}</datalist>
        <datalist id="weathers">{#each ['rain', 'snow', 'fog', 'a storm', 'sunshine'] as t (t)}<option value={t}></option>{/each}</datalist>
      {/if}
    </div>
  {/if}
</div>
