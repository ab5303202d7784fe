import { changed, server, shotRow as shot, soon, takeRow as take } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { MakeTakesState } from './make-takes-state.svelte';

eachTestAfresh();

const CAN = { models: [{ id: 'm', kinds: ['picture'], qualities: [{ id: 'draft', side_px: 640, credits: 1 }] }, { id: 'clips', kinds: ['clip'], qualities: [] }] };
const offered = (held: string[][]) => ({ shots: held.map((h, i) => ({ shot_id: `${i + 1}`, number: `${i + 1}`, credits: 4, held_back: h, left_out: [] })), credits: 4, month: { begins: '', spent: 0, bound: 0, allowance: null }, over: 0 });

/** Three shots, the third in a scene of its own, the first with a picture; one service that makes pictures, and clips. */
async function order(these: string[] = []) {
  const p = project([shot('1'), shot('2'), shot('3', { scene_id: 's2' }), shot('4', { status: 'proposed' })]);
  p.apply(changed({ scene: [{ id: 's2', revision: 1, position: 1, title: '' }], take: [take('a', '1')], service: [{ id: 's', revision: 1, name: 'U', address: 'understudy:', position: 0 }] }));
  p.currentId = '2';
  server.standing.set('/jobs', { counts: {}, jobs: [] });
  server.standing.set('/services', [{ service_id: 's', can: CAN }]);
  await p.queue.load();
  return { p, make: new MakeTakesState(p, these) };
}

describe('an order for takes', () => {
  it('is of the shot, its scene, what has no picture, or all that is settled', async () => {
    const { make } = await order();
    const of = Object.fromEntries(make.scopes.map((s) => [s.scope, s.shots]));
    expect(of).toEqual({ shot: ['2'], scene: ['1', '2'], bare: ['2', '3'], all: ['1', '2', '3'] });
    expect(make.models.map((m) => m.id)).toEqual(['m']);
    expect(make.order).toMatchObject({ shot_ids: ['2'], count: 4, service_id: 's', model: 'm', quality: 'draft', as_it_is: false });
  });

  it('is of the chosen ones where some are chosen', async () => {
    const { make } = await order(['1', '3']);
    expect([make.scope, make.shots]).toEqual(['these', ['1', '3']]);
  });

  it('asks what it would mean, and tells what stays back', async () => {
    const { make } = await order();
    server.standing.set('/orders/offer', offered([[], ['“jumps” moves'], []]));
    make.scope = 'all';
    make.follow();
    await soon(() => expect(make.offer).not.toBeNull());
    expect([make.held.map((s) => s.shot_id), make.going]).toEqual([['2'], 2]);
    make.asItIs = true;
    expect(make.going).toBe(3);
    make.close();
  });

  it('goes into the queue once, and what is refused is told', async () => {
    const { make } = await order();
    const [first, second] = await Promise.all([make.make(), make.make()]);
    expect([first, second]).toEqual([true, false]);
    expect(server.of('POST').filter((a) => a.path.endsWith('/orders'))).toHaveLength(1);
    const ids = () => server.of('POST').filter((a) => a.path.endsWith('/orders')).map((a) => (a.body as { order_id: string }).order_id);
    server.gone = true;
    expect(await make.make()).toBe(false);
    server.gone = false;
    expect(await make.make()).toBe(true);
    expect(new Set(ids()).size).toBe(2);
    server.refuse(422, 'Nothing was asked for.');
    expect(await make.make()).toBe(false);
    expect(make.trouble).toContain('Nothing was asked for');
  });

  it('cannot be made without a service', async () => {
    const p = project([shot('1')]);
    p.currentId = '1';
    const make = new MakeTakesState(p);
    expect(make.order).toBeNull();
    make.follow();
    expect(await make.make()).toBe(false);
  });
});
