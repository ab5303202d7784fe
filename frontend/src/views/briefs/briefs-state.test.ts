import { beginnings, changed, finding, server, settled, shotRow as shot, soon, told } from '../../testing/server';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Phrase } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import { ProjectState } from '../../lib/project.svelte';
import { BriefsState, underlined } from './briefs-state.svelte';

beforeEach(() => {
  server.reset();
  notices.all = [];
});

const phrase = { key: 'action', text: 'Pell and Oda sit.' } as Phrase;
const at = (key: string, start: number, end: number, of = 'action') => finding(key, '1', { words: { phrase: of, start, end, text: '', shared: false } });

describe('the words of a phrase', () => {
  it('are whole when nothing is found in them', () => {
    expect(underlined(phrase, [], undefined)).toEqual([{ words: 'Pell and Oda sit.', keys: [], now: false }]);
    expect(underlined(phrase, [at('x', 0, 4, 'cast:p')], 'x')).toHaveLength(1);
  });

  it('are cut where findings begin and end, overlapping ones too', () => {
    const cut = underlined(phrase, [at('a', 9, 12), at('b', 0, 17)], 'a');
    expect(cut.map((c) => c.words)).toEqual(['Pell and ', 'Oda', ' sit.']);
    expect(cut.map((c) => c.keys)).toEqual([['b'], ['a', 'b'], ['b']]);
    expect(cut.map((c) => c.now)).toEqual([false, true, false]);
    expect(cut.map((c) => c.words).join('')).toBe(phrase.text);
  });

  it('are left alone by a finding of an older, longer wording', () => {
    expect(underlined(phrase, [at('a', 9, 99)], 'a')).toHaveLength(1);
  });
});

const keyed = (key: string, more: object = {}, shot = '1') => finding(key, shot, { source: 'brief', kind: 'motion', words: { phrase: 'action', start: 0, end: 4, text: '', shared: false }, ...more });
const briefOf = (shot_id: string, findings: object[] = []) => ({ shot_id, number: shot_id, text: `Brief of ${shot_id}.`, findings });

const briefs = () => {
  const project = new ProjectState('p');
  project.apply(beginnings([shot('1'), shot('2'), shot('3', { status: 'proposed' }), shot('4', { brief_edits: [{ key: 'donts', was: '', now: 'x' }] as never })]));
  project.apply(changed({ stet: [{ id: 'x', revision: 1, finding_key: 'd', reason: 'meant' }] }));
  project.findings.put(told([keyed('a'), keyed('b'), keyed('c', {}, '4'), keyed('d', {}, '4'), finding('s', '2', { source: 'take' })]));
  return new BriefsState(project);
};
const press = (b: BriefsState, key: string, more: object = {}) => b.key({ key, ...more } as KeyboardEvent);

describe('the list of briefs', () => {
  it.each([
    ['all', ['1', '2', '4']],
    ['findings', ['1', '4']],
    ['stale', ['2']],
    ['edited', ['4']],
  ] as const)('%s: %j; proposed shots have none', (only, ids) => {
    const b = briefs();
    b.only = only;
    expect(b.listed.map((s) => s.id)).toEqual(ids);
  });

  it('is walked with the arrows, over what is listed', () => {
    const b = briefs();
    b.only = 'findings';
    press(b, 'ArrowDown');
    expect(b.project.currentId).toBe('4');
    press(b, 'ArrowDown');
    expect(b.project.currentId).toBe('4');
    press(b, 'ArrowUp');
    expect(b.project.currentId).toBe('1');
  });
});

describe('a brief', () => {
  it('is read for the current shot, and not shown when another became current meanwhile', async () => {
    const b = briefs();
    server.standing.set('/shots/1/brief', briefOf('1', [keyed('a')]));
    await b.load();
    expect(b.brief?.shot_id).toBe('1');
    b.project.currentId = '2';
    const reading = b.load();
    b.project.currentId = '1';
    await reading;
    expect(b.brief?.shot_id).toBe('1');
    b.project.currentId = '3';
    await b.load();
    expect(b.brief).toBeNull();
  });

  it('goes through its findings, then on to the next shot that has some, and back', async () => {
    const b = briefs();
    server.standing.set('/shots/1/brief', briefOf('1', [keyed('a'), keyed('b')]));
    server.standing.set('/shots/4/brief', briefOf('4', [keyed('c')]));
    await b.load();
    expect(b.finding?.key).toBe('a');
    press(b, ']');
    expect(b.finding?.key).toBe('b');
    press(b, ']');
    expect(b.project.currentId).toBe('4');
    await b.load();
    expect(b.finding?.key).toBe('c');
    press(b, ']');
    expect(notices.all.at(-1)!.text).toBe('No finding further down.');
    press(b, '[');
    expect(b.project.currentId).toBe('1');
  });

  it('mends on Enter what has a mend, and opens the words where nothing has', async () => {
    const b = briefs();
    server.standing.set('/shots/1/brief', briefOf('1', [keyed('a', { mend: { kind: 'cut', label: 'Cut' } })]));
    await b.load();
    server.asked.length = 0;
    press(b, 'Enter');
    await settled();
    expect(server.asked[0]).toMatchObject({ method: 'POST', path: '/api/projects/p/shots/1/brief/mend', body: { key: 'a' } });
    expect(b.editing).toBeNull();
    b.brief = briefOf('1', [keyed('b')]) as never;
    press(b, 'Enter');
    expect(b.editing).toBe('action');
  });

  it('asks why before it lets stand, and takes a stet back', async () => {
    const b = briefs();
    b.brief = briefOf('1', [keyed('a')]) as never;
    press(b, 's');
    expect(b.because).toBe('a');
    await b.stet('a', '   ');
    expect(server.asked).toEqual([]);
    await b.stet('a', 'it is meant');
    expect(server.asked[0]).toMatchObject({ method: 'POST', path: '/api/projects/p/stets', body: { finding_key: 'a', reason: 'it is meant' } });
    expect(b.because).toBeNull();
    expect(await b.project.unstand('a')).toBeNull();
    b.project.apply(changed({ stet: [{ id: 'k', revision: 1, finding_key: 'a', reason: 'it is meant' }] }));
    await b.project.unstand('a');
    expect(server.asked.at(-1)).toMatchObject({ method: 'DELETE', path: '/api/projects/p/stets/k' });
  });

  it('is compared with one thing after another, and says when there is nothing', async () => {
    const b = briefs();
    server.refuse(404, 'This is the first shot: there is none before it.');
    press(b, 'd');
    await soon(() => expect(b.nothing).toContain('first shot'));
    expect(b.pieces).toBeNull();
    server.answers = [{ status: 200, body: [{ kind: 'same', words: 'x' }] }];
    press(b, 'd');
    await soon(() => expect(b.pieces).toHaveLength(1));
    expect(server.asked.map((a) => a.query.other)).toEqual(['before', 'sent']);
    press(b, 'd');
    press(b, 'd');
    await soon(() => expect(b.pieces).toBeNull());
    expect(b.against).toBe('none');
  });

  it('goes to the clipboard and is remembered, or says that the browser refused', async () => {
    const b = briefs();
    b.brief = briefOf('1') as never;
    const written: string[] = [];
    vi.stubGlobal('navigator', { clipboard: { writeText: async (t: string) => void written.push(t) } });
    await b.copy();
    expect(written).toEqual(['Brief of 1.']);
    expect(server.of('POST')[0]).toMatchObject({ path: '/api/projects/p/briefs/sent', body: { shot_ids: ['1'] } });
    server.reset();
    vi.stubGlobal('navigator', { clipboard: { writeText: () => Promise.reject(new Error('no')) } });
    await b.copy();
    expect(server.asked).toEqual([]);
    expect(notices.all.at(-1)!.tone).toBe('trouble');
    vi.unstubAllGlobals();
  });

  it('leaves keys with Ctrl to the window, and others that mean nothing', () => {
    const b = briefs();
    expect(press(b, 'y', { ctrlKey: true })).toBe(false);
    expect(press(b, 'q')).toBe(false);
    press(b, 'a');
    expect(b.editing).toBe('extra');
    press(b, 'e');
    expect(b.editing).toBe('action');
  });
});
