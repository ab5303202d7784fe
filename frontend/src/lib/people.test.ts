import { server } from '../testing/server';
import { eachTestAfresh } from '../testing/project';
import { beforeEach, expect, it, vi } from 'vitest';
import { api, ApiError, ok } from '../api/client';
import { Outbox } from './outbox.svelte';
import { people, wantsCode } from './people.svelte';

eachTestAfresh();

const MIRA = { id: 'm', login: 'mira', name: 'Mira', keeper: true, second: false };
const reload = vi.fn();

beforeEach(() => {
  Object.assign(people, { known: false, closed: false, first: false, person: null, secondWanted: false, lost: false });
  reload.mockClear();
  vi.stubGlobal('location', { reload, assign: vi.fn(), origin: 'http://x' });
});

it('is open to everybody where there are no accounts', async () => {
  server.standing.set('/me', { closed: false, first: false, person: null, second_wanted: false });
  await people.load();
  expect([people.known, people.outside]).toEqual([true, false]);
});

it('stands outside until somebody signs in', async () => {
  server.standing.set('/me', { closed: true, first: false, person: null, second_wanted: false });
  await people.load();
  expect(people.outside).toBe(true);
  server.standing.set('/sign-in', MIRA);
  await people.signIn('mira', 'seven quiet lanterns');
  expect([people.outside, people.person?.name]).toEqual([false, 'Mira']);
  expect(reload).not.toHaveBeenCalled();
});

it('keeps the window when what was open is closed, and goes on as the same person', async () => {
  Object.assign(people, { closed: true, known: true, person: MIRA });
  server.refuse(401, 'Sign in first.');
  await ok(api.GET('/api/projects')).catch(() => undefined);
  expect([people.lost, people.outside]).toEqual([true, false]);
  server.standing.set('/sign-in', MIRA);
  await people.signIn('mira', 'seven quiet lanterns');
  expect([people.lost, reload.mock.calls.length]).toEqual([false, 0]);
});

it('does not say that nobody answers where one only has to sign in again', async () => {
  const outbox = new Outbox();
  outbox.missed(new ApiError({ status: 401, title: 'Sign in', detail: 'Sign in first.' }));
  expect(outbox.away).toBe(false);
  outbox.missed(new ApiError({ status: 503, title: 'Away', detail: 'Away.' }));
  expect(outbox.away).toBe(true);
});

it('begins anew when somebody else signs in over a window', async () => {
  Object.assign(people, { closed: true, known: true, person: MIRA, lost: true });
  server.standing.set('/sign-in', { ...MIRA, id: 't', name: 'Tomas' });
  await people.signIn('tomas', 'seven quiet lanterns');
  expect(reload).toHaveBeenCalledOnce();
});

it('takes a wrong password for no closed door', async () => {
  Object.assign(people, { closed: true, known: true, person: MIRA });
  server.refuse(401, 'Name and password do not go together.');
  await expect(people.signIn('mira', 'wrong')).rejects.toThrow('do not go together');
  expect(people.lost).toBe(false);
});

it('uses a link as who is signed in, or with a new account', async () => {
  server.standing.set('/joined', { person: MIRA, project_id: 'p' });
  expect(await people.join('secret', null)).toBe('p');
  expect(await people.join('secret', { login: 'mira', name: 'Mira', password: 'seven quiet lanterns' })).toBe('p');
  const [known, fresh] = server.of('POST').map((a) => a.body);
  expect(known).toMatchObject({ secret: 'secret', as_known: true, login: '' });
  expect(fresh).toMatchObject({ secret: 'secret', as_known: false, login: 'mira' });
});

it('tells a code that is asked for from a password that is wrong', async () => {
  Object.assign(people, { closed: true, known: true });
  server.refuse(401, 'Now the code that your app shows.', { title: 'Code wanted' });
  const asked = await people.signIn('mira', 'seven quiet lanterns').catch((x: unknown) => x);
  expect([wantsCode(asked), people.outside]).toEqual([true, true]);
  server.refuse(401, 'Name and password do not go together.');
  expect(wantsCode(await people.signIn('mira', 'wrong').catch((x: unknown) => x))).toBe(false);
});

it('is half-way in where a second factor is still to be set up', async () => {
  server.standing.set('/me', { closed: true, first: false, person: MIRA, second_wanted: true });
  await people.load();
  expect([people.outside, people.halfway]).toEqual([false, true]);
  server.standing.set('/me', { closed: true, first: false, person: { ...MIRA, second: true }, second_wanted: true });
  await people.load();
  expect(people.halfway).toBe(false);
});
