import { describe, expect, it } from 'vitest';
import type { Bead, Scene, Shot, Thread } from '../api/client';
import { columnAt, columnCentres, rowAt, SCENE_PX, SHOT_PX, tops } from '../views/sheet/geometry';
import { lanes, numbersAt } from '../views/story/brackets';
import { columnOrder, duration, inOrder, ranges, runs, sheetRows } from './order';
import { merged } from './rows.svelte';

const scene = (id: string, position: number) => ({ id, position, title: id, revision: 1 }) as Scene;
const shot = (id: string, scene_id: string, position: number, span?: [number, number]) =>
  ({ id, scene_id, position, length_s: 2, revision: 1 }) as Shot;
const thread = (id: string, kind: Thread['kind'], position: number) => ({ id, kind, position, revision: 1 }) as Thread;

describe('the order of the story', () => {
  const scenes = [scene('b', 2), scene('a', 1)];
  const shots = [shot('3', 'b', 0), shot('2', 'a', 5), shot('1', 'a', 1)];

  it('goes by scene, then by position', () => {
    expect(inOrder(scenes, shots).shots.map((s) => s.id)).toEqual(['1', '2', '3']);
  });

  it('numbers the shots through the scenes and sums their lengths', () => {
    const { scenes: s, shots: o } = inOrder(scenes, shots);
    const rows = sheetRows(s, o);
    expect(rows.map((r) => (r.kind === 'shot' ? r.number : `${r.scene.id} ${r.length_s}`))).toEqual(['a 4', 1, 2, 'b 2', 3]);
  });

  it('puts columns by kind', () => {
    const order = columnOrder([thread('p', 'prop', 0), thread('s', 'style', 1), thread('c', 'character', 9)]);
    expect(order.map((t) => t.id)).toEqual(['c', 's', 'p']);
  });

  it('finds where a thread runs', () => {
    const on = new Set(['1', '2']);
    const all = [...'12345'].map((id, i) => shot(id, 'a', i));
    expect(runs(all, (id) => (on.has(id) || id === '5' ? ({} as Bead) : undefined))).toEqual([[0, 1], [4, 4]]);
  });
});

describe('words for numbers', () => {
  it.each([[9.4, '9 s'], [60, '1 min'], [118, '1 min 58 s']])('%d seconds are %s', (s, words) => expect(duration(s)).toBe(words));
  it('writes ranges', () => expect(ranges([7, 1, 2, 3, 9, 8])).toBe('1–3, 7–9'));
});

describe('rows that come in', () => {
  it('take the place of older ones only', () => {
    const map = merged(new Map(), [{ id: 'a', revision: 3 }]);
    expect(merged(map, [{ id: 'a', revision: 2 }]).get('a')!.revision).toBe(3);
    expect(merged(map, [{ id: 'a', revision: 4 }]).get('a')!.revision).toBe(4);
    expect(merged(map, [])).toBe(map);
  });
});

describe("the Sheet's geometry", () => {
  const rows = sheetRows([scene('a', 0)], Array.from({ length: 1000 }, (_, i) => shot(`${i}`, 'a', i)));
  const edges = tops(rows);

  it('finds the row at any height', () => {
    for (const i of [0, 1, 2, 499, 1000]) {
      expect(rowAt(edges, edges[i]!)).toBe(i);
      expect(rowAt(edges, edges[i + 1]! - 1)).toBe(i);
    }
    expect(rowAt(edges, -50)).toBe(0);
    expect(rowAt(edges, 1e9)).toBe(1000);
    expect(edges.at(-1)).toBe(SCENE_PX + 1000 * SHOT_PX);
  });

  it('finds the column near an x, and none far off', () => {
    const centres = columnCentres([thread('a', 'character', 0), thread('b', 'setting', 1)]);
    expect(columnAt(centres, centres[1]! + 5)).toBe(1);
    expect(columnAt(centres, 4000)).toBe(-1);
  });
});

describe('brackets along the text', () => {
  it('sets brackets on the same lines side by side', () => {
    expect(lanes([{ top: 0, bottom: 60 }, { top: 30, bottom: 90 }, { top: 60, bottom: 99 }])).toEqual([0, 1, 0]);
  });

  it('sets a number where no bracket of the next lane runs through it', () => {
    expect(numbersAt([{ top: 0, bottom: 60 }, { top: 30, bottom: 90 }, { top: 60, bottom: 160 }], [0, 1, 0])).toEqual([15, 60, 125]);
    expect(numbersAt([{ top: 0, bottom: 40 }, { top: 4, bottom: 36 }], [0, 1])).toEqual([20, 20]);
  });
});
