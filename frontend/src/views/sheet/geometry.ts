import type { SheetRow } from '../../lib/order';
import type { Thread } from '../../api/client';

export const SHOT_PX = 72;
export const SCENE_PX = 28;
export const HEAD_PX = 66;
export const FACTS_PX = 556;
export const COLUMN_PX = 48;
export const GROUP_GAP_PX = 13;
export const MARGIN_PX = 8;

/** Top edges of all rows, one more than there are rows: the last is the height of the sheet. */
export function tops(rows: SheetRow[]): Float64Array {
  const out = new Float64Array(rows.length + 1);
  for (let i = 0; i < rows.length; i++) out[i + 1] = out[i]! + (rows[i]!.kind === 'shot' ? SHOT_PX : SCENE_PX);
  return out;
}

/** The row that holds a height, by halving; within the sheet. */
export function rowAt(edges: Float64Array, y: number): number {
  let low = 0;
  let high = Math.max(0, edges.length - 2);
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (edges[middle]! <= y) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Centre of each column from the left edge of the threads' area; a gap parts kinds. */
export function columnCentres(columns: Thread[]): number[] {
  let x = MARGIN_PX;
  return columns.map((thread, i) => {
    if (i && columns[i - 1]!.kind !== thread.kind) x += GROUP_GAP_PX;
    const centre = x + COLUMN_PX / 2;
    x += COLUMN_PX;
    return centre;
  });
}

/** The column nearest to an x, or -1 when none is near. */
export function columnAt(centres: number[], x: number): number {
  let best = -1;
  let least = COLUMN_PX / 2 + 4;
  centres.forEach((c, i) => {
    if (Math.abs(c - x) < least) {
      least = Math.abs(c - x);
      best = i;
    }
  });
  return best;
}

/** A bead's radius from its weight: never so small that its form is lost. */
export const beadRadius = (weight: number) => 4.5 + 5 * Math.min(1, Math.max(0, weight));
