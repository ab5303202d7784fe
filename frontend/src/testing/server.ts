import { vi } from 'vitest';
import type { Changed, Finding, Shot, FindingsSince } from '../api/client';

/** A server of the tests' own: what it was asked, and what it answers next. To be imported before whatever makes the API client. */
export interface Asked {
  method: string;
  path: string;
  query: Record<string, string>;
  body: unknown;
}

export const server = {
  asked: [] as Asked[],
  /** Names of requests that change something, in the order in which they were asked. */
  names: [] as (string | null)[],
  answers: [] as { status: number; body: unknown }[],
  /** Answers for paths that end so, taken when nothing else is due. */
  standing: new Map<string, unknown>(),
  /** While this is set, answers wait for it. */
  held: null as Promise<void> | null,
  /** Nobody answers. */
  gone: false,
  reset() {
    this.gone = false;
    this.asked.length = 0;
    this.names.length = 0;
    this.answers = [];
    this.standing.clear();
    this.held = null;
  },
  of(method: string): Asked[] {
    return this.asked.filter((a) => a.method === method);
  },
  refuse(status: number, detail: string, more: object = {}) {
    this.answers.push({ status, body: { detail, title: 'x', status, ...more } });
  },
};

const NOTHING = { project_id: 'p', version: 0, since: 0, label: 'did it', rows: {}, gone: {}, pictures: [], undo_label: null, redo_label: null };
const Plain = globalThis.Request;
globalThis.Request = class extends Plain {
  constructor(input: string | Request, init?: RequestInit) {
    super(typeof input === 'string' && input.startsWith('/') ? `http://x${input}` : input, init);
  }
} as typeof Request;
/** What a request brings: JSON, or the words of a form. */
async function brought(request: Request, sent: unknown): Promise<unknown> {
  if (sent instanceof FormData) return Object.fromEntries([...sent].filter(([, value]) => typeof value === 'string'));
  return request.json().catch(() => null);
}

globalThis.fetch = (async (asked: Request | string, init?: RequestInit) => {
  const request = typeof asked === 'string' ? new Request(asked, init) : asked;
  if (server.gone) throw new TypeError('failed to fetch');
  const url = new URL(request.url);
  server.names.push(request.headers.get('Idempotency-Key'));
  server.asked.push({ method: request.method, path: url.pathname, query: Object.fromEntries(url.searchParams), body: await brought(request, init?.body) });
  const due = server.answers.shift() ?? { status: 200, body: [...server.standing].find(([end]) => url.pathname.endsWith(end))?.[1] ?? NOTHING };
  await server.held;
  return new Response(JSON.stringify(due.body), { status: due.status, headers: { 'content-type': 'application/json' } });
}) as typeof fetch;

/** Wait until something was asked. */
export const settled = () =>
  soon(() => {
    if (!server.asked.length) throw new Error('nothing was asked yet');
  });

/** Wait for a state, however slow the machine is. */
export const soon = <T>(what: () => T) => vi.waitFor(what, { timeout: 60_000 });

export const shotRow = (id: string, facts: Partial<Shot> = {}) =>
  ({ id, revision: 1, scene_id: 's', position: Number(id), shows: id, length_s: 2, status: 'settled', lost: '', start_part_id: null, start_at: null, end_part_id: null, end_at: null, brief_edits: [], ...facts }) as unknown as Shot;

/** Something to look at. */
export const finding = (key: string, shot: string | null, facts: Partial<Finding> = {}) => ({ source: 'check', kind: 'border', title: key, advice: '', key, shot, ...facts }) as Finding;

let mark = 0;

/** What there is to look at: these findings, and nothing else unless they come on top. */
export const told = (findings: Finding[], more: Partial<FindingsSince> = {}): FindingsSince => {
  const groups = new Map<string, FindingsSince['groups'][number]>();
  for (const f of findings) {
    const key = `${f.source} ${f.shot}`;
    const held = groups.get(key) ?? { source: f.source, shot: f.shot ?? null, findings: [] };
    groups.set(key, { ...held, findings: [...held.findings, f as FindingsSince['groups'][number]['findings'][number]] });
  }
  return { version: 1, mark: `m:${++mark}`, anew: true, groups: [...groups.values()], shots: [], lengths: {} as FindingsSince['lengths'], ...more };
};

let version = 7;

/** All that happened up to a version that is newer each time. */
export const changed = (rows: object, more: Partial<Changed> = {}) =>
  ({ project_id: 'p', version: ++version, since: 0, label: 'did it', rows, gone: {}, pictures: [], undo_label: 'did it', redo_label: null, ...more }) as Changed;

/** A thread, a bead of it in a shot, a take of a shot. */
export const threadRow = (id: string, kind = 'character', facts: object = {}) => ({ id, revision: 1, kind, name: id.toUpperCase(), aliases: [], position: 0, ...facts });
export const beadRow = (shot_id: string, thread_id: string, facts: object = {}) => ({ id: `${shot_id}-${thread_id}`, revision: 1, shot_id, thread_id, hold: 'figure', weight: 1, costume: '', facing: '', face: '', ...facts });
export const takeRow = (id: string, shot_id: string, facts: object = {}) => ({ id, revision: 1, shot_id, picture_sha: `sha${id}`, name: id, picked: true, position: 0, not_here: [], standing: '', parent_id: null, made_from: { made: null, crop: null }, ...facts });

/** A file as the browser hands it over. */
export const file = (name: string) => ({ name, file: new File(['x'], name.split('/').at(-1)!) });

/** A text that is one part. */
export const textPart = (words: string, revision = 1) => ({ id: 't', revision, position: 0, words });

/** What a shot covers of that part. */
export const covers = (start_at: number, end_at: number) => ({ start_part_id: 't', start_at, end_part_id: 't', end_at });

/** The rows of a small project: a scene with some shots. */
export const beginnings = (shots: Shot[], facts: object = {}) =>
  changed({ project: [{ id: 'p', revision: 1, title: 'T', text_revision: 3, target_s: null, hidden_columns: [], ...facts }], text_part: [textPart('One. Two.')], scene: [{ id: 's', revision: 1, position: 0, title: '' }], shot: shots });
