<script lang="ts">
  import { outline, type LaidSound } from './sounds';
  import type { SoundState } from './sound-state.svelte';

  /** The sounds beside the shots, each as loud as it is drawn wide; drawn is what lies between two px of the column. */
  let { sounds, pxPerS, from, to, left, width }: { sounds: SoundState; pxPerS: number; from: number; to: number; left: number; width: number } = $props();
  const LEAST = 9;
  const lane = $derived(Math.max(LEAST, Math.min(26, width / Math.max(1, sounds.laidLanes))));
  const shown = $derived(sounds.laid.filter((x) => x.end_s * pxPerS >= from && x.start_s * pxPerS <= to));
  let moving = $state.raw<{ id: string; y: number; by: number } | null>(null);

  /** What is drawn is cut into pieces of some height, so that it stays the same while the column runs. */
  const PIECE = 400;
  function path(x: LaidSound): string {
    void sounds.known;
    const levels = sounds.levels.get(x.sound.sound_sha);
    if (!levels) return '';
    const top = x.start_s * pxPerS;
    const first = Math.floor((from - top) / PIECE) * PIECE;
    const last = Math.min((x.end_s - x.start_s) * pxPerS, Math.ceil((to - top) / PIECE) * PIECE);
    return outline(levels, x, pxPerS, lane / 2 - 1, first, last);
  }

  function begin(event: PointerEvent, x: LaidSound) {
    if (event.button) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    moving = { id: x.sound.id, y: event.clientY, by: 0 };
  }

  function move(event: PointerEvent) {
    if (moving) moving = { ...moving, by: event.clientY - moving.y };
  }

  function end(x: LaidSound) {
    const by = moving?.by ?? 0;
    moving = null;
    sounds.chosen = x.sound.id;
    if (Math.abs(by) >= 3) void sounds.moveTo(x.sound, x.start_s + by / pxPerS);
  }
  const name = (x: LaidSound) => `${x.sound.name}, ${x.sound.kind}, ${(x.end_s - x.start_s).toFixed(1)} s`;
</script>

{#each shown as x (x.sound.id)}
  {@const high = (x.end_s - x.start_s) * pxPerS}
  {@const voice = x.sound.kind === 'voice'}
  <button
    class="absolute block overflow-hidden {voice ? 'text-ink' : 'text-soft'} {sounds.chosen === x.sound.id ? 'outline-2 outline-pencil' : ''}"
    style="left:{left + (sounds.lanes.get(x.sound.id) ?? 0) * lane}px;top:{x.start_s * pxPerS + (moving?.id === x.sound.id ? moving.by : 0)}px;width:{lane}px;height:{Math.max(4, high)}px;z-index:{moving?.id === x.sound.id ? 2 : 1}"
    title={name(x)} aria-label={name(x)} aria-pressed={sounds.chosen === x.sound.id} data-sound={x.sound.id}
    onpointerdown={(e) => begin(e, x)} onpointermove={move} onpointerup={() => end(x)} onpointercancel={() => (moving = null)}
    onclick={() => (sounds.chosen = x.sound.id)}
  >
    <svg width={lane} height={Math.max(4, high)} aria-hidden="true" class="block">
      <path d={path(x)} fill={voice ? 'currentColor' : 'none'} stroke={voice ? 'none' : 'currentColor'} stroke-width="1" transform="translate(1 0)" />
      <path d="M0 0.5 H{lane}" stroke="currentColor" stroke-dasharray={voice ? undefined : '3 2'} />
      {#if x.sound.fade_in_s}<path d="M{lane / 2} 0 L{lane} {x.sound.fade_in_s * pxPerS}" stroke="var(--pencil)" fill="none" />{/if}
      {#if x.sound.fade_out_s}<path d="M{lane} {high - x.sound.fade_out_s * pxPerS} L{lane / 2} {high}" stroke="var(--pencil)" fill="none" />{/if}
    </svg>
  </button>
{/each}
