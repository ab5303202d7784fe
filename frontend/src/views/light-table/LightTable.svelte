<script lang="ts">
  import { RadioGroup } from 'bits-ui';
  import { onMount, untrack } from 'svelte';
  import { thumb } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import { typing, useProject } from '../../lib/project-context';
  import AreaPanel from './AreaPanel.svelte';
  import { AreaState } from './area-state.svelte';
  import Board from './Board.svelte';
  import { LightTableState, WAYS } from './light-table-state.svelte';
  import Loupe from './Loupe.svelte';
  import Proof from './Proof.svelte';

  /** Two to four pictures on one grey table: beside each other, wiped, blinked, laid through each other, or as their difference. */
  const project = useProject();
  const view = new LightTableState(project);
  let own = $state<HTMLElement | null>(null);
  const before = document.activeElement as HTMLElement | null;
  const names = $derived(view.laid.length > 2 ? `${view.laid[0]?.name} and ${view.laid.length - 1} more` : view.laid.map((l) => l.name).join(' and '));
  const title = $derived(names.charAt(0).toUpperCase() + names.slice(1));
  const ADJUSTS: Partial<Record<typeof view.way, string>> = { wipe: 'the line', onion: 'how much of the upper one', difference: 'how strong' };
  let dragged = $state<string | null>(null);
  let area = $state.raw<AreaState | null>(null);
  let laidBefore: typeof view.laid = [];

  /** Draw on one take alone; what lay on the table comes back afterwards. */
  function beginArea() {
    const laid = view.toEdit;
    if (!laid) return;
    laidBefore = view.laid;
    area = new AreaState(project, laid);
    project.table.laid = [laid];
  }

  function endArea() {
    area = null;
    project.table.laid = laidBefore;
  }

  /** An edit beside what it was made of. */
  function compare(parent: string, child: string) {
    area = null;
    const takes = [parent, child].map((id) => project.takes.get(id)).filter((t) => t !== undefined);
    project.table.laid = takes.flatMap((t) => project.table.ofTake(t));
    view.choose('blink');
  }

  onMount(() => {
    void project.loadOthers();
    own?.focus();
    if (project.table.purpose === 'area') beginArea();
    return () => before?.focus();
  });
  $effect(() => {
    void view.laid;
    untrack(() => view.follow());
  });
  let fitted = '';
  $effect(() => {
    const now = `${view.board.width} ${view.board.height} ${view.first?.sha}`;
    if (now === fitted) return;
    fitted = now;
    view.fit();
  });

  function onkeydown(event: KeyboardEvent) {
    if (typing(event) || event.ctrlKey || event.metaKey || (event.altKey && !area)) return;
    if (event.target instanceof HTMLButtonElement && (event.key === 'Enter' || event.key === ' ')) return;
    if ((event.target as HTMLElement).getAttribute('role') === 'radio' && event.key.startsWith('Arrow')) return;
    if (area && areaKey(event)) return event.preventDefault();
    if (event.key === 'Escape' || event.key === 'l') project.table.close();
    else if (event.key === 'e') beginArea();
    else if (event.key === 'Tab' || !view.key(event.key, event.shiftKey)) return;
    event.preventDefault();
    event.stopPropagation();
  }

  function areaKey({ key, altKey }: KeyboardEvent): boolean {
    const way = ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as Record<string, [number, number]>)[key];
    if (key === 'Escape') endArea();
    else if (key === 'r') area!.rubbing = !area!.rubbing;
    else if (key === 'z') area!.back();
    else if (key === 'Z') area!.forth();
    else if (key === 'Insert') area!.put();
    else if (way && altKey) area!.nudge(way[0] * 0.02, way[1] * 0.02);
    else if (way || '+=-09'.includes(key)) view.key(key, false);
    // What lies on the table stays as it is while somebody draws on it.
    return key !== 'Tab' && key !== 'Enter';
  }
</script>

<svelte:window {onkeydown} />

<div class="absolute inset-0 z-30 flex flex-col bg-[#808080] text-white outline-none" role="dialog" aria-label="Light table" tabindex="-1" bind:this={own} data-light-table>
  <div class="flex min-h-0 flex-1">
    <div class="flex min-w-0 flex-1 flex-col p-3 pb-1">
      <div class="min-h-0 flex-1" role="region" aria-label="The pictures: {title}" ondragover={(e) => e.preventDefault()} ondrop={(e) => { e.preventDefault(); const laid = view.tray.find((l) => l.sha === dragged); if (laid) view.put(laid, view.way === 'beside' ? Math.floor((e.clientX - e.currentTarget.getBoundingClientRect().left) / (view.pane.width + 8)) : view.top); }}>
        <Board {view} {area} />
      </div>
      <div class="flex h-12 shrink-0 items-center justify-center gap-3">
        {#if area}<p class="text-[#101010]">Wheel or <span class="key !border-white/50 !bg-[#6a6a6a] !text-white">+</span> <span class="key !border-white/50 !bg-[#6a6a6a] !text-white">−</span> zoom · hold <span class="key !border-white/50 !bg-[#6a6a6a] !text-white">Space</span> to move the picture · <span class="key !border-white/50 !bg-[#6a6a6a] !text-white">Insert</span> a box, <span class="key !border-white/50 !bg-[#6a6a6a] !text-white">Alt arrows</span> move it</p>{:else}
        <svg width="96" height="16" aria-hidden="true"><rect x="0" y="2" width="32" height="12" rx="6" fill="#4c4c4c" /><circle cx="48" cy="8" r="7" fill="#4c4c4c" /><rect x="64" y="2" width="32" height="12" rx="6" fill="#4c4c4c" /></svg>
        <label class="flex items-center gap-2 text-[#101010]">pegged on
          <select class="rounded-sm border border-white/50 bg-[#6a6a6a] px-1.5 py-0.5 font-semibold text-white [&>option]:text-ink" value={`${view.pegged.on} ${view.pegged.thread}`} onchange={(e) => { const [on, thread] = e.currentTarget.value.split(' '); const to = view.ways.find((w) => w.on === on && w.thread === (thread ?? '')); if (to) void view.peg(to); }} data-pegged>
            {#each view.ways as w (w.on + w.thread)}<option value={`${w.on} ${w.thread}`}>{view.peggedWords(w)}</option>{/each}
          </select>
        </label>
        <span class="key !border-white/50 !bg-[#6a6a6a] !text-white">P</span>
        {#if view.pegging}<span class="text-[#101010]" role="status" data-pegging>laying them on each other …</span>{/if}
        {/if}
      </div>
    </div>
    <aside class="flex w-[300px] shrink-0 flex-col gap-5 overflow-y-auto bg-paper p-4 text-ink" aria-label="What is seen">
      {#if area}
        <AreaPanel {area} onclose={endArea} onbrought={(made) => compare(area!.take!.id, made)} />
      {:else}
      <div>
        <div class="flex items-start justify-between gap-2"><h2 class="font-book text-[18px] leading-6 font-semibold">{title}</h2><button class="quiet shrink-0" onclick={() => project.table.close()} data-close-table>Close <span class="key">Esc</span></button></div>
        <RadioGroup.Root class="mt-2 flex flex-col gap-0.5" value={view.way} onValueChange={(way) => view.choose(way as typeof view.way)} aria-label="How they are seen">
          {#each WAYS as [way, name], i (way)}
            <RadioGroup.Item value={way} class="flex min-h-6 items-center gap-2 rounded-sm px-1.5 text-left {view.way === way ? 'bg-wash font-semibold text-pencil' : 'text-soft hover:text-ink'} disabled:opacity-40" disabled={view.laid.length < 2 && way !== 'beside'} data-way={way}><span class="key">{i + 1}</span>{name}</RadioGroup.Item>
          {/each}
        </RadioGroup.Root>
        {#if ADJUSTS[view.way]}
          <label class="mt-2 flex items-center gap-2"><span class="label w-[88px]">{ADJUSTS[view.way]}</span>
            {#if view.way === 'difference'}<input type="range" min="0" max="4" step="1" value={Math.log2(view.stronger)} oninput={(e) => (view.stronger = 2 ** Number(e.currentTarget.value))} class="min-w-0 flex-1" />
            {:else if view.way === 'wipe'}<input type="range" min="0" max="1" step="0.01" bind:value={view.wipe} class="min-w-0 flex-1" />
            {:else}<input type="range" min="0" max="1" step="0.01" bind:value={view.onion} class="min-w-0 flex-1" />{/if}
            <span class="key">,</span><span class="key">.</span></label>
        {/if}
        {#if view.laid.length > 2 && view.way !== 'beside'}
          <div class="mt-2"><Choice value={String(view.top)} options={view.laid.slice(1).map((l, i) => [String(i + 1), l.name] as const)} label="The one on top" onchoose={(v) => (view.top = Number(v))} small /></div>
        {/if}
      </div>
      {#if view.edited}{#key view.edited.id}<Proof take={view.edited} {view} ontaken={(made) => compare(view.edited!.parent_id!, made)} />{/key}{/if}
      <Loupe {view} />
      {#if view.toEdit}<p><button class="btn" onclick={beginArea} title="Of {view.toEdit.name}" data-change-area>Change one area … <span class="key">E</span></button></p>{/if}
      <p class="label mt-auto leading-[21px]"><span class="key">+</span> <span class="key">−</span> zoom · <span class="key">0</span> all · <span class="key">9</span> one to one · <span class="key">arrows</span> move · <span class="key">Shift arrows</span> loupe · <span class="key">[</span> <span class="key">]</span> another picture · <span class="key">A</span> one more · <span class="key">Del</span> one less · <span class="key">X</span> change places · <span class="key">Space</span> blink by hand</p>
      {/if}
    </aside>
  </div>
  {#if !area}<div class="flex h-[104px] shrink-0 items-center gap-2 overflow-x-auto border-t border-line bg-panel px-4 text-ink" role="group" aria-label="Pictures to lay on the table">
    {#each view.tray as l (l.sha)}
      {@const place = view.laid.findIndex((o) => o.sha === l.sha)}
      <button class="w-[112px] shrink-0 text-left" draggable="true" ondragstart={() => (dragged = l.sha)} ondragend={() => (dragged = null)} onclick={() => view.put(l)} aria-pressed={place >= 0} data-tray={l.name} title="Lay it on the table">
        <span class="well relative block h-[66px] {place >= 0 ? 'outline-[3px] outline-pencil' : ''}"><img src={thumb(l.sha)} alt="" class="size-full object-contain" draggable="false" />{#if place >= 0}<span class="absolute top-0 left-0 bg-pencil px-1 text-[11px] font-semibold text-paper">{place + 1}</span>{/if}</span>
        <span class="block truncate text-[11.5px] leading-4">{l.name}</span>
      </button>
    {:else}<p class="text-soft">The shots around have no pictures yet.</p>{/each}
    {#if view.laid.length < 4 && view.tray.length}<button class="btn ml-1 shrink-0" onclick={() => view.add()}>One more <span class="key">A</span></button>{/if}
  </div>{/if}
</div>
