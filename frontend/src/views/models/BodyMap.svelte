<script lang="ts">
  import type { Trait } from '../../api/client';

  /** Where on the body each trait sits: choose a trait, then click its place. The body is nobody's in particular. */
  let { traits, chosen = $bindable(null), onplace }: { traits: Trait[]; chosen?: string | null; onplace: (trait: Trait, x: number, y: number) => void } = $props();
  const W = 96;
  const H = 150;
  const placed = $derived(traits.filter((t) => t.body_x !== null && t.body_y !== null));
  const held = $derived(traits.find((t) => t.id === chosen));

  function place(event: MouseEvent) {
    if (!held) return;
    const r = (event.currentTarget as Element).getBoundingClientRect();
    onplace(held, Math.min(1, Math.max(0, (event.clientX - r.left) / r.width)), Math.min(1, Math.max(0, (event.clientY - r.top) / r.height)));
  }

  function key(event: KeyboardEvent) {
    const by = ({ ArrowLeft: [-0.04, 0], ArrowRight: [0.04, 0], ArrowUp: [0, -0.03], ArrowDown: [0, 0.03] } as Record<string, [number, number]>)[event.key];
    if (!held || !by) return;
    event.preventDefault();
    event.stopPropagation();
    const clamp = (v: number) => Math.min(1, Math.max(0, v));
    onplace(held, clamp((held.body_x ?? 0.5) + by[0]), clamp((held.body_y ?? 0.5) + by[1]));
  }
</script>

<div class="mb-3 flex gap-3">
  <button class="shrink-0 border border-hair {held ? 'cursor-crosshair' : 'cursor-default'}" style="width:{W}px;height:{H}px" onclick={place} onkeydown={key} aria-label={held ? `Place of ${held.name}: click, or arrow keys` : 'Body map'} data-body-map>
    <svg viewBox="0 0 {W} {H}" width={W} height={H} class="text-line">
      <g fill="none" stroke="currentColor" stroke-width="2.2" stroke-linejoin="round" stroke-linecap="round">
        <ellipse cx="48" cy="24" rx="15" ry="17" /><path d="M38 40q10 5 20 0l8 12q4 22 0 44h-36q-4-22 0-44zM30 54l-12 34M66 54l12 34M38 96l-4 44h10M58 96l4 44h-10" />
      </g>
      {#each placed as t (t.id)}
        <circle cx={t.body_x! * W} cy={t.body_y! * H} r={t.id === chosen ? 6 : 4.5} fill={t.colours[0]} stroke={t.id === chosen ? 'var(--pencil)' : 'var(--ink)'} stroke-width={t.id === chosen ? 2.4 : 1} />
      {/each}
    </svg>
  </button>
  <ul class="min-w-0 text-[12px]">
    {#each traits as t (t.id)}
      <li><button class="flex min-h-6 w-full items-center gap-1.5 truncate text-left {t.id === chosen ? 'font-semibold text-pencil' : t.body_x === null ? 'text-soft' : ''}" onclick={() => (chosen = t.id)}><span class="inline-block size-2.5 shrink-0 rounded-full border border-black/30" style="background:{t.colours[0]}"></span>{t.name}</button></li>
    {/each}
    <li class="label mt-1">{held ? 'Click its place on the body.' : 'Choose one, then its place.'}</li>
  </ul>
</div>
