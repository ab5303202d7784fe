<script lang="ts">
  import { thumb, type Opening, type PlacedWords } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import { MM_PER_PT, shotsOf, type BoxMm, type DummyState } from './dummy-state.svelte';

  /** Two facing pages as they are printed and cut, `width` px wide; with guides and words that can be moved when they lie open. */
  let { view, opening, width, open = false }: { view: DummyState; opening: Opening; width: number; open?: boolean } = $props();
  const project = useProject();
  const book = $derived(view.book!);
  const px = $derived(width / (2 * book.trim_w));
  const place = ({ x, y, w, h }: BoxMm) => `left:${x * px}px;top:${y * px}px;width:${w * px}px;height:${h * px}px`;
  let dragged = $state<{ x: number; y: number; from: BoxMm; wide: boolean } | null>(null);
  const KEYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

  function down(event: PointerEvent, words: PlacedWords, wide: boolean) {
    if (!open || event.button) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    view.shotId = words.shot;
    dragged = { x: event.clientX, y: event.clientY, from: view.boxOf(words), wide };
  }

  function moved(event: PointerEvent, words: PlacedWords) {
    if (!dragged) return;
    const dx = (event.clientX - dragged.x) / px;
    const dy = (event.clientY - dragged.y) / px;
    if (Math.hypot(dx, dy) < 0.5 && !view.moving) return;
    if (dragged.wide) view.move(words, dragged.from, 0, 0, dx);
    else view.move(words, dragged.from, dx, dy);
  }

  function up() {
    dragged = null;
    if (view.moving) void view.drop();
  }

  function pressed(event: KeyboardEvent, words: PlacedWords) {
    const way = KEYS[event.key];
    if (!open || !way) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? 10 : 1;
    const from = view.boxOf(words);
    view.move(words, from, way[0] * step, way[1] * step);
    void view.drop();
  }

  const tone = (words: PlacedWords) => (words.tone === 'light' ? 'color:#fff' : 'color:#1c1e20');
</script>

<div class="relative shrink-0 overflow-hidden" style="width:{width}px;height:{book.trim_h * px}px" data-pages>
  {#each [opening.left, opening.right] as page, side (side)}
    {#if page}
      <div class="absolute inset-y-0 overflow-hidden bg-white text-[#1c1e20]" style="left:{side * book.trim_w * px}px;width:{book.trim_w * px}px">
        {#if page.kind === 'title'}
          <div class="grid h-full place-items-center px-[8%] text-center font-book font-semibold" style="font-size:{Math.max(5, 30 * MM_PER_PT * px)}px;line-height:1.2">{project.title}</div>
        {:else if page.kind === 'imprint'}
          <div class="absolute font-book whitespace-pre-line" style="left:{book.safe * px * 1.4}px;bottom:{book.safe * px * 1.4}px;font-size:{Math.max(3, 8 * MM_PER_PT * px)}px">{book.imprint || (open ? 'The imprint: who made it, when, and whose it is.' : '')}</div>
        {:else if page.kind === 'dedication'}
          <div class="grid h-full place-items-center px-[12%] text-center font-book italic" style="font-size:{Math.max(4, 14 * MM_PER_PT * px)}px">{book.dedication || (open ? 'The dedication' : '')}</div>
        {/if}
      </div>
    {/if}
  {/each}
  {#each opening.pictures as p (p.shot)}
    {@const sha = view.view?.shas[p.shot]}
    {#if sha}
      <svelte:element this={open ? 'button' : 'span'} role={open ? 'button' : undefined} class="absolute block overflow-hidden" style={place(p.box)} aria-label={open ? `Picture of shot ${project.number(p.shot)}` : undefined} onclick={open ? () => (view.shotId = p.shot) : undefined}>
        <img src={thumb(sha, open ? 960 : 240)} alt="" draggable="false" class="absolute max-w-none" style="left:{(-p.part[0]! / p.part[2]!) * 100}%;top:{(-p.part[1]! / p.part[3]!) * 100}%;width:{100 / p.part[2]!}%;height:{100 / p.part[3]!}%" />
      </svelte:element>
    {/if}
  {/each}
  {#each shotsOf(opening).filter((s) => !opening.pictures.some((p) => p.shot === s)) as s (s)}
    {@const shot = project.shots.get(s)}
    {#if shot && open}{@const room = view.room(shot)}<div class="absolute grid place-items-center border border-dashed border-[#1e6b98] p-4 text-center font-book text-[#5f6368]" style={place({ x: room.x + 14, y: room.y + 14, w: room.w - 28, h: room.h - 28 })}>{project.number(s)}. {shot.shows || 'No picture yet'}</div>{/if}
  {/each}
  {#if open && view.guides}
    <svg class="pointer-events-none absolute inset-0 size-full text-[#2f86b8]" aria-hidden="true">
      {#if opening.left && opening.right}
        <rect x={(book.trim_w - book.gutter) * px} y="0" width={2 * book.gutter * px} height="100%" fill="currentColor" opacity="0.13" />
        <path d="M{book.trim_w * px} 0 V{book.trim_h * px}" stroke="currentColor" stroke-width="1" />
      {/if}
      {#each [opening.left, opening.right] as page, side (side)}
        {#if page}<rect x={(side * book.trim_w + book.safe) * px} y={book.safe * px} width={(book.trim_w - 2 * book.safe) * px} height={(book.trim_h - 2 * book.safe) * px} fill="none" stroke="currentColor" stroke-width="1" stroke-dasharray="5 4" />{/if}
      {/each}
      {#each view.notesHere as n, i (i)}
        {#if n.box}<rect x={n.box.x * px} y={n.box.y * px} width={n.box.w * px} height={n.box.h * px} fill="none" stroke="#b93325" stroke-width="1.6" />{/if}
      {/each}
    </svg>
  {/if}
  {#each opening.words as w (w.shot)}
    {@const box = view.boxOf(w)}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <div
      class="absolute font-book {open ? 'cursor-move touch-none' : 'pointer-events-none'} {open && view.shotId === w.shot ? 'outline-1 outline-offset-2 outline-[#2f86b8]' : ''}"
      style="{place({ ...box, h: Math.max(box.h, 4) })};height:auto;font-size:{w.size_pt * MM_PER_PT * px}px;line-height:1.42;{tone(w)};{w.over || w.by_hand ? '' : 'text-align:center'}"
      role={open ? 'application' : undefined} tabindex={open ? 0 : undefined} aria-label={open ? `Words of shot ${project.number(w.shot)}; arrows move them` : undefined} data-words={open ? w.shot : undefined}
      onpointerdown={(e) => down(e, w, false)} onpointermove={(e) => moved(e, w)} onpointerup={up} onkeydown={(e) => pressed(e, w)} onfocus={() => open && (view.shotId = w.shot)}
    >{w.words}{#if open}<span role="presentation" class="absolute top-0 -right-[9px] h-full w-[7px] cursor-ew-resize {view.shotId === w.shot ? 'bg-[#2f86b8]' : ''}" onpointerdown={(e) => down(e, w, true)} onpointermove={(e) => moved(e, w)} onpointerup={up}></span>{/if}</div>
  {/each}
</div>
