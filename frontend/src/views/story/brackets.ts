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
