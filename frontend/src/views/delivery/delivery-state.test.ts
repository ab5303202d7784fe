import { server, soon } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Delivery } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import { called, DeliveryState, size, USUAL } from './delivery-state.svelte';

eachTestAfresh();
beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) });
});

const file = (facts: Partial<Delivery> = {}) => ({ id: 'f', kind: 'animatic', state: 'running', done: 3, total: 12, options: USUAL, name: '', bytes: 0, message: '', ...facts }) as Delivery;

describe('files out', () => {
  it('asks for a file as it is to be made, and shows it at once', async () => {
    const view = new DeliveryState(project([]));
    server.standing.set('/deliveries', [file()]);
    view.set({ form: 'webm', words: 'beside' });
    await view.ask('animatic');
    expect(server.of('POST')[0]!.body).toEqual({ kind: 'animatic', options: { ...USUAL, form: 'webm', words: 'beside' } });
    expect(view.files.map((f) => f.state)).toEqual(['running']);
    expect(view.open.length).toBe(1);
  });

  it('keeps what was chosen for the next time, and is not put off by nonsense', () => {
    new DeliveryState(project([])).set({ a_page: 9 });
    expect(new DeliveryState(project([])).options.a_page).toBe(9);
    localStorage.setItem('delivery options', '{');
    expect(new DeliveryState(project([])).options).toEqual(USUAL);
  });

  it('reads once for many changes', async () => {
    const view = new DeliveryState(project([]));
    server.standing.set('/deliveries', []);
    view.again();
    view.again();
    await soon(() => expect(view.read).toBe(true));
    expect(server.of('GET').length).toBe(1);
  });

  it('stops, goes on and removes', async () => {
    const view = new DeliveryState(project([]));
    server.standing.set('/deliveries', []);
    await view.stop(file());
    await view.resume(file({ state: 'stopped' }));
    await view.remove(file({ state: 'done' }));
    expect(server.asked.filter((a) => a.method !== 'GET').map((a) => `${a.method} ${a.path.split('/deliveries/')[1]}`)).toEqual(['POST f/stop', 'POST f/resume', 'DELETE f']);
  });

  it('tells what could not be done', async () => {
    const view = new DeliveryState(project([]));
    server.refuse(422, '60 files are kept already.');
    await view.ask('cbz');
    expect(notices.all.at(-1)?.text).toBe('60 files are kept already.');
  });

  it('says what a file is', () => {
    expect(called(file())).toBe('Animatic, MP4, 720 lines, words burnt in');
    expect(called(file({ kind: 'storyboard' }))).toBe('Storyboard, 6 a page');
    expect(called(file({ kind: 'cbz' }))).toBe('Comic archive');
    expect([size(12), size(45_600), size(5_186_522), size(2.5e9)]).toEqual(['12 bytes', '46 kB', '5.2 MB', '2.50 GB']);
  });
});
