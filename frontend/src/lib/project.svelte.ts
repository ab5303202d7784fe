import { api, ApiError, ok, type BoxPx, type Changed, type CheckStatus, type Picture, type ProjectFacts, type Reading, type Rows, type Shot, type ShotFacts, type Take } from '../api/client';
import { CheckState } from './check.svelte';
import { Clock } from './clock.svelte';
import { Edits, type Answer, type Theirs } from './edits.svelte';
import { FindingsState } from './findings.svelte';
import { LedgerState } from './ledger.svelte';
import { notices } from './notices.svelte';
import { OnTable } from './on-table.svelte';
import { isAway } from './outbox.svelte';
import { PresenceState } from './presence.svelte';
import { QueueState } from './queue.svelte';
import { merged, ProjectRows, type AnyRow } from './rows.svelte';
import { asMarks, StandingsState, type Proposed } from './standings.svelte';

const AGAIN_LATER_MS = 3000;
/** What of a shot says which words it covers. */
const COVERS = ['start_part_id', 'start_at', 'end_part_id', 'end_at'] as const;

/** One project as the window holds it: its rows, kept in step with the server, and what is told of them. */
export class ProjectState extends ProjectRows {
  loaded = $state(false);
  /** Takes that are not picked are here too. */
  whole = $state(false);
  missing = $state(false);
  /** What the text says and which of it is covered; read once a view has asked for it. */
  reading = $state.raw<Reading | null>(null);
  undoLabel = $state<string | null>(null);
  redoLabel = $state<string | null>(null);
  currentId = $state<string | null>(null);
  /** Whether something typed is not kept yet; views say so here. */
  readonly unkept = new Set<() => boolean>();

  readonly current = $derived(this.currentId ? (this.shots.get(this.currentId) ?? null) : null);
  readonly currentIndex = $derived(this.currentId ? (this.indexOf.get(this.currentId) ?? -1) : -1);

  readonly edits: Edits;
  readonly findings: FindingsState;
  readonly check: CheckState;
  readonly standings: StandingsState;
  readonly queue: QueueState;
  readonly ledger: LedgerState;
  readonly presence: PresenceState;
  readonly clock: Clock;
  readonly table = new OnTable(this);
  /** Counts how often takes were measured: whoever shows measures reads them again. */
  gauged = $state(0);
  /** Counts how often files out went on. */
  delivered = $state(0);
  /** Who is signed in may look here and change nothing. */
  reviews = $state(false);
  /** Counts how often viewers of showings said something. */
  shownSaid = $state(0);
  #loadAgain: ReturnType<typeof setTimeout> | undefined;
  #readAgain: ReturnType<typeof setTimeout> | undefined;
  #closed = false;
  #others: Promise<void> | null = null;

  constructor(readonly id: string) {
    super();
    const tell = (error: unknown) => this.#trouble(error);
    this.edits = new Edits((changed) => this.receive(changed), tell);
    this.findings = new FindingsState(id, this, tell);
    this.check = new CheckState(id, tell);
    this.standings = new StandingsState(id, tell);
    this.queue = new QueueState(id, tell);
    this.ledger = new LedgerState(id, tell);
    this.presence = new PresenceState(id);
    this.clock = new Clock(id, {
      apply: (changed) => this.apply(changed),
      anew: () => this.#snapshot(false).catch(tell),
      check: (status) => this.#checkTold(status),
      standings: (status) => this.standings.told(status),
      jobs: () => {
        this.queue.told();
        this.ledger.told();
      },
      gauged: () => this.gauged++,
      delivered: () => this.delivered++,
      shown: () => {
        this.shownSaid++;
        this.findings.again();
      },
      here: (windows) => this.presence.told(windows),
      gone: () => (this.missing = true),
      trouble: tell,
    });
  }

  get version(): number {
    return this.clock.version;
  }

  /** Whether something changed since the last check. */
  get staleCheck(): boolean {
    return this.check.isBehind(this.clock.version);
  }

  get outbox() {
    return this.edits.outbox;
  }

  async load() {
    try {
      await Promise.all([this.#snapshot(true), this.check.load()]);
      this.loaded = true;
      this.clock.listen();
      this.queue.told();
      this.ledger.told();
      whenIdle(() => void this.loadOthers());
    } catch (error) {
      this.missing = error instanceof ApiError && error.problem.status === 404;
      if (this.missing) return;
      this.#trouble(error);
      if (!this.#closed) this.#loadAgain = setTimeout(() => void this.load(), 2000);
    }
  }

  /** Take the whole project: what is not in it any more is gone from here too. */
  async #snapshot(picked_alone: boolean) {
    const got = await ok(api.GET('/api/projects/{project_id}', { params: { path: { project_id: this.id }, query: { picked_alone } } }));
    this.clock.begin(got.version);
    this.#others = null;
    if (!picked_alone) this.whole = true;
    this.clear();
    this.put(got.rows as Rows);
    this.pictures = new Map((got.pictures as Picture[]).map((p) => [p.sha, p]));
    this.undoLabel = got.undo_label;
    this.redoLabel = got.redo_label;
    this.#keepCurrent();
    if (this.reading) this.readStory();
    if (this.loaded) this.clock.listen();
  }

  /** The takes that are not picked come after the first paint: there may be thousands. A view that shows them asks for them at once. */
  loadOthers(): Promise<void> {
    return (this.#others ??= this.#loadOthers().catch((x) => {
      this.#others = null;
      this.#trouble(x);
    }));
  }

  async #loadOthers() {
    const taken = this.clock.taken;
    const got = await ok(api.GET('/api/projects/{project_id}/others', { params: { path: { project_id: this.id } } }));
    if (taken !== this.clock.taken) return this.loadOthers();
    const still = <T extends AnyRow>(rows: T[]) => rows.filter((r) => !this.clock.touchedAfter(r.id, got.version));
    const rows = got.rows as Rows;
    this.takes = merged(this.takes, still(rows.take ?? []));
    this.marks = merged(this.marks, still(rows.mark ?? []));
    this.faultMarks = merged(this.faultMarks, still(rows.fault_mark ?? []));
    this.show(got.pictures as Picture[]);
    this.whole = true;
  }

  close() {
    this.#closed = true;
    this.clock.rest();
    this.outbox.close();
    clearTimeout(this.#readAgain);
    clearTimeout(this.#loadAgain);
    this.findings.close();
    this.standings.close();
    this.queue.close();
    this.ledger.close();
    this.presence.close();
  }

  /** Send a change; null on trouble, which is told. */
  send(make: (theirs?: Theirs) => Answer): Promise<Changed | null> {
    return this.edits.send(make);
  }

  /** Change a row as it is seen here; a conflict shows both versions. */
  edit(row: AnyRow, make: (revision: number) => Answer): Promise<Changed | null> {
    return this.edits.editAll([row], (revisions) => make(revisions[row.id]!));
  }

  /** Change several rows as they are seen here; `make` gets their revisions by id. */
  editAll(rows: AnyRow[], make: (revisions: Record<string, number>) => Answer): Promise<Changed | null> {
    return this.edits.editAll(rows, make);
  }

  /** Take what an own request did. */
  async receive(changed: Changed) {
    await this.clock.receive({ ...changed, rows: changed.rows ?? {}, gone: changed.gone ?? {}, pictures: changed.pictures ?? [] }).catch((x) => this.#trouble(x));
  }

  /** Put rows in and take rows out, as they come by the clock. */
  apply(changed: Changed) {
    const tables = [...Object.entries(changed.rows), ...Object.entries(changed.gone)].filter(([, v]) => v?.length).map(([t]) => t);
    if (changed.since + 1 === changed.version)
      for (const [table, rows] of Object.entries(changed.rows))
        for (const row of (rows ?? []) as AnyRow[]) this.edits.noteStep(this.held(table, row.id), row, changed.version);
    const readAgain = this.reading !== null && this.#concernsText(changed);
    this.take(changed);
    this.undoLabel = changed.undo_label;
    this.redoLabel = changed.redo_label;
    if (readAgain) this.readStory();
    this.findings.changed(tables);
    this.standings.changed(tables);
    if (tables.includes('service')) this.queue.told();
    if (tables.includes('take')) this.ledger.told();
    this.check.moved(changed.since, changed.version, tables);
    this.#keepCurrent();
  }

  /** Whether a change touches the text, whom it names, or which of its words are covered. */
  #concernsText({ rows, gone }: Changed): boolean {
    if (gone.shot?.length || gone.thread?.length || rows.thread?.length) return true;
    const text = rows.project?.[0];
    if (text && (text.text_revision !== this.row?.text_revision || text.syntax !== this.row.syntax)) return true;
    return (rows.shot ?? []).some((now) => {
      const was = this.shots.get(now.id);
      return !was || COVERS.some((k) => was[k] !== now[k]) || was.status !== now.status;
    });
  }

  #keepCurrent() {
    if (!this.currentId || !this.shots.has(this.currentId)) this.currentId = this.order[0]?.id ?? null;
  }

  /** Read the text again soon; many changes at once are one reading. */
  readStory(wait_ms = 250) {
    clearTimeout(this.#readAgain);
    this.#readAgain = setTimeout(() => void this.loadStory().catch((x) => this.#trouble(x)), wait_ms);
  }

  async loadStory() {
    this.reading = (await ok(api.GET('/api/projects/{project_id}/story', { params: { path: { project_id: this.id } } }))) as Reading;
  }

  async undo() {
    if (!this.undoLabel) return notices.say('There is nothing to undo.');
    const done = await this.send(() => api.POST('/api/projects/{project_id}/undo', { params: { path: { project_id: this.id } } }));
    if (done) notices.say(`Undone: ${done.label}`);
  }

  async redo() {
    if (!this.redoLabel) return notices.say('There is nothing to redo.');
    const done = await this.send(() => api.POST('/api/projects/{project_id}/redo', { params: { path: { project_id: this.id } } }));
    if (done) notices.say(`Done again: ${done.label}`);
  }

  /** Change facts of a shot as it is seen here. */
  editShot(shot: Shot, values: ShotFacts) {
    return this.edit(shot, (revision) =>
      api.PATCH('/api/projects/{project_id}/shots/{shot_id}', {
        params: { path: { project_id: this.id, shot_id: shot.id } },
        body: { ...values, revision },
      }),
    );
  }

  /** Change facts of the project itself. */
  async editProject(values: ProjectFacts) {
    if (!this.row) return null;
    return this.edit(this.row, (revision) =>
      api.PATCH('/api/projects/{project_id}', {
        params: { path: { project_id: this.id } },
        body: { ...values, revision },
      }),
    );
  }

  /** Mark figures where they are proposed, in one step. */
  async confirm(proposals: Proposed[]): Promise<Changed | null> {
    const boxes = asMarks(proposals);
    if (!boxes.length) return null;
    return this.send(() => api.POST('/api/projects/{project_id}/standings/confirm', { params: { path: { project_id: this.id } }, body: { boxes } }));
  }

  /** Say that a figure is not in a take's picture. */
  async refuse(take: Take, thread_id: string): Promise<Changed | null> {
    return this.edit(take, (revision) =>
      api.POST('/api/projects/{project_id}/takes/{take_id}/not-here', { params: { path: { project_id: this.id, take_id: take.id } }, body: { thread_id, revision } }),
    );
  }

  /** Show a part of a take's clip; null is all of it. */
  trim(take: Take, part: [number, number] | null): Promise<Changed | null> {
    return this.edit(take, (revision) => api.PUT('/api/projects/{project_id}/takes/{take_id}/trim', { params: { path: { project_id: this.id, take_id: take.id } }, body: { part, revision } }));
  }

  /** Run a thread through some shots, or no longer. */
  run(thread_id: string, shot_ids: string[], on: boolean): Promise<Changed | null> {
    return this.send(() => api.PUT('/api/projects/{project_id}/threads/{thread_id}/run', { params: { path: { project_id: this.id, thread_id } }, body: { shot_ids, on } }));
  }

  /** Put or move a figure's mark in a take. */
  mark(take_id: string, thread_id: string, box: BoxPx): Promise<Changed | null> {
    const held = (this.marksByTake.get(take_id) ?? []).filter((m) => m.thread_id === thread_id);
    return this.editAll(held, (revisions) =>
      api.PUT('/api/projects/{project_id}/takes/{take_id}/marks', {
        params: { path: { project_id: this.id, take_id } },
        body: { thread_id, box, revision: held[0] ? revisions[held[0].id] : null },
      }),
    );
  }

  /** Let a finding stand; without a reason nothing happens. */
  async stand(finding_key: string, reason: string): Promise<Changed | null> {
    if (!reason.trim()) return null;
    return this.send(() => api.POST('/api/projects/{project_id}/stets', { params: { path: { project_id: this.id } }, body: { finding_key, reason } }));
  }

  /** Decide about findings in one step: let them stand for a reason, or put their shots down for a retake. */
  async decide(finding_keys: string[], verdict: 'stet' | 'retake', reason = ''): Promise<Changed | null> {
    if (!finding_keys.length || (verdict === 'stet' && !reason.trim())) return null;
    const seen: Record<string, number> = {};
    for (const key of finding_keys) {
      const known = this.decidedByKey.get(key);
      if (known) seen[key] = known.revision;
    }
    return this.send((theirs) => {
      if (theirs?.revision && typeof theirs.finding_key === 'string') seen[theirs.finding_key] = theirs.revision;
      return api.POST('/api/projects/{project_id}/decisions', { params: { path: { project_id: this.id } }, body: { finding_keys, verdict, reason, seen } });
    });
  }

  /** Take back what was decided about a finding. */
  async unstand(finding_key: string): Promise<Changed | null> {
    const held = this.decidedByKey.get(finding_key);
    if (!held) return null;
    return this.send(() => api.DELETE('/api/projects/{project_id}/stets/{stet_id}', { params: { path: { project_id: this.id, stet_id: held.id } } }));
  }

  step(by: number) {
    const at = Math.min(this.order.length - 1, Math.max(0, this.currentIndex + by));
    this.currentId = this.order[at]?.id ?? null;
  }

  /** A page that is left lets its connection go: a browser has few for one address. Back again, it catches up. */
  rest() {
    this.clock.rest();
  }

  wake() {
    if (this.loaded && !this.clock.listening) this.clock.listen();
  }

  #checkTold(status: CheckStatus) {
    this.outbox.answered();
    if (!this.check.told(status)) return;
    void this.check.load().catch((x) => this.#trouble(x));
    this.findings.again(0);
    if (status.state === 'failed') notices.say(status.message, 'trouble');
  }

  #trouble(error: unknown) {
    if (isAway(error)) {
      // Nobody answers: what is read is asked for again, and one notice is enough.
      this.outbox.missed(error);
      if (this.reading) this.readStory(AGAIN_LATER_MS);
      this.findings.changed(['project'], AGAIN_LATER_MS);
      return;
    }
    notices.say(error instanceof Error ? error.message : String(error), 'trouble');
  }
}

/** Do something once the page has been drawn and has nothing better to do. */
function whenIdle(what: () => void) {
  if (typeof requestIdleCallback === 'undefined') setTimeout(what);
  else requestIdleCallback(what, { timeout: 1500 });
}
