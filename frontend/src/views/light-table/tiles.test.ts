import { server, soon } from '../../testing/server';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Tiles } from './tiles';

const closed: number[] = [];
let made = 0;
let tiles: Tiles;
let came = 0;

beforeEach(() => {
  server.reset();
  made = came = 0;
  closed.length = 0;
  globalThis.createImageBitmap = (async () => {
    const n = ++made;
    return { width: 512, height: 512, close: () => void closed.push(n) };
  }) as unknown as typeof createImageBitmap;
  tiles = new Tiles(() => came++);
});
afterEach(() => tiles.close());

const asked = () => server.asked.map((a) => `${a.query.level ?? 'small'} ${a.query.column ?? ''} ${a.query.row ?? ''}`.trim());

describe('tiles of large pictures', () => {
  it('are asked for once, and are there when they came', async () => {
    expect(tiles.tile('a', 1, 2, 3)).toBeUndefined();
    expect(tiles.tile('a', 1, 2, 3)).toBeUndefined();
    await soon(() => expect(came).toBe(1));
    expect(tiles.tile('a', 1, 2, 3)).toBeDefined();
    expect(asked()).toEqual(['1 2 3']);
  });

  it('come a few at a time; what was not begun when the view moved on is forgotten', async () => {
    let go = () => {};
    server.held = new Promise<void>((yes) => (go = yes));
    for (let i = 0; i < 20; i++) tiles.tile('a', 0, i, 0);
    await soon(() => expect(server.asked).toHaveLength(6));
    tiles.forget();
    tiles.tile('a', 0, 40, 0);
    go();
    await soon(() => expect(came).toBe(7));
    expect(asked().at(-1)).toBe('0 40 0');
  });

  it('that were not looked at for longest are let go, the small pictures never', async () => {
    tiles.small('a');
    for (let i = 0; i < 130; i++) tiles.tile('a', 0, i, 0);
    await soon(() => expect(came).toBe(131));
    expect(closed.length).toBe(11);
    expect(closed).not.toContain(1);
    expect(tiles.small('a')).toBeDefined();
    expect(tiles.tile('a', 0, 129, 0)).toBeDefined();
  });

  it('that are not there are not asked for again', async () => {
    server.refuse(404, 'There is no such part of a picture.');
    tiles.tile('a', 0, 99, 0);
    await soon(() => expect(server.asked).toHaveLength(1));
    await Promise.resolve();
    tiles.tile('a', 0, 99, 0);
    expect(server.asked).toHaveLength(1);
    expect(came).toBe(0);
  });
});
