import { ApiError, ok, type Changed } from '../api/client';
import { Outbox } from './outbox.svelte';
import type { AnyRow } from './rows.svelte';

/** An answer of the API; its tuples come untyped through the client, so the row types are stated here once. */
export type Answer = Promise<{ data?: unknown; error?: unknown; response: Response }>;
/** A row as the other editor left it. */
export type Theirs = Record<string, unknown> & { id?: string; revision?: number; text_revision?: number };

export interface ConflictStates {
  mine: Record<string, unknown>;
  theirs: Theirs;
  /** Send what was written here over their state. */
  over: () => Promise<unknown>;
  /** FindingsSince when one of the versions was chosen. */
  settled?: () => void;
}

/** What is changed in this window: sent one after the other, each on the rows as they were seen; a conflict shows both states. */
export class Edits {
  conflict = $state<ConflictStates | null>(null);
  readonly outbox = new Outbox();
  /** What own edits made of a row's revision: an edit that waited behind another goes on from it. */
  readonly #own = new Map<string, number>();
  /** The latest step of each row: its revision before and after, and the version that made it. */
  readonly #steps = new Map<string, { was: number; now: number; version: number }>();

  constructor(
    private readonly receive: (changed: Changed) => Promise<void>,
    private readonly trouble: (error: unknown) => void,
  ) {}

  /**
   * Send a change; its rows are shown when it is made, and trouble is told. Returns null on trouble. In a conflict the other state is
   * shown, and `make` is asked again with it if the own one is to hold.
   */
  async send(make: (theirs?: Theirs) => Answer, theirs?: Theirs): Promise<Changed | null> {
    const sent = async () => {
      const changed = (await ok(make(theirs))) as Changed;
      await this.receive(changed);
      this.#noteOwn(changed);
      return changed;
    };
    try {
      return await this.outbox.send(sent);
    } catch (error) {
      if (error instanceof ApiError && error.problem.status === 409 && error.problem.mine && error.problem.theirs) {
        const held = error.problem.theirs as Theirs;
        this.conflict = { mine: error.problem.mine, theirs: held, over: () => this.send(make, held) };
      } else this.trouble(error);
      return null;
    }
  }

  /** Send the own side of a conflict over the other one; when somebody was quicker again, that is a new conflict of the same kind. */
  async keepMine(held: ConflictStates | null) {
    if (!held) return;
    if (await held.over()) held.settled?.();
    else if (this.conflict) this.conflict.settled ??= held.settled;
  }

  /** Change several rows as they are seen here; `make` gets their revisions by id. */
  editAll(rows: AnyRow[], make: (revisions: Record<string, number>) => Answer): Promise<Changed | null> {
    const seen = rows.map((r) => [r.id, r.revision] as const);
    const over: Record<string, number> = {};
    return this.send((theirs) => {
      if (theirs?.id && theirs.revision) over[theirs.id] = theirs.revision;
      return make(Object.fromEntries(seen.map(([id, revision]) => [id, over[id] ?? this.#after(id, revision)])));
    });
  }

  /** A version made these rows of those that were held: an own edit that waits goes on from them. */
  noteStep(was: AnyRow | undefined, now: AnyRow, version: number) {
    if (was) this.#steps.set(now.id, { was: was.revision, now: now.revision, version });
  }

  #noteOwn(changed: Changed) {
    for (const now of Object.values(changed.rows ?? {}).flatMap((all) => (all ?? []) as AnyRow[])) {
      const step = this.#steps.get(now.id);
      if (step?.version === changed.version) this.#own.set(`${now.id} ${step.was}`, step.now);
    }
  }

  /** The revision that own edits made of one. */
  #after(id: string, revision: number): number {
    for (let next; (next = this.#own.get(`${id} ${revision}`)) !== undefined; ) revision = next;
    return revision;
  }
}
