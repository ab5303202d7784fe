import { api, ApiError, ok, type Changed, type CheckStatus, type SpotStatus } from '../api/client';
import { WINDOW, type Here } from './presence.svelte';

const TRY_AGAIN_MS = 2000;

/** Who keeps a project's rows in step with the clock. */
export interface Follower {
  /** Put rows in and take rows out. */
  apply(changed: Changed): void;
  /** Take the whole project anew. */
  anew(): Promise<void>;
  check(status: CheckStatus): void;
  /** How looking for who stands where goes. */
  standings(status: SpotStatus): void;
  /** The queue of jobs changed. */
  jobs(): void;
  /** Takes were measured. */
  gauged(): void;
  /** Files out went on. */
  delivered(): void;
  /** Windows came, went or moved. */
  here(windows: Here[]): void;
  /** A viewer of a showing said something. */
  shown(): void;
  /** The project is deleted. */
  gone(): void;
  trouble(error: unknown): void;
}

/**
 * A project's clock in this window: what happened is applied strictly by version, whether it comes as the answer to an own
 * request or from others. What came already is dropped; what is missing in between is asked for.
 */
export class Clock {
  version = $state(0);
  /** Counts snapshots: what was asked before one is not put over it. */
  taken = 0;
  #touched = new Map<string, number>();
  #source: EventSource | null = null;
  #retry: ReturnType<typeof setTimeout> | undefined;
  #catching: Promise<void> | null = null;

  constructor(
    private readonly projectId: string,
    private readonly follower: Follower,
  ) {}

  get listening(): boolean {
    return this.#source !== null;
  }

  /** Begin at a snapshot. */
  begin(version: number) {
    this.version = version;
    this.taken++;
    this.#touched.clear();
  }

  /** Take what happened; whatever lies between is fetched first. */
  async receive(changed: Changed): Promise<void> {
    if (this.#take(changed)) return;
    await this.catchUp();
    this.#take(changed);
  }

  /** Whether a row came or went after a version: an answer of that version says nothing of it any more. */
  touchedAfter(id: string, version: number): boolean {
    return (this.#touched.get(id) ?? 0) > version;
  }

  /** Ask for all that happened since, once at a time. */
  catchUp(): Promise<void> {
    this.#catching ??= this.#caughtUp().finally(() => (this.#catching = null));
    return this.#catching;
  }

  listen() {
    this.#source?.close();
    clearTimeout(this.#retry);
    const source = new EventSource(`/api/projects/${this.projectId}/events?after=${this.version}&window=${WINDOW}`);
    this.#source = source;
    source.addEventListener('error', () => {
      // A browser comes again by itself unless the server refused it.
      if (source.readyState !== 2 || this.#source !== source) return;
      this.#retry = setTimeout(() => this.#source === source && this.listen(), TRY_AGAIN_MS);
    });
    source.addEventListener('changed', (e) => void this.receive(withTables(JSON.parse(e.data) as Changed)).catch((x) => this.follower.trouble(x)));
    source.addEventListener('check', (e) => this.follower.check(JSON.parse(e.data) as CheckStatus));
    source.addEventListener('standings', (e) => this.follower.standings(JSON.parse(e.data) as SpotStatus));
    source.addEventListener('jobs', () => this.follower.jobs());
    source.addEventListener('gauged', () => this.follower.gauged());
    source.addEventListener('deliveries', () => this.follower.delivered());
    source.addEventListener('here', (e) => this.follower.here(JSON.parse(e.data) as Here[]));
    source.addEventListener('shown', () => this.follower.shown());
    source.addEventListener('anew', () => {
      source.close();
      void this.follower.anew();
    });
    source.addEventListener('gone', () => {
      source.close();
      this.follower.gone();
    });
  }

  /** Listen no more; a browser has few connections for one address. */
  rest() {
    clearTimeout(this.#retry);
    this.#source?.close();
    this.#source = null;
  }

  #take(changed: Changed): boolean {
    if (changed.version <= this.version) return true;
    if (changed.since > this.version) return false;
    for (const rows of Object.values(changed.rows)) for (const row of rows ?? []) this.#touched.set((row as { id: string }).id, changed.version);
    for (const ids of Object.values(changed.gone)) for (const id of ids) this.#touched.set(id, changed.version);
    this.version = changed.version;
    this.follower.apply(changed);
    return true;
  }

  async #caughtUp() {
    try {
      const params = { params: { path: { project_id: this.projectId }, query: { after: this.version } } };
      this.#take(withTables((await ok(api.GET('/api/projects/{project_id}/changes', params))) as Changed));
    } catch (error) {
      if (error instanceof ApiError && error.problem.status === 410) await this.follower.anew();
      else throw error;
    }
  }
}

function withTables(changed: Changed): Changed {
  return { ...changed, rows: changed.rows ?? {}, gone: changed.gone ?? {}, pictures: changed.pictures ?? [] };
}
