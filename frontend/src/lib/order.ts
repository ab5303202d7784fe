import type { Bead, Scene, Shot, Thread } from '../api/client';

/** A row of the Sheet: a scene's heading or a shot. */
export type SheetRow = { kind: 'scene'; scene: Scene; length_s: number } | { kind: 'shot'; shot: Shot; number: number };

/** Items by a key, in the order in which they come. */
export function grouped<T, K>(items: Iterable<T>, key: (item: T) => K): Map<K, T[]> {
  const by = new Map<K, T[]>();
  for (const item of items) {
    const own = by.get(key(item));
    if (own) own.push(item);
    else by.set(key(item), [item]);
  }
  return by;
}

const byPosition = (a: { position: number; id: string }, b: { position: number; id: string }) =>
  a.position - b.position || (a.id < b.id ? -1 : 1);

/** Shots in the order of the story: by scene, then by position. */
export function inOrder(scenes: Iterable<Scene>, shots: Iterable<Shot>): { scenes: Scene[]; shots: Shot[] } {
  const sorted = [...scenes].sort(byPosition);
  const rank = new Map(sorted.map((s, i) => [s.id, i]));
  const ordered = [...shots].sort(
    (a, b) => (rank.get(a.scene_id) ?? 0) - (rank.get(b.scene_id) ?? 0) || byPosition(a, b),
  );
  return { scenes: sorted, shots: ordered };
}

/** Scene headings and shots, as they stand on the Sheet. */
export function sheetRows(scenes: Scene[], shots: Shot[], numberOf?: (shot: string) => number): SheetRow[] {
  const rows: SheetRow[] = [];
  let number = 0;
  const perScene = grouped(shots, (s) => s.scene_id);
  for (const scene of scenes) {
    const own = perScene.get(scene.id) ?? [];
    if (numberOf && !own.length && shots.length) continue;
    rows.push({ kind: 'scene', scene, length_s: own.reduce((sum, s) => sum + s.length_s, 0) });
    for (const shot of own) rows.push({ kind: 'shot', shot, number: numberOf ? numberOf(shot.id) : ++number });
  }
  return rows;
}

const KINDS: Thread['kind'][] = ['character', 'setting', 'style', 'prop'];

/** Threads as columns: characters, settings, styles, props, each in its own order. */
export function columnOrder(threads: Iterable<Thread>): Thread[] {
  return [...threads].sort((a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind) || byPosition(a, b));
}

/** `12`, `1 min 58 s`. */
export function duration(seconds: number): string {
  const s = Math.round(seconds);
  return s < 60 ? `${s} s` : `${Math.floor(s / 60)} min ${s % 60 ? `${s % 60} s` : ''}`.trim();
}

/** `1–4, 7` from shot numbers. */
export function ranges(numbers: number[]): string {
  const sorted = [...new Set(numbers)].sort((a, b) => a - b);
  const parts: string[] = [];
  for (let i = 0; i < sorted.length; ) {
    let j = i;
    while (j + 1 < sorted.length && sorted[j + 1] === sorted[j]! + 1) j++;
    parts.push(i === j ? `${sorted[i]}` : `${sorted[i]}–${sorted[j]}`);
    i = j + 1;
  }
  return parts.join(', ');
}

/** Which runs of shots a thread goes through, as pairs of indices into the shots. */
export function runs(shots: Shot[], on: (shot: string) => Bead | undefined): [number, number][] {
  const found: [number, number][] = [];
  for (let i = 0; i < shots.length; i++) {
    if (!on(shots[i]!.id)) continue;
    const last = found.at(-1);
    if (last && last[1] === i - 1) last[1] = i;
    else found.push([i, i]);
  }
  return found;
}
