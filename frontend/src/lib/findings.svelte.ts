import { api, ok, type Finding, type Lengths, type ShotPlanned, type Source, type FindingsSince } from '../api/client';
import { grouped } from './order';
import type { ProjectRows } from './rows.svelte';

const SOURCES: Source[] = ['check', 'plan', 'brief', 'reference', 'take', 'viewer'];
/** Tables that something to look at depends on. */
const TABLES = new Set(['project', 'shot', 'scene', 'thread', 'reference', 'trait', 'bead', 'take']);
const REST_MS = 250;

/** Whether a finding asks instead of telling. */
export const isQuestion = (f: { kind: string }) => f.kind.endsWith('_doubtful');

/** The findings of one source: those that are open, those that were let stand, and those whose pictures are to be made again. */
export interface Sourced {
  open: Finding[];
  stood: Finding[];
  again: Finding[];
  openByShot: Map<string, Finding[]>;
  stoodByShot: Map<string, Finding[]>;
}

/** All that there is to look at in a project, from every room; read again after changes, and then only what changed of it. */
export class FindingsState {
  lengths = $state.raw<Lengths | null>(null);
  /** What each shot needs. */
  needs = $state.raw(new Map<string, ShotPlanned>());
  /** How often it was read: views that show one brief read it again with this. */
  read = $state(0);
  #groups = $state.raw(new Map<string, Finding[]>());
  #mark = '';
  #timer: ReturnType<typeof setTimeout> | undefined;
  #wanted = false;

  readonly #bySource = $derived.by(() => {
    const order = (f: Finding) => this.rows.indexOf.get(f.shot ?? '') ?? -1;
    const all = [...this.#groups.values()].flat();
    const by = grouped(all, (f) => f.source);
    return new Map(SOURCES.map((source) => [source, (by.get(source) ?? []).sort((a, b) => order(a) - order(b))]));
  });
  readonly check = $derived(this.#sourced('check'));
  readonly plan = $derived(this.#sourced('plan'));
  readonly brief = $derived(this.#sourced('brief'));
  readonly reference = $derived(this.#sourced('reference'));
  readonly take = $derived(this.#sourced('take'));
  readonly viewer = $derived(this.#sourced('viewer'));

  constructor(
    private readonly projectId: string,
    private readonly rows: ProjectRows,
    private readonly trouble: (error: unknown) => void,
  ) {}

  /** From now on it is kept fresh. */
  want() {
    if (this.#wanted) return;
    this.#wanted = true;
    this.again(0);
  }

  changed(tables: string[], wait_ms = REST_MS) {
    if (this.#wanted && tables.some((t) => TABLES.has(t))) this.again(wait_ms);
  }

  /** Read soon; many changes at once are one reading. */
  again(wait_ms = REST_MS) {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.load().catch(this.trouble), wait_ms);
  }

  async load() {
    const after = this.#mark;
    const told = await ok(api.GET('/api/projects/{project_id}/findings', { params: { path: { project_id: this.projectId }, query: { after } } }));
    if (after === this.#mark) this.put(told as FindingsSince);
  }

  put(told: FindingsSince) {
    const groups = new Map(told.anew ? [] : this.#groups);
    for (const g of told.groups) {
      const key = `${g.source} ${g.shot ?? ''}`;
      if (g.findings.length) groups.set(key, g.findings as Finding[]);
      else groups.delete(key);
    }
    const needs = new Map(told.anew ? [] : this.needs);
    for (const s of told.shots) needs.set(s.shot_id, s);
    this.#groups = groups;
    this.needs = needs;
    this.lengths = told.lengths;
    this.#mark = told.mark;
    this.read += 1;
  }

  close() {
    clearTimeout(this.#timer);
  }

  #sourced(source: Source): Sourced {
    const here = this.#bySource.get(source) ?? [];
    const open = here.filter((f) => !this.rows.decidedByKey.has(f.key));
    const stood = here.filter((f) => this.rows.stetByKey.has(f.key));
    const again = here.filter((f) => this.rows.decidedByKey.get(f.key)?.verdict === 'retake');
    return { open, stood, again, openByShot: grouped(open, (f) => f.shot ?? ''), stoodByShot: grouped(stood, (f) => f.shot ?? '') };
  }
}
