import { describe, expect, it } from 'vitest';
import { keyedFrame, movedFrame, rounded, sizedFrame, zoomedFrame, type Frame } from './move-frames';
import { heardOver } from './heard';
import type { Shot } from '../api/client';

const held: Frame = [0.2, 0.2, 0.6, 0.4];
const inside = ([x, y, w, h]: Frame) => x >= 0 && y >= 0 && x + w <= 1 + 1e-9 && y + h <= 1 + 1e-9;

describe('the frames of a move', () => {
  it('move by keys and stay inside the picture', () => {
    expect(rounded(keyedFrame(held, 'ArrowRight', false)!)).toEqual([0.22, 0.2, 0.6, 0.4]);
    expect(rounded(keyedFrame(held, 'ArrowUp', true)!)).toEqual([0.2, 0.1, 0.6, 0.4]);
    expect(movedFrame(held, 5, 5)).toEqual([0.4, 0.6, 0.6, 0.4]);
    expect(keyedFrame(held, 'x', false)).toBeNull();
  });

  it('keep their form when they are sized, and never grow out of the picture', () => {
    for (const sized of [sizedFrame(held, 0.1), sizedFrame(held, 9), zoomedFrame(held, 0.3), zoomedFrame(held, -9), zoomedFrame(held, 9)]) {
      expect(inside(sized)).toBe(true);
      expect(sized[2] / sized[3]).toBeCloseTo(1.5);
      expect(sized[2]).toBeGreaterThanOrEqual(0.15 - 1e-9);
    }
    const [x, y, w, h] = keyedFrame(held, '-', false)!;
    expect(x + w / 2).toBeCloseTo(0.5);
    expect(y + h / 2).toBeCloseTo(0.4);
  });
});

describe('what is heard over some shots', () => {
  const shot = (id: string, length_s: number) => ({ id, length_s }) as Shot;
  it('adds up to their length, words that do not fit left out', () => {
    const planned = new Map([['a', { spoken_s: 2, told_s: 1 }], ['b', { spoken_s: 3, told_s: 4 }]]);
    const heard = heardOver([shot('a', 5), shot('b', 5), shot('c', 2)], planned);
    expect(heard).toEqual({ spoken_s: 5, told_s: 3, shown_s: 4 });
  });
});
