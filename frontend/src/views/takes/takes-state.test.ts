import { beadRow, changed, server, shotRow as shot, soon, takeRow as take, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { TakesState } from './takes-state.svelte';

eachTestAfresh();

const BOX = { x: 1, y: 2, w: 30, h: 40 };
const stands = (figure: string, answer: string) => ({ figure, answer, box: answer === 'absent' ? null : BOX, odds: 1, rival: null });

/** Ada runs through shots 1 and 3, Bo through none; a key is a prop. Shots 1 and 3 have pictures. */
function shown() {
  const p = project([shot('1'), shot('2'), shot('3')]);
  p.apply(changed({
    thread: [thread('key', 'prop'), thread('bo', 'character', { position: 1 }), thread('ada'), thread('quay', 'setting')],
    bead: [beadRow('1', 'ada'), beadRow('3', 'ada'), beadRow('3', 'bo'), beadRow('1', 'key')],
    take: [take('a', '1', { picked: false }), take('b', '1', { position: 1 }), take('c', '3')],
  }));
  p.currentId = '1';
  return { p, view: new TakesState(p) };
}

const proposed = (p: ReturnType<typeof shown>['p'], take_id: string, ...figures: object[]) => {
  server.standing.set('/standings', { takes: [{ take_id, figures }], unseen: 0, status: { done: 0, total: 0, message: '' } });
  return p.standings.load();
};

describe('the takes of a shot', () => {
  it('show the picked one first, then whichever is asked for', () => {
    const { view } = shown();
    expect(view.take?.id).toBe('b');
    view.key('[', false);
    expect(view.take?.id).toBe('a');
    view.key('[', false);
    expect(view.take?.id).toBe('a');
    view.begin();
    expect(view.take?.id).toBe('b');
  });

  it('are picked and removed', async () => {
    const { view } = shown();
    view.pick();
    expect(server.asked).toEqual([]);
    view.stepTake(-1);
    view.key('p', false);
    await view.remove('a');
    expect(server.asked.map((a) => `${a.method} ${a.path}`)).toEqual(['POST /api/projects/p/takes/a/pick', 'DELETE /api/projects/p/takes/a']);
  });

  it.each([['.', '1', '3'], ['.', '3', '1'], [',', '1', '3'], [',', '2', '1'], ['ArrowDown', '1', '2']])('%s goes from shot %s to %s', (key, from, to) => {
    const { p, view } = shown();
    p.currentId = from;
    expect(view.key(key, false)).toBe(true);
    expect(p.currentId).toBe(to);
  });
});

describe('who stands where', () => {
  it('is numbered alike in every shot, and those of the shot come first', () => {
    const { p, view } = shown();
    const numbers = [...view.numberOf];
    expect(numbers).toEqual([['ada', 1], ['bo', 2], ['key', 3]]);
    expect(view.people.map((t) => t.id)).toEqual(['ada', 'key', 'bo']);
    p.currentId = '3';
    expect([...view.numberOf]).toEqual(numbers);
    expect(view.people.map((t) => t.id)).toEqual(['ada', 'bo', 'key']);
  });

  it('is marked by a box: the first of the shot who is not marked yet is next', async () => {
    const { p, view } = shown();
    p.currentId = '3';
    view.awaitNext();
    view.draw(BOX);
    await soon(() => expect(server.of('PUT')[0]).toMatchObject({ path: '/api/projects/p/takes/c/marks', body: { thread_id: 'ada', box: BOX } }));
    p.apply(changed({ mark: [{ id: 'm', revision: 1, take_id: 'c', thread_id: 'ada', ...BOX }] }));
    view.awaitNext();
    expect(view.people[view.who]?.id).toBe('bo');
    expect(view.inWords('ada')).toBe('marked');
    expect(view.inWords('bo')).toBe('to mark');
  });

  it('asks before somebody is marked whom the plan does not put there', async () => {
    const { view } = shown();
    view.key('2', false);
    view.draw(BOX);
    expect(server.asked).toEqual([]);
    expect(view.asked).toMatchObject({ thread: 'bo', shot: '1', take: 'b' });
    view.key('n', false);
    expect(view.asked).toBeNull();
    view.draw(BOX);
    view.key('y', false);
    await soon(() => expect(server.of('PUT').map((a) => a.path)).toEqual(['/api/projects/p/threads/bo/run', '/api/projects/p/takes/b/marks']));
  });

  it('does not mark when putting them there was refused', async () => {
    const { view } = shown();
    view.key('2', false);
    view.draw(BOX);
    server.refuse(422, 'Not so.');
    await view.putThere();
    expect(server.of('PUT')).toHaveLength(1);
  });

  it('says what is missing where there is nobody to mark', () => {
    const view = new TakesState(project([shot('1')]));
    view.draw(BOX);
    expect(notices.all.at(-1)!.text).toContain('Make a character first');
  });

  it('is proposed: one key confirms all, another says no to the chosen one', async () => {
    const { p, view } = shown();
    await proposed(p, 'b', stands('ada', 'found'), stands('key', 'doubtful'), stands('bo', 'absent'));
    expect(view.boxes.map((b) => b.label)).toEqual(['ADA', 'KEY?']);
    expect(['ada', 'key', 'bo'].map((t) => view.inWords(t))).toEqual(['found', 'this one?', 'not found']);
    expect(view.key('Enter', true)).toBe(false);
    view.key('Enter', false);
    await soon(() => expect(server.of('POST').at(-1)!.body).toMatchObject({ boxes: [{ thread_id: 'ada' }, { thread_id: 'key' }] }));
    view.chosen = view.boxes[1]!.id;
    view.key('Delete', false);
    await soon(() => expect(server.of('POST').at(-1)).toMatchObject({ path: '/api/projects/p/takes/b/not-here', body: { thread_id: 'key' } }));
  });

  it('is mended by dragging: a proposal is confirmed where it was put', async () => {
    const { p, view } = shown();
    await proposed(p, 'b', stands('ada', 'found'));
    view.move(view.placed[0]!.key, { ...BOX, x: 9 });
    await soon(() => expect(server.of('PUT')[0]!.body).toMatchObject({ thread_id: 'ada', box: { x: 9 } }));
  });

  it('is looked for once for each take and each such cast', async () => {
    const { p, view } = shown();
    p.apply(changed({ reference: [{ id: 'r', revision: 1, thread_id: 'ada', picture_sha: 'x', position: 0, weight: 1, view: '', costume: '' }] }));
    view.look();
    view.look();
    await soon(() => expect(server.of('POST').map((a) => a.body)).toEqual([{ take_ids: ['b'] }]));
    p.currentId = '2';
    view.look();
    expect(server.of('POST')).toHaveLength(1);
  });
});
