import type { Shot } from '../../api/client';

/** A stretch of the text with the shots that cover it. */
export interface Piece {
  start: number;
  end: number;
  shots: string[];
}

/** A paragraph or heading of the text, with its pieces in order. */
export interface Block {
  kind: 'heading' | 'paragraph';
  start: number;
  end: number;
  pieces: Piece[];
}

const HEADING = /^\s*(#{1,6}\s|(INT|EXT|EST|I\/E|INT\.?\/EXT)[. ]|\.(?=[^.]))/i;

/** Cut a text into headings and paragraphs, and these where the cover by shots changes. */
export function blocks(text: string, shots: Shot[]): Block[] {
  const spans = shots
    .filter((s) => s.span_start !== null && s.span_end !== null && s.span_end > s.span_start)
    .map((s) => ({ id: s.id, start: s.span_start!, end: s.span_end! }));
  const found: Block[] = [];
  let offset = 0;
  for (const line of text.split('\n')) {
    const start = offset;
    const end = offset + line.length;
    offset = end + 1;
    if (!line.trim()) continue;
    if (HEADING.test(line)) found.push({ kind: 'heading', start, end, pieces: [{ start, end, shots: [] }] });
    else found.push({ kind: 'paragraph', start, end, pieces: pieces(start, end, spans) });
  }
  return found;
}

function pieces(start: number, end: number, spans: { id: string; start: number; end: number }[]): Piece[] {
  const cover = spans.filter((s) => s.start < end && s.end > start);
  const cuts = [...new Set([start, end, ...cover.flatMap((s) => [s.start, s.end])])].filter((c) => c >= start && c <= end).sort((a, b) => a - b);
  return cuts.slice(1).map((to, i) => {
    const from = cuts[i]!;
    return { start: from, end: to, shots: cover.filter((s) => s.start <= from && s.end >= to).map((s) => s.id) };
  });
}

/** A heading's words without its sign. */
export const headingWords = (line: string) => line.replace(/^\s*(#{1,6}|\.)\s*/, '').trim();

/** Lanes for brackets, so that those on the same lines stand side by side. */
export function lanes(extents: { top: number; bottom: number }[]): number[] {
  const ends: number[] = [];
  return extents.map(({ top, bottom }) => {
    const free = ends.findIndex((e) => e <= top + 3);
    const lane = free < 0 ? ends.length : free;
    ends[lane] = bottom;
    return lane;
  });
}
