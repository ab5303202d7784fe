import { changed, server, settled, shotRow as shot, soon } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it, vi } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { StoryState } from './story-state.svelte';

eachTestAfresh();

describe('writing', () => {
  it('is kept once after a pause, going on from the text that was seen', async () => {
    const p = project([]);
    const story = new StoryState(p);
    story.typed('One. Two. T');
    story.typed('One. Two. Three.');
    expect(story.dirty).toBe(true);
    await vi.advanceTimersByTimeAsync(800);
    await settled();
    expect(server.asked.filter((a) => a.method === 'PUT')).toEqual([{ method: 'PUT', path: '/api/projects/p/text', query: {}, body: { text: 'One. Two. Three.', seen: 3 } }]);
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
    p.edits.conflict!.settled!();
    expect(story.dirty).toBe(false);
  });

  it('ends when mine is kept, also when somebody was quicker twice', async () => {
    const p = project([]);
    const story = new StoryState(p);
    story.typed('Mine.');
    for (const text_revision of [4, 5]) server.refuse(409, 'x', { mine: { text: 'Mine.' }, theirs: { text: 'Theirs.', text_revision } });
    await story.keep();
    for (let i = 0; i < 2; i++) {
      const held = p.edits.conflict;
      p.edits.conflict = null;
      await p.edits.keepMine(held);
    }
    expect(p.edits.conflict).toBeNull();
    expect(story.dirty).toBe(false);
    expect(server.of('PUT').map((a) => (a.body as { seen: number }).seen)).toEqual([3, 4, 5]);
  });

  it('splits where the cursor is in a shot, and proposes where none is', async () => {
    const p = project([shot('1', { span_start: 0, span_end: 4 })]);
    const story = new StoryState(p);
    const marked = { spans: [{ id: '1', from: 0, to: 4, proposed: false, number: 1 }], gaps: [{ id: '0', from: 5, to: 9, twice: false }], passages: [], current: null };
    story.splitAt(2, marked);
    await settled();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/shots/1/split', body: { at: 2 } });
    server.asked.length = 0;
    story.splitAt(7, marked);
    await settled();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/proposals', body: { start: 5, end: 9 } });
  });

  it('makes the shot under the cursor the current one', () => {
    const p = project([shot('1'), shot('2')]);
    new StoryState(p).cursorAt(12, [{ id: '1', from: 0, to: 9 }, { id: '2', from: 10, to: 20 }]);
    expect(p.currentId).toBe('2');
  });

  it('that goes on while it is being kept is kept after that', async () => {
    const p = project([]);
    const story = new StoryState(p);
    let let_go = () => {};
    server.held = new Promise((yes) => (let_go = yes));
    story.typed('One.');
    const first = story.keep();
    story.typed('One. Two more.');
    expect(await story.keep()).toBe(false);
    let_go();
    expect(await first).toBe(false);
    expect(story.dirty).toBe(true);
    await vi.advanceTimersByTimeAsync(800);
    await soon(() => expect(server.of('PUT')).toHaveLength(2));
    expect(server.of('PUT').map((a) => (a.body as { text: string }).text)).toEqual(['One.', 'One. Two more.']);
    await soon(() => expect(story.dirty).toBe(false));
  });

  it('is not thrown away when keeping it fails', async () => {
    const p = project([]);
    const story = new StoryState(p);
    story.typed('Kept here.');
    server.refuse(422, 'The text is too long.');
    expect(await story.keep()).toBe(false);
    expect(story.dirty).toBe(true);
    expect(notices.all.at(-1)!.text).toBe('The text is too long.');
    expect(await story.keep()).toBe(true);
    expect(server.of('PUT').map((a) => (a.body as { text: string }).text)).toEqual(['Kept here.', 'Kept here.']);
  });

  it('that is deleted again before it was kept leaves the text as it was', async () => {
    const story = new StoryState(project([]));
    story.typed('One. Two. Oops');
    story.typed('One. Two.');
    expect(story.dirty).toBe(false);
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.of('PUT')).toEqual([]);
  });

  it('that is deleted while it is being kept is deleted after that', async () => {
    const p = project([]);
    const story = new StoryState(p);
    let let_go = () => {};
    server.held = new Promise((yes) => (let_go = yes));
    server.answers = [{ status: 200, body: changed({ project: [{ ...p.row!, revision: 2, text: 'One. Two. Oops', text_revision: 4 }] }) }];
    story.typed('One. Two. Oops');
    const first = story.keep();
    story.typed('One. Two.');
    let_go();
    await first;
    await vi.advanceTimersByTimeAsync(2000);
    await soon(() => expect(server.of('PUT').map((a) => a.body)).toEqual([{ text: 'One. Two. Oops', seen: 3 }, { text: 'One. Two.', seen: 4 }]));
  });

  it('goes on from what was kept, not from what another window wrote after that', async () => {
    const p = project([]);
    const story = new StoryState(p);
    const written = (text: string, text_revision: number) => ({ project: [{ ...p.row!, revision: text_revision, text, text_revision }] });
    server.answers = [{ status: 200, body: changed(written('Mine.', 4)) }];
    story.typed('Mine.');
    await story.keep();
    story.typed('Mine. More.');
    await p.receive(changed(written('Theirs.', 5)));
    await story.keep();
    expect(server.of('PUT').map((a) => (a.body as { seen: number }).seen)).toEqual([3, 4]);
  });

  it('back to what is kept already asks nothing', async () => {
    const story = new StoryState(project([]));
    story.typed('One. Two.');
    expect(await story.keep()).toBe(true);
    expect(server.of('PUT')).toEqual([]);
  });
});

describe('what a shot covers', () => {
  it.each([
    ['end', 1, [0, 4], [0, 9]],
    ['end', -1, [0, 9], [0, 4]],
    ['start', 1, [0, 9], [5, 9]],
    ['start', -1, [5, 9], [0, 9]],
  ] as const)('changes by a word at its %s (%i): %j to %j', async (end, step, before, after) => {
    const story = new StoryState(project([shot('1', { span_start: before[0], span_end: before[1] })]));
    story.stretch(end, step);
    await soon(() => expect(server.of('PUT').map((a) => a.body)).toEqual([{ start: after[0], end: after[1], seen: 3 }]));
  });

  it.each([['start', 1], ['end', -1]] as const)('keeps its last word at its %s', async (end, step) => {
    const story = new StoryState(project([shot('1', { span_start: 0, span_end: 4 })]));
    story.stretch(end, step);
    await vi.advanceTimersByTimeAsync(20);
    expect(server.of('PUT')).toEqual([]);
  });

  it('is not moved while words are typed that the server has not seen', async () => {
    const p = project([shot('1', { span_start: 0, span_end: 4 })]);
    const story = new StoryState(p);
    story.typed('One. Two. Three.');
    story.stretch('end', 1);
    expect(server.asked.filter((a) => a.path.endsWith('/span'))).toEqual([]);
  });
});

describe('proposals', () => {
  it('say when every word is in a shot already', async () => {
    const story = new StoryState(project([shot('1')]));
    await story.propose();
    expect(server.of('POST')[0]!.body).toEqual({ start: null, end: null, seen: null });
    expect(notices.all.at(-1)!.text).toContain('Every word is in a shot already');
  });

  it('make the first proposed shot the current one', async () => {
    const p = project([shot('1')]);
    const story = new StoryState(p);
    server.answers = [{ status: 200, body: changed({ shot: [shot('3', { status: 'proposed' }), shot('2', { status: 'proposed' })] }) }];
    await story.propose(5, 9);
    expect(p.currentId).toBe('2');
    await story.accept(null);
    expect(server.of('POST').map((a) => [a.path, a.body])).toEqual([
      ['/api/projects/p/proposals', { start: 5, end: 9, seen: 3 }],
      ['/api/projects/p/proposals/accept', { shot_ids: null }],
    ]);
  });
});
