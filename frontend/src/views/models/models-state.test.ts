import { changed, file, finding, server, shotRow as shot, soon, told, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { ModelsState } from './models-state.svelte';

eachTestAfresh();

const reference = (id: string, thread_id: string, facts: object = {}) => ({ id, revision: 1, thread_id, picture_sha: `sha${id}`, name: id, costume: '', weight: 1, position: 0, view: '', anchor: false, replaces_id: null, from_shot_id: null, ...facts });

function sheets() {
  const p = project([shot('1')]);
  p.apply(changed({
    thread: [thread('ada'), thread('quay', 'setting'), thread('ink', 'style')],
    reference: [
      reference('front', 'ada'), reference('old', 'ada', { position: 1 }), reference('new', 'ada', { position: 2, replaces_id: 'old' }),
      reference('wet', 'ada', { position: 3, costume: 'wet', weight: 2 }), reference('page', 'ink', { costume: 'x' }),
    ],
  }));
  return { p, view: new ModelsState(p) };
}

describe('a model sheet', () => {
  it('is that of the thread asked for, else of the first', () => {
    const { view } = sheets();
    expect(view.thread?.id).toBe('ada');
    view.begin('ink');
    expect(view.thread?.id).toBe('ink');
    view.begin('gone');
    expect(view.thread?.id).toBe('ada');
  });

  it('shows the newest versions in the costume that is looked at', () => {
    const { view } = sheets();
    expect(view.visible.map((r) => r.id)).toEqual(['front', 'new']);
    expect(view.weight).toBe(4);
    view.shownId = 'new';
    expect(view.shown?.id).toBe('new');
    view.costume = 'wet';
    expect(view.shown?.id).toBe('wet');
    view.begin('ink');
    expect(view.costume).toBe('');
    expect(view.visible.map((r) => r.id)).toEqual(['page']);
    expect([view.hasCostumes, view.hasTraits]).toEqual([false, false]);
  });

  it('keeps an older version that still holds before a shot', () => {
    const { p, view } = sheets();
    p.apply(changed({ reference: [reference('new', 'ada', { revision: 2, position: 2, replaces_id: 'old', from_shot_id: '1' })] }));
    expect(view.references.map((r) => r.id)).toEqual(['front', 'old', 'new', 'wet']);
  });

  it('has its references judged, and tells what is wrong with each', async () => {
    const { p, view } = sheets();
    server.standing.set('/findings', told([finding('small', null, { source: 'reference', thread: 'ada', reference: 'front' })]));
    await view.judge();
    await soon(() => expect(view.faults.get('front')?.map((f) => f.key)).toEqual(['small']));
    expect(server.of('GET')[0]!.path).toBe('/api/projects/p/threads/ada/fitness');
    const before = view.judgedBy;
    p.apply(changed({ reference: [reference('front', 'ada', { revision: 2, weight: 0.5 })] }));
    expect(view.judgedBy).toBe(before);
    p.apply(changed({ reference: [reference('front', 'ada', { revision: 3, view: 'back' })] }));
    expect(view.judgedBy).not.toBe(before);
  });

  it('is edited from the state that was seen, and removed', async () => {
    const { view } = sheets();
    view.edit({ wording: 'Red' });
    await soon(() => expect(server.of('PATCH')[0]).toMatchObject({ path: '/api/projects/p/threads/ada', body: { wording: 'Red', revision: 1 } }));
    view.begin('quay');
    server.answers = [{ status: 200, body: changed({}, { label: 'deleted Quay' }) }];
    await view.remove();
    expect(server.of('DELETE')[0]!.path).toBe('/api/projects/p/threads/quay');
    expect(view.thread?.id).toBe('ada');
    expect(notices.all.at(-1)!.text).toContain('Ctrl+Z brings it back');
  });
});

describe('references coming in', () => {
  const taken = (name: string, sha: string | null, refused = '') => ({ status: 200, body: { name, sha, width: 1, height: 1, refused, told: '' } });

  it('go to the thread and costume that were looked at when they came, whatever is looked at then', async () => {
    const { view } = sheets();
    view.costume = 'wet';
    server.answers = [taken('a', 's1'), taken('b', null, 'This is no picture.'), taken('c', 's2')];
    const adding = view.add([file('folder/Ada.front.png'), file('b.gif'), file('c.png')]);
    view.begin('quay');
    expect(view.reading).toEqual({ done: 0, of: 3 });
    await adding;
    expect(view.reading).toBeNull();
    expect(server.of('POST').at(-1)).toMatchObject({
      path: '/api/projects/p/threads/ada/references',
      body: { costume: 'wet', pictures: [{ sha: 's1', name: 'Ada.front' }, { sha: 's2', name: 'c' }] },
    });
    expect(notices.all.map((n) => n.text)).toEqual(['b.gif: This is no picture.']);
  });

  it('that became a PNG on the way say so', async () => {
    const { view } = sheets();
    const scan = taken('a', 'sha-a');
    server.answers = [{ ...scan, body: { ...scan.body, told: 'Kept as PNG.' } }];
    await view.add([file('a.tif')]);
    expect(notices.all.map((n) => [n.text, n.tone])).toContainEqual(['a.tif: Kept as PNG.', 'plain']);
    expect(server.of('POST').at(-1)!.path).toBe('/api/projects/p/threads/ada/references');
  });

  it('that are all refused make none', async () => {
    const { view } = sheets();
    server.answers = [taken('b', null, 'No.')];
    await view.add([file('b.gif')]);
    await view.add([]);
    expect(server.of('POST').map((a) => a.path)).toEqual(['/api/projects/p/pictures']);
  });
});
