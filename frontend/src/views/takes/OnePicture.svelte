<script lang="ts">
  import { whole } from '../../api/client';
  import BoxStage from '../../components/BoxStage.svelte';
  import ClipBar from './ClipBar.svelte';
  import type { ClipState } from './clip-state.svelte';
  import type { ContactSheetState } from './contact-sheet-state.svelte';
  import type { TakesState } from './takes-state.svelte';

  /** One take, large: who stands where in it, and its faults. */
  let { view, sheet, clip, onback }: { view: TakesState; sheet: ContactSheetState; clip: ClipState | null; onback: () => void } = $props();
  const { take, picture, people } = $derived(view);
  const shown = $derived(take && clip && clip.at_s > 0 ? `/api/clips/${take.picture_sha}/frame?at=${clip.at_s.toFixed(3)}&side=1280` : take ? whole(take.picture_sha) : '');
  let film = $state<HTMLVideoElement | null>(null);

  $effect(() => {
    if (!film) return;
    let next = 0;
    const look = () => {
      played();
      next = requestAnimationFrame(look);
    };
    look();
    return () => cancelAnimationFrame(next);
  });

  /** Only the part that is shown is played, again and again. */
  function played() {
    if (!film || !clip) return;
    if (film.currentTime >= clip.part[1] - 0.01 || film.currentTime < clip.part[0] - 0.05) film.currentTime = clip.part[0];
    clip.at_s = film.currentTime;
  }
</script>

<div class="flex min-h-0 flex-1 flex-col px-4 pb-3">
  <div class="flex h-9 shrink-0 items-center gap-3">
    <button class="quiet" onclick={onback} data-all-takes>← All takes <span class="key">Esc</span></button>
    {#if take}<span class="text-soft">take {sheet.numberOf.get(take.id)}{take.picked ? ' · picked' : ''}</span>{/if}
  </div>
  <div class="relative min-h-0 flex-1">
    {#if take && picture}
      {#if !clip?.playing}
        <!-- Not below a film that plays: every frame of it would be asked for. -->
        {#key take.id}
          <BoxStage
            src={shown} width={picture.width} height={picture.height} boxes={clip && clip.at_s > 0 ? clip.followed.map((b) => ({ ...b, proposed: true })) : view.boxes} bind:chosen={view.chosen} drawing={!(clip && clip.at_s > 0) && (view.faulting !== null || people.length > 0)}
            ondraw={(box) => view.draw(box)} onchange={clip && clip.at_s > 0 ? undefined : (id, box) => view.move(id, box)}
          />
        {/key}
      {/if}
      {#if clip?.playing}
        <div class="absolute inset-0 bg-well">
          {#if clip.facts}
            <!-- svelte-ignore a11y_media_has_caption -->
            <video bind:this={film} src="/api/clips/{take.picture_sha}/film" class="size-full" autoplay loop muted={!clip.facts.has_sound} onloadedmetadata={() => film && clip && (film.currentTime = clip.part[0])} onerror={() => clip && (clip.playing = false)}></video>
            <svg viewBox="0 0 {picture.width} {picture.height}" class="pointer-events-none absolute inset-0 size-full" aria-hidden="true" data-followed>
              {#each clip.followed as b (b.id)}<rect x={b.x} y={b.y} width={b.w} height={b.h} fill="none" stroke="#8fd0f5" stroke-width="2" stroke-dasharray="6 4" vector-effect="non-scaling-stroke" />{/each}
            </svg>
          {/if}
        </div>
      {/if}
    {/if}
  </div>
  {#if clip}<ClipBar {clip} />{/if}
</div>
