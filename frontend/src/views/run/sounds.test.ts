import { describe, expect, it } from 'vitest';
import type { Shot, Sound, SoundHeard } from '../../api/client';
import truth from '../../../../tests/run_truth.json';
import { asWav, bends, gainAt, laidSounds, lanes, outline, type LaidSound } from './sounds';
import { laidOut } from './timeline';

interface Case {
  what: string;
  sound: { shot: string; kind: Sound['kind']; seconds: number; from_s?: number; to_s?: number; start_s?: number; until?: string; gain_db?: number; fade_in_s?: number; fade_out_s?: number };
  laid: [number, number];
  gains: [number, number][];
}
const spans = laidOut(truth.shots.map((s) => ({ ...s, scene_id: '1' })) as unknown as Shot[]);

function sound(own: Case['sound'], id = 'x'): [Sound, SoundHeard] {
  const { shot, seconds, until, ...facts } = own;
  const row = { id, revision: 1, shot_id: shot, sound_sha: 'f', name: 'x', thread_id: null, line: '', picked: true, start_s: null, from_s: 0, to_s: null, until_shot_id: until ?? null, gain_db: 0, fade_in_s: 0, fade_out_s: 0, position: 1, ...facts };
  return [row as Sound, { id, begins_s: own.start_s ?? 0, seconds, peak: 1, heard: [] }];
}

function laid(own: Case['sound']): LaidSound {
  const [row, heard] = sound(own);
  return laidSounds([row], new Map([['x', heard]]), spans)[0]!;
}

describe('sounds on the sequence', () => {
  it.each(truth.sounds as Case[])('$what', ({ sound: own, laid: [start_s, end_s], gains }) => {
    const x = laid(own);
    expect(x.start_s).toBeCloseTo(start_s, 5);
    expect(x.end_s).toBeCloseTo(end_s, 5);
    for (const [at, gain] of gains) expect(gainAt(x, at)).toBeCloseTo(gain, 5);
  });

  it('leaves out takes that are not picked, and sounds whose shot is gone', () => {
    const [row, heard] = sound({ shot: 'a', kind: 'voice', seconds: 2 });
    expect(laidSounds([{ ...row, picked: false }], new Map([['x', heard]]), spans)).toEqual([]);
    expect(laidSounds([{ ...row, shot_id: 'gone' }], new Map([['x', heard]]), spans)).toEqual([]);
  });

  it('bends its gain where a fade ends and begins', () => {
    const x = laid({ shot: 'b', kind: 'music', seconds: 4, fade_in_s: 1, fade_out_s: 2 });
    expect(bends(x, 4, 8)).toEqual([4, 5, 6, 8]);
    expect(bends(x, 5.5, 7)).toEqual([5.5, 6, 7]);
  });

  it('lays what sounds at once side by side', () => {
    const at = (id: string, start_s: number, end_s: number) => ({ sound: { id }, start_s, end_s }) as LaidSound;
    expect([...lanes([at('a', 0, 4), at('b', 1, 2), at('c', 2, 5), at('d', 4, 6)])]).toEqual([['a', 0], ['b', 1], ['c', 1], ['d', 0]]);
  });

  it('is drawn as wide as it is loud', () => {
    const levels = new Int16Array(600);
    for (let i = 100; i < 200; i++) [levels[i * 3], levels[i * 3 + 1]] = [-16000, 16000];
    const path = outline(levels, laid({ shot: 'd', kind: 'music', seconds: 2 }), 10, 10, 0, 20);
    const left = path.split('L').slice(0, 20).map((p) => Number(p.replace('M', '').split(' ')[0]));
    expect(Math.max(...left.slice(0, 9))).toBeCloseTo(9.6, 1);
    expect(Math.min(...left.slice(11, 19))).toBeLessThan(5);
    expect(outline(new Int16Array(0), laid({ shot: 'd', kind: 'music', seconds: 2 }), 10, 10, 50, 40)).toBe('');
  });

  it('writes what was recorded as a WAV file that anybody reads', async () => {
    const bytes = new DataView(await asWav([new Float32Array([0, 1]), new Float32Array([-2])], 48_000).arrayBuffer());
    const text = (at: number) => String.fromCharCode(...[0, 1, 2, 3].map((i) => bytes.getUint8(at + i)));
    expect([text(0), text(8), text(36)]).toEqual(['RIFF', 'WAVE', 'data']);
    expect([bytes.getUint32(4, true), bytes.getUint32(24, true), bytes.getUint32(40, true)]).toEqual([42, 48_000, 6]);
    expect([44, 46, 48].map((at) => bytes.getInt16(at, true))).toEqual([0, 32767, -32767]);
  });
});
