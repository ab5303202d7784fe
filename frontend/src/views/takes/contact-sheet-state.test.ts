import { changed, server, shotRow as shot, soon, takeRow as take, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { around, chunks, ContactSheetState } from './contact-sheet-state.svelte';

eachTestAfresh();

const score = (of: string, value: number | null, says: string[] = []) => ({ of, value, verdict: value === null ? 'unseen' : value > 1 ? 'drifts' : 'holds', says });
const reading = (id: string, ada: number | null, style: number, technical: object[] = []) => ({ take: id, figures: [score('ada', ada, ada && ada > 1 ? ['Ada’s coat is olive'] : [])], style: score('ink', style), technical, worst: Math.max(ada ?? 1.2, style) });
const group = (title: string, take_ids: string[], parent_id: string | null = null) => ({ title, detail: 'U, draft', parent_id, take_ids });

/** A shot with four takes: two from the brief, two that come from the second. */
async function shown(groups = [group('From the brief', ['a', 'b']), group('From take 2: “red” instead of “blue”', ['c', 'd'], 'b')]) {
  const p = project([shot('1'), shot('2')]);
  const takes = ['a', 'b', 'c', 'd'].map((id, i) => take(id, '1', { picked: false, position: i }));
  p.apply(changed({ thread: [thread('ada'), thread('ink', 'style')], take: takes }, { pictures: ['a', 'b', 'c', 'd'].map((id) => ({ sha: `sha${id}`, width: 600, height: 400, palette: [], clip: null })) }));
  p.currentId = '1';
  server.standing.set('/shots/1/sheet', { groups, readings: [reading('a', 0.4, 0.5), reading('b', 1.4, 0.2), reading('c', null, 0.3, [score('border', 1.5, ['a printed border'])])], waiting: 1, message: '' });
  const sheet = new ContactSheetState(p);
  await sheet.load();
  return { p, sheet };
}

const standings = () => server.of('PUT').map((a) => a.body);

describe('the contact sheet', () => {
  it('groups takes by what they were made from; what just came stands last', async () => {
    const { p, sheet } = await shown();
    expect(sheet.groups.map((g) => [g.title, g.from, g.takes.map((t) => t.id)])).toEqual([
      ['From the brief', null, ['a', 'b']],
      ['From take 2: “red” instead of “blue”', 2, ['c', 'd']],
    ]);
    p.apply(changed({ take: [take('e', '1', { picked: false, position: 9 })] }));
    expect(sheet.groups.at(-1)).toMatchObject({ title: 'Just came', takes: [{ id: 'e' }] });
  });

  it('sorts by a character, the style, faults or the worst; what is not measured comes last', async () => {
    const { sheet } = await shown();
    const order = (by: string) => {
      sheet.sortedBy = by;
      return sheet.shown.map((t) => t.id).join('');
    };
    expect(order('ada')).toBe('abcd');
    expect(order('ink')).toBe('bcad');
    expect(order('technical')).toBe('abcd');
    expect(order('worst')).toBe('acbd');
    expect(order('made')).toBe('abcd');
    expect(sheet.measured).toEqual(['ada', 'ink']);
  });

  it('says in words what is wrong', async () => {
    const { sheet } = await shown();
    expect(sheet.says(sheet.readings.get('b')!)).toEqual(['Ada’s coat is olive']);
    expect(sheet.says(sheet.readings.get('c')!)).toEqual(['a printed border']);
    expect(sheet.bars(sheet.readings.get('c')!).map((s) => sheet.nameOf(s.of))).toEqual(['ADA', 'INK', 'Border']);
  });

  it('reads again when takes come, and begins anew at another shot', async () => {
    const { p, sheet } = await shown();
    sheet.chosenId = 'b';
    sheet.follow();
    expect(sheet.sheet).toBeNull();
    await soon(() => expect(sheet.sheet).not.toBeNull());
    sheet.chosenId = 'b';
    sheet.follow();
    expect(sheet.chosenId).toBe('b');
    p.currentId = '2';
    sheet.follow();
    expect([sheet.sheet, sheet.chosenId]).toEqual([null, null]);
    sheet.close();
  });
});

describe('one key', () => {
  it('picks, keeps and puts out, and goes on to what is not sorted yet', async () => {
    const { p, sheet } = await shown();
    sheet.key('Enter', 4);
    await soon(() => expect(server.of('POST').at(-1)!.path).toBe('/api/projects/p/takes/a/pick'));
    p.apply(changed({ take: [take('a', '1', { picked: true, revision: 2 })] }));
    sheet.key('ArrowRight', 4);
    sheet.key('-', 4);
    await soon(() => expect(standings()).toEqual([{ take_ids: ['b'], standing: 'out' }]));
    expect(sheet.chosen?.id).toBe('c');
    sheet.key('+', 4);
    await soon(() => expect(standings().at(-1)).toEqual({ take_ids: ['c'], standing: 'kept' }));
    expect(sheet.chosen?.id).toBe('d');
  });

  it('takes back what it said when it says it again', async () => {
    const { p, sheet } = await shown();
    p.apply(changed({ take: [take('a', '1', { picked: false, standing: 'out', revision: 3 })] }));
    sheet.chosenId = 'a';
    sheet.key('-', 4);
    await soon(() => expect(standings()).toEqual([{ take_ids: ['a'], standing: '' }]));
    expect(sheet.chosen?.id).toBe('a');
  });

  it('sorts forty pictures with fewer than a hundred keys', async () => {
    const ids = Array.from({ length: 40 }, (_, i) => `t${i}`);
    const { p, sheet } = await shown([group('From the brief', ids)]);
    p.apply(changed({ take: ids.map((id, i) => take(id, '1', { picked: false, position: i })) }, { gone: { take: ['a', 'b', 'c', 'd'] } }));
    let keys = 0;
    const press = (key: string) => {
      keys++;
      sheet.key(key, 4);
    };
    for (let i = 0; i < 40; i++) {
      const t = sheet.chosen!;
      press(i % 3 ? '-' : '+');
      p.apply(changed({ take: [take(t.id, '1', { picked: false, position: ids.indexOf(t.id), standing: i % 3 ? 'out' : 'kept', revision: 2 })] }));
    }
    expect([...p.takes.values()].every((t) => t.standing)).toBe(true);
    expect(keys).toBeLessThan(100);
  });

  it('marks a fault where the pointer is, else in the middle', async () => {
    const { sheet } = await shown();
    expect(sheet.key('2', 4)).toBe(false);
    sheet.pointed = { take: 'b', x: 0.25, y: 0.5 };
    sheet.key('2', 4);
    const faults = () => server.of('POST').filter((a) => a.path.endsWith('/faults'));
    await soon(() => expect(faults()[0]).toMatchObject({ path: '/api/projects/p/takes/b/faults', body: { kind: 'twice', box: { x: 114, y: 164, w: 72, h: 72 } } }));
    sheet.pointed = null;
    sheet.key('.', 4);
    expect(sheet.marking).toBe(true);
    sheet.key('0', 4);
    await soon(() => expect(faults()[1]).toMatchObject({ path: '/api/projects/p/takes/b/faults', body: { kind: 'other' } }));
    expect(sheet.marking).toBe(false);
  });

  it('takes a take off its shot, and goes on beside it', async () => {
    const { sheet } = await shown();
    sheet.key('Delete', 4);
    await soon(() => expect(server.of('DELETE').map((a) => a.path)).toEqual(['/api/projects/p/takes/a']));
    expect(sheet.chosen?.id).toBe('b');
  });

  it('moves by lines, also from one group to the next', async () => {
    const { sheet } = await shown();
    sheet.key('ArrowRight', 2);
    sheet.key('ArrowDown', 2);
    expect(sheet.chosen?.id).toBe('d');
    sheet.key('ArrowUp', 2);
    expect(sheet.chosen?.id).toBe('b');
    sheet.key('ArrowUp', 2);
    expect(sheet.chosen?.id).toBe('b');
  });

  it('hides what was put out when asked to, but never the picked one', async () => {
    const { p, sheet } = await shown();
    p.apply(changed({ take: [take('a', '1', { picked: false, standing: 'out', revision: 3 })] }));
    sheet.withOut = false;
    expect(sheet.shown.map((t) => t.id)).toEqual(['b', 'c', 'd']);
  });
});

it('a mark stays within its picture, and lines hold so many', () => {
  expect(around({ x: 0, y: 1 }, 100, 100)).toEqual({ x: 0, y: 88, w: 12, h: 12 });
  expect(chunks([1, 2, 3], 2)).toEqual([[1, 2], [3]]);
});
