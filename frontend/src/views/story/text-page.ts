import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { Compartment, EditorState, RangeSetBuilder, StateEffect, StateField, type ChangeDesc } from '@codemirror/state';
import { Decoration, drawSelection, EditorView, keymap, placeholder, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view';
import { difference } from '../../lib/story-text';

/** A stretch of the text: a shot's words, words in no shot or in two, or a passage that is no story. */
export interface Stretch {
  id: string;
  from: number;
  to: number;
}

export interface Marked {
  spans: (Stretch & { proposed: boolean; number: number })[];
  gaps: (Stretch & { twice: boolean })[];
  passages: (Stretch & { kind: string })[];
  current: string | null;
}

const EMPTY: Marked = { spans: [], gaps: [], passages: [], current: null };
export const setMarked = StateEffect.define<Marked>();

/** What is marked on the page; while a text is typed, everything moves along with its words. */
export const marked = StateField.define<Marked>({
  create: () => EMPTY,
  update(value, tr) {
    let now = value;
    if (tr.docChanged) now = { ...now, spans: moved(now.spans, tr.changes), gaps: moved(now.gaps, tr.changes), passages: moved(now.passages, tr.changes) };
    for (const effect of tr.effects) if (effect.is(setMarked)) now = effect.value;
    return now;
  },
});

/** Stretches after a change: words typed inside one belong to it, words typed beside it do not. */
export function moved<T extends Stretch>(stretches: T[], changes: ChangeDesc): T[] {
  return stretches
    .map((s) => ({ ...s, from: changes.mapPos(s.from, 1), to: changes.mapPos(s.to, -1) }))
    .filter((s) => s.to > s.from);
}

const HEADING = Decoration.line({ class: 'jx-heading' });
const BLANK = Decoration.line({ class: 'jx-blank' });
const ASIDE = Decoration.mark({ class: 'jx-aside' });
const CUE = Decoration.mark({ class: 'jx-cue' });
const NONE = Decoration.mark({ class: 'jx-none', attributes: { title: 'in no shot' } });
const TWICE = Decoration.mark({ class: 'jx-twice', attributes: { title: 'in two shots' } });
const CURRENT = Decoration.mark({ class: 'jx-current' });
const PROPOSED = Decoration.mark({ class: 'jx-proposed' });

function decorations(view: EditorView): DecorationSet {
  const now = view.state.field(marked);
  const length = view.state.doc.length;
  const found: { from: number; to: number; deco: Decoration; rank: number }[] = [];
  for (const { from, to } of view.visibleRanges) {
    const put = (s: Stretch, deco: Decoration, rank: number) => {
      const a = Math.max(s.from, from);
      const b = Math.min(s.to, to, length);
      if (b > a) found.push({ from: a, to: b, deco, rank });
    };
    for (const p of now.passages) {
      if (p.to < from || p.from > to) continue;
      if (p.kind === 'scene' || p.kind === 'section' || (p.kind === 'title' && p.to - p.from < 200)) {
        for (let at = Math.max(p.from, from); at <= Math.min(p.to, to, length); ) {
          const line = view.state.doc.lineAt(at);
          found.push({ from: line.from, to: line.from, deco: HEADING, rank: 0 });
          at = line.to + 1;
        }
      } else if (p.kind === 'character' || p.kind === 'parenthetical' || p.kind === 'transition') put(p, CUE, 1);
      else if (['note', 'art', 'boneyard', 'synopsis', 'page_break', 'title'].includes(p.kind)) put(p, ASIDE, 1);
    }
    for (let at = from; at <= to; ) {
      const line = view.state.doc.lineAt(at);
      if (!line.length) found.push({ from: line.from, to: line.from, deco: BLANK, rank: 0 });
      at = line.to + 1;
    }
    for (const s of now.spans) if (s.to > from && s.from < to) put(s, s.id === now.current ? CURRENT : PROPOSED, s.id === now.current ? 2 : s.proposed ? 3 : -1);
    for (const g of now.gaps) if (g.to > from && g.from < to) put(g, g.twice ? TWICE : NONE, 4);
  }
  const builder = new RangeSetBuilder<Decoration>();
  const kept = found.filter((f) => f.rank >= 0);
  kept.sort((a, b) => a.from - b.from || a.deco.startSide - b.deco.startSide || a.to - b.to);
  for (const f of kept) builder.add(f.from, f.to, f.deco);
  return builder.finish();
}

const painted = ViewPlugin.fromClass(
  class {
    set: DecorationSet;
    constructor(view: EditorView) {
      this.set = decorations(view);
    }
    update(update: ViewUpdate) {
      if (update.docChanged || update.viewportChanged || update.transactions.some((t) => t.effects.some((e) => e.is(setMarked))))
        this.set = decorations(update.view);
    }
  },
  { decorations: (plugin) => plugin.set },
);

/** What lets the editor put in its own style sheet: the page's nonce (CSP). */
const nonce = (typeof document === 'undefined' ? null : document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]'))?.nonce ?? '';
const look = EditorView.theme({
  '&': { height: '100%', fontSize: '18px', background: 'transparent', color: 'var(--ink)' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: "'Literata Variable', Georgia, serif", lineHeight: '30px', overflowX: 'hidden' },
  '.cm-content': { maxWidth: '560px', margin: '0 40px 0 130px', padding: '20px 0 40vh', caretColor: 'var(--ink)' },
  '.cm-line': { padding: '0' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)', borderLeftWidth: '1.5px' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { background: 'color-mix(in srgb, var(--pencil) 28%, transparent) !important' },
  '.cm-placeholder': { color: 'var(--soft)', whiteSpace: 'pre-wrap' },
  '.jx-heading': { fontSize: '16px', fontWeight: '650', color: 'var(--soft)' },
  '.jx-blank': { lineHeight: '16px' },
  '.jx-aside': { color: 'var(--soft)', fontStyle: 'italic', fontSize: '15px' },
  '.jx-cue': { color: 'var(--soft)', fontSize: '15px' },
  '.jx-current': { background: 'var(--wash)' },
  '.jx-proposed': { textDecoration: 'underline dashed var(--pencil) 1px', textUnderlineOffset: '5px' },
  '.jx-none': { textDecoration: 'underline wavy var(--red) 1px', textUnderlineOffset: '5px' },
  '.jx-twice': { textDecoration: 'underline double var(--red) 1px', textUnderlineOffset: '4px' },
});

const WORDS_TO_WRITE =
  'Paste or type the story here, or drop a file: plain text, or a document of a word processor (.docx, .odt, .rtf).\n\nA line that begins with # starts a scene, and so does a heading such as EXT. HARBOUR – DUSK. Markdown and Fountain scripts are understood, comic scripts (Panel 1, Panel 2 …) and manuscripts of picture books (Page 1, Spread 2 …).';

/** What the page tells the view. */
export interface PageEvents {
  typed: (text: string) => void;
  /** The cursor came to rest, or the page was scrolled or laid out anew. */
  laid: () => void;
  cursor: (at: number) => void;
  split: (at: number) => boolean;
  leave: () => void;
}

/** An editor for the story's text: undo of its own for typing, drawn only where it is seen, so that length does not matter. */
export function textPage(parent: HTMLElement, text: string, on: PageEvents): EditorView {
  const wide = new Compartment();
  return new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      extensions: [
        marked,
        painted,
        history(),
        drawSelection(),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': 'Text of the story', spellcheck: 'true', tabindex: '0' }),
        placeholder(WORDS_TO_WRITE),
        wide.of([]),
        look,
        EditorView.cspNonce.of(nonce),
        keymap.of([
          { key: 'Escape', run: () => (on.leave(), true) },
          { key: 'Mod-Enter', run: (view) => on.split(view.state.selection.main.head) },
          ...historyKeymap,
          ...defaultKeymap,
        ]),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) on.typed(update.state.doc.toString());
          if (update.geometryChanged || update.docChanged || update.viewportChanged || update.transactions.some((t) => t.effects.some((e) => e.is(setMarked))))
            on.laid();
          if (update.selectionSet && update.view.hasFocus && !update.docChanged) on.cursor(update.state.selection.main.head);
        }),
      ],
    }),
  });
}

/** Put another text into the page, changing only what differs, so that the cursor and the scroll stay. */
export function replaceText(view: EditorView, text: string) {
  const old = view.state.doc.toString();
  if (old === text) return;
  const { from, to, put } = difference(old, text);
  view.dispatch({ changes: { from, to, insert: put } });
}

/** The word edge nearest to a position, for the ends of a bracket. */
export function wordEdge(text: string, at: number, side: 'start' | 'end'): number {
  const isSpace = (i: number) => i < 0 || i >= text.length || /\s/.test(text[i]!);
  let back = at;
  let forth = at;
  if (side === 'start') {
    while (back > 0 && !(isSpace(back - 1) && !isSpace(back))) back--;
    while (forth < text.length && !(isSpace(forth - 1) && !isSpace(forth))) forth++;
  } else {
    while (back > 0 && !(!isSpace(back - 1) && isSpace(back))) back--;
    while (forth < text.length && !(!isSpace(forth - 1) && isSpace(forth))) forth++;
  }
  return at - back <= forth - at ? back : forth;
}

/** A span with one end moved by a word. */
export function byWord(text: string, from: number, to: number, end: 'start' | 'end', step: 1 | -1): [number, number] {
  const next = (at: number): number => {
    let i = at + step;
    while (i > 0 && i < text.length && wordEdge(text, i, end) !== i) i += step;
    return Math.min(text.length, Math.max(0, i));
  };
  const [a, b] = end === 'start' ? [next(from), to] : [from, next(to)];
  return b > a ? [a, b] : [from, to];
}
