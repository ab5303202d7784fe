import './live';
import { expect, it, vi } from 'vitest';
import { api, ok, type Rows } from '../api/client';
import { notices } from '../lib/notices.svelte';
import { ProjectState } from '../lib/project.svelte';

const DEEDS = 70;

/** Numbers that look random and are the same each time (mulberry32). */
function dice(seed: number): () => number {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const TABLES = ['scenes', 'shots', 'threads', 'beads', 'takes', 'marks', 'stets', 'references', 'traits', 'beatRows'] as const;

/** All that a window holds of its project. */
function held(p: ProjectState) {
  const tables = TABLES.map((t) => [t, [...(p[t] as Map<string, { id: string }>).values()].sort((a, b) => (a.id < b.id ? -1 : 1))]);
  return { ...Object.fromEntries(tables), text: p.text, row: p.row, undo: p.undoLabel, redo: p.redoLabel, version: p.version };
}

class Window {
  project: ProjectState;
  asleep = false;

  constructor(
    readonly id: string,
    private readonly roll: () => number,
  ) {
    this.project = new ProjectState(id);
  }

  pick<T>(items: Iterable<T>): T | undefined {
    const all = [...items];
    return all[Math.floor(this.roll() * all.length)];
  }

  /** One thing that somebody does in this window, on what this window shows. */
  deed(): Promise<unknown> {
    const p = this.project;
    const path = { project_id: p.id };
    const shot = this.pick(p.order);
    const word = `word ${Math.floor(this.roll() * 1e6)}`;
    if (this.asleep && this.roll() < 0.6) return Promise.resolve();
    const at = (shot_id: string) => ({ params: { path: { ...path, shot_id } } });
    const choices: (() => unknown)[] = [
      () => shot && p.editShot(shot, { shows: word }),
      () => shot && p.editShot(shot, { notes: word, size: 'CU' }),
      () => shot && p.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/insert', at(shot.id))),
      () => shot && p.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/move', { ...at(shot.id), body: { step: this.roll() < 0.5 ? 1 : -1 } })),
      () => shot && p.order.length > 4 && p.send(() => api.POST('/api/projects/{project_id}/shots/delete', { params: { path }, body: { shot_ids: [shot.id] } })),
      () => shot && p.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/merge-up', at(shot.id))),
      () => shot && p.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/split', { ...at(shot.id), body: {} })),
      () => p.send(() => api.POST('/api/projects/{project_id}/scenes', { params: { path }, body: { title: word } })),
      () => {
        const thread = this.pick(p.threads.values());
        const shot_ids = p.order.slice(0, 1 + Math.floor(this.roll() * 6)).map((s) => s.id);
        return thread && shot_ids.length && p.send(() => api.PUT('/api/projects/{project_id}/threads/{thread_id}/run', { params: { path: { ...path, thread_id: thread.id } }, body: { shot_ids, on: this.roll() < 0.7 } }));
      },
      () => {
        const bead = this.pick(p.beads.values());
        return bead && p.editAll([bead], (revisions) => api.PATCH('/api/projects/{project_id}/threads/{thread_id}/beads', { params: { path: { ...path, thread_id: bead.thread_id } }, body: { shot_ids: [bead.shot_id], weight: this.roll(), revisions } as never }));
      },
      () => p.editProject({ tone: word }),
      () => p.send((theirs) => api.PUT('/api/projects/{project_id}/text', { params: { path }, body: { text: `${p.text}\n\n${word} went by.`, seen: theirs?.text_revision ?? p.row?.text_revision ?? null } })),
      () => p.undo(),
      () => p.undo(),
      () => p.redo(),
      () => {
        this.asleep ? p.wake() : p.rest();
        this.asleep = !this.asleep;
      },
    ];
    return Promise.resolve(this.pick(choices)!()).then(() => this.settle());
  }

  /** A conflict is looked at: one of the two versions is chosen, at random. */
  async settle() {
    for (let tries = 0; this.project.edits.conflict && tries < 5; tries++) {
      const held = this.project.edits.conflict;
      this.project.edits.conflict = null;
      if (this.roll() < 0.5) await held.over();
      else await this.project.clock.catchUp();
    }
    this.project.edits.conflict = null;
  }
}

async function made(): Promise<string> {
  const { id } = await ok(api.POST('/api/projects', { body: { title: 'Two windows' } }));
  const path = { project_id: id };
  const text = Array.from({ length: 6 }, (_, i) => `# Scene ${i}\n\nAda came in, step ${i}. Ada sat down again.`).join('\n\n');
  await ok(api.PUT('/api/projects/{project_id}/text', { params: { path }, body: { text } }));
  await ok(api.POST('/api/projects/{project_id}/proposals', { params: { path }, body: {} }));
  await ok(api.POST('/api/projects/{project_id}/proposals/accept', { params: { path }, body: {} }));
  for (const [kind, name] of [['character', 'Ada'], ['style', 'Paper'], ['style', 'Ink']] as const)
    await ok(api.POST('/api/projects/{project_id}/threads', { params: { path }, body: { kind, name } }));
  return id;
}

it.each([1, 2])('two windows that sleep, undo and write over each other end with the same project (game %i)', { timeout: 240_000 }, async (seed) => {
  const id = await made();
  const windows = [new Window(id, dice(seed)), new Window(id, dice(seed + 100))];
  await Promise.all(windows.map((w) => w.project.load()));
  for (let i = 0; i < DEEDS; i++) await Promise.all(windows.map((w) => w.deed()));
  for (const w of windows) w.project.wake();
  const now = await ok(api.GET('/api/projects/{project_id}', { params: { path: { project_id: id } } }));
  await vi.waitFor(() => expect(windows.map((w) => w.project.version)).toEqual([now.version, now.version]), { timeout: 60_000 });
  const fresh = new ProjectState(id);
  await fresh.load();
  const [a, b] = windows.map((w) => held(w.project));
  expect(a).toEqual(b);
  expect(a).toEqual(held(fresh));
  expect((now.rows as Rows).shot.length).toBe(fresh.order.length);
  expect(fresh.version).toBeGreaterThan(DEEDS / 2);
  expect(notices.all.filter((n) => n.text.includes('nobody foresaw'))).toEqual([]);
  for (const p of [fresh, ...windows.map((w) => w.project)]) p.close();
});
