<script lang="ts">
  import type { Shot } from '../api/client';
  import { useProject } from '../lib/project-context';

  /** A shot's words and framing; the words are edited where they stand, the framing on its panel. */
  let { shot, editing = $bindable(null), lines = 2, onframing }: { shot: Shot; editing?: string | null; lines?: number; onframing?: () => void } = $props();
  const project = useProject();

  function done(event: Event) {
    const shows = (event.target as HTMLTextAreaElement).value.trim();
    editing = null;
    if (shows !== shot.shows) void project.editShot(shot, { shows });
  }

  function onkeydown(event: KeyboardEvent) {
    const area = event.target as HTMLTextAreaElement;
    if (event.key === 'Enter' && !event.shiftKey) area.blur();
    else if (event.key === 'Escape') {
      area.value = shot.shows;
      area.blur();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const focus = (node: HTMLTextAreaElement) => {
    node.focus();
    node.setSelectionRange(node.value.length, node.value.length);
  };
</script>

<div class="min-w-0">
  {#if editing === shot.id}
    <textarea
      class="field block resize-none font-book text-[15px] leading-[20px]" rows={lines} value={shot.shows} aria-label="What the picture shows"
      placeholder="What this picture shows" onblur={done} {onkeydown} {@attach focus}
    ></textarea>
  {:else}
    <button
      class="line-clamp-2 min-h-6 w-full text-left font-book text-[15.5px] leading-[20px] {shot.shows ? '' : 'text-soft italic'}" style="-webkit-line-clamp:{lines}"
      onclick={() => {
        project.currentId = shot.id;
        editing = shot.id;
      }}
      title={shot.shows}>{shot.shows || 'What does this picture show?'}</button
    >
  {/if}
  <button
    class="block min-h-6 max-w-full truncate text-left text-[12px] leading-[24px] text-soft hover:text-ink" data-framing title="Size, angle and move (F)"
    onclick={() => {
      project.currentId = shot.id;
      onframing?.();
    }}>{shot.size} · {shot.angle} · {shot.move}{shot.sound || shot.music ? ' · ♪' : ''}</button
  >
</div>
