import { changed, finding, server, settled, shotRow as shot, soon, told } from '../testing/server';
import { eachTestAfresh, project } from '../testing/project';
import { describe, expect, it, vi } from 'vitest';
import { notices } from './notices.svelte';

eachTestAfresh();

describe('a project in the window', () => {
  it('puts newer rows in, takes gone ones out, and keeps a current shot', () => {
    const p = project([shot('1'), shot('2'), shot('3')]);
    expect(p.order.map((s) => s.id)).toEqual(['1', '2', '3']);
    expect(p.currentId).toBe('1');
    p.apply(changed({ shot: [shot('2', { revision: 2, shows: 'new' })] }, { gone: { shot: ['1'] } }));
    expect(p.order.map((s) => s.shows)).toEqual(['new', '3']);
    expect(p.currentId).toBe('2');
    p.apply(changed({ shot: [shot('2', { revision: 1, shows: 'old' })] }));
    expect(p.order[0]!.shows).toBe('new');
  });

  it('knows what is proposed and what has lost its words', () => {
    const p = project([shot('1', { status: 'proposed' }), shot('2', { lost: 'gone words' }), shot('3')]);
    expect(p.proposed.map((s) => s.id)).toEqual(['1']);
    expect(p.lost.map((s) => s.id)).toEqual(['2']);
  });

  it('steps through the shots and stays inside', () => {
    const p = project([shot('1'), shot('2')]);
    p.step(1);
    p.step(5);
    expect(p.currentId).toBe('2');
    p.step(-9);
    expect(p.currentId).toBe('1');
  });

  it('tells trouble and changes nothing', async () => {
    const p = project([shot('1')]);
    server.answers = [{ status: 422, body: { detail: 'Not so.', title: 'x', status: 422 } }];
    expect(await p.editShot(p.order[0]!, { shows: 'x' })).toBeNull();
    expect(notices.all.map((n) => n.text)).toEqual(['Not so.']);
    expect(p.order[0]!.shows).toBe('1');
  });

  it('holds both versions of a conflict', async () => {
    const p = project([shot('1')]);
    server.answers = [{ status: 409, body: { detail: 'Meanwhile.', title: 'x', status: 409, mine: { shows: 'a' }, theirs: { shows: 'b' } } }];
    await p.editShot(p.order[0]!, { shows: 'a' });
    expect(p.edits.conflict?.mine).toEqual({ shows: 'a' });
    expect(p.edits.conflict?.theirs).toEqual({ shows: 'b' });
    expect(server.asked[0]!.body).toEqual({ shows: 'a', revision: 1 });
  });

  it('undoes and does again by name, and says when there is nothing', async () => {
    const p = project([shot('1')]);
    server.answers = [{ status: 200, body: changed({}, { label: 'edited shot 1', undo_label: null, redo_label: 'edited shot 1' }) }];
    await p.undo();
    expect(notices.all.at(-1)!.text).toBe('Undone: edited shot 1');
    await p.undo();
    expect(notices.all.at(-1)!.text).toBe('There is nothing to undo.');
    await p.redo();
    expect(server.asked.map((a) => a.path)).toEqual(['/api/projects/p/undo', '/api/projects/p/redo']);
  });

  it('knows whether the last check still tells of the plan as it is', async () => {
    const p = project([shot('1')]);
    p.check.status = { state: 'done', done: 1, total: 1, measured: 1, message: '', at: null };
    p.check.version = p.version;
    expect(p.staleCheck).toBe(false);
    const next = async (rows: object) => {
      const since = p.version;
      await p.receive(changed(rows, { since, version: since + 1 }));
    };
    await next({ stet: [{ id: 'k', revision: 1, finding_key: 'f', reason: 'x' }] });
    expect(p.staleCheck).toBe(false);
    await next({ bead: [{ id: 'b', revision: 1, shot_id: '1', thread_id: 't' }] });
    expect(p.staleCheck).toBe(true);
    await next({ stet: [{ id: 'k2', revision: 1, finding_key: 'g', reason: 'x' }] });
    expect(p.staleCheck).toBe(true);
  });

  it('parts findings that were let stand from those that are open', () => {
    const p = project([shot('1'), shot('2')]);
    p.findings.put(told([finding('f', '1'), finding('g', '2')]));
    p.apply(changed({ stet: [{ id: 'k', revision: 1, finding_key: 'g', reason: 'meant' }] }));
    const { check } = p.findings;
    expect(check.open.map((f) => f.key)).toEqual(['f']);
    expect(check.stood.map((f) => f.key)).toEqual(['g']);
    expect([...check.openByShot.keys()]).toEqual(['1']);
    p.apply(changed({}, { gone: { stet: ['k'] } }));
    expect(p.findings.check.open.map((f) => f.key)).toEqual(['f', 'g']);
  });

  it('says who does not answer when the server is gone, and sends what was done when it is back', async () => {
    const p = project([shot('1')]);
    server.gone = true;
    const sent = p.editProject({ title: 'x' });
    const after = p.editShot(p.order[0]!, { shows: 'a' });
    await soon(() => expect(notices.all.at(-1)).toMatchObject({ tone: 'trouble' }));
    expect(notices.all.at(-1)!.text).toContain('does not answer');
    expect(p.title).toBe('T');
    expect(p.outbox.waiting).toBe(2);
    server.gone = false;
    server.refuse(503, 'The database is away.');
    server.answers.push({ status: 200, body: changed({ project: [{ ...p.row!, revision: 2, title: 'x' }] }) });
    await vi.advanceTimersByTimeAsync(20_000);
    await Promise.all([sent, after]);
    expect(p.title).toBe('x');
    expect(p.outbox.waiting).toBe(0);
    expect(server.asked.map((a) => [a.path, a.body])).toEqual([
      ['/api/projects/p', { title: 'x', revision: 1 }],
      ['/api/projects/p', { title: 'x', revision: 1 }],
      ['/api/projects/p/shots/1', { shows: 'a', revision: 1 }],
    ]);
    expect(server.names[0]).toBe(server.names[1]);
    expect(server.names[2]).not.toBe(server.names[0]);
    expect(notices.all.filter((n) => n.tone === 'trouble')).toEqual([]);
  });

  it('goes on from its own edits when several are on their way', async () => {
    const p = project([shot('1')]);
    const was = p.order[0]!;
    const step = (revision: number) => ({ status: 200, body: changed({ shot: [shot('1', { revision })] }, { since: p.version + revision - 2, version: p.version + revision - 1 }) });
    server.answers = [step(2), step(3), step(4)];
    await Promise.all([p.editShot(was, { shows: 'a' }), p.editShot(was, { size: 'CU' }), p.editShot(was, { notes: 'n' })]);
    expect(server.asked.map((a) => (a.body as { revision: number }).revision)).toEqual([1, 2, 3]);
  });

  it('keeps mine over theirs, and ends', async () => {
    const p = project([shot('1')]);
    for (const revision of [5, 6])
      server.refuse(409, 'Meanwhile.', { mine: { id: '1', revision: 1, shows: 'a' }, theirs: { id: '1', revision, shows: 'b' } });
    await p.editShot(p.order[0]!, { shows: 'a' });
    await p.edits.conflict!.over();
    server.answers = [{ status: 200, body: changed({ shot: [shot('1', { revision: 7, shows: 'a' })] }) }];
    p.edits.conflict = await p.edits.conflict!.over().then(() => null);
    expect(server.asked.map((a) => (a.body as { revision: number }).revision)).toEqual([1, 5, 6]);
    expect(p.order[0]!.shows).toBe('a');
  });

  it('settings of the project can conflict too, and be kept over the others', async () => {
    const p = project([]);
    server.refuse(409, 'Meanwhile.', { mine: { id: 'p', revision: 1, title: 'Mine' }, theirs: { id: 'p', revision: 9, title: 'Theirs' } });
    expect(await p.editProject({ title: 'Mine' })).toBeNull();
    await p.edits.conflict!.over();
    expect(server.asked.map((a) => a.body)).toEqual([{ title: 'Mine', revision: 1 }, { title: 'Mine', revision: 9 }]);
  });

  it('draws threads, takes and traits together by what they belong to, in their own order', () => {
    const p = project([shot('1')]);
    p.apply(changed({
      thread: [{ id: 't', revision: 1, kind: 'character', name: 'Ada', position: 0 }],
      reference: [{ id: 'r2', revision: 1, thread_id: 't', position: 2 }, { id: 'r1', revision: 1, thread_id: 't', position: 1 }],
      take: [{ id: 'k2', revision: 1, shot_id: '1', position: 2, picked: true }, { id: 'k1', revision: 1, shot_id: '1', position: 1, picked: false }],
    }));
    expect(p.referencesByThread.get('t')!.map((r) => r.id)).toEqual(['r1', 'r2']);
    expect(p.takesByShot.get('1')!.map((r) => r.id)).toEqual(['k1', 'k2']);
    expect(p.picked.get('1')!.id).toBe('k2');
  });

  it('shows a thread by its anchor, else by the heaviest, in the newest version', () => {
    const p = project([]);
    const view = (id: string, weight: number, facts = {}) => ({ id, revision: 1, thread_id: 't', position: Number(id), weight, anchor: false, replaces_id: null, ...facts });
    expect(p.face('t')).toBeUndefined();
    p.apply(changed({ reference: [view('1', 0.5), view('2', 0.9)] }));
    expect(p.face('t')!.id).toBe('2');
    p.apply(changed({ reference: [view('1', 0.5, { revision: 2, anchor: true })] }));
    expect(p.face('t')!.id).toBe('1');
    p.apply(changed({ reference: [view('3', 0.5, { anchor: true, replaces_id: '1' })] }));
    expect(p.face('t')!.id).toBe('3');
  });
});
