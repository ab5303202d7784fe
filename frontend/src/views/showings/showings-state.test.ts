import { server, shotRow as shot } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { expect, it } from 'vitest';
import { ShowingsState } from './showings-state.svelte';

eachTestAfresh();

const note = (id: string, shot_id: string, more: object = {}) => ({ id, key: `key-${id}`, shot_id, edition: 1, parent_id: null, name: 'Ines', inside: false, words: id, place: null, at_s: null, made_at: '2026-11-27T10:00:00Z', ...more });
const card = (id: string, more: object = {}) => ({ id, title: id, words: '', made_by: '', made_at: '', ends_at: '', state: 'open', has_passphrase: false, edition: 1, frozen_at: '', behind: false, viewers: [], notes: [], verdicts: [], signs: [], ...more });

it('lists what was said by shot, in the order of the story, and what is still open', async () => {
  const p = project([]);
  p.put({ shot: [shot('1'), shot('2', { position: 2 })], stet: [{ id: 's', revision: 1, project_id: 'p', finding_key: 'key-a', reason: 'meant', verdict: 'stet', thread_id: null, term: '', departure: 0 }] } as never);
  const view = new ShowingsState(p);
  server.standing.set('/showings', [
    card('x', {
      notes: [note('b', '2'), note('a', '1'), note('c', '1'), note('d', '1', { parent_id: 'c', inside: true })],
      verdicts: [{ shot_id: '2', name: 'Ines', says: 'change', edition: 1 }, { shot_id: '1', name: 'Ines', says: 'good', edition: 1 }],
    }),
  ]);
  await view.load();
  expect(view.card?.id).toBe('x');
  expect(view.shots.map((s) => [s.shot.id, s.notes.map((n) => n.id)])).toEqual([['1', ['c']], ['2', ['b']]]);
  view.only = 'all';
  expect(view.shots.map((s) => s.notes.map((n) => n.id))).toEqual([['a', 'c'], ['b']]);
  expect(view.answersTo.get('c')?.map((n) => n.id)).toEqual(['d']);
  expect([view.good, view.wanted.length]).toEqual([1, 1]);
});

it('shows the link that was just made, and keeps the list when something is refused', async () => {
  globalThis.location = { origin: 'https://story.example.org' } as never;
  const view = new ShowingsState(project([]));
  server.standing.set('/showings', { path: '/show#abc', showing: card('new') });
  expect(await view.make({ title: 't', words: '', days: 7, passphrase: '' })).toBe(true);
  expect([view.link, view.card?.id]).toEqual(['https://story.example.org/show#abc', 'new']);
  server.refuse(422, 'There is no shot to show yet.');
  expect(await view.freeze(view.card!)).toBe(false);
  expect(view.cards).toHaveLength(1);
});
