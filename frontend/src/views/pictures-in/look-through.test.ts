import { changed, server, shotRow as shot, soon } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { LookThrough } from './look-through.svelte';

eachTestAfresh();

const take = (id: string, shot_id: string, facts: object = {}) => ({ id, revision: 1, shot_id, picture_sha: `sha${id}`, name: id, picked: true, position: 0, not_here: [], ...facts });
const box = { x: 10, y: 10, w: 50, h: 80 };
const stands = (figure: string, answer: string, facts: object = {}) => ({ figure, answer, box: answer === 'absent' ? null : box, odds: 1, rival: null, ...facts });
const told = (takes: Record<string, object[]>, status: object = { done: 0, total: 0, message: '' }, unseen = 0) => ({ takes: Object.entries(takes).map(([take_id, figures]) => ({ take_id, figures })), unseen, status });

async function looking(takes: Record<string, object[]>, only: string[] | null = null) {
  const p = project([shot('1'), shot('2'), shot('3')]);
  p.apply(changed({ take: [take('b', '2'), take('a', '1'), take('c', '3')] }));
  server.standing.set('/standings', told(takes));
  const look = new LookThrough(p, only);
  await soon(() => expect(p.standings.byTake.size).toBeGreaterThan(0));
  return { p, look };
}

const press = (look: LookThrough, key: string) => look.key({ key } as KeyboardEvent);
const posted = () => server.of('POST').at(-1);

describe('looking through who stands where', () => {
  it('goes by the story, and one key confirms what is found in every picture', async () => {
    const { look } = await looking({ b: [stands('t', 'found')], a: [stands('t', 'found'), stands('u', 'doubtful')], c: [stands('t', 'absent')] });
    expect(look.takes.map((t) => t.id)).toEqual(['a', 'b', 'c']);
    expect([look.found.length, look.doubtful.length, look.absent.length]).toEqual([2, 1, 1]);
    server.standing.set('/standings', told({ a: [stands('u', 'doubtful')], c: [stands('t', 'absent')] }));
    press(look, 'Enter');
    await soon(() => expect(look.confirmed).toBe(2));
    expect(server.of('POST')[0]).toMatchObject({
      path: '/api/projects/p/standings/confirm',
      body: { boxes: [{ take_id: 'a', thread_id: 't', box }, { take_id: 'b', thread_id: 't', box }] },
    });
    expect(look.asked?.figure).toBe('u');
  });

  it('asks what is doubtful: yes marks it, no is remembered, and the next question comes', async () => {
    const { look } = await looking({ a: [stands('u', 'doubtful')], b: [stands('t', 'doubtful')] });
    server.standing.set('/standings', told({ b: [stands('t', 'doubtful')] }));
    press(look, 'y');
    await soon(() => expect(look.current?.id).toBe('b'));
    expect(posted()).toMatchObject({ path: '/api/projects/p/standings/confirm', body: { boxes: [{ take_id: 'a', thread_id: 'u' }] } });
    press(look, 'n');
    await soon(() => expect(posted()?.path).toBe('/api/projects/p/takes/b/not-here'));
    expect(posted()?.body).toEqual({ thread_id: 't', revision: 1 });
  });

  it('where nothing is asked, yes and no go on to the next question and answer nothing', async () => {
    const { look } = await looking({ a: [stands('t', 'absent')], b: [stands('u', 'doubtful')] });
    press(look, 'y');
    expect([look.current?.id, look.asked?.figure, server.of('POST').length]).toEqual(['b', 'u', 0]);
  });

  it('a dragged box is confirmed where it was put', async () => {
    const { look } = await looking({ a: [stands('t', 'found')] });
    await look.put('t', { ...box, x: 40 });
    expect(server.of('PUT')[0]).toMatchObject({ path: '/api/projects/p/takes/a/marks', body: { thread_id: 't', box: { ...box, x: 40 } } });
    expect(look.confirmed).toBe(1);
  });

  it('keeps to the pictures that came in, and knows keys that mean nothing here', async () => {
    const { look } = await looking({ a: [stands('t', 'found')], b: [stands('t', 'found')] }, ['b', 'c']);
    expect(look.takes.map((t) => t.id)).toEqual(['b', 'c']);
    expect(look.found.map((x) => x.take)).toEqual(['b']);
    press(look, 'ArrowDown');
    expect(look.current?.id).toBe('c');
    press(look, 'ArrowDown');
    expect(look.current?.id).toBe('c');
    expect(press(look, 'q')).toBe(false);
  });

  it('a refused change counts nothing', async () => {
    const { look } = await looking({ a: [stands('t', 'found')] });
    server.refuse(422, 'The box lies outside the picture.');
    await look.confirmAll();
    expect(look.confirmed).toBe(0);
    expect(look.found).toHaveLength(1);
  });
});

describe('what waits is kept fresh', () => {
  it('is read again when marks change and when looking goes on', async () => {
    const { p } = await looking({ a: [stands('t', 'found')] });
    const before = server.of('GET').length;
    p.apply(changed({ mark: [{ id: 'm', revision: 1, take_id: 'a', thread_id: 't', ...box }] }));
    await soon(() => expect(server.of('GET').length).toBeGreaterThan(before));
    const then = server.of('GET').length;
    p.standings.told({ done: 1, total: 3, message: '' });
    expect(p.standings.running).toBe(true);
    await soon(() => expect(server.of('GET').length).toBeGreaterThan(then));
  });

  it('a reading that was overtaken by a later one is not shown', async () => {
    const { p } = await looking({ a: [stands('t', 'found')] });
    let answer = () => {};
    server.held = new Promise<void>((resolve) => (answer = resolve));
    const asked = server.of('GET').length;
    const early = p.standings.load();
    await soon(() => expect(server.of('GET').length).toBeGreaterThan(asked));
    server.held = null;
    server.standing.set('/standings', told({}));
    await p.standings.load();
    expect(p.standings.byTake.size).toBe(0);
    answer();
    await early;
    expect(p.standings.byTake.size).toBe(0);
  });

  it('asks the server to look, and tells trouble', async () => {
    const { p } = await looking({ a: [stands('t', 'found')] });
    await p.standings.look(['a']);
    expect(posted()).toMatchObject({ path: '/api/projects/p/standings/look', body: { take_ids: ['a'] } });
  });
});
