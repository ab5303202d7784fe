import { beadRow, changed, file, server, shotRow as shot, takeRow as take, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { PicturesInState } from './pictures-in-state.svelte';

eachTestAfresh();

const coming = (names: string[], on: string | null = null) => {
  const p = project([shot('1'), shot('2')]);
  return { p, view: new PicturesInState(p, names.map(file), on) };
};
const taken = (name: string, sha: string | null = `sha${name}`, refused = '') => ({ status: 200, body: { name, sha, width: 4, height: 3, refused, told: '' } });
const matched = (...pairs: [string, string | null][]) => ({ status: 200, body: pairs.map(([name, shot_id]) => ({ name, sha: `sha${name}`, shot_id, reason: 'by its number' })) });

describe('pictures coming in', () => {
  it('are matched to shots, in the order of their numbers; what is refused is told apart', async () => {
    const { view } = coming(['10.png', '2.png', 'x.txt']);
    server.answers = [taken('10.png'), taken('2.png'), taken('x.txt', null, 'No picture.'), matched(['2.png', '2'], ['10.png', null])];
    await view.read();
    expect(view.ready).toBe(true);
    expect(view.sorted.map((t) => t.name)).toEqual(['2.png', '10.png']);
    expect(view.bad.map((t) => t.refused)).toEqual(['No picture.']);
    expect(view.placed.map((t) => t.name)).toEqual(['2.png']);
    expect(view.reason['2.png']).toBe('by its number');
    view.target['10.png'] = '1';
    expect(await view.accept()).toBe(true);
    expect(server.of('POST').at(-1)).toMatchObject({ path: '/api/projects/p/takes', body: { files: [{ name: '10.png', shot_id: '1' }, { name: '2.png', shot_id: '2' }] } });
  });

  it('are all pages of a book that comes in one file', async () => {
    const { view } = coming(['Tide.cbz']);
    server.answers = [{ status: 200, body: [taken('Tide.cbz, page 001.png').body, taken('Tide.cbz, page 002.png').body] }, matched(['Tide.cbz, page 001.png', '1'], ['Tide.cbz, page 002.png', '2'])];
    await view.read();
    expect(server.of('POST')[0]!.path).toBe('/api/projects/p/book-pages');
    expect(view.placed.length).toBe(2);
    expect(view.done).toBe(1);
  });

  it('that were dropped on a shot belong to it', async () => {
    const { view } = coming(['a.png'], '2');
    server.answers = [taken('a.png')];
    await view.read();
    expect([view.target['a.png'], view.reason['a.png']]).toEqual(['2', 'dropped on this shot']);
    expect(server.of('POST')).toHaveLength(1);
  });

  it('go to their own shots as pages of a book, also where the book was dropped on one', async () => {
    const { view } = coming(['a.png', 'Tide.cbz'], '2');
    server.standing.set('/pictures', taken('a.png').body);
    server.standing.set('/book-pages', [taken('Tide.cbz, page 000.png').body, taken('Tide.cbz, page 001.png').body]);
    server.standing.set('/takes/propose', matched(['Tide.cbz, page 000.png', null], ['Tide.cbz, page 001.png', '1']).body);
    await view.read();
    expect([view.target['a.png'], view.target['Tide.cbz, page 000.png'], view.target['Tide.cbz, page 001.png']]).toEqual(['2', '', '1']);
  });

  it('one that could not be sent harms no other', async () => {
    const { view } = coming(['a.png', 'b.png']);
    server.refuse(413, 'It is too large.');
    server.answers.push(taken('b.png'), matched(['b.png', '1']));
    await view.read();
    expect(view.bad.map((t) => [t.name, t.refused])).toEqual([['a.png', 'It is too large.']]);
    expect(view.placed.map((t) => t.name)).toEqual(['b.png']);
  });

  it('can still be placed by hand when nobody can match them', async () => {
    const { view } = coming(['a.png']);
    server.answers = [taken('a.png')];
    server.refuse(503, 'The database is away.');
    await view.read();
    expect(notices.all.at(-1)!.text).toBe('The database is away.');
    expect([view.ready, view.placed.length]).toEqual([true, 0]);
  });

  it('stop where they are stopped', async () => {
    const { view } = coming(['a.png', 'b.png', 'c.png', 'd.png', 'e.png']);
    server.standing.set('/pictures', taken('a').body);
    const reading = view.read();
    view.stop();
    await reading;
    expect(view.done).toBe(3);
    expect(view.ready).toBe(false);
  });

  it('stay open while somebody whom references show is to be marked', async () => {
    const { p, view } = coming(['a.png'], '1');
    p.apply(changed({ thread: [thread('ada')], bead: [beadRow('1', 'ada')], reference: [{ id: 'r', revision: 1, thread_id: 'ada', picture_sha: 'x', position: 0 }] }));
    server.answers = [taken('a.png')];
    await view.read();
    server.answers = [{ status: 200, body: changed({ take: [take('t', '1')] }) }];
    expect(await view.accept()).toBe(false);
    expect(view.standing).toEqual(['t']);
    server.refuse(422, 'Not so.');
    expect(await view.accept()).toBe(false);
  });
});
