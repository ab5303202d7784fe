import { changed, covers, server, settled, shotRow as shot, soon, textPart } from '../../testing/server';
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
    expect(server.of('PATCH')).toEqual([{ method: 'PATCH', path: '/api/projects/p/text', query: {}, body: { at: 9, gone: 0, put: ' Three.', seen: 3 } }]);
    expect(story.dirty).toBe(false);
  });

  it('does not pass over what another window wrote meanwhile', async () => {
    const p = project([]);
    const story = new StoryState(p);
    story.typed('Mine.');
    p.apply(changed({ project: [{ ...p.row!, revision: 2, text_revision: 4 }], text_part: [textPart('Theirs.', 2)] }));
    server.answers = [{ status: 409, body: { detail: 'x', title: 'x', status: 409, mine: { text: 'Min' }, theirs: { text: 'Theirs.', text_revision: 4 } } }];
    expect(await story.keep()).toBe(false);
    expect(server.asked[0]!.body).toEqual({ at: 0, gone: 8, put: 'Mine', seen: 3 });
    expect(story.dirty).toBe(true);
    expect(p.edits.conflict!.mine.text).toBe('Mine.');
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
    expect(server.of('PATCH').map((a) => (a.body as { seen: number }).seen)).toEqual([3]);
    expect(server.of('PUT').map((a) => a.body)).toEqual([{ text: 'Mine.', seen: 4 }, { text: 'Mine.', seen: 5 }]);
  });

  it('splits where the cursor is in a shot, and proposes where none is', async () => {
    const p = project([shot('1', covers(0, 4))]);
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
    await soon(() => expect(server.of('PATCH')).toHaveLength(2));
    expect(server.of('PATCH').map((a) => a.body)).toMatchObject([{ at: 4, gone: 5, put: '' }, { at: 8, gone: 0, put: ' more' }]);
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
    expect(server.of('PATCH').map((a) => (a.body as { put: string }).put)).toEqual(['Kept here', 'Kept here']);
  });

  it('that is deleted again before it was kept leaves the text as it was', async () => {
    const story = new StoryState(project([]));
    story.typed('One. Two. Oops');
    story.typed('One. Two.');
    expect(story.dirty).toBe(false);
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.asked).toEqual([]);
  });

  it('that is deleted while it is being kept is deleted after that', async () => {
    const p = project([]);
    const story = new StoryState(p);
    let let_go = () => {};
    server.held = new Promise((yes) => (let_go = yes));
    server.answers = [{ status: 200, body: changed({ project: [{ ...p.row!, revision: 2, text_revision: 4 }], text_part: [textPart('One. Two. Oops', 2)] }) }];
    story.typed('One. Two. Oops');
    const first = story.keep();
    story.typed('One. Two.');
    let_go();
    await first;
    await vi.advanceTimersByTimeAsync(2000);
    await soon(() => expect(server.of('PATCH').map((a) => a.body)).toEqual([{ at: 9, gone: 0, put: ' Oops', seen: 3 }, { at: 9, gone: 5, put: '', seen: 4 }]));
  });

  it('goes on from what was kept, not from what another window wrote after that', async () => {
    const p = project([]);
    const story = new StoryState(p);
    const written = (text: string, text_revision: number) => ({ project: [{ ...p.row!, revision: text_revision, text_revision }], text_part: [textPart(text, text_revision)] });
    server.answers = [{ status: 200, body: changed(written('Mine.', 4)) }];
    story.typed('Mine.');
    await story.keep();
    story.typed('Mine. More.');
    await p.receive(changed(written('Theirs.', 5)));
    await story.keep();
    expect(server.of('PATCH').map((a) => a.body)).toMatchObject([{ seen: 3 }, { at: 5, gone: 0, put: ' More.', seen: 4 }]);
  });

  it('counts characters as the server does, where some take two units of a string', async () => {
    const p = project([]);
    p.apply(changed({ text_part: [textPart('🦀🦀 sat. Then', 2)] }));
    const story = new StoryState(p);
    story.typed('🦀🦊 sat. And then');
    await story.keep();
    expect(server.of('PATCH')[0]!.body).toMatchObject({ at: 1, gone: 8, put: '🦊 sat. And t' });
    const whole = p.storyText;
    expect([0, 1, 2, 5].map((at) => whole.unit(at))).toEqual([0, 2, 4, 7]);
    expect([0, 2, 4, 7].map((at) => whole.character(at))).toEqual([0, 1, 2, 5]);
    expect(whole.stretch(shot('1', covers(1, 6)))).toEqual([2, 8]);
  });

  it('back to what is kept already asks nothing', async () => {
    const story = new StoryState(project([]));
    story.typed('One. Two.');
    expect(await story.keep()).toBe(true);
    expect(server.asked).toEqual([]);
  });
});

describe('what a shot covers', () => {
  it.each([
    ['end', 1, [0, 4], [0, 9]],
    ['end', -1, [0, 9], [0, 4]],
    ['start', 1, [0, 9], [5, 9]],
    ['start', -1, [5, 9], [0, 9]],
  ] as const)('changes by a word at its %s (%i): %j to %j', async (end, step, before, after) => {
    const story = new StoryState(project([shot('1', covers(before[0], before[1]))]));
    story.stretch(end, step);
    await soon(() => expect(server.of('PUT').map((a) => a.body)).toEqual([{ start: after[0], end: after[1], seen: 3 }]));
  });

  it.each([['start', 1], ['end', -1]] as const)('keeps its last word at its %s', async (end, step) => {
    const story = new StoryState(project([shot('1', covers(0, 4))]));
    story.stretch(end, step);
    await vi.advanceTimersByTimeAsync(20);
    expect(server.of('PUT')).toEqual([]);
  });

  it('is not moved while words are typed that the server has not seen', async () => {
    const p = project([shot('1', covers(0, 4))]);
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

describe('who is asked about', () => {
  it('is the likeliest who is not there yet, in a proposal alone, and is there when it is said', async () => {
    const p = project([shot('1', { status: 'proposed' }), shot('2', { status: 'proposed' }), shot('3')]);
    const story = new StoryState(p);
    const need = (shot_id: string, also: string[]) => ({ shot_id, words_s: 1, spoken_s: 0, told_s: 1, moving: [], also });
    p.findings.needs = new Map(Object.entries({ 1: need('1', ['ben', 'ada']), 3: need('3', ['ada']) }));
    expect(p.order.map((s) => story.askedAbout(s))).toEqual([undefined, undefined, undefined]);
    p.apply(changed({ thread: [{ id: 'ada', name: 'Ada', kind: 'character', revision: 1 }, { id: 'ben', name: 'Ben', kind: 'character', revision: 1 }] }));
    expect(p.order.map((s) => story.askedAbout(s)?.id)).toEqual(['ben', undefined, undefined]);
    void story.isHere(p.order[0]!);
    void story.isHere(p.order[2]!);
    await settled();
    expect(server.asked).toMatchObject([{ method: 'PUT', path: '/api/projects/p/threads/ben/run', body: { shot_ids: ['1'], on: true } }]);
    p.apply(changed({ bead: [{ id: 'b', shot_id: '1', thread_id: 'ben', revision: 1 }] }));
    expect(story.askedAbout(p.order[0]!)?.id).toBe('ada');
  });
});
