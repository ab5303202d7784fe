import type { Sound, SoundHeard } from '../../api/client';
import type { Span } from './timeline';

/** Steps a second of a sound's levels. */
export const PER_S = 100;

/** A sound where it is heard, in seconds of the whole. The same as `juxtaform/core/sound/laying.py`. */
export interface LaidSound {
  sound: Sound;
  start_s: number;
  end_s: number;
}

/** All sounds that are heard, as their shots lie. */
export function laidSounds(sounds: Iterable<Sound>, heard: ReadonlyMap<string, SoundHeard>, spans: readonly Span[]): LaidSound[] {
  const at = new Map(spans.map((s) => [s.id, s] as const));
  const last = spans.at(-1);
  const whole_s = last ? last.start_s + last.length_s : 0;
  const laid: LaidSound[] = [];
  for (const sound of sounds) {
    const [span, own] = [at.get(sound.shot_id), heard.get(sound.id)];
    if (!sound.picked || !span || !own) continue;
    const start_s = Math.max(0, span.start_s + own.begins_s);
    const until = sound.until_shot_id ? at.get(sound.until_shot_id) : undefined;
    const to_s = Math.min(own.seconds, sound.to_s ?? own.seconds);
    let end_s = start_s + Math.max(0, to_s - sound.from_s);
    if (until) end_s = Math.min(end_s, until.start_s + until.length_s);
    laid.push({ sound, start_s, end_s: Math.max(start_s, Math.min(end_s, whole_s)) });
  }
  return laid.sort((a, b) => a.start_s - b.start_s || (a.sound.id < b.sound.id ? -1 : 1));
}

/** By how much a sound is multiplied at a moment. The same as `juxtaform/core/sound/mix.py`. */
export function gainAt({ sound, start_s, end_s }: LaidSound, time_s: number): number {
  let gain = 10 ** (sound.gain_db / 20);
  if (sound.fade_in_s > 0) gain *= Math.min(1, Math.max(0, (time_s - start_s) / sound.fade_in_s));
  if (sound.fade_out_s > 0) gain *= Math.min(1, Math.max(0, (end_s - time_s) / sound.fade_out_s));
  return gain;
}

/** Where the gain of a sound bends between two moments: its own ramps, in order. */
export function bends(laid: LaidSound, from_s: number, to_s: number): number[] {
  const { sound, start_s, end_s } = laid;
  const places = [start_s + sound.fade_in_s, end_s - sound.fade_out_s].filter((t) => t > from_s && t < to_s);
  return [...new Set([from_s, ...places.sort((a, b) => a - b), to_s])];
}

/** The lanes of sounds that lie over each other, each as far left as it has room: 0, 1, 2 … */
export function lanes(laid: readonly LaidSound[]): Map<string, number> {
  const ends: number[] = [];
  const by = new Map<string, number>();
  for (const x of laid) {
    let lane = ends.findIndex((end) => end <= x.start_s);
    if (lane < 0) lane = ends.length;
    ends[lane] = x.end_s;
    by.set(x.sound.id, lane);
  }
  return by;
}

/**
 * The outline of a sound that runs down, as an SVG path: as wide as it is loud, `wide` px at full scale on both sides of its middle, from px `top` to
 * `bottom` of its own. `levels` are (lowest, highest, strength) a hundred times a second.
 */
export function outline(levels: Int16Array, laid: LaidSound, pxPerS: number, wide: number, top: number, bottom: number): string {
  const left: string[] = [];
  const right: string[] = [];
  const step = Math.max(1, Math.min(2, pxPerS / 8));
  for (let y = Math.max(0, top); y <= bottom; y += step) {
    const time_s = y / pxPerS;
    const first = Math.floor((laid.sound.from_s + time_s) * PER_S);
    const last = Math.max(first + 1, Math.floor((laid.sound.from_s + (y + step) / pxPerS) * PER_S));
    let high = 0;
    for (let i = first; i < last && i * 3 + 1 < levels.length; i++) high = Math.max(high, levels[i * 3 + 1]!, -levels[i * 3]!);
    const half = 0.4 + Math.min(1, (high / 32767) ** 0.65 * Math.min(1.4, gainAt(laid, laid.start_s + time_s))) * wide;
    left.push(`${(wide - half).toFixed(1)} ${y.toFixed(1)}`);
    right.push(`${(wide + half).toFixed(1)} ${y.toFixed(1)}`);
  }
  return left.length ? `M${left.join('L')}L${right.reverse().join('L')}Z` : '';
}

/** Samples, -1 to 1, as a WAV file of one channel. */
export function asWav(parts: readonly Float32Array[], rate: number): Blob {
  const count = parts.reduce((n, p) => n + p.length, 0);
  const bytes = new DataView(new ArrayBuffer(44 + 2 * count));
  const text = (at: number, words: string) => [...words].forEach((c, i) => bytes.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  bytes.setUint32(4, 36 + 2 * count, true);
  text(8, 'WAVEfmt ');
  bytes.setUint32(16, 16, true);
  bytes.setUint16(20, 1, true);
  bytes.setUint16(22, 1, true);
  bytes.setUint32(24, rate, true);
  bytes.setUint32(28, 2 * rate, true);
  bytes.setUint16(32, 2, true);
  bytes.setUint16(34, 16, true);
  text(36, 'data');
  bytes.setUint32(40, 2 * count, true);
  let at = 44;
  for (const part of parts) for (const v of part) bytes.setInt16((at += 2) - 2, Math.round(Math.min(1, Math.max(-1, v)) * 32767), true);
  return new Blob([bytes], { type: 'audio/wav' });
}
