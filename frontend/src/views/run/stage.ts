import type { Picture, Shot } from '../../api/client';
import type { Bitmaps } from './bitmaps';
import type { Films, ShownClip } from './films';
import type { Frame } from '../../lib/move-frames';
import { frameAt, framesOf, laidIn, type Seen } from './timeline';

/** What of a shot a drawing needs. */
export type DrawnShot = Pick<Shot, 'shows' | 'move' | 'move_start' | 'move_end'>;

/** What of a shot there is to draw. */
export interface Drawable {
  shot: DrawnShot;
  number: number;
  sha: string | null;
  picture?: Picture | undefined;
  clip?: ShownClip | null;
}

/** What a moment is drawn from: pictures, and clips that run or stand. */
export interface Sources {
  bitmaps: Bitmaps;
  films: Films;
  runs: boolean;
}

const GROUND = '#000';
const EMPTY = { paper: '#e9e9e6', ink: '#3c4044', line: '#8d9196' };

/** What of a moment a drawing depends on: the same words, the same drawing. */
export function drawnBy(seen: readonly Seen[], drawable: (shot: string) => Drawable | null): string {
  return seen
    .map(({ span, part, strength }) => {
      const own = drawable(span.id);
      const [start, end] = own ? framesOf(own.shot) : [[], []];
      const still = start.every((v, i) => v === end[i]);
      return [span.id, own?.sha ?? own?.shot.shows, own?.clip ? part : '', still ? start : frameAt(start as Frame, end as Frame, part), strength].join();
    })
    .join(';');
}

/** Draw what is seen at a moment on a canvas; says whether every picture was there in time. */
export function drawFrame(canvas: HTMLCanvasElement, seen: readonly Seen[], drawable: (shot: string) => Drawable | null, from: Sources): boolean {
  const pen = canvas.getContext('2d', { alpha: false });
  if (!pen) return true;
  const { width, height } = canvas;
  pen.globalAlpha = 1;
  pen.fillStyle = GROUND;
  pen.fillRect(0, 0, width, height);
  let whole = true;
  for (const { span, part, strength } of seen) {
    const own = drawable(span.id);
    if (!own) continue;
    pen.globalAlpha = strength;
    if (!own.sha) drawEmpty(pen, own, width, height);
    else if (!drawPicture(pen, own, span.length_s * part, part, width, height, from)) whole = false;
  }
  pen.globalAlpha = 1;
  from.films.rest(new Set(seen.map(({ span }) => drawable(span.id)?.clip?.sha ?? '')));
  return whole;
}

function drawPicture(pen: CanvasRenderingContext2D, own: Drawable, into_s: number, part: number, width: number, height: number, from: Sources): boolean {
  const [start, end] = framesOf(own.shot);
  const frame = frameAt(start, end, part);
  const closest = Math.min(1, start[2], end[2]);
  const film = own.clip ? from.films.get(own.clip, into_s, from.runs) : null;
  const drawn = film ?? from.bitmaps.get(own.sha!, Math.round(Math.max(width, height) / closest));
  if (!drawn) return false;
  const [w, h] = drawn instanceof HTMLVideoElement ? [drawn.videoWidth, drawn.videoHeight] : [drawn.width, drawn.height];
  const place = laidIn(w / h, width / height, frame);
  pen.imageSmoothingQuality = 'low'; // decoded near the size that it is drawn at
  pen.drawImage(drawn, frame[0] * w, frame[1] * h, frame[2] * w, frame[3] * h, place[0] * width, place[1] * height, place[2] * width, place[3] * height);
  return true;
}

/** A shot without a picture: a sheet of paper with its number and what it is to show. */
function drawEmpty(pen: CanvasRenderingContext2D, { shot, number }: Drawable, width: number, height: number) {
  const rim = Math.round(Math.min(width, height) * 0.04);
  pen.fillStyle = EMPTY.paper;
  pen.fillRect(0, 0, width, height);
  pen.strokeStyle = EMPTY.line;
  pen.lineWidth = Math.max(1, height / 400);
  pen.setLineDash([height / 60, height / 80]);
  pen.strokeRect(rim, rim, width - 2 * rim, height - 2 * rim);
  pen.setLineDash([]);
  pen.fillStyle = EMPTY.ink;
  pen.textAlign = 'center';
  const size = Math.max(12, Math.round(height / 18));
  pen.font = `600 ${size}px "Literata Variable", serif`;
  const lines = inLines(pen, shot.shows || 'This shot says nothing yet.', width - 6 * rim).slice(0, 5);
  const top = height / 2 - ((lines.length - 1) * size * 1.35) / 2;
  pen.fillText(`${number}`, width / 2, top - size * 1.8);
  pen.font = `${size}px "Literata Variable", serif`;
  lines.forEach((line, i) => pen.fillText(line, width / 2, top + i * size * 1.35));
}

function inLines(pen: CanvasRenderingContext2D, words: string, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of words.split(/\s+/)) {
    const longer = line ? `${line} ${word}` : word;
    if (line && pen.measureText(longer).width > width) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  return line ? [...lines, line] : lines;
}
