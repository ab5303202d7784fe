import { server, soon } from '../testing/server';
import { eachTestAfresh } from '../testing/project';
import { expect, it } from 'vitest';
import { lettersOf, PresenceState, WINDOW, type Here } from './presence.svelte';

eachTestAfresh();

const here = (window: string, more: Partial<Here> = {}): Here => ({ window, name: '', account_id: '', view: 'sheet', shot_id: null, ...more });
const said = () => server.of('PUT').map((a) => a.body);

it('leaves this window out, and knows who is at a shot', () => {
  const state = new PresenceState('p');
  state.told([here(WINDOW, { shot_id: 's1' }), here('b', { name: 'Tomas Vale', shot_id: 's1' }), here('c', { shot_id: 's2' })]);
  expect(state.others.map((w) => w.window)).toEqual(['b', 'c']);
  expect(state.byShot.get('s1')?.map(lettersOf)).toEqual(['TV']);
  expect(lettersOf(here('c'))).toBe('□');
});

it('says where it is once it rests there, and says it again when the line was cut', async () => {
  const state = new PresenceState('p');
  state.at('sheet', 's1');
  state.at('sheet', 's2');
  await soon(() => expect(said()).toEqual([{ window: WINDOW, view: 'sheet', shot_id: 's2' }]));
  state.at('sheet', 's2');
  state.told([here('b')]);
  expect(said()).toHaveLength(1);
  state.told([here('b'), here(WINDOW)]);
  await soon(() => expect(said()).toHaveLength(2));
  state.close();
});
