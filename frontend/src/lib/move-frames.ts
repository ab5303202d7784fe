/** A frame on a picture, as shares of its width and height: left, top, width, height. */
export type Frame = [number, number, number, number];

export const WHOLE: Frame = [0, 0, 1, 1];
/** The two frames of a move for which nobody drew any. */
export const USUAL: Record<string, [Frame, Frame]> = {
  pan: [[0, 0.1, 0.7, 0.8], [0.3, 0.1, 0.7, 0.8]], tilt: [[0.1, 0.3, 0.8, 0.7], [0.1, 0, 0.8, 0.7]],
  'push in': [WHOLE, [0.2, 0.2, 0.6, 0.6]], 'pull out': [[0.2, 0.2, 0.6, 0.6], WHOLE],
  arc: [[0, 0.1, 0.8, 0.8], [0.2, 0.1, 0.8, 0.8]], track: [[0, 0.1, 0.7, 0.8], [0.3, 0.1, 0.7, 0.8]], crane: [[0.1, 0.3, 0.8, 0.7], [0.1, 0, 0.8, 0.7]],
};

const SMALLEST = 0.15;
const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));

/** A frame moved by shares of the picture, kept inside it. */
export function movedFrame([x, y, w, h]: Frame, dx: number, dy: number): Frame {
  return [clamp(x + dx, 0, 1 - w), clamp(y + dy, 0, 1 - h), w, h];
}

/** A frame made wider from its left top corner, its form kept, as large as the picture allows. */
export function sizedFrame([x, y, w, h]: Frame, dw: number): Frame {
  const most = Math.min(1 - x, ((1 - y) * w) / h);
  const wide = clamp(w + dw, Math.min(SMALLEST, most), most);
  return [x, y, wide, (wide * h) / w];
}

/** A frame made larger or smaller about its middle; it moves where the picture ends. */
export function zoomedFrame([x, y, w, h]: Frame, dw: number): Frame {
  const wide = clamp(w + dw, SMALLEST, Math.min(1, w / h));
  const high = (wide * h) / w;
  return movedFrame([x + (w - wide) / 2, y + (h - high) / 2, wide, high], 0, 0);
}

/** What a key does to a frame: arrows move it, + and - size it, with Shift five times as far; null when it does nothing. */
export function keyedFrame(frame: Frame, key: string, far: boolean): Frame | null {
  const step = far ? 0.1 : 0.02;
  switch (key) {
    case 'ArrowLeft': return movedFrame(frame, -step, 0);
    case 'ArrowRight': return movedFrame(frame, step, 0);
    case 'ArrowUp': return movedFrame(frame, 0, -step);
    case 'ArrowDown': return movedFrame(frame, 0, step);
    case '+': case '=': case '*': return zoomedFrame(frame, step);
    case '-': case '_': return zoomedFrame(frame, -step);
    default: return null;
  }
}

export const rounded = (frame: Frame): Frame => frame.map((v) => Math.round(v * 1000) / 1000) as Frame;
