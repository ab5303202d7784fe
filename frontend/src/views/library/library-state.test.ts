import { beginnings, changed, server } from '../../testing/server';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { ProjectState } from '../../lib/project.svelte';
import { LibraryState, PART } from './library-state.svelte';

const part = (from: number, count: number, total: number) => ({ total, tags: ['sky'], items: Array.from({ length: count }, (_, i) => ({ id: `i${from + i}`, sha: `s${from + i}` })) });

const library = () => {
  const project = new ProjectState('p');
  project.apply(beginnings([]));
  return new LibraryState(project);
};
/** Let what was asked be answered. */
const answered = () => vi.advanceTimersByTimeAsync(20);

beforeEach(() => {
  server.reset();
  notices.all = [];
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe('looking for pictures', () => {
  it('asks once when typing rests, with all that was chosen', async () => {
    const l = library();
    for (const words of ['s', 'st', 'steps']) {
      l.words = words;
      l.ask();
      await vi.advanceTimersByTimeAsync(60);
    }
    l.colour = '#dba326';
    l.ask();
    server.answers = [{ status: 200, body: part(0, 3, 3) }];
    await vi.advanceTimersByTimeAsync(400);
    expect(server.asked.map((a) => a.query)).toEqual([expect.objectContaining({ words: 'steps', colour: '#dba326', offset: '0', limit: `${PART}` })]);
    expect(l.total).toBe(3);
    expect(l.asking).toBe(true);
    expect(l.tags).toEqual(['sky']);
  });

  it('fetches only the parts that are looked at, each once', async () => {
    const l = library();
    server.answers = [{ status: 200, body: part(0, PART, 10_000) }];
    l.ask(0);
    await answered();
    server.answers = [{ status: 200, body: part(4200, PART, 10_000) }];
    l.need(4210, 4290);
    l.need(4220, 4300);
    await answered();
    expect(server.asked.map((a) => a.query.offset)).toEqual(['0', '4200']);
    expect(l.item(4205)?.id).toBe('i4205');
    expect(l.item(2000)).toBeUndefined();
    l.need(10_200, 10_300);
    await answered();
    expect(server.asked).toHaveLength(2);
  });

  it('drops an answer to an older question', async () => {
    const l = library();
    let let_go = () => {};
    server.held = new Promise((yes) => (let_go = yes));
    server.answers = [{ status: 200, body: part(0, 5, 5) }, { status: 200, body: part(50, 2, 2) }];
    l.words = 'old';
    l.ask(0);
    await answered();
    l.words = 'new';
    l.ask(0);
    await answered();
    let_go();
    await answered();
    expect(l.total).toBe(2);
    expect(l.item(0)?.id).toBe('i50');
  });

  it('tells trouble, and asks again when looked at again', async () => {
    const l = library();
    server.refuse(422, 'A colour is six digits.');
    await l.part(0);
    expect(notices.all.map((n) => [n.text, n.tone])).toEqual([['A colour is six digits.', 'trouble']]);
    server.answers = [{ status: 200, body: part(0, 1, 1) }];
    await l.part(0);
    expect(l.loaded).toBe(true);
  });

  it('clears every question at once', async () => {
    const l = library();
    Object.assign(l, { words: 'a', colour: '#112233', like: 's', thread: 't', tag: 'g' });
    l.clear();
    await answered();
    expect(l.asking).toBe(false);
    expect(server.asked[0]!.query).toMatchObject({ words: '', colour: '', like: '', thread: '', tag: '', binned: 'false' });
  });
});

describe('choosing pictures', () => {
  const shown = async () => {
    const l = library();
    server.answers = [{ status: 200, body: part(0, 8, 8) }];
    await l.part(0);
    server.reset();
    return l;
  };
  const chosen = (l: LibraryState) => l.chosenItems.map((i) => i.id);

  it('is the one under the cursor until more are chosen', async () => {
    const l = await shown();
    l.choose(2, 'one');
    expect(chosen(l)).toEqual(['i2']);
    l.choose(5, 'more');
    expect(chosen(l)).toEqual(['i2', 'i5']);
    l.choose(2, 'more');
    expect(chosen(l)).toEqual(['i5']);
    l.choose(7, 'range');
    expect(chosen(l)).toEqual(['i2', 'i3', 'i4', 'i5', 'i6', 'i7']);
    l.choose(0, 'one');
    expect(chosen(l)).toEqual(['i0']);
    l.choose(99, 'one');
    expect(l.cursor).toBe(0);
  });

  it('tags all of them, and asks anew', async () => {
    const l = await shown();
    l.choose(1, 'one');
    l.choose(3, 'range');
    server.standing.set('/library', part(0, 8, 8));
    await l.retag(['sky'], ['sea']);
    expect(server.of('POST')[0]).toMatchObject({ path: '/api/projects/p/library/tags', body: { ids: ['i1', 'i2', 'i3'], add: ['sky'], remove: ['sea'] } });
    expect(server.of('GET').filter((a) => a.path.endsWith('/library'))).toHaveLength(1);
    await l.retag([]);
    expect(server.of('POST')).toHaveLength(1);
  });

  it('puts them into the bin, and says how to take that back', async () => {
    const l = await shown();
    l.choose(4, 'one');
    server.answers = [{ status: 200, body: changed({}, { label: 'put 1 picture into the bin' }) }, { status: 200, body: part(0, 7, 7) }];
    await l.bin(true);
    expect(server.of('POST')[0]!.body).toEqual({ ids: ['i4'], binned: true });
    expect(notices.all[0]!.text).toBe('Put 1 picture into the bin. Ctrl+Z takes it back.');
    expect(l.total).toBe(7);
  });

  it('keeps what is chosen when the bin is refused', async () => {
    const l = await shown();
    l.choose(1, 'more');
    server.refuse(409, 'Meanwhile it went.');
    await l.bin(true);
    expect(l.chosen.size).toBeGreaterThan(0);
    expect(notices.all[0]!.tone).toBe('trouble');
  });
});
