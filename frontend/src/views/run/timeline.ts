import type { Join, Shot } from '../../api/client';
import { USUAL, WHOLE, type Frame } from '../../lib/move-frames';

/** The least length that a trim leaves: five frames of film are the least that is seen as a picture. */
export const SHORTEST_S = 0.2;

/** A shot in time: from when to when it is seen, in seconds of the whole. */
export interface Span {
  id: string;
  scene: string;
  start_s: number;
  length_s: number;
  join: Join;
  join_s: number;
}

/** A shot in a frame: where in it the frame lies, 0 to 1, and how much of it is seen over what lies under it. */
export interface Seen {
  span: Span;
  part: number;
  strength: number;
}

/** Shots one after another; `lengths` are lengths that are not kept yet. */
export function laidOut(shots: Iterable<Shot>, lengths: ReadonlyMap<string, number> = new Map()): Span[] {
  let start_s = 0;
  return [...shots].map((shot) => {
    const length_s = lengths.get(shot.id) ?? shot.length_s;
    const span = { id: shot.id, scene: shot.scene_id, start_s, length_s, join: shot.join, join_s: shot.join_s };
    start_s += length_s;
    return span;
  });
}

/** The place in the row of the span that is seen at a moment; the first for one before it begins, -1 in an empty row. */
export function spanAt(spans: readonly Span[], time_s: number): number {
  let low = 0;
  for (let high = spans.length - 1; low < high; ) {
    const middle = (low + high + 1) >> 1;
    if (spans[middle]!.start_s <= time_s) low = middle;
    else high = middle - 1;
  }
  return spans.length ? low : -1;
}

/** What is seen at a moment, what lies undermost first. The same as `juxtaform/core/run/timeline.py`. */
export function seenAt(spans: readonly Span[], time_s: number): Seen[] {
  const i = spanAt(spans, time_s);
  const span = spans[i];
  if (!span) return [];
  const into = Math.min(Math.max(0, time_s - span.start_s), span.length_s);
  const part = span.length_s ? into / span.length_s : 0;
  const join_s = Math.min(span.join_s, span.length_s);
  if (span.join === 'dissolve' && i && into < join_s) return [{ span: spans[i - 1]!, part: 1, strength: 1 }, { span, part, strength: into / join_s }];
  let strength = span.join === 'fade' && into < join_s / 2 ? into / (join_s / 2) : 1;
  const next = spans[i + 1];
  if (next?.join === 'fade') {
    const half = Math.min(next.join_s, span.length_s) / 2;
    if (half > 0) strength = Math.min(strength, (span.length_s - into) / half);
  }
  return [{ span, part, strength: Math.min(1, strength) }];
}

const to3 = (v: number) => Math.round(v * 1000) / 1000;

/** Lengths after one shot was made longer or shorter; all that follows moves. */
export function rippled(lengths: readonly number[], at: number, by_s: number): number[] {
  return lengths.map((l, i) => (i === at ? Math.max(SHORTEST_S, to3(l + by_s)) : l));
}

/** Lengths after the cut behind a shot was moved: what it gains the next one loses. The last shot has no cut behind it and is rippled. */
export function rolled(lengths: readonly number[], at: number, by_s: number): number[] {
  const both = (lengths[at] ?? 0) + (lengths[at + 1] ?? 0);
  if (at + 1 >= lengths.length) return rippled(lengths, at, by_s);
  if (both < 2 * SHORTEST_S) return [...lengths];
  const own = to3(Math.min(Math.max(SHORTEST_S, lengths[at]! + by_s), both - SHORTEST_S));
  return lengths.map((l, i) => (i === at ? own : i === at + 1 ? to3(both - own) : l));
}

/** The first and the last frame of a shot's move; the whole picture for a static one. */
export function framesOf(shot: Pick<Shot, 'move' | 'move_start' | 'move_end'>): [Frame, Frame] {
  if (shot.move === 'static') return [WHOLE, WHOLE];
  const [first, last] = USUAL[shot.move] ?? [WHOLE, WHOLE];
  return [(shot.move_start as Frame | null) ?? first, (shot.move_end as Frame | null) ?? last];
}

/** The frame at a part of a shot, 0 to 1: softly begun and ended, size by equal ratios. The same as `juxtaform/core/run/moves.py`. */
export function frameAt(start: Frame, end: Frame, part: number): Frame {
  const p = Math.min(1, Math.max(0, part));
  const t = p * p * (3 - 2 * p);
  const size = [2, 3].map((k) => start[k]! ** (1 - t) * end[k]! ** t) as [number, number];
  const place = [0, 1].map((k) => {
    const grown = end[k + 2]! - start[k + 2]!;
    const way = Math.abs(grown) < 1e-6 ? t : (size[k]! - start[k + 2]!) / grown;
    return start[k]! + (end[k]! - start[k]!) * way;
  }) as [number, number];
  return [...place, ...size];
}

/** The part of a stage that a frame of a picture fills, as shares; forms are widths over heights. */
export function laidIn(picture: number, stage: number, frame: Frame): Frame {
  const form = (picture * frame[2]) / frame[3];
  if (form <= stage) return [(1 - form / stage) / 2, 0, form / stage, 1];
  return [0, (1 - stage / form) / 2, 1, stage / form];
}

/** A time as minutes and seconds: 0:59.4. */
export function clock(time_s: number, tenths = true): string {
  const shown = tenths ? Math.floor(time_s * 10 + 1e-6) / 10 : Math.round(time_s);
  const minutes = Math.floor(shown / 60);
  const rest = shown - 60 * minutes;
  return `${minutes}:${tenths ? rest.toFixed(1).padStart(4, '0') : String(rest).padStart(2, '0')}`;
}
