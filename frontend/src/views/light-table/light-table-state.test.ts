import { beadRow, changed, server, shotRow as shot, soon, takeRow as take, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { at, inverse, levelFor, onPage, tilesSeen, times } from './geometry';
import { LightTableState } from './light-table-state.svelte';

eachTestAfresh();

const picture = (of: string, width = 1200, height = 800) => ({ sha: `sha${of}`, width, height, palette: [] });
const mark = (of: string, thread_id: string) => ({ id: `m${of}${thread_id}`, revision: 1, take_id: of, thread_id, x: 300, y: 100, w: 200, h: 400 });

/** Ada stands in shots 1 and 2; shot 2 has two takes; shot 3 has no picture. */
function shown() {
  const p = project([shot('1'), shot('2'), shot('3'), shot('4')]);
  p.apply(changed({
    thread: [thread('ada'), thread('quay', 'setting', { position: 1 })], bead: [beadRow('1', 'ada'), beadRow('2', 'ada')],
    take: [take('a', '1'), take('b', '2'), take('c', '2', { picked: false, position: 1 }), take('d', '4')],
    mark: [mark('a', 'ada'), mark('b', 'ada')],
    reference: [{ id: 'r', revision: 1, thread_id: 'ada', picture_sha: 'shar', name: 'front', position: 0, weight: 1, anchor: true, costume: '' }],
  }, { pictures: [picture('a'), picture('b'), picture('c', 600, 400), picture('d'), picture('r', 400, 800)] as never }));
  p.currentId = '2';
  p.table.lay();
  const view = new LightTableState(p);
  view.board = { width: 600, height: 500 };
  view.follow();
  view.fit();
  return { p, view };
}

describe('the light table', () => {
  it('begins with the current shot’s picture and the one before', () => {
    const { p, view } = shown();
    expect(view.laid.map((l) => l.name)).toEqual(['shot 1', 'shot 2, take 1']);
    expect(view.tray.map((l) => l.sha)).toEqual(['shab', 'shaa', 'shar', 'shac']);
    p.currentId = '1';
    expect(p.table.neighbours().map((l) => l.sha)).toEqual(['shaa', 'shab']);
    p.currentId = '3';
    expect(p.table.neighbours().map((l) => l.sha)).toEqual(['shab', 'shad']);
  });

  it('lays what a view means, and fills up with a neighbour', () => {
    const { p } = shown();
    const back = p.table.offer(() => p.table.ofReference('shar', 'ada', 'front'));
    p.table.lay();
    expect(p.table.laid.map((l) => l.name)).toEqual(['ADA, front', 'shot 1']);
    back();
    p.table.lay();
    expect(p.table.laid.map((l) => l.sha)).toEqual(['shaa', 'shab']);
  });

  it('begins with a reference pegged on its figure, side by side', async () => {
    const { p } = shown();
    server.standing.set('/pegs', { pegs: [{ affine: [1, 0, 0, 0, 1, 0], by: 'places' }, { affine: [2, 0, 5, 0, 2, 7], by: 'boxes' }] });
    p.table.lay([...p.table.ofReference('shar', 'ada', 'front'), ...p.table.ofShot('2')]);
    const view = new LightTableState(p);
    view.follow();
    expect(view.pegging).toBe(true);
    expect(view.way).toBe('beside');
    expect(view.pegged).toEqual({ on: 'figure', thread: 'ada' });
    await soon(() => expect(view.pegs[1]).toEqual([2, 0, 5, 0, 2, 7]));
    expect(view.pegging).toBe(false);
  });

  it('fits, zooms around a place, and pans', () => {
    const { view } = shown();
    expect([view.scale, view.x, view.y]).toEqual([0.5, 0, 50]);
    const before = at(inverse([view.scale, 0, view.x, 0, view.scale, view.y]), 100, 120);
    view.zoom(3, 100, 120);
    expect(at(inverse([view.scale, 0, view.x, 0, view.scale, view.y]), 100, 120)[0]).toBeCloseTo(before[0]);
    view.key('ArrowLeft', false);
    expect(view.x).toBeGreaterThan(-200 + 59);
    view.key('9', false);
    expect(view.scale).toBe(1);
    view.key('0', false);
    expect(view.scale).toBe(0.5);
  });

  it('lays another picture by key, also a smaller one, and changes places', () => {
    const { view } = shown();
    view.key('a', false);
    expect(view.laid).toHaveLength(3);
    view.key('Delete', false);
    view.key(']', false);
    expect(view.laid.map((l) => l.sha)).toEqual(['shaa', 'shar']);
    view.key('x', false);
    view.follow();
    expect(view.laid.map((l) => l.sha)).toEqual(['shar', 'shaa']);
    expect(view.pegs[1]).toEqual(onPage({ width: 1200, height: 800 }, { width: 400, height: 800 }));
  });

  it('pegs on a head; a picture without the figure is not laid anywhere', async () => {
    const { view } = shown();
    view.key('a', false);
    view.put(view.tray.find((l) => l.sha === 'shac')!, 2);
    view.follow();
    server.standing.set('/pegs', { pegs: [{ affine: [1, 0, 0, 0, 1, 0], by: 'places' }, { affine: [2, 0, 5, 0, 2, 7], by: 'boxes' }, null] });
    expect(view.ways.map((w) => view.peggedWords(w))).toEqual(['the page', 'what all show', 'ADA’s head', 'ADA']);
    void view.peg(view.ways[2]!);
    await soon(() => expect(view.pegs).toEqual([[1, 0, 0, 0, 1, 0], [2, 0, 5, 0, 2, 7], null]));
    expect(view.toScreen(1)).toEqual(times([0.5, 0, 0, 0, 0.5, 50], [2, 0, 5, 0, 2, 7]));
    expect(view.wipe).toBeCloseTo(400 / 1200);
  });

  it('goes back to the page when pegging is not possible, and says why', async () => {
    const { view } = shown();
    await soon(() => expect(server.asked.some((a) => a.path.endsWith('/lights'))).toBe(true));
    server.refuse(422, 'Ada is not marked in the first picture.');
    await view.peg({ on: 'figure', thread: 'ada' });
    expect(view.pegged.on).toBe('page');
    expect(notices.all.map((n) => n.text).join()).toContain('not marked');
  });

  it('reads the same place in each picture, with the light of each', async () => {
    server.standing.set('/lights', [{ take_id: 'b', light: { gain: [0.5, 0.6, 0.7], saturation: 1, contrast: 1 }, words: 'cool' }]);
    const { view } = shown();
    await soon(() => expect(view.loupe.light(view.laid[1])?.words).toBe('cool'));
    view.look(300, 250);
    await soon(() => expect(server.asked.filter((a) => a.path.endsWith('/loupe')).length).toBeGreaterThan(0));
    const { places } = server.asked.filter((a) => a.path.endsWith('/loupe')).at(-1)!.body as { places: { x: number; y: number; radius: number; light: unknown }[] };
    expect(places.map((p) => [p.x, p.y, p.radius])).toEqual([[600, 400, 8], [600, 400, 8]]);
    expect(places[1]!.light).toEqual({ gain: [0.5, 0.6, 0.7], saturation: 1, contrast: 1 });
  });
});

describe('tiles', () => {
  it('are those of the level that the screen can show, and only what is seen', () => {
    const large = { width: 6000, height: 4000 };
    expect([1, 0.5, 0.26, 0.1, 0.01, 4].map((s) => levelFor(s, large))).toEqual([0, 1, 1, 3, 5, 0]);
    expect(tilesSeen(large, [1, 0, -600, 0, 1, -1100], { width: 800, height: 500 }, 0, 512)).toEqual([1, 2, 2, 3]);
    expect(tilesSeen(large, [0.5, 0, 0, 0, 0.5, 0], { width: 5000, height: 5000 }, 1, 512)).toEqual([0, 5, 0, 3]);
    expect(tilesSeen(large, [1, 0, 900, 0, 1, 0], { width: 800, height: 500 }, 0, 512)).toBeNull();
  });
});
