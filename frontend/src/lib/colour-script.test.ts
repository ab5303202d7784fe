import { describe, expect, it } from 'vitest';
import { cells } from './colour-script';

describe('the colour script', () => {
  it('gives each shot a cell, and each colour its share of it', () => {
    const [first, second] = cells([[['#000000', 0.25], ['#ffffff', 0.25]], undefined], 200, 2);
    expect(first).toEqual({ x: 0, width: 98, stripes: [{ x: 0, width: 49, hex: '#000000' }, { x: 49, width: 49, hex: '#ffffff' }] });
    expect(second).toEqual({ x: 100, width: 98, stripes: null });
  });

  it('keeps every cell seen, however many there are', () => {
    const many = cells(Array.from({ length: 5000 }, () => [['#123456', 1]] as const), 1000, 0);
    expect(many).toHaveLength(5000);
    expect(many.every((c) => c.width >= 1)).toBe(true);
    expect(many.at(-1)!.x).toBeLessThan(1000);
  });

  it('has nothing to draw for no shots, and no stripes for a picture without colours', () => {
    expect(cells([], 500, 2)).toEqual([]);
    expect(cells([[]], 500, 2)[0]!.stripes).toEqual([]);
  });
});
