<script lang="ts">
  import { api, type Shot } from '../api/client';
  import { useProject } from '../lib/project-context';

  /** A shot's words and framing, edited where they stand. */
  let { shot, editing = $bindable(null), lines = 2 }: { shot: Shot; editing?: string | null; lines?: number } = $props();
  const project = useProject();
  const SIZES = { EWS: 'extreme wide', WS: 'wide', MWS: 'medium wide', MS: 'medium', MCU: 'medium close', CU: 'close', ECU: 'extreme close' };
  const ANGLES = ['eye level', 'high', 'low', "bird's eye", "worm's eye", 'over the shoulder', 'point of view', 'tilted'];
  const MOVES = ['static', 'pan', 'tilt', 'push in', 'pull out', 'arc', 'track', 'crane'];

  export function save(values: Partial<Shot>) {
    const revision = shot.revision;
    return project.send(() =>
      api.PATCH('/api/projects/{project_id}/shots/{shot_id}', {
        params: { path: { project_id: project.id, shot_id: shot.id } },
        body: { ...values, revision } as never,
      }),
    );
  }

  function done(event: Event) {
    const shows = (event.target as HTMLTextAreaElement).value.trim();
    editing = null;
    if (shows !== shot.shows) void save({ shows });
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
      class="field block resize-none font-book text-[15px] leading-[20px]"
      rows={lines}
      value={shot.shows}
      aria-label="What the picture shows"
      placeholder="What this picture shows"
      onblur={done}
      {onkeydown}
      {@attach focus}
    ></textarea>
  {:else}
    <button
      class="line-clamp-2 w-full text-left font-book text-[15.5px] leading-[20px] {shot.shows ? '' : 'text-soft italic'}"
      style="-webkit-line-clamp:{lines}"
      onclick={() => {
        project.currentId = shot.id;
        editing = shot.id;
      }}
      title={shot.shows}>{shot.shows || 'What does this picture show?'}</button
    >
  {/if}
  <div class="flex gap-1 text-[12px] leading-[18px] text-soft" data-framing>
    <select class="plainselect" value={shot.size} aria-label="Size" onchange={(e) => save({ size: e.currentTarget.value })}>
      {#each Object.entries(SIZES) as [code, name] (code)}<option value={code} title={name}>{code}</option>{/each}
    </select>·
    <select class="plainselect" value={shot.angle} aria-label="Angle" onchange={(e) => save({ angle: e.currentTarget.value })}>
      {#each ANGLES as angle (angle)}<option>{angle}</option>{/each}
    </select>·
    <select class="plainselect" value={shot.move} aria-label="Move" onchange={(e) => save({ move: e.currentTarget.value })}>
      {#each MOVES as move (move)}<option>{move}</option>{/each}
    </select>
  </div>
</div>
