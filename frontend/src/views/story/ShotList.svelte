<script lang="ts">
  import { untrack } from 'svelte';
  import { thumb } from '../../api/client';
  import HeardBar from '../../components/HeardBar.svelte';
  import ShotFacts from '../../components/ShotFacts.svelte';
  import ShotLength from '../../components/ShotLength.svelte';
  import { heardOver, type Heard } from '../../lib/heard';
  import { duration, grouped } from '../../lib/order';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { virtualRows } from '../../lib/virtual.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte';
  import ShotMenu from '../sheet/ShotMenu.svelte';
  import type { StoryState } from './story-state.svelte';

  /** The shots beside the text; only those in sight are on the page. */
  let { sheet, story, onfacts }: { sheet: SheetState; story: StoryState; onfacts: () => void } = $props();
  const project = useProject();
  const SHOT = 94;
  const SCENE = 34;
  let scroller = $state<HTMLElement | null>(null);

  const list = virtualRows(() => {
    const { rows } = sheet;
    return { scroller, count: rows.length, height: (i) => (rows[i]?.kind === 'shot' ? SHOT : SCENE) };
  });
  const heard = $derived.by(() => new Map<string, Heard>([...grouped(project.order, (s) => s.scene_id)].map(([scene, shots]) => [scene, heardOver(shots, project.findings.needs)])));
  /** Why a picture is proposed to begin here, as a question where that is not sure. */
  function reason(shot: { why: string; sure: number }): string {
    const why = shot.why || 'words that no shot covers';
    return !story.isSure(shot) ? `a new picture? ${why}, ${Math.round(shot.sure * 100)} % sure` : `proposed: ${why}`;
  }

  const shown = $derived(list.shown.flatMap(({ index, start }) => (sheet.rows[index] ? [{ row: sheet.rows[index], top: start }] : [])));

  $effect(() => {
    const at = sheet.rowOfShot[project.currentIndex];
    if (scroller && at !== undefined) untrack(() => list.reveal(at));
  });
</script>

<div class="min-h-0 flex-1 overflow-y-auto" bind:this={scroller} aria-label="Shots" role="region">
  {#if !project.order.length}
    <p class="mx-auto max-w-[320px] px-4 py-20 text-center text-soft">The shots stand here. Propose them from the text, make them from a photographed page, or take in a table.</p>
  {/if}
  <div class="relative" style="height:{list.height}px">
    {#each shown as { row, top } (row.kind === 'scene' ? row.scene.id : row.shot.id)}
      {#if row.kind === 'scene'}
        <h2 class="absolute inset-x-0 flex items-end border-b border-hair px-4 pb-1 font-book font-semibold text-soft" style="top:{top}px;height:{SCENE}px">
          <span class="truncate">{project.story.scenes.indexOf(row.scene) + 1} · {row.scene.title || 'Scene'}</span><span class="ml-3 font-sans text-[12px] font-normal whitespace-nowrap">{duration(row.length_s)}</span>{#if heard.has(row.scene.id)}<span class="mb-0.5 ml-2 font-normal"><HeardBar heard={heard.get(row.scene.id)!} /></span>{/if}
        </h2>
      {:else}
        {@const shot = row.shot}
        {@const picture = project.pictureOf(shot.id)?.sha ?? shot.sketch_sha}
        {@const proposed = shot.status === 'proposed'}
        {@const moving = project.findings.needs.get(shot.id)?.moving ?? []}
        {@const told = project.findings.plan.openByShot.get(shot.id) ?? []}
        <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
        <div
          class="group absolute inset-x-0 flex gap-3 border-b border-hair px-4 py-2 {shot.id === project.currentId ? 'bg-wash' : ''}" style="top:{top}px;height:{SHOT}px"
          data-shot={shot.id} data-status={shot.status} onclick={() => (project.currentId = shot.id)}
        >
          <span class="w-7 pt-0.5 font-book text-[18px] {proposed ? 'text-pencil' : ''}">{row.number}</span>
          <button class="h-[56px] w-[84px] shrink-0 {picture ? 'well' : 'border border-dashed border-pencil'}" onclick={() => { project.currentId = shot.id; router.go(project.id, 'takes'); }} aria-label="Takes of shot {row.number}">
            {#if picture}<img src={thumb(picture)} alt="" class="size-full object-contain" />{/if}
          </button>
          <div class="min-w-0 flex-1">
            <ShotFacts {shot} bind:editing={sheet.editing} lines={2} onframing={onfacts} />
            {#if proposed}
              {@const also = story.askedAbout(shot)}
              {@const current = shot.id === project.currentId}
              <p class="flex gap-2 text-[12px] whitespace-nowrap text-pencil" data-reason>
                <span class="truncate" title={reason(shot)}>{#if current}<span class="key">↵</span> accept <span class="key">M</span> merge up <span class="key">Del</span> ignore{#if !also}<span class="text-soft">&ensp;{shot.why}</span>{/if}{:else}{reason(shot)}{/if}</span>
                {#if also}<button class="truncate" onclick={() => story.isHere(shot)} title="{also.name} is in the shots beside this one. Who only looks on is often not told of" data-also={also.name}>{#if current}<span class="key">A</span>{/if} <span class="underline">{also.name} here too?</span></button>{/if}
              </p>
            {:else if shot.lost}
              <p class="truncate text-[12px] text-red">its words are not in the text any more</p>
            {:else if moving.length}
              <p class="truncate text-[12px] text-pencil" title={moving[0]!.words}>“{moving[0]!.words}” moves · <button class="underline" onclick={() => story.toMotion(shot)}><span class="key">T</span> to the motion note</button></p>
            {:else if told.length}
              <p class="truncate text-[12px] text-red" title={told[0]!.advice}>{told[0]!.title}</p>
            {:else if shot.spoken}
              <p class="truncate font-book text-[12.5px] text-soft italic" title={shot.spoken}>“{shot.spoken}”</p>
            {/if}
          </div>
          <div class="flex flex-col items-end"><ShotLength {shot} /><span class="opacity-0 group-hover:opacity-100 focus-within:opacity-100"><ShotMenu {sheet} {shot} onreplace={() => { project.currentId = shot.id; router.go(project.id, 'takes'); }} /></span></div>
        </div>
      {/if}
    {/each}
  </div>
</div>
