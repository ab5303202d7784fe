/** What the server is asked, and what it answers next; there before the client is made. */
const server = vi.hoisted(() => {
  const state = { asked: [] as { method: string; path: string; body: unknown }[], answers: [] as { status: number; body: unknown }[] };
  const Plain = globalThis.Request;
  globalThis.Request = class extends Plain {
    constructor(input: string | Request, init?: RequestInit) {
      super(typeof input === 'string' && input.startsWith('/') ? `http://x${input}` : input, init);
    }
  } as typeof Request;
  globalThis.fetch = (async (request: Request) => {
    state.asked.push({ method: request.method, path: new URL(request.url).pathname, body: await request.json().catch(() => null) });
    const empty = { project_id: 'p', change_id: 7, label: 'did it', rows: {}, gone: {}, pictures: [], undo_label: null, redo_label: null };
    const { status, body } = state.answers.shift() ?? { status: 200, body: empty };
    return new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  }) as typeof fetch;
  return state;
});

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Changed, Shot } from '../api/client';
import { StoryState } from '../views/story/story-state.svelte';
import { SheetState } from '../views/sheet/sheet-state.svelte';
import { notices } from './notices.svelte';
import { ProjectState } from './project.svelte';

const shot = (id: string, facts: Partial<Shot> = {}) =>
  ({ id, revision: 1, scene_id: 's', position: Number(id), shows: id, length_s: 2, status: 'settled', lost: '', span_start: null, span_end: null, ...facts }) as Shot;

const changed = (rows: object, more: Partial<Changed> = {}) =>
  ({ project_id: 'p', change_id: 7, label: 'did it', rows, gone: {}, pictures: [], undo_label: 'did it', redo_label: null, ...more }) as Changed;

const project = (shots: Shot[]) => {
  const made = new ProjectState('p');
  made.apply(changed({ project: [{ id: 'p', revision: 1, title: 'T', text: 'One. Two.', text_revision: 3, target_s: null }], scene: [{ id: 's', revision: 1, position: 0, title: '' }], shot: shots }));
  return made;
};

beforeEach(() => {
  server.asked.length = 0;
  server.answers = [];
  notices.all = [];
  vi.useFakeTimers({ shouldAdvanceTime: true });
});
afterEach(() => vi.useRealTimers());

const settle = () => vi.waitFor(() => expect(server.asked.length).toBeGreaterThan(0));

describe('a project in the window', () => {
  it('puts newer rows in, takes gone ones out, and keeps a current shot', () => {
    const p = project([shot('1'), shot('2'), shot('3')]);
    expect(p.order.map((s) => s.id)).toEqual(['1', '2', '3']);
    expect(p.currentId).toBe('1');
    p.apply(changed({ shot: [shot('2', { revision: 2, shows: 'new' })] }, { gone: { shot: ['1'] } }));
    expect(p.order.map((s) => s.shows)).toEqual(['new', '3']);
    expect(p.currentId).toBe('2');
    p.apply(changed({ shot: [shot('2', { revision: 1, shows: 'old' })] }));
    expect(p.order[0]!.shows).toBe('new');
  });

  it('knows what is proposed and what has lost its words', () => {
    const p = project([shot('1', { status: 'proposed' }), shot('2', { lost: 'gone words' }), shot('3')]);
    expect(p.proposed.map((s) => s.id)).toEqual(['1']);
    expect(p.lost.map((s) => s.id)).toEqual(['2']);
  });

  it('steps through the shots and stays inside', () => {
    const p = project([shot('1'), shot('2')]);
    p.step(1);
    p.step(5);
    expect(p.currentId).toBe('2');
    p.step(-9);
    expect(p.currentId).toBe('1');
  });

  it('tells trouble and changes nothing', async () => {
    const p = project([shot('1')]);
    server.answers = [{ status: 422, body: { detail: 'Not so.', title: 'x', status: 422 } }];
    expect(await p.editShot(p.order[0]!, { shows: 'x' })).toBeNull();
    expect(notices.all.map((n) => n.text)).toEqual(['Not so.']);
    expect(p.order[0]!.shows).toBe('1');
  });

  it('holds both versions of a conflict', async () => {
    const p = project([shot('1')]);
    server.answers = [{ status: 409, body: { detail: 'Meanwhile.', title: 'x', status: 409, mine: { shows: 'a' }, theirs: { shows: 'b' } } }];
    await p.editShot(p.order[0]!, { shows: 'a' });
    expect(p.conflict?.mine).toEqual({ shows: 'a' });
    expect(p.conflict?.theirs).toEqual({ shows: 'b' });
    expect(server.asked[0]!.body).toEqual({ shows: 'a', revision: 1 });
  });
});

describe('writing', () => {
  it('is kept once after a pause, going on from the text that was seen', async () => {
    const p = project([]);
    const story = new StoryState(p);
    story.typed('One. Two. T');
    story.typed('One. Two. Three.');
    expect(story.dirty).toBe(true);
    await vi.advanceTimersByTimeAsync(800);
    await settle();
    expect(server.asked.filter((a) => a.method === 'PUT')).toEqual([{ method: 'PUT', path: '/api/projects/p/text', body: { text: 'One. Two. Three.', seen: 3 } }]);
    expect(story.dirty).toBe(false);
  });

  it('does not pass over what another window wrote meanwhile', async () => {
    const p = project([]);
    const story = new StoryState(p);
    story.typed('Mine.');
    p.apply(changed({ project: [{ id: 'p', revision: 2, title: 'T', text: 'Theirs.', text_revision: 4, target_s: null }] }));
    server.answers = [{ status: 409, body: { detail: 'x', title: 'x', status: 409, mine: { text: 'Mine.' }, theirs: { text: 'Theirs.', text_revision: 4 } } }];
    expect(await story.keep()).toBe(false);
    expect(server.asked[0]!.body).toEqual({ text: 'Mine.', seen: 3 });
    expect(story.dirty).toBe(true);
    p.conflict!.settled!();
    expect(story.dirty).toBe(false);
  });

  it('splits where the cursor is in a shot, and proposes where none is', async () => {
    const p = project([shot('1', { span_start: 0, span_end: 4 })]);
    const story = new StoryState(p);
    const marked = { spans: [{ id: '1', from: 0, to: 4, proposed: false, number: 1 }], gaps: [{ id: '0', from: 5, to: 9, twice: false }], passages: [], current: null };
    story.splitAt(2, marked);
    await settle();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/shots/1/split', body: { at: 2 } });
    server.asked.length = 0;
    story.splitAt(7, marked);
    await settle();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/proposals', body: { start: 5, end: 9 } });
  });

  it('makes the shot under the cursor the current one', () => {
    const p = project([shot('1'), shot('2')]);
    new StoryState(p).cursorAt(12, [{ id: '1', from: 0, to: 9 }, { id: '2', from: 10, to: 20 }]);
    expect(p.currentId).toBe('2');
  });
});

describe('keys on the Sheet', () => {
  const press = (sheet: SheetState, key: string, more: Partial<KeyboardEvent> = {}) => sheet.key({ key, ...more } as KeyboardEvent);
  const withThreads = () => {
    const p = project([shot('1'), shot('2'), shot('3')]);
    p.apply(changed({ thread: [{ id: 't', revision: 1, kind: 'character', name: 'Ada', aliases: [], position: 0 }] }));
    return new SheetState(p);
  };

  it('move, extend a range and assign it', async () => {
    const sheet = withThreads();
    expect(press(sheet, ' ')).toBe(false);
    press(sheet, 'ArrowRight');
    press(sheet, 'ArrowDown', { shiftKey: true });
    expect(sheet.range).toEqual([0, 1]);
    expect(press(sheet, ' ')).toBe(true);
    await settle();
    expect(server.asked[0]).toMatchObject({ method: 'PUT', path: '/api/projects/p/threads/t/run', body: { shot_ids: ['1', '2'], on: true } });
  });

  it('clear what is there, and delete a shot only on the shot itself', async () => {
    const sheet = withThreads();
    sheet.project.apply(changed({ bead: [{ id: 'b', revision: 1, shot_id: '1', thread_id: 't', hold: 'figure', weight: 1, costume: '' }] }));
    press(sheet, 'ArrowRight');
    press(sheet, 'Delete');
    await settle();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/threads/t/run', body: { shot_ids: ['1'], on: false } });
    server.asked.length = 0;
    press(sheet, 'ArrowLeft');
    press(sheet, 'Delete');
    await settle();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/shots/delete', body: { shot_ids: ['1'] } });
  });

  it.each([
    ['n', '/api/projects/p/shots/2/insert'],
    ['x', '/api/projects/p/shots/2/split'],
    ['m', '/api/projects/p/shots/2/merge-up'],
  ])('%s asks for %s', async (key, path) => {
    const sheet = withThreads();
    sheet.project.currentId = '2';
    press(sheet, key);
    await settle();
    expect(server.asked[0]!.path).toBe(path);
  });

  it('know what they do not mean', () => {
    const sheet = withThreads();
    expect(press(sheet, 'q')).toBe(false);
    expect(press(sheet, 'n', { ctrlKey: true })).toBe(false);
    expect(new SheetState(project([])).key({ key: 'ArrowDown' } as KeyboardEvent)).toBe(false);
  });
});
