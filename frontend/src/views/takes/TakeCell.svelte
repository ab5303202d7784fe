<script lang="ts">
  import { thumb, type FaultMark, type Picture, type Take } from '../../api/client';
  import type { ContactSheetState } from './contact-sheet-state.svelte';

  /** One take on the contact sheet: its picture with what the pencil says of it, and how it holds. */
  let { sheet, take, width, bars, onopen }: { sheet: ContactSheetState; take: Take; width: number; bars: number; onopen: () => void } = $props();
  const picture = $derived<Picture | undefined>(sheet.project.pictures.get(take.picture_sha));
  const faults = $derived<FaultMark[]>(sheet.project.faultsByTake.get(take.id) ?? []);
  const reading = $derived(sheet.readings.get(take.id));
  const number = $derived(sheet.numberOf.get(take.id) ?? 0);
  const on = $derived(sheet.chosen?.id === take.id);
  const tall = $derived(Math.round((width * 2) / 3));
  /** The picture within its well. */
  const scale = $derived(picture ? Math.min(width / picture.width, tall / picture.height) : 1);
  const drawn = $derived(picture ? { w: picture.width * scale, h: picture.height * scale } : { w: width, h: tall });
  const words = $derived(
    [take.picked ? 'picked' : take.standing, ...new Set(faults.map((f) => f.kind))].filter(Boolean).join(' · '),
  );

  function point(event: PointerEvent) {
    const r = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const x = (event.clientX - r.left - (r.width - drawn.w) / 2) / drawn.w;
    const y = (event.clientY - r.top - (r.height - drawn.h) / 2) / drawn.h;
    sheet.pointed = x >= 0 && x <= 1 && y >= 0 && y <= 1 ? { take: take.id, x, y } : null;
  }
</script>

<div class="shrink-0" style="width:{width}px" data-take={number}>
  <button
    class="well relative block outline-offset-1 {on ? 'outline-3 outline-pencil' : ''}" style="width:{width}px;height:{tall}px" aria-pressed={on}
    aria-label="Take {number}{words ? `, ${words}` : ''}" onpointermove={point} onpointerleave={() => (sheet.pointed = null)}
    onclick={() => (sheet.chosenId = take.id)} ondblclick={onopen}
  >
    <img src={thumb(take.picture_sha, 480)} alt="" loading="lazy" decoding="async" class="size-full object-contain {take.standing === 'out' ? 'opacity-55' : ''}" draggable="false" />
    {#if picture?.clip}<span class="absolute right-1 bottom-1 rounded-sm bg-black/70 px-1 text-[11px] leading-4 text-white">▸ {(take.trim ? take.trim[1] - take.trim[0] : picture.clip.seconds).toFixed(1)} s</span>{/if}
    <svg class="pointer-events-none absolute inset-0 overflow-visible" {width} height={tall} viewBox="0 0 {width} {tall}" aria-hidden="true">
      {#if picture}
        {#each faults as f (f.id)}
          <ellipse
            cx={(width - drawn.w) / 2 + (f.x + f.w / 2) * scale} cy={(tall - drawn.h) / 2 + (f.y + f.h / 2) * scale} rx={Math.max(8, (f.w * scale) / 2)} ry={Math.max(8, (f.h * scale) / 2)}
            fill="none" stroke="#fff" stroke-width="4" stroke-opacity="0.7"
          />
          <ellipse
            cx={(width - drawn.w) / 2 + (f.x + f.w / 2) * scale} cy={(tall - drawn.h) / 2 + (f.y + f.h / 2) * scale} rx={Math.max(8, (f.w * scale) / 2)} ry={Math.max(8, (f.h * scale) / 2)}
            fill="none" stroke="#c4372a" stroke-width="2"
          />
        {/each}
      {/if}
      {#if take.standing === 'out'}<path d="M6 {tall - 6} L{width - 6} 6" stroke="#c4372a" stroke-width="2.5" stroke-linecap="round" />{/if}
      {#if take.standing === 'kept'}<path d="M{width - 30} {tall - 18} l7 9 14 -20" fill="none" stroke="#10222e" stroke-opacity="0.6" stroke-width="5" stroke-linecap="round" stroke-linejoin="round" /><path d="M{width - 30} {tall - 18} l7 9 14 -20" fill="none" stroke="#fff" stroke-width="3" stroke-linecap="round" stroke-linejoin="round" />{/if}
      {#if take.picked}<path d="M{width * 0.5} -4 C{width * 1.16} -8 {width * 1.1} {tall + 8} {width * 0.48} {tall + 4} C{-width * 0.12} {tall + 2} {-width * 0.1} -6 {width * 0.56} -5" fill="none" stroke="#c4372a" stroke-width="2.5" stroke-linecap="round" />{/if}
    </svg>
  </button>
  <p class="mt-1.5 flex h-4 items-baseline gap-1.5 overflow-hidden text-[12px] leading-4 whitespace-nowrap"><span class="text-soft">{number}</span><span class="truncate {take.picked ? 'font-semibold' : ''}">{words}</span></p>
  <div style="height:{bars * 16}px" class="mt-0.5 overflow-hidden">
    {#if reading}
      {#each sheet.bars(reading) as s (s.of)}
        {@const off = (s.value ?? 2) > 1}
        <div class="flex h-4 items-center gap-1.5 text-[11.5px] leading-4" title={s.says.join('; ')}>
          <span class="w-[58px] truncate {off ? 'text-red' : 'text-soft'}">{sheet.nameOf(s.of)}</span>
          <span class="relative h-1 flex-1 bg-hair"><span class="absolute inset-y-0 left-0 {off ? 'bg-red' : 'bg-soft'}" style="width:{s.value === null ? 0 : Math.min(100, s.value * 62)}%"></span><span class="absolute -top-1 left-[62%] h-3 w-px bg-ink"></span></span>
          <span class="w-8 text-right {off ? 'font-semibold text-red' : ''}">{s.value === null ? 'none' : s.value.toFixed(2)}</span>
        </div>
      {/each}
    {:else}
      <p class="text-[11.5px] leading-4 text-soft">being measured …</p>
    {/if}
  </div>
</div>
