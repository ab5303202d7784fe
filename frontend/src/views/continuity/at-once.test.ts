import { beadRow, changed, finding, server, shotRow as shot, soon, takeRow as take, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it, vi } from 'vitest';
import { router } from '../../lib/router.svelte';
import { wordsFor } from './at-once';

eachTestAfresh();

const BOX = { x: 1, y: 2, w: 30, h: 40 };

function withAda() {
  const p = project([shot('1')]);
  p.apply(changed({ thread: [thread('ada', 'character', { name: 'Ada' })], bead: [beadRow('1', 'ada')], take: [take('t', '1', { picked: true, not_here: [] })] }));
  server.asked.length = 0;
  return p;
}

const asked = (p: ReturnType<typeof withAda>, kind: string, more: object = {}) => wordsFor(p, finding('k', '1', { thread: 'ada', kind, ...more }));
const changes = () => server.asked.filter((a) => a.method !== 'GET').map((a) => `${a.method} ${a.path.replace('/api/projects/p', '')}`);

describe('a finding that can be answered at once', () => {
  it('is answered with the frame, or with a no, and checked again', async () => {
    const p = withAda();
    const [yes, no] = asked(p, 'unmarked_doubtful', { region: BOX });
    expect([yes!.words, no!.words]).toEqual(['Ada is in the frame', 'Ada is not in this picture']);
    await yes!.say();
    await soon(() => expect(changes()).toEqual(['PUT /takes/t/marks', 'POST /check']));
    expect(server.asked[0]!.body).toMatchObject({ thread_id: 'ada', box: BOX });
    server.asked.length = 0;
    await no!.say();
    await soon(() => expect(changes()).toEqual(['POST /takes/t/not-here', 'POST /check']));
  });

  it('leads to Takes where there is no frame', async () => {
    const p = withAda();
    expect(asked(p, 'unmarked_doubtful', { until: '1' })).toHaveLength(1);
    const gone = vi.spyOn(router, 'go').mockImplementation(() => {});
    const [yes] = asked(p, 'unmarked_doubtful');
    await yes!.say();
    expect(gone.mock.calls).toEqual([['p', 'takes']]);
    expect(p.currentId).toBe('1');
    gone.mockRestore();
    expect(changes()).toEqual([]);
  });

  it('is mended in the plan', async () => {
    const p = withAda();
    const [out] = asked(p, 'figure_missing');
    await out!.say();
    await soon(() => expect(changes()).toEqual(['PUT /threads/ada/run', 'POST /check']));
    expect(server.asked[0]!.body).toEqual({ shot_ids: ['1'], on: false });
    server.asked.length = 0;
    const [put] = asked(p, 'unplanned', { region: BOX });
    await put!.say();
    await soon(() => expect(changes()).toEqual(['PUT /threads/ada/run', 'PUT /takes/t/marks', 'POST /check']));
  });

  it('cuts a clip where it slips, whoever or whatever does', async () => {
    const p = withAda();
    const sha = p.takes.get('t')!.picture_sha;
    const clip = { media_type: 'video/mp4', frames: 40, seconds: 4, has_sound: false };
    p.apply(changed({}, { pictures: [{ sha, width: 480, height: 320, palette: [], clip }] }));
    server.asked.length = 0;
    const [cut] = wordsFor(p, finding('k', '1', { thread: null, kind: 'clip_slips', at_s: 2.1 }));
    expect(cut!.words).toBe('Cut the clip at 2.0 s');
    await cut!.say();
    await soon(() => expect(changes()).toEqual(['PUT /takes/t/trim', 'POST /check']));
    expect((server.asked[0]!.body as { part: number[] }).part[1]).toBeCloseTo(2);
  });

  it('is nothing for other findings, and without a picture', () => {
    const p = withAda();
    expect(asked(p, 'trait_changed')).toEqual([]);
    expect(asked(p, 'unplanned')).toEqual([]);
    p.apply(changed({ take: [take('t', '1', { picked: false })] }));
    expect(asked(p, 'unmarked_doubtful')).toEqual([]);
  });
});
