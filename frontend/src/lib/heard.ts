import type { Shot } from '../api/client';

/** Seconds with words spoken by the cast, with words told, and with neither. */
export interface Heard {
  spoken_s: number;
  told_s: number;
  shown_s: number;
}

interface Planned {
  spoken_s: number;
  told_s: number;
}

/** What is heard over some shots, from what the plan says of each; a shot that it does not know yet is only seen. */
export function heardOver(shots: Iterable<Shot>, planned: Map<string, Planned>): Heard {
  const sum: Heard = { spoken_s: 0, told_s: 0, shown_s: 0 };
  for (const shot of shots) {
    const own = planned.get(shot.id) ?? { spoken_s: 0, told_s: 0 };
    const spoken = Math.min(own.spoken_s, shot.length_s);
    const told = Math.min(own.told_s, shot.length_s - spoken);
    sum.spoken_s += spoken;
    sum.told_s += told;
    sum.shown_s += shot.length_s - spoken - told;
  }
  return sum;
}
