import type { Bead, Kind } from '../../api/client';
import { beadRadius, SHOT_PX } from './geometry';

/** A thread at a shot: where its column is, its bead, and the bead above that it is tied to, with the way up to it. */
export interface Knot {
  x: number;
  kind: Kind;
  bead: Pick<Bead, 'hold' | 'weight' | 'costume'>;
  above: { bead: Pick<Bead, 'weight' | 'costume'>; way: number } | null;
  state?: 'open' | 'stet';
  stale?: boolean;
}

/** The knots of one shot as paths round the middle of its row: so few that a row is drawn at once. */
export interface Drawing {
  strands: string;
  breaks: { x: number; y: number; to: string }[];
  whole: string;
  partial: string;
  dots: string;
  bars: string;
  kinks: string;
  stale: string;
  stets: string;
}

const DIAMOND = 1.1;

export function drawing(knots: Knot[]): Drawing {
  const out: Drawing = { strands: '', breaks: [], whole: '', partial: '', dots: '', bars: '', kinks: '', stale: '', stets: '' };
  for (const { x, kind, bead, above, state, stale } of knots) {
    if (above) strand(out, x, bead.costume, above.bead, above.way);
    const r = beadRadius(bead.weight);
    const form = kind === 'prop' ? diamond(x, DIAMOND * r) : disc(x, 0, r);
    if (bead.hold === 'figure' || bead.hold === 'place') out.whole += form;
    else out.partial += form;
    if (bead.hold === 'face' || bead.hold === 'light') out.dots += disc(x, 0, 2.4);
    else if (bead.hold === 'outfit' || bead.hold === 'layout') out.bars += `M${x - r * 0.55} 0h${r * 1.1}`;
    if (state === 'open') out.kinks += `M${x} ${4 - SHOT_PX / 2}l5 4l-10 4l10 4l-5 3`;
    else if (stale) out.stale += disc(x, 0, SHOT_PX / 4);
    else if (state === 'stet') for (const dx of [-6, -2, 2, 6]) out.stets += disc(x + dx, 15, 1.4);
  }
  return out;
}

/** The way from a bead up to the edge of the one above; parted where the costume changes, and named there. */
function strand(out: Drawing, x: number, costume: string, above: Pick<Bead, 'weight' | 'costume'>, way: number) {
  const end = beadRadius(above.weight) - way;
  if (above.costume === costume) {
    out.strands += `M${x} 0V${end}`;
    return;
  }
  const middle = -way / 2;
  out.strands += `M${x} 0V${middle + 9}M${x - 8} ${middle + 9}h16M${x - 8} ${middle - 9}h16M${x} ${middle - 9}V${end}`;
  out.breaks.push({ x: x + 13, y: middle + 4, to: costume || 'usual costume' });
}

const disc = (x: number, y: number, r: number) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
const diamond = (x: number, d: number) => `M${x} ${-d}l${d} ${d}l${-d} ${d}l${-d} ${-d}z`;
