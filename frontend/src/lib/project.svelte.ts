import {
  api,
  ApiError,
  ok,
  type Bead,
  type BoxPx,
  type Beat,
  type Changed,
  type CheckStatus,
  type KeyedFinding,
  type Mark,
  type Picture,
  type Planned,
  type PlanFinding,
  type Project,
  type Reading,
  type Reference,
  type Rows,
  type Scene,
  type Shot,
  type Stet,
  type Take,
  type Thread,
  type Trait,
} from '../api/client';
import { Clock } from './clock.svelte';
import { FlightState } from './flight.svelte';
import { notices } from './notices.svelte';
import { isAway, Outbox } from './outbox.svelte';
import { columnOrder, grouped, inOrder } from './order';
import { asMarks, StandingsState, type Proposed } from './standings.svelte';

type Table = keyof Rows;
type AnyRow = { id: string; revision: number };
/** An answer of the API; its tuples come untyped through the client, so the row types are stated here once. */
type Answer = Promise<{ data?: unknown; error?: unknown; response: Response }>;
/** A row as the other editor left it. */
type Theirs = Record<string, unknown> & { id?: string; revision?: number; text_revision?: number };

export interface ConflictStates {
  mine: Record<string, unknown>;
  theirs: Theirs;
  /** Send what was written here over their state. */
  over: () => Promise<unknown>;
  /** Told when one of the versions was chosen. */
  settled?: () => void;
}

const PLAN_TABLES = new Set(['project', 'shot', 'scene', 'bead', 'thread']);
/** Tables that no check looks at. */
const NOT_CHECKED = new Set(['stet', 'library_picture', 'duel', 'beat']);
const AGAIN_LATER_MS = 3000;
const NEVER: CheckStatus = { state: 'never', done: 0, total: 0, measured: 0, message: '', at: null };

/** One project as the window holds it: its rows, kept in step with the server, and what is derived from them. */
export class ProjectState {
  loaded = $state(false);
  missing = $state(false);
  title = $state('');
  text = $state('');
  row = $state.raw<Project | null>(null);
  beatRows = $state.raw(new Map<string, Beat>());
  reading = $state.raw<Reading | null>(null);
  planned = $state.raw<Planned | null>(null);
  target_s = $state<number | null>(null);
  scenes = $state.raw(new Map<string, Scene>());
  shots = $state.raw(new Map<string, Shot>());
  threads = $state.raw(new Map<string, Thread>());
  references = $state.raw(new Map<string, Reference>());
  traits = $state.raw(new Map<string, Trait>());
  beads = $state.raw(new Map<string, Bead>());
  takes = $state.raw(new Map<string, Take>());
  marks = $state.raw(new Map<string, Mark>());
  stets = $state.raw(new Map<string, Stet>());
  pictures = $state.raw(new Map<string, Picture>());
  undoLabel = $state<string | null>(null);
  redoLabel = $state<string | null>(null);
  check = $state<CheckStatus>(NEVER);
  findings = $state.raw<KeyedFinding[]>([]);
  trouble = $state.raw<Record<string, string>>({});
  begins = $state.raw(new Map<string, string>());
  measured = $state.raw(new Map<string, number>());
  checkedAt = $state(0);
  conflict = $state<ConflictStates | null>(null);
  currentId = $state<string | null>(null);
  /** Whether something typed is not kept yet; views say so here. */
  readonly unkept = new Set<() => boolean>();
  readonly outbox = new Outbox();
  /** What own edits made of a row's revision: an edit that waited behind another goes on from it. */
  readonly #own = new Map<string, number>();
  /** The latest step of each row: its revision before and after, and the version that made it. */
  readonly #steps = new Map<string, { was: number; now: number; version: number }>();

  readonly story = $derived(inOrder(this.scenes.values(), this.shots.values()));
  readonly order = $derived(this.story.shots);
  readonly indexOf = $derived(new Map(this.order.map((s, i) => [s.id, i])));
  readonly columns = $derived(columnOrder(this.threads.values()));
  readonly length_s = $derived(this.order.reduce((sum, s) => sum + s.length_s, 0));
  readonly beadsByShot = $derived.by(() => {
    const by = new Map<string, Map<string, Bead>>();
    for (const bead of this.beads.values()) {
      let own = by.get(bead.shot_id);
      if (!own) by.set(bead.shot_id, (own = new Map()));
      own.set(bead.thread_id, bead);
    }
    return by;
  });
  readonly takesByShot = $derived(
    grouped([...this.takes.values()].sort((a, b) => a.position - b.position), (t) => t.shot_id),
  );
  readonly picked = $derived(
    new Map([...this.takes.values()].filter((t) => t.picked).map((t) => [t.shot_id, t] as const)),
  );
  readonly marksByTake = $derived(grouped(this.marks.values(), (m) => m.take_id));
  readonly referencesByThread = $derived(
    grouped([...this.references.values()].sort((a, b) => a.position - b.position), (r) => r.thread_id),
  );
  readonly traitsByThread = $derived(
    grouped([...this.traits.values()].sort((a, b) => a.position - b.position), (t) => t.thread_id),
  );
  readonly beats = $derived([...this.beatRows.values()].sort((a, b) => a.position - b.position));
  readonly proposed = $derived(this.order.filter((s) => s.status === 'proposed'));
  readonly lost = $derived(this.order.filter((s) => s.lost));
  readonly planOpen = $derived.by(() => (this.planned?.findings ?? []).filter((f) => !this.stetByKey.has(f.key)) as PlanFinding[]);
  readonly planStood = $derived.by(() => (this.planned?.findings ?? []).filter((f) => this.stetByKey.has(f.key)) as PlanFinding[]);
  readonly planByShot = $derived.by(() => grouped(this.planOpen, (f) => f.finding.shot));
  readonly plannedByShot = $derived.by(() => new Map((this.planned?.shots ?? []).map((s) => [s.shot_id, s])));
  readonly stetByKey = $derived(new Map([...this.stets.values()].map((s) => [s.finding_key, s] as const)));
  readonly open = $derived(this.findings.filter((f) => !this.stetByKey.has(f.key)));
  readonly stood = $derived(this.findings.filter((f) => this.stetByKey.has(f.key)));
  readonly openByShot = $derived(grouped(this.open, (f) => f.finding.shot));
  readonly stoodByShot = $derived(grouped(this.stood, (f) => f.finding.shot));
  readonly current = $derived(this.currentId ? (this.shots.get(this.currentId) ?? null) : null);
  readonly currentIndex = $derived(this.currentId ? (this.indexOf.get(this.currentId) ?? -1) : -1);

  readonly flight: FlightState;
  readonly standings: StandingsState;
  readonly clock: Clock;

  constructor(readonly id: string) {
    this.flight = new FlightState(id, (error) => this.#trouble(error));
    this.standings = new StandingsState(id, (error) => this.#trouble(error));
    this.clock = new Clock(id, {
      apply: (changed) => this.apply(changed),
      anew: () => this.#snapshot(false).catch((error) => this.#trouble(error)),
      check: (status) => this.#checkTold(status),
      standings: (status) => this.standings.told(status),
      gone: () => (this.missing = true),
      trouble: (error) => this.#trouble(error),
    });
  }

  get staleCheck(): boolean {
    return this.check.state === 'done' && this.clock.version !== this.checkedAt;
  }

  get version(): number {
    return this.clock.version;
  }

  async load() {
    try {
      await this.#snapshot(true);
      await this.loadFindings();
      this.loaded = true;
      this.clock.listen();
      whenIdle(() => void this.#loadOthers().catch((x) => this.#trouble(x)));
    } catch (error) {
      this.missing = error instanceof ApiError && error.problem.status === 404;
      if (this.missing) return;
      this.#trouble(error);
      if (!this.#closed) this.#loadAgain = setTimeout(() => void this.load(), 2000);
    }
  }

  #loadAgain: ReturnType<typeof setTimeout> | undefined;
  #closed = false;

  /** Take the whole project: what is not in it any more is gone from here too. */
  async #snapshot(picked_alone: boolean) {
    const got = await ok(api.GET('/api/projects/{project_id}', { params: { path: { project_id: this.id }, query: { picked_alone } } }));
    this.clock.begin(got.version);
    this.#clear();
    this.#put(got.rows as Rows);
    this.pictures = new Map((got.pictures as Picture[]).map((p) => [p.sha, p]));
    this.undoLabel = got.undo_label;
    this.redoLabel = got.redo_label;
    if (!this.currentId || !this.shots.has(this.currentId)) this.currentId = this.order[0]?.id ?? null;
    if (this.planned) this.refreshPlan();
    if (this.loaded) this.clock.listen();
  }

  /** The takes that are not picked come after the first paint: there may be thousands. */
  async #loadOthers() {
    const taken = this.clock.taken;
    const got = await ok(api.GET('/api/projects/{project_id}/others', { params: { path: { project_id: this.id } } }));
    if (taken !== this.clock.taken) return;
    const still = <T extends AnyRow>(rows: T[]) => rows.filter((r) => !this.clock.touchedAfter(r.id, got.version));
    this.takes = merged(this.takes, still(got.rows.take as Take[]));
    this.marks = merged(this.marks, still(got.rows.mark as Mark[]));
    if (!got.pictures.length) return;
    const next = new Map(this.pictures);
    for (const p of got.pictures as Picture[]) next.set(p.sha, p);
    this.pictures = next;
  }

  close() {
    this.#closed = true;
    this.clock.rest();
    this.outbox.close();
    clearTimeout(this.#planTimer);
    clearTimeout(this.#loadAgain);
    this.flight.close();
    this.standings.close();
  }

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
      } else this.#trouble(error);
      return null;
    }
  }

  /** Send the own side of a conflict over the other one; when somebody was quicker again, that is a new conflict of the same kind. */
  async keepMine(held: ConflictStates | null) {
    if (!held) return;
    if (await held.over()) held.settled?.();
    else if (this.conflict) this.conflict.settled ??= held.settled;
  }

  /** Change a row as it is seen here; a conflict shows both versions. */
  edit(row: AnyRow, make: (revision: number) => Answer): Promise<Changed | null> {
    return this.editAll([row], (revisions) => make(revisions[row.id]!));
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

  /** What an own change made of its rows' revisions: edits that waited behind it go on from there. */
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

  /** Take what an own request did. */
  async receive(changed: Changed) {
    await this.clock.receive({ ...changed, rows: changed.rows ?? {}, gone: changed.gone ?? {}, pictures: changed.pictures ?? [] }).catch((x) => this.#trouble(x));
  }

  /** Put rows in and take rows out, as they come by the clock. */
  apply(changed: Changed) {
    const tables = [...Object.entries(changed.rows), ...Object.entries(changed.gone)].filter(([, v]) => v?.length).map(([t]) => t);
    if (changed.since + 1 === changed.version) this.#noteSteps(changed);
    const wasFresh = this.check.state === 'done' && this.checkedAt === changed.since;
    this.#put(changed.rows);
    for (const [table, ids] of Object.entries(changed.gone)) this.#remove(table as Table, ids);
    if (changed.pictures?.length) {
      const next = new Map(this.pictures);
      for (const p of changed.pictures) next.set(p.sha, p);
      this.pictures = next;
    }
    this.undoLabel = changed.undo_label;
    this.redoLabel = changed.redo_label;
    if (this.planned && tables.some((t) => PLAN_TABLES.has(t))) this.refreshPlan();
    this.flight.changed(tables);
    this.standings.changed(tables);
    if (wasFresh && tables.every((t) => NOT_CHECKED.has(t))) this.checkedAt = changed.version;
    if (!this.currentId || !this.shots.has(this.currentId)) this.currentId = this.order[0]?.id ?? null;
  }

  #noteSteps(changed: Changed) {
    const held: Partial<Record<Table, Map<string, AnyRow>>> = {
      scene: this.scenes, beat: this.beatRows, shot: this.shots, thread: this.threads, reference: this.references, trait: this.traits,
      bead: this.beads, take: this.takes, mark: this.marks, stet: this.stets,
    };
    for (const [table, rows] of Object.entries(changed.rows))
      for (const row of (rows ?? []) as AnyRow[]) {
        const was = table === 'project' ? this.row?.revision : held[table as Table]?.get(row.id)?.revision;
        if (was !== undefined) this.#steps.set(row.id, { was, now: row.revision, version: changed.version });
      }
  }

  async loadFindings() {
    const got = await ok(api.GET('/api/projects/{project_id}/findings', { params: { path: { project_id: this.id } } }));
    this.check = got.status;
    this.findings = got.findings as KeyedFinding[];
    this.trouble = got.trouble;
    this.begins = new Map(got.threads.filter((t) => t.begins).map((t) => [t.thread_id, t.begins!]));
    this.measured = new Map(got.threads.map((t) => [t.thread_id, t.measured]));
    this.checkedAt = got.version;
  }

  #planTimer: ReturnType<typeof setTimeout> | undefined;

  /** Read the plan and the text again soon; many changes at once are one reading. */
  refreshPlan(wait_ms = 250) {
    clearTimeout(this.#planTimer);
    this.#planTimer = setTimeout(() => void this.loadPlan().catch((x) => this.#trouble(x)), wait_ms);
  }

  async loadPlan() {
    const params = { params: { path: { project_id: this.id } } };
    const [reading, planned] = await Promise.all([
      ok(api.GET('/api/projects/{project_id}/story', params)),
      ok(api.GET('/api/projects/{project_id}/plan', params)),
    ]);
    this.reading = reading as Reading;
    this.planned = planned as Planned;
  }

  async startCheck() {
    try {
      this.check = await ok(api.POST('/api/projects/{project_id}/check', { params: { path: { project_id: this.id } } }));
    } catch (error) {
      this.#trouble(error);
    }
  }

  async stopCheck() {
    this.check = await ok(api.POST('/api/projects/{project_id}/check/stop', { params: { path: { project_id: this.id } } }));
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
  editShot(shot: Shot, values: Partial<Shot>) {
    return this.edit(shot, (revision) =>
      api.PATCH('/api/projects/{project_id}/shots/{shot_id}', {
        params: { path: { project_id: this.id, shot_id: shot.id } },
        body: { ...values, revision } as never,
      }),
    );
  }

  /** Change facts of the project itself. */
  async editProject(values: Partial<Project>) {
    if (!this.row) return null;
    return this.edit(this.row, (revision) =>
      api.PATCH('/api/projects/{project_id}', {
        params: { path: { project_id: this.id } },
        body: { ...values, revision } as never,
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

  /** Let a finding or concern stand; without a reason nothing happens. */
  async stand(finding_key: string, reason: string): Promise<Changed | null> {
    if (!reason.trim()) return null;
    return this.send(() => api.POST('/api/projects/{project_id}/stets', { params: { path: { project_id: this.id } }, body: { finding_key, reason } }));
  }

  /** Take a stet back. */
  async unstand(finding_key: string): Promise<Changed | null> {
    const held = this.stetByKey.get(finding_key);
    if (!held) return null;
    return this.send(() => api.DELETE('/api/projects/{project_id}/stets/{stet_id}', { params: { path: { project_id: this.id, stet_id: held.id } } }));
  }

  step(by: number) {
    const at = Math.min(this.order.length - 1, Math.max(0, this.currentIndex + by));
    this.currentId = this.order[at]?.id ?? null;
  }

  bead(shot: string, thread: string): Bead | undefined {
    return this.beadsByShot.get(shot)?.get(thread);
  }

  number(shot: string): number {
    return (this.indexOf.get(shot) ?? -1) + 1;
  }

  pictureOf(shot: string): Picture | undefined {
    const take = this.picked.get(shot);
    return take && this.pictures.get(take.picture_sha);
  }

  /** The reference picture that stands for a thread: its anchor, else the heaviest; the newest version of it. */
  face(thread: string): Reference | undefined {
    const own = this.referencesByThread.get(thread) ?? [];
    const replaced = new Set(own.map((r) => r.replaces_id));
    const rank = (r: Reference) => (replaced.has(r.id) ? 0 : 4) + (r.anchor ? 2 : 0) + r.weight;
    return own.length ? own.reduce((a, b) => (rank(b) > rank(a) ? b : a)) : undefined;
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
    const known = status.state === this.check.state && status.at === this.check.at;
    this.check = status;
    if (known) return;
    if (['done', 'failed', 'stopped'].includes(status.state)) void this.loadFindings().catch((x) => this.#trouble(x));
    if (status.state === 'failed') notices.say(status.message, 'trouble');
  }

  #clear() {
    this.scenes = new Map();
    this.beatRows = new Map();
    this.shots = new Map();
    this.threads = new Map();
    this.references = new Map();
    this.traits = new Map();
    this.beads = new Map();
    this.takes = new Map();
    this.marks = new Map();
    this.stets = new Map();
  }

  #put(rows: Rows) {
    const project = rows.project?.[0];
    if (project) {
      this.title = project.title;
      this.text = project.text;
      this.target_s = project.target_s;
      this.row = project;
    }
    this.scenes = merged(this.scenes, rows.scene);
    this.beatRows = merged(this.beatRows, rows.beat);
    this.shots = merged(this.shots, rows.shot);
    this.threads = merged(this.threads, rows.thread);
    this.references = merged(this.references, rows.reference);
    this.traits = merged(this.traits, rows.trait);
    this.beads = merged(this.beads, rows.bead);
    this.takes = merged(this.takes, rows.take);
    this.marks = merged(this.marks, rows.mark);
    this.stets = merged(this.stets, rows.stet);
  }

  #remove(table: Table, ids: string[]) {
    const without = <T>(map: Map<string, T>) => {
      const next = new Map(map);
      for (const id of ids) next.delete(id);
      return next;
    };
    if (table === 'scene') this.scenes = without(this.scenes);
    else if (table === 'beat') this.beatRows = without(this.beatRows);
    else if (table === 'shot') this.shots = without(this.shots);
    else if (table === 'thread') this.threads = without(this.threads);
    else if (table === 'reference') this.references = without(this.references);
    else if (table === 'trait') this.traits = without(this.traits);
    else if (table === 'bead') this.beads = without(this.beads);
    else if (table === 'take') this.takes = without(this.takes);
    else if (table === 'mark') this.marks = without(this.marks);
    else if (table === 'stet') this.stets = without(this.stets);
  }

  #trouble(error: unknown) {
    if (isAway(error)) {
      // Nobody answers: what is read is asked for again, and one notice is enough.
      this.outbox.missed();
      if (this.planned) this.refreshPlan(AGAIN_LATER_MS);
      this.flight.changed(['project'], AGAIN_LATER_MS);
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

/** The map with newer rows put in; the same map when there are none. */
export function merged<T extends AnyRow>(map: Map<string, T>, rows: T[] | undefined): Map<string, T> {
  if (!rows?.length) return map;
  const next = new Map(map);
  for (const row of rows) {
    const held = next.get(row.id);
    if (!held || held.revision <= row.revision) next.set(row.id, row);
  }
  return next;
}
