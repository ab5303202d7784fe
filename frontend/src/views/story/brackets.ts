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

/** The height that a number takes. */
const NUMBER = 18;

/** Where each bracket's number stands: in the middle of its longest part beside which no bracket of the next lane is drawn, or in its own middle where there is no room. */
export function numbersAt(extents: { top: number; bottom: number }[], lane: number[]): number[] {
  return extents.map(({ top, bottom }, i) => {
    let free: [number, number][] = [[top, bottom]];
    extents.forEach((other, j) => {
      if (lane[j] !== lane[i]! + 1) return;
      free = free.flatMap(([a, b]) => [[a, Math.min(b, other.top)], [Math.max(a, other.bottom), b]] as [number, number][]);
    });
    const [a, b] = free.reduce((best, one) => (one[1] - one[0] > best[1] - best[0] ? one : best), [0, 0]);
    return b - a >= NUMBER ? (a + b) / 2 : (top + bottom) / 2;
  });
}
