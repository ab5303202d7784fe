import { changed, finding, server, settled, shotRow as shot, told } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { clipFrom, SheetState } from './sheet-state.svelte';

eachTestAfresh();

const press = (sheet: SheetState, key: string, more: Partial<KeyboardEvent> = {}) => sheet.key({ key, ...more } as KeyboardEvent);

const bead = (shot_id: string, facts: object = {}) => ({ id: `b${shot_id}`, revision: 1, shot_id, thread_id: 't', hold: 'figure', weight: 1, costume: '', ...facts });

describe('keys on the Sheet', () => {
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
    await settled();
    expect(server.asked[0]).toMatchObject({ method: 'PUT', path: '/api/projects/p/threads/t/run', body: { shot_ids: ['1', '2'], on: true } });
  });

  it('clear what is there, and delete a shot only on the shot itself', async () => {
    const sheet = withThreads();
    sheet.project.apply(changed({ bead: [{ id: 'b', revision: 1, shot_id: '1', thread_id: 't', hold: 'figure', weight: 1, costume: '' }] }));
    press(sheet, 'ArrowRight');
    press(sheet, 'Delete');
    await settled();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/threads/t/run', body: { shot_ids: ['1'], on: false } });
    server.asked.length = 0;
    press(sheet, 'ArrowLeft');
    press(sheet, 'Delete');
    await settled();
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
    await settled();
    expect(server.asked[0]!.path).toBe(path);
  });

  it.each([
    [['ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown'], '3'],
    [['End', 'ArrowUp'], '2'],
    [['PageDown', 'Home'], '1'],
    [['PageDown', 'PageUp', 'PageUp'], '1'],
  ])('%j lead to shot %s and never out of the sheet', (keys, shot) => {
    const sheet = withThreads();
    for (const key of keys) press(sheet, key);
    expect(sheet.project.currentId).toBe(shot);
    expect(sheet.from).toBeNull();
  });

  it('stay within the columns, and leave a range with Escape', () => {
    const sheet = withThreads();
    for (let i = 0; i < 4; i++) press(sheet, 'ArrowRight');
    expect(sheet.column).toBe(0);
    for (let i = 0; i < 4; i++) press(sheet, 'ArrowLeft');
    expect(sheet.column).toBe(-1);
    press(sheet, 'a', { ctrlKey: true });
    expect(sheet.range).toEqual([0, 2]);
    press(sheet, 'Escape');
    expect(sheet.range).toEqual([0, 0]);
  });

  it('open the words of a shot, or the bead under the cursor for all of the range', async () => {
    const sheet = withThreads();
    press(sheet, 'Enter');
    expect(sheet.editing).toBe('1');
    sheet.project.apply(changed({ bead: [bead('1'), bead('3')] }));
    press(sheet, 'ArrowRight');
    press(sheet, 'a', { ctrlKey: true });
    press(sheet, 'Enter');
    expect(sheet.popover).toEqual({ thread: 't', shots: ['1', '3'] });
  });

  it('move a shot with Alt', async () => {
    const sheet = withThreads();
    press(sheet, 'ArrowDown', { altKey: true });
    await settled();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/shots/1/move', body: { step: 1 } });
    expect(sheet.project.currentId).toBe('1');
  });

  it('know what they do not mean', () => {
    const sheet = withThreads();
    expect(press(sheet, 'q')).toBe(false);
    expect(press(sheet, 'n', { ctrlKey: true })).toBe(false);
    expect(new SheetState(project([])).key({ key: 'ArrowDown' } as KeyboardEvent)).toBe(false);
  });
});

describe('what the Sheet shows', () => {
  const filled = () => {
    const p = project(['1', '2', '3', '4'].map((id) => shot(id)));
    p.apply(changed({
      thread: [{ id: 't', revision: 1, kind: 'character', name: 'Ada', aliases: [], position: 0 }, { id: 'u', revision: 1, kind: 'prop', name: 'Key', aliases: [], position: 1 }],
      bead: [bead('2'), bead('4')],
      take: [{ id: 'k', revision: 1, shot_id: '1', picked: true, position: 0, picture_sha: 'x' }],
    }));
    const stood = (key: string) => ({ id: key, revision: 1, finding_key: key, reason: 'meant' });
    p.apply(changed({ stet: [stood('d'), stood('z')] }));
    const brief = { source: 'brief' } as const, stale = { source: 'take' } as const;
    p.findings.put(told([finding('f', '3'), finding('c', '4', brief), finding('d', '1', brief), finding('s', '2', stale), finding('z', '3', stale)]));
    return new SheetState(p);
  };

  it.each([
    ['all', ['1', '2', '3', '4']],
    ['stale', ['2']],
    ['findings', ['3']],
    ['briefs', ['4']],
    ['empty', ['2', '3', '4']],
  ] as const)('%s: %j', (filter, ids) => {
    const sheet = filled();
    sheet.filter = filter;
    expect(sheet.shown.map((s) => s.id)).toEqual(ids);
    expect(sheet.rows.filter((r) => r.kind === 'shot').map((r) => r.kind === 'shot' && r.number)).toEqual(ids.map(Number));
  });

  it('only where a thread runs, and both filters together', () => {
    const sheet = filled();
    sheet.through = 't';
    expect(sheet.shown.map((s) => s.id)).toEqual(['2', '4']);
    sheet.filter = 'stale';
    expect(sheet.shown.map((s) => s.id)).toEqual(['2']);
  });

  it('a range over filtered rows leaves out what is not shown', async () => {
    const sheet = filled();
    sheet.through = 't';
    sheet.project.currentId = '2';
    press(sheet, 'ArrowDown', { shiftKey: true });
    press(sheet, 'ArrowRight');
    press(sheet, 'ArrowRight');
    press(sheet, ' ');
    await settled();
    expect(server.asked[0]).toMatchObject({ path: '/api/projects/p/threads/u/run', body: { shot_ids: ['2', '4'], on: true } });
  });

  it('does nothing to a current shot that the filter hides', () => {
    const sheet = filled();
    sheet.filter = 'stale';
    sheet.project.currentId = '4';
    sheet.column = 0;
    press(sheet, 'Delete');
    press(sheet, ' ');
    expect(server.asked).toEqual([]);
    press(sheet, 'ArrowDown');
    expect(sheet.project.currentId).toBe('2');
  });

  it('leaves hidden columns out', () => {
    const sheet = filled();
    expect(sheet.columns.map((t) => t.id)).toEqual(['t', 'u']);
    sheet.project.apply(changed({ project: [{ id: 'p', revision: 2, title: 'T', text: '', text_revision: 3, target_s: null, hidden_columns: ['t'] }] }));
    expect(sheet.columns.map((t) => t.id)).toEqual(['u']);
  });

  it('draws only the rows near the window, and scrolls a shot into it', () => {
    const sheet = new SheetState(project(Array.from({ length: 120 }, (_, i) => shot(`${i + 1}`))));
    expect(sheet.rows).toHaveLength(121);
    expect(sheet.visible.length).toBeLessThan(20);
    expect(sheet.scrollTo(3)).toBeNull();
    sheet.scroll = sheet.scrollTo(70)!;
    expect(sheet.visible.some((v) => v.row.kind === 'shot' && v.row.number === 71)).toBe(true);
    expect(sheet.scrollTo(70)).toBeNull();
    expect(sheet.scrollTo(2)).toBeLessThan(sheet.scroll);
    expect(sheet.shotAt(sheet.centreOfShot(70))).toBe(70);
    expect(sheet.shotAt(0)).toBe(0);
    expect(sheet.shotAt(1e9)).toBe(119);
  });
});

describe('dragging down a column', () => {
  const dragged = (from: number, to: number, beads: object[] = []) => {
    const p = project(['1', '2', '3'].map((id) => shot(id)));
    p.apply(changed({ thread: [{ id: 't', revision: 1, kind: 'character', name: 'Ada', aliases: [], position: 0 }], bead: beads }));
    const sheet = new SheetState(p);
    sheet.drag = { column: 0, from, to };
    sheet.endDrag();
    return sheet;
  };

  it('assigns the range in either direction', async () => {
    dragged(2, 1);
    await settled();
    expect(server.asked[0]!.body).toEqual({ shot_ids: ['2', '3'], on: true });
  });

  it('clears a range that is full, and fills one with a gap', async () => {
    dragged(0, 1, [bead('1'), bead('2')]);
    await settled();
    expect(server.asked[0]!.body).toEqual({ shot_ids: ['1', '2'], on: false });
    server.reset();
    dragged(0, 2, [bead('1'), bead('2')]);
    await settled();
    expect(server.asked[0]!.body).toEqual({ shot_ids: ['1', '2', '3'], on: true });
  });

  it('of no length opens the bead that is there', () => {
    const sheet = dragged(1, 1, [bead('2')]);
    expect(sheet.popover).toEqual({ thread: 't', shots: ['2'] });
    expect(server.asked).toEqual([]);
  });
});

describe('copy and paste', () => {
  const sheetWith = (beads: object[]) => {
    const p = project(['1', '2', '3', '4'].map((id) => shot(id)));
    p.apply(changed({ thread: [{ id: 't', revision: 1, kind: 'character', name: 'Ada', aliases: [], position: 0 }], bead: beads }));
    const sheet = new SheetState(p);
    sheet.column = 0;
    return sheet;
  };

  it('a range of a column goes with its holds, weights, costumes and gaps', async () => {
    const sheet = sheetWith([bead('1', { hold: 'face', weight: 0.4, costume: 'coat' })]);
    press(sheet, 'ArrowDown', { shiftKey: true });
    const clip = await sheet.copied();
    expect(clip).toEqual({ juxtaform: 'column', beads: [{ hold: 'face', weight: 0.4, costume: 'coat' }, null] });
    sheet.project.currentId = '3';
    sheet.from = null;
    await sheet.paste(clipFrom(JSON.stringify(clip))!);
    expect(server.asked[0]).toMatchObject({ method: 'PUT', path: '/api/projects/p/threads/t/column', body: { first_shot_id: '3', length: 0, beads: clip!.juxtaform === 'column' ? clip!.beads : [] } });
  });

  it('over a chosen range it is repeated to its length', async () => {
    const sheet = sheetWith([bead('1')]);
    const clip = (await sheet.copied())!;
    press(sheet, 'a', { ctrlKey: true });
    await sheet.paste(clip);
    expect(server.asked[0]!.body).toMatchObject({ first_shot_id: '1', length: 4 });
  });

  it('whole shots are asked of the server, and laid down after the cursor', async () => {
    const sheet = sheetWith([]);
    sheet.column = -1;
    server.answers = [{ status: 200, body: [{ shows: 'a' }] }];
    const clip = (await sheet.copied())!;
    expect(clip).toEqual({ juxtaform: 'shots', shots: [{ shows: 'a' }] });
    await sheet.paste(clip);
    expect(server.asked.at(-1)).toMatchObject({ path: '/api/projects/p/shots/paste', body: { after_shot_id: '1', shots: [{ shows: 'a' }] } });
  });

  it.each(['', 'words', '{', '{}', '{"juxtaform":"column"}', '{"juxtaform":"column","beads":3}', '{"juxtaform":"more","shots":[]}', '[1]', 'null'])('other words are no clip: %s', (words) => expect(clipFrom(words)).toBeNull());
});
