import { describe, expect, it } from 'vitest';
import type { Shot } from '../../api/client';
import truth from '../../../../tests/run_truth.json';
import { clock, frameAt, framesOf, laidIn, laidOut, rippled, rolled, seenAt } from './timeline';

/** The truth that the server's computation is held against too. */
const TRUTH = truth as unknown as {
  shots: { id: string; length_s: number; join: Shot['join']; join_s: number }[];
  seen: { at: number; what: string; seen: [string, number, number][] }[];
  frames: { start: [number, number, number, number]; end: [number, number, number, number]; part: number; frame: number[] }[];
  laid: { picture: number; stage: number; frame: [number, number, number, number]; place: number[] }[];
  trims: { how: string; lengths: number[]; at: number; by: number; after: number[] }[];
};
const near = (found: number[], wanted: number[]) => found.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 5));
const spans = laidOut(TRUTH.shots.map((s) => ({ ...s, scene_id: '1' })) as unknown as Shot[]);

describe('the sequence in time', () => {
  it.each(TRUTH.seen)('at $at s: $what', ({ at, seen }) => {
    const told = seenAt(spans, at);
    expect(told.map((t) => t.span.id)).toEqual(seen.map((s) => s[0]));
    told.forEach((t, i) => near([t.part, t.strength], seen[i]!.slice(1) as number[]));
  });

  it.each(TRUTH.frames)('moves from $start to $end', ({ start, end, part, frame }) => near(frameAt(start, end, part), frame));

  it.each(TRUTH.laid)('lays a picture of form $picture on a stage of form $stage', ({ picture, stage, frame, place }) => near(laidIn(picture, stage, frame), place));

  it.each(TRUTH.trims)('trims by $how', ({ how, lengths, at, by, after }) => near((how === 'ripple' ? rippled : rolled)(lengths, at, by), after));

  it('shows all of a static shot’s picture', () => {
    expect(framesOf({ move: 'static', move_start: [0.1, 0.1, 0.5, 0.5], move_end: null })[0]).toEqual([0, 0, 1, 1]);
    expect(framesOf({ move: 'pan', move_start: [0.1, 0.1, 0.5, 0.5], move_end: null })).toEqual([[0.1, 0.1, 0.5, 0.5], [0.3, 0.1, 0.7, 0.8]]);
  });

  it('has nothing to show in an empty project', () => expect(seenAt([], 3)).toEqual([]));

  it.each([[0, '0:00.0'], [59.4, '0:59.4'], [59.99, '0:59.9'], [133.04, '2:13.0'], [3600, '60:00.0']] as const)('tells %d s as %s', (s, told) => expect(clock(s)).toBe(told));
});
