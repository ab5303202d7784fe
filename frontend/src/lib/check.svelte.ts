import { api, ok, type CheckStatus } from '../api/client';

/** Tables that no check looks at. */
const NOT_CHECKED = new Set(['stet', 'library_picture', 'duel', 'beat']);
const NEVER: CheckStatus = { state: 'never', done: 0, total: 0, measured: 0, message: '', at: null };
const ENDED = new Set(['done', 'failed', 'stopped']);

/** How the check of one project stands: its progress, what it could not look at, and whether it still tells of the plan as it is. */
export class CheckState {
  status = $state<CheckStatus>(NEVER);
  /** Pictures that could not be measured, by shot. */
  trouble = $state.raw<Record<string, string>>({});
  /** Where a lasting change of a thread begins. */
  begins = $state.raw(new Map<string, string>());
  /** How many shots of a thread were measured. */
  measured = $state.raw(new Map<string, number>());
  /** The project's version that the check tells of. */
  version = $state(0);

  readonly running = $derived(this.status.state === 'running' || this.status.state === 'queued');

  constructor(
    private readonly projectId: string,
    private readonly tell: (error: unknown) => void,
  ) {}

  /** Whether something changed since the last check that it would look at. */
  isBehind(version: number): boolean {
    return this.status.state === 'done' && version !== this.version;
  }

  /** The project went from one version to the next by changes of some tables. */
  moved(since: number, version: number, tables: string[]) {
    const wasFresh = this.status.state === 'done' && this.version === since;
    if (wasFresh && tables.every((t) => NOT_CHECKED.has(t))) this.version = version;
  }

  /** The server told how the check goes; returns whether it has ended just now. */
  told(status: CheckStatus): boolean {
    const known = status.state === this.status.state && status.at === this.status.at;
    this.status = status;
    return !known && ENDED.has(status.state);
  }

  async load() {
    const got = await ok(api.GET('/api/projects/{project_id}/check', this.#path()));
    this.status = got.status;
    this.trouble = got.trouble;
    this.begins = new Map(got.threads.filter((t) => t.begins).map((t) => [t.thread_id, t.begins!]));
    this.measured = new Map(got.threads.map((t) => [t.thread_id, t.measured]));
    this.version = got.version;
  }

  async start() {
    try {
      this.status = await ok(api.POST('/api/projects/{project_id}/check', this.#path()));
    } catch (error) {
      this.tell(error);
    }
  }

  async stop() {
    this.status = await ok(api.POST('/api/projects/{project_id}/check/stop', this.#path()));
  }

  #path() {
    return { params: { path: { project_id: this.projectId } } };
  }
}
