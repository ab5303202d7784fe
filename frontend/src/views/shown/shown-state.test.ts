import { server } from '../../testing/server';
import { eachTestAfresh } from '../../testing/project';
import { beforeEach, describe, expect, it } from 'vitest';
import { ShownState } from './shown-state.svelte';

eachTestAfresh();

const frozen = (id: string, number: number, more: object = {}) => ({
  id, number, scene: 'One', shows: `shot ${number}`, words: '', captions: [['Hear.', 0.5, 1.5]], length_s: 2, join: 'cut', join_s: 0.6,
  move: 'static', move_start: null, move_end: null, sha: `sha${number}`, sketch: false, width: 3, height: 2, clip: null, ...more,
});
const SHOWN = {
  title: 'To Ines', words: '', made_by: 'Mira', edition: 2, frozen_at: '2026-11-27T10:00:00Z', ends_at: '2026-12-27T10:00:00Z', name: 'Ines', has_sound: true, since: 1,
  sequence: { title: 'The tide', aspect: 1.5, fps: 24, medium: 'film', shots: [frozen('a', 1), frozen('b', 2, { clip: [1, 3] }), frozen('c', 3, { clip: [0, 1] })] },
  changed: { b: ['picture', 'length'] },
  notes: [{ id: 'n', key: 'k', shot_id: 'a', edition: 1, parent_id: null, name: 'Ines', inside: false, words: 'Boots!', place: [0.5, 0.5], at_s: null, made_at: '2026-11-27T10:00:00Z' }],
  verdicts: [{ shot_id: 'a', name: 'Ines', says: 'good', edition: 1 }, { shot_id: 'a', name: 'Aino', says: 'change', edition: 1 }],
  signs: [],
};

async function opened() {
  const view = new ShownState();
  await view.open('secret');
  return view;
}

describe('a showing, as its viewer has it', () => {
  beforeEach(() => {
    server.standing.set('/shown/open', { showing_id: 's' });
    server.standing.set('/shown/s', SHOWN);
  });

  it('is opened by its secret, and laid out in time', async () => {
    const view = await opened();
    expect(view.state).toBe('open');
    expect(server.of('POST')[0]).toMatchObject({ path: '/api/shown/open', body: { secret: 'secret', passphrase: '' } });
    expect([view.length_s, view.spans.map((s) => s.start_s)]).toEqual([6, [0, 2, 4]]);
    expect(view.changedOf(view.shots[1]!)).toBe('another picture, another length');
    expect(view.changedOf(view.shots[0]!)).toBe('');
    view.player.seek(2.6);
    expect([view.at, view.caption]).toEqual([1, 'Hear.']);
    view.player.seek(2.1);
    expect(view.caption).toBe('');
  });

  it('draws from its own pictures alone, and plays clips of every kind', async () => {
    const view = await opened();
    expect(view.places.thumb('x', 960)).toBe('/api/shown/s/pictures/x/thumb?side=960');
    expect(view.soundUrl).toBe('/api/shown/s/sound');
    expect(view.drawable('b')?.clip).toEqual({ sha: 'sha2', start_s: 1, end_s: 3 });
    expect(view.drawable('c')?.clip).toEqual({ sha: 'sha3', start_s: 0, end_s: 1 });
    expect(view.drawable('a')?.clip).toBeNull();
    expect(view.drawable('nowhere')).toBeNull();
  });

  it('knows its own words from those of others, and takes one back that is said again', async () => {
    const view = await opened();
    expect([view.own.get('a'), view.count]).toEqual(['good', { good: 1, change: 0 }]);
    server.standing.set('/word', []);
    await view.say('a', 'good');
    expect(server.of('PUT')[0]!.body).toEqual({ says: null, name: 'Ines' });
    await view.say('a', 'change');
    expect(server.of('PUT')[1]!.body).toEqual({ says: 'change', name: 'Ines' });
  });

  it('keeps what was written when it could not be sent', async () => {
    const view = await opened();
    server.refuse(422, 'Say who you are first: a name is enough.');
    expect(await view.comment('a', 'Her boots!', { place: [0.1, 0.2] })).toBe(false);
    expect([view.trouble, view.notes.length]).toEqual(['Say who you are first: a name is enough.', 1]);
    server.standing.set('/notes', { ...SHOWN.notes[0], id: 'm', words: 'Her boots!' });
    expect(await view.comment('a', 'Her boots!')).toBe(true);
    expect([view.trouble, view.notesByShot.get('a')?.length]).toEqual(['', 2]);
  });

  it('asks for a passphrase, and says why nothing is shown', async () => {
    server.refuse(401, 'This showing opens with a passphrase.', { title: 'Passphrase' });
    const view = new ShownState();
    await view.open('secret');
    expect(view.state).toBe('passphrase');
    await view.open('', 'low water');
    expect(server.of('POST')[1]!.body).toEqual({ secret: 'secret', passphrase: 'low water' });
    server.refuse(404, 'This link shows nothing any more.');
    await view.open('other');
    expect([view.state, view.trouble]).toEqual(['gone', 'This link shows nothing any more.']);
  });
});
