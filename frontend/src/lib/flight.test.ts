import { changed, server } from '../testing/server';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FlightState } from './flight.svelte';

const told = {
  profile: 'No limits',
  shots: [
    { shot_id: '1', concerns: [{ key: 'a', stood: false }, { key: 'b', stood: true }] },
    { shot_id: '2', concerns: [{ key: 'c', stood: false }] },
  ],
  stale: [{ key: 'x', shot_id: '2', stood: false }, { key: 'y', shot_id: '2', stood: true }, { key: 'z', shot_id: '3', stood: true }],
};

beforeEach(() => {
  server.reset();
  server.standing.set('/preflight', told);
  server.standing.set('/profiles', [{ name: 'No limits' }]);
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe('preflight of the whole project', () => {
  const made = () => new FlightState('p', (e) => { throw e; });

  it('is not asked for before a view wants it', async () => {
    const f = made();
    f.changed(['shot', 'bead']);
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.asked).toEqual([]);
    f.want();
    await vi.advanceTimersByTimeAsync(50);
    expect(server.asked.map((a) => a.path)).toEqual(['/api/projects/p/preflight', '/api/projects/p/profiles']);
  });

  it('parts what is open from what was let stand', async () => {
    const f = made();
    await f.load();
    expect(f.open.map((k) => k.key)).toEqual(['a', 'c']);
    expect(f.openOf('1').map((k) => k.key)).toEqual(['a']);
    expect(f.openOf('9')).toEqual([]);
    expect([...f.staleByShot.keys()]).toEqual(['2']);
    expect(f.profiles.map((p) => p.name)).toEqual(['No limits']);
  });

  it('is read once after many changes, and not for changes that no brief depends on', async () => {
    const f = made();
    f.want();
    await vi.advanceTimersByTimeAsync(50);
    expect(f.read).toBe(1);
    for (let i = 0; i < 20; i++) f.changed(['bead']);
    f.changed(['mark']);
    await vi.advanceTimersByTimeAsync(1000);
    expect(f.read).toBe(2);
    f.changed(['mark', 'library_picture', 'duel']);
    await vi.advanceTimersByTimeAsync(1000);
    expect(f.read).toBe(2);
    f.changed(Object.keys(changed({ stet: [] }).rows));
    await vi.advanceTimersByTimeAsync(1000);
    expect(f.read).toBe(3);
  });

  it('stays quiet after the project is closed', async () => {
    const f = made();
    f.want();
    f.close();
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.asked).toEqual([]);
  });
});
