import { server, soon } from '../testing/server';
import { eachTestAfresh } from '../testing/project';
import { describe, expect, it } from 'vitest';
import { LedgerState, round } from './ledger.svelte';

eachTestAfresh();

const told = (more: object, month: object = {}) => ({ month: { begins: '', spent: 30, bound: 2, allowance: 100, ...month }, credits: 30, takes: 30, left: 10, forecast: { surely: 4, likely: 6 }, surely_until: '31', likely_until: '33', by_shot: [], by_scene: [], by_service: [], by_day: [], told: '', ...more });

async function ledger(answer: object) {
  server.standing.set('/ledger', answer);
  const state = new LedgerState('p', () => undefined);
  await state.load();
  return state;
}

describe('the ledger in the top bar', () => {
  it.each([
    ['what is left and until which shot', told({}), '68 credits left, enough until shot 31'],
    ['the likely shot where none is sure', told({ surely_until: '' }), '68 credits left, enough until shot 33'],
    ['that it is enough for all', told({ forecast: { surely: 10, likely: 10 } }), '68 credits left, enough for all'],
    ['that it is overdrawn', told({}, { allowance: 20 }), '12 credits over the month'],
    ['what was spent where nothing limits it', told({}, { allowance: null }), '30 credits this month'],
    ['nothing where nothing was spent', told({ credits: 0 }, { allowance: null }), ''],
    ['what is left where nothing can be foretold', told({ forecast: null, surely_until: null, likely_until: null }), '68 credits left'],
  ])('says %s', async (_, answer, words) => {
    expect((await ledger(answer)).inShort).toBe(words);
  });

  it('is read once for many changes', async () => {
    const state = await ledger(told({}));
    server.asked.length = 0;
    state.told(0);
    state.told(0);
    await soon(() => expect(server.asked).toHaveLength(1));
    state.close();
  });
});

it('credits are rounded as they need', () => {
  expect([round(3.25), round(140.4)]).toEqual(['3.3', '140']);
});
