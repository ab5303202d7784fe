import { changed, server, shotRow as shot, soon } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Player } from './player.svelte';
import { RunState } from './run-state.svelte';

eachTestAfresh();

/** Frames of the screen come when a test says so. */
let next: ((now: number) => void) | null = null;
let now = 0;
beforeEach(() => {
  now = 0;
  vi.stubGlobal('requestAnimationFrame', (f: (t: number) => void) => ((next = f), 1));
  vi.stubGlobal('cancelAnimationFrame', () => (next = null));
});
function pass(...ms: number[]) {
  for (const one of ms) next?.((now += one));
}
const even = (seconds: number, hz = 60) => Array.from({ length: Math.round(seconds * hz) }, () => 1000 / hz);

describe('the player', () => {
  const made = (length = 10) => new Player(() => length, () => 24);

  it('plays at plain speed and counts no frame as late that came in time', () => {
    const p = made();
    p.toggle();
    pass(0, ...even(2));
    expect(p.time_s).toBeCloseTo(2, 3);
    expect([p.due, p.late]).toEqual([48, 0]);
  });

  it('counts frames that were never seen', () => {
    const p = made();
    p.toggle();
    pass(0, ...even(1), 250, ...even(1));
    expect(p.time_s).toBeCloseTo(2.25, 3);
    expect(p.late).toBe(5); // 250 ms are six frames of the plan, one of them was drawn
  });

  it('goes faster, backwards, and stands', () => {
    const p = made();
    p.shuttle(1);
    p.shuttle(1);
    pass(0, 500);
    expect([p.speed, p.time_s]).toEqual([2, 1]);
    p.shuttle(-1);
    pass(0, 400);
    expect([p.speed, p.time_s]).toEqual([-1, expect.closeTo(0.6, 5)]);
    pass(4000);
    expect([p.speed, p.time_s]).toEqual([0, 0]);
    expect(p.late).toBe(0);
  });

  it('stops at the end and begins anew from there', () => {
    const p = made(1);
    p.toggle();
    pass(0, 1500);
    expect([p.playing, p.time_s]).toEqual([false, 1]);
    p.toggle();
    expect([p.playing, p.time_s]).toEqual([true, 0]);
  });

  it('goes round in a loop', () => {
    const p = made();
    p.loop = { start_s: 2, end_s: 3 };
    p.seek(2.9);
    p.toggle();
    pass(0, 200);
    expect(p.time_s).toBe(2);
    expect(p.playing).toBe(true);
  });

  it('steps by frames from wherever it is', () => {
    const p = made();
    p.seek(1.01);
    p.step(1);
    expect(p.time_s).toBeCloseTo(25 / 24, 6);
    p.step(-1);
    expect(p.frame).toBe(24);
  });

  it('does not run where there is nothing', () => {
    const p = made(0);
    p.toggle();
    expect(p.playing).toBe(false);
  });
});

const ALONG = [{ shot_id: '1', words: 'The tide woke. It stretched.', said: [[0, 3, 0, 0.4], [4, 8, 0.4, 0.9], [9, 14, 0.9, 1.4], [15, 17, 1.8, 2.2], [18, 28, 2.2, 3]], lines: [3, 5], needs_s: 3 }];

function shown() {
  const p = project([shot('1', { length_s: 4, join: 'cut', join_s: 0.6, move: 'static' }), shot('2', { length_s: 3, join: 'cut', join_s: 0.6 }), shot('3', { length_s: 2, scene_id: 't' })]);
  p.apply(changed({ scene: [{ id: 's', revision: 1, title: 'The quay', position: 0 }, { id: 't', revision: 1, title: 'Later', position: 1 }] }));
  server.standing.set('/read-along', ALONG);
  return { p, view: new RunState(p) };
}

describe('the run-through', () => {
  it('lays shots out by their lengths and knows the scene', () => {
    const { view } = shown();
    expect(view.length_s).toBe(9);
    view.player.seek(5);
    expect([view.span?.id, view.scene?.title, view.scene_s]).toEqual(['2', 'The quay', 7]);
  });

  it('reads the words along, a caption at a time', async () => {
    const { view } = shown();
    await view.readAlong();
    view.player.seek(0.8);
    expect(view.caption).toEqual({ read: 'The tide', rest: ' woke.' });
    view.player.seek(2);
    expect(view.caption).toEqual({ read: 'It', rest: ' stretched.' });
    expect(view.over('1', 2)).toBe(1);
    view.trimBy(-2.5); // 1.5 s for words that need 3: all is said twice as fast
    view.player.seek(0.4);
    expect(view.caption?.read).toBe('The tide');
    view.player.seek(5);
    expect(view.caption).toBeNull();
  });

  it('trims while it plays, keeps its place in the shot, and sends one change for many keys', async () => {
    vi.useFakeTimers();
    const { view } = shown();
    view.player.seek(5);
    view.player.toggle();
    for (let k = 0; k < 5; k++) view.pressed(']');
    view.shotStep(-1);
    view.pressed('t');
    view.player.seek(1);
    view.pressed('}');
    expect(view.spans.map((s) => s.length_s)).toEqual([5, 3, 2]); // 5 x 0.2 longer by ripple, then the cut before it rolled by a second
    expect(view.player.playing).toBe(true);
    expect(server.of('PUT')).toEqual([]);
    await vi.advanceTimersByTimeAsync(600);
    vi.useRealTimers();
    await soon(() => expect(server.of('PUT').length).toBe(1));
    expect(server.of('PUT')[0]!.body).toEqual({ lengths: [{ shot_id: '1', length_s: 5, revision: 1 }, { shot_id: '2', length_s: 3, revision: 1 }] });
  });

  it('loops the scene, and follows it when it is trimmed', () => {
    const { view } = shown();
    view.player.seek(1);
    view.pressed('o');
    expect(view.player.loop).toEqual({ start_s: 0, end_s: 7 });
    view.trimBy(1);
    expect(view.player.loop).toEqual({ start_s: 0, end_s: 8 });
    view.pressed('o');
    expect(view.player.loop).toBeNull();
  });

  it('steps through shots: first to the beginning of its own', () => {
    const { view } = shown();
    view.player.seek(5);
    view.pressed('ArrowUp');
    expect(view.player.time_s).toBe(4);
    view.pressed('ArrowUp');
    expect(view.player.time_s).toBe(0);
    view.pressed('ArrowDown');
    expect(view.player.time_s).toBe(4);
  });

  it('fits a scene and says how the shot comes', async () => {
    const { view } = shown();
    await view.fitScene(6);
    expect(server.of('POST')[0]!.path).toBe('/api/projects/p/scenes/s/fit');
    view.pressed('d');
    await soon(() => expect(server.of('PATCH')[0]?.body).toEqual({ join: 'dissolve', revision: 1 }));
    expect(view.pressed('q')).toBe(false);
  });
});
