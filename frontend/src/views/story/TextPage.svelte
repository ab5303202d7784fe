<script lang="ts">
  import type { EditorView } from '@codemirror/view';
  import { onDestroy, onMount, untrack } from 'svelte';
  import { api } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import { lanes, numbersAt } from './brackets';
  import type { StoryState } from './story-state.svelte';
  import { marked, replaceText, setMarked, textPage, wordEdge } from './text-page';

  interface Bracket {
    id: string;
    number: number;
    top: number;
    bottom: number;
    lane: number;
    /** Where its number stands, from its top. */
    at: number;
    proposed: boolean;
  }

  let { story }: { story: StoryState } = $props();
  const project = useProject();
  let host = $state<HTMLElement | null>(null);
  let view: EditorView | null = null;
  let brackets = $state.raw<Bracket[]>([]);
  let labels = $state.raw<{ top: number; words: string }[]>([]);
  let drag = $state<{ id: string; end: 'start' | 'end'; at: number } | null>(null);
  let queued = false;

  onMount(() => {
    view = textPage(host!, project.text, {
      typed: (text) => story.typed(text),
      laid: lay,
      cursor: (at) => story.cursorAt(at, view!.state.field(marked).spans),
      split: (at) => story.splitAt(at, view!.state.field(marked)),
      leave: () => view!.contentDOM.blur(),
    });
    story.text = () => view!.state.doc.toString();
    story.reveal = reveal;
    mark();
    if (!project.text) view.focus();
    view.scrollDOM.addEventListener('scroll', lay, { passive: true });
    void document.fonts.ready.then(() => view?.requestMeasure());
  });
  onDestroy(() => {
    story.flush();
    view?.destroy();
  });

  $effect(() => {
    const text = project.text;
    const typing = story.dirty;
    untrack(() => view && !typing && replaceText(view, text));
  });

  $effect(() => {
    void [project.order, project.reading, project.currentId, project.text, story.dirty];
    untrack(mark);
  });

  $effect(() => {
    const id = project.currentId;
    untrack(() => id && !view?.hasFocus && reveal(id));
  });

  /** Hand the page its stretches, unless typing runs ahead of what the server knows. */
  function mark() {
    if (!view || story.dirty) return;
    const text = project.storyText;
    const length = view.state.doc.length;
    const place = (character: number) => Math.min(length, text.unit(character));
    const reading = project.reading?.text_revision === project.row?.text_revision ? project.reading : null;
    const held = view.state.field(marked);
    view.dispatch({
      effects: setMarked.of({
        spans: project.order
          .map((s) => ({ shot: s, held: text.stretch(s) }))
          .flatMap(({ shot, held }) => (held && held[1] <= length ? [{ id: shot.id, from: held[0], to: held[1], proposed: shot.status === 'proposed', number: project.number(shot.id) }] : [])),
        gaps: reading ? reading.gaps.map((g, i) => ({ id: `${i}`, from: place(g.start), to: place(g.end), twice: (g.shots?.length ?? 0) > 1 })) : held.gaps,
        passages: reading ? reading.passages.map((p, i) => ({ id: `${i}`, kind: p[0] as string, from: place(p[1] as number), to: place(p[2] as number) })) : held.passages,
        current: project.currentId,
      }),
    });
  }

  function lay() {
    if (queued || !view) return;
    queued = true;
    view.requestMeasure({ key: 'brackets', read: measured, write: (found) => { brackets = found.brackets; labels = found.labels; queued = false; } });
  }

  function measured(v: EditorView) {
    const { spans, gaps } = v.state.field(marked);
    const zero = v.documentTop;
    const scroll = v.scrollDOM.getBoundingClientRect().top;
    const { from, to } = v.viewport;
    const edge = (at: number, side: 1 | -1, fallback: number) => {
      const box = at >= from && at <= to ? v.coordsAtPos(at, side) : null;
      return box ? [box.top - zero, box.bottom - zero] : [fallback, fallback];
    };
    const seen = spans.filter((s) => s.to > from && s.from < to).sort((a, b) => a.from - b.from);
    const found = seen.map((s) => ({
      id: s.id, number: s.number, proposed: s.proposed,
      top: edge(s.from, 1, v.lineBlockAt(from).top)[0]!, bottom: edge(s.to, -1, v.lineBlockAt(Math.min(to, v.state.doc.length)).bottom)[1]!,
    }));
    const lane = lanes(found);
    const at = numbersAt(found, lane);
    const shift = zero - scroll;
    return {
      brackets: found.map((b, i) => ({ ...b, top: b.top + shift, bottom: b.bottom + shift, lane: lane[i]!, at: at[i]! - b.top })),
      labels: gaps.filter((g) => g.from >= from && g.from <= to).map((g) => ({ top: edge(g.from, 1, 0)[0]! + shift, words: g.twice ? 'in two' : 'in no shot' })),
    };
  }

  function reveal(id: string) {
    const span = view?.state.field(marked).spans.find((s) => s.id === id);
    if (!view || !span) return;
    const box = view.lineBlockAt(span.from);
    const top = view.scrollDOM.scrollTop;
    if (box.top < top + 20 || box.top > top + view.scrollDOM.clientHeight - 80)
      view.scrollDOM.scrollTo({ top: Math.max(0, box.top - 120) });
  }

  function grab(event: PointerEvent, id: string, end: 'start' | 'end') {
    event.preventDefault();
    event.stopPropagation();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    project.currentId = id;
    drag = { id, end, at: -1 };
  }

  function pulled(event: PointerEvent) {
    if (!drag || !view) return;
    const content = view.contentDOM.getBoundingClientRect();
    const x = event.clientX < content.left ? (drag.end === 'start' ? content.left + 1 : content.right - 1) : event.clientX;
    const at = view.posAtCoords({ x, y: event.clientY }, false);
    const edge = wordEdge(view.state.doc.toString(), at, drag.end);
    if (edge === drag.at) return;
    drag.at = edge;
    const now = view.state.field(marked);
    const spans = now.spans.map((s) => (s.id !== drag!.id ? s : drag!.end === 'start' ? { ...s, from: Math.min(edge, s.to - 1) } : { ...s, to: Math.max(edge, s.from + 1) }));
    view.dispatch({ effects: setMarked.of({ ...now, spans }) });
  }

  function dropped() {
    const held = drag;
    drag = null;
    const span = held && held.at >= 0 ? view!.state.field(marked).spans.find((s) => s.id === held.id) : null;
    if (span) void story.cover(span.id, span.from, span.to).then((done) => done || mark());
  }

  async function textDropped(event: DragEvent) {
    const file = event.dataTransfer?.files[0];
    if (!file) return;
    event.preventDefault();
    event.stopPropagation();
    await story.takeInFile(file);
  }
</script>

<div class="relative min-h-0 flex-1 overflow-hidden" data-page role="region" aria-label="Text" ondropcapture={textDropped}>
  <div class="absolute inset-0" bind:this={host}></div>
  <div class="pointer-events-none absolute inset-y-0 left-0 w-[126px] overflow-hidden" data-brackets>
    {#each labels as label, i (i)}
      <span class="absolute right-[8px] text-[11px] leading-none text-red" style="top:{label.top + 11}px">{brackets.some((b) => b.top < label.top + 16 && b.bottom > label.top + 8) ? '' : label.words}</span>
    {/each}
    {#each brackets as b (b.id)}
      {@const on = b.id === project.currentId}
      <div class="pointer-events-auto absolute" style="left:{76 - b.lane * 22}px;top:{b.top + 3}px;height:{Math.max(12, b.bottom - b.top - 6)}px;width:34px" data-bracket={b.number}>
        <button class="absolute inset-0" onclick={() => (project.currentId = b.id)} aria-label="Shot {b.number}" tabindex="-1">
          <span class="absolute inset-y-0 right-0 w-[11px] border-y-2 border-l-2 {on ? '!border-y-[3px] !border-l-[3px] border-pencil' : 'border-ink'} {b.proposed ? 'border-dashed !border-pencil' : ''}"></span>
          <span style="top:{b.at - 3}px" class="absolute right-[19px] -translate-y-1/2 font-book text-[15px] {on ? 'font-bold text-pencil' : b.proposed ? 'text-pencil' : ''}">{b.number}</span>
        </button>
        {#each ['start', 'end'] as const as end (end)}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <span
            class="absolute right-[-3px] h-[12px] w-[20px] cursor-ns-resize touch-none {end === 'start' ? 'top-[-6px]' : 'bottom-[-6px]'} {on ? 'hover:bg-pencil/30' : ''}"
            onpointerdown={(e) => grab(e, b.id, end)} onpointermove={pulled} onpointerup={dropped} onpointercancel={dropped} data-handle={end}
          ></span>
        {/each}
      </div>
    {/each}
  </div>
</div>
