import { changed, server, shotRow as shot, soon, takeRow as take } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { ClipState } from './clip-state.svelte';

eachTestAfresh();

/** A clip of 4 s with 48 frames, in shot 1 of two. */
function shown(facts: object = {}) {
  const p = project([shot('1'), shot('2')]);
  p.apply(changed({ take: [take('a', '1', { trim: null, ...facts })] }, { pictures: [{ sha: 'shaa', width: 480, height: 320, palette: [], clip: { media_type: 'video/mp4', frames: 48, seconds: 4, has_sound: false } }] }));
  return { p, clip: new ClipState(p, 'a') };
}

const puts = () => server.of('PUT').map((a) => (a.body as { part: unknown }).part);

describe('a clip', () => {
  it('is stepped frame by frame, within itself', () => {
    const { clip } = shown();
    clip.key('ArrowRight');
    clip.key('ArrowRight');
    expect(clip.at_s).toBeCloseTo(2 / 12);
    clip.key('ArrowLeft');
    clip.key('ArrowLeft');
    clip.key('ArrowLeft');
    expect(clip.at_s).toBe(0);
    clip.key('End');
    expect(clip.at_s).toBeCloseTo(47 / 12);
  });

  it('begins and ends at the frame that is looked at; all of it is no trim', async () => {
    const { clip } = shown();
    clip.go(1);
    clip.key('i');
    await soon(() => expect(puts()).toEqual([[1, 4]]));
    clip.go(1.95);
    clip.key('o');
    await soon(() => expect((puts()[1] as number[])[1]).toBeCloseTo(1.95 + 1 / 12));
    await clip.trim([0, 4]);
    expect(puts().at(-1)).toBeNull();
  });

  it('does not begin after its end', () => {
    const { clip } = shown({ trim: [0, 1] });
    clip.go(2);
    clip.begin();
    expect(puts()).toEqual([]);
    expect(notices.all.at(-1)?.text).toContain('Move the end first');
  });

  it('shows where who is followed is in the frame that is looked at', async () => {
    const boxes = [[0, 0, 0.5, 0.5], [0.1, 0, 0.5, 0.5], [0.2, 0.1, 0.5, 0.5]];
    const ada = { thread_id: 'ada', name: 'Ada', drift: [0, 0, 0], begins_s: null, still: null, kind: '', was: '', now: '', leaves_s: null, boxes };
    server.standing.set('/clip', { times: [0, 4 / 12, 8 / 12], tracks: [ada], flicker: [], words: [], notes: [], proposed: [0, 4], seconds: 4 });
    const { clip } = shown();
    expect(clip.followed).toEqual([]);
    await clip.load();
    clip.go(6 / 12);
    expect(clip.followed).toEqual([{ id: 'ada', label: 'Ada', x: 48, y: 0, w: 240, h: 160 }]);
    clip.go(3);
    expect(clip.followed[0]).toMatchObject({ x: 96, y: 32 });
  });

  it('proposes to cut where it slips, unless it is cut there', async () => {
    const told = { times: [], tracks: [], flicker: [], words: ['The style slips from 2.5 s on.'], proposed: [0, 2.4], seconds: 4 };
    server.standing.set('/clip', told);
    const { clip } = shown();
    await clip.load();
    expect(clip.proposed).toEqual([0, 2.4]);
    const cut = shown({ trim: [0, 2.4] }).clip;
    await cut.load();
    expect(cut.proposed).toBeNull();
    server.refuse(404, 'The clip is not in the store as it was.');
    await cut.load();
    expect(cut.trouble).toContain('not in the store');
  });

  it('gives its last frame to the next shot, and says when there is none', async () => {
    const { p, clip } = shown({ trim: [1, 3] });
    await clip.frameOut('last', true);
    const [asked] = server.of('POST');
    expect(asked!.body).toMatchObject({ shot_id: '2', sharpest: false });
    expect((asked!.body as { at_s: number }).at_s).toBeCloseTo(3 - 1 / 12);
    p.apply(changed({}, { gone: { shot: ['2'] } }));
    await clip.frameOut('last', true);
    expect(notices.all.at(-1)?.text).toBe('There is no next shot.');
  });
});
