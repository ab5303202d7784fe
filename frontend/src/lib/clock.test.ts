import { changed, server, shotRow as shot, soon } from '../testing/server';
import { eachTestAfresh, project } from '../testing/project';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WINDOW } from './presence.svelte';
import { ProjectState } from './project.svelte';

eachTestAfresh();

/** The browser's event source, as far as it is used: what was opened, and a way to send on it. */
class Stream extends EventTarget {
  static opened: Stream[] = [];
  readyState = 1;
  constructor(readonly url: string) {
    super();
    Stream.opened.push(this);
  }
  close() {
    this.readyState = 2;
  }
  say(name: string, data: unknown) {
    this.dispatchEvent(new MessageEvent(name, { data: JSON.stringify(data) }));
  }
  static get open(): Stream[] {
    return Stream.opened.filter((s) => s.readyState !== 2);
  }
}

beforeEach(() => {
  Stream.opened = [];
  vi.stubGlobal('EventSource', Stream);
});
afterEach(() => vi.unstubAllGlobals());

const at = (version: number, shots: object[], gone: object = {}, since = version - 1) => changed({ shot: shots }, { version, since, gone: gone as never });
const SNAPSHOT = { project_id: 'p', version: 5, rows: { project: [{ id: 'p', revision: 1, title: 'T', text: '' }], scene: [{ id: 's', revision: 1, position: 0 }], shot: [shot('1'), shot('2')] }, pictures: [], undo_label: null, redo_label: null };
const CHECK = { status: { state: 'never', done: 0, total: 0, measured: 0, message: '', at: null }, trouble: {}, threads: [], version: 0 };

async function loaded(): Promise<ProjectState> {
  server.standing.set('/check', CHECK);
  server.standing.set('/others', { version: 5, rows: { take: [], mark: [] }, pictures: [] });
  server.standing.set('/projects/p', SNAPSHOT);
  const p = new ProjectState('p');
  await p.load();
  await vi.advanceTimersByTimeAsync(5);
  return p;
}

describe('the clock', () => {
  it('listens from the version of the snapshot on', async () => {
    await loaded();
    expect(Stream.open.map((s) => s.url)).toEqual([`/api/projects/p/events?after=5&window=${WINDOW}`]);
  });

  it('drops what came already: its own echo, and answers that come late', async () => {
    const p = await loaded();
    await p.receive(at(6, [], { shot: ['1'] }));
    expect(p.order.map((s) => s.id)).toEqual(['2']);
    Stream.open[0]!.say('changed', at(6, [], { shot: ['1'] }));
    await p.receive(at(5, [shot('1', { revision: 9 })]));
    expect(p.order.map((s) => s.id)).toEqual(['2']);
    expect(p.version).toBe(6);
  });

  it('fetches what lies between before it takes an answer that is ahead', async () => {
    const p = await loaded();
    server.standing.set('/changes', at(8, [shot('3', { revision: 8 })], { shot: ['1'] }, 5));
    await p.receive(at(7, [shot('3', { revision: 7 })]));
    expect(server.asked.at(-1)).toMatchObject({ path: '/api/projects/p/changes', query: { after: '5' } });
    expect(p.order.map((s) => [s.id, s.revision])).toEqual([['2', 1], ['3', 8]]);
    expect(p.version).toBe(8);
  });

  it('takes the whole anew when it is too far behind, and what is not there any more is gone', async () => {
    const p = await loaded();
    server.standing.set('/projects/p', { ...SNAPSHOT, version: 900, rows: { ...SNAPSHOT.rows, shot: [shot('2', { revision: 1, shows: 'anew' })] } });
    Stream.open[0]!.say('anew', {});
    await soon(() => expect(p.version).toBe(900));
    expect(p.order.map((s) => [s.id, s.shows])).toEqual([['2', 'anew']]);
    await soon(() => expect(Stream.open.map((s) => s.url)).toEqual([`/api/projects/p/events?after=900&window=${WINDOW}`]));
  });

  it('opens no second stream, however often it is woken, reloaded or refused', async () => {
    const p = await loaded();
    p.wake();
    p.rest();
    expect(Stream.open).toEqual([]);
    p.wake();
    p.wake();
    await p.load();
    expect(Stream.open).toHaveLength(1);
    const refused = Stream.open[0]!;
    refused.close();
    refused.dispatchEvent(new Event('error'));
    await vi.advanceTimersByTimeAsync(5000);
    expect(Stream.open).toHaveLength(1);
    p.close();
    expect(Stream.open).toEqual([]);
  });

  it('of a window that slept goes on from where it was', async () => {
    const p = await loaded();
    await p.receive(at(6, [shot('3')]));
    p.rest();
    p.wake();
    expect(Stream.open.map((s) => s.url)).toEqual([`/api/projects/p/events?after=6&window=${WINDOW}`]);
    Stream.open[0]!.say('changed', at(9, [], { shot: ['1', '3'] }, 6));
    expect(p.order.map((s) => s.id)).toEqual(['2']);
  });

  it('lets late rows of takes not bring back what was deleted after they were read', async () => {
    let let_go = () => {};
    server.standing.set('/check', CHECK);
    server.standing.set('/projects/p', SNAPSHOT);
    const take = (id: string) => ({ id, revision: 1, shot_id: '1', position: 0, picked: false, picture_sha: 'x', name: id });
    server.standing.set('/others', { version: 5, rows: { take: [take('a'), take('b')], mark: [] }, pictures: [] });
    const p = new ProjectState('p');
    await p.load();
    server.held = new Promise((yes) => (let_go = yes));
    await soon(() => expect(server.asked.at(-1)!.path).toBe('/api/projects/p/others'));
    await p.receive(changed({}, { version: 6, since: 5, gone: { take: ['a'] } }));
    let_go();
    await soon(() => expect(p.takes.size).toBe(1));
    expect([...p.takes.keys()]).toEqual(['b']);
  });

  it('says that the project is gone', async () => {
    const p = await loaded();
    Stream.open[0]!.say('gone', {});
    expect(p.missing).toBe(true);
  });
});

describe('an undo', () => {
  it('leaves nothing that says “all holds” without a check', async () => {
    const p = project([shot('1')]);
    p.check.status = { state: 'done', done: 1, total: 1, measured: 1, message: '', at: null };
    p.check.version = p.version;
    p.undoLabel = 'edited shot 1';
    const since = p.version;
    server.answers = [{ status: 200, body: changed({ shot: [shot('1', { revision: 2 })] }, { since, version: since + 1 }) }];
    await p.undo();
    expect(p.staleCheck).toBe(true);
  });
});
