import { api, ok, type Finding, type Lineup } from '../../api/client';
import { isQuestion } from '../../lib/findings.svelte';
import { notices } from '../../lib/notices.svelte';
import { grouped, ranges } from '../../lib/order';
import type { ProjectState } from '../../lib/project.svelte';
import { brought } from '../../lib/pictures';

/** Stands for the findings that lie on no thread: those of single pictures. */
export const GENERAL = 'general';
/** Stands for the findings between two pictures. */
export const CUTS = 'cuts';
/** Stands for all findings, in the order of a review. */
export const REVIEW = 'review';

/** Where a finding is shown: between two pictures, on its thread, or on its picture. */
const homeOf = (f: Finding) => (f.before ? CUTS : (f.thread ?? GENERAL));

/** The Continuity view's behaviour: which finding is looked at, on which thread, and what the check told of it. */
export class ContinuityState {
  threadId = $state<string | null>(null);
  key = $state<string | null>(null);
  lineup = $state.raw<Lineup | null>(null);
  /** Whether a reason is being written to let the finding stand. */
  stetOpen = $state(false);

  readonly threads = $derived.by(() => this.project.columns);
  readonly thread = $derived.by(() => (this.threadId ? this.project.threads.get(this.threadId) : undefined));
  /** What the check found, findings before questions, in the order of the story. */
  readonly all = $derived.by(() => {
    const { open, stood, again } = this.project.findings.check;
    return [...open, ...again, ...stood].sort((a, b) => Number(isQuestion(a)) - Number(isQuestion(b)) || this.project.number(a.shot) - this.project.number(b.shot));
  });
  /** The finding that is looked at; when an answer has made another of it, that one. */
  readonly found = $derived.by(() => {
    if (!this.key) return undefined;
    return this.all.find((f) => f.key === this.key) ?? this.all.find((f) => homeOf(f) === this.threadId && f.shot === this.project.currentId);
  });
  readonly general = $derived(this.all.filter((f) => homeOf(f) === GENERAL));
  readonly cuts = $derived(this.all.filter((f) => homeOf(f) === CUTS));
  /** What else was found on the thread. */
  readonly others = $derived.by(() => this.all.filter((f) => homeOf(f) === this.threadId && f.key !== this.found?.key));
  /** The shot that is looked at. */
  readonly shot = $derived.by(() => this.found?.shot ?? this.project.currentId);
  readonly #openByThread = $derived.by(() => grouped(this.project.findings.check.open, homeOf));
  /** The anchor that the looked-at picture is held against. */
  readonly anchors = $derived.by(() => {
    const costume = this.lineup?.cells.find((c) => c.shot_id === this.shot)?.costume;
    const all = this.lineup?.anchors ?? [];
    const own = all.find((a) => a.costume === costume) ?? all[0];
    return own ? [own] : [];
  });
  /** In which costume the thread runs through which shots, in words. */
  readonly costumes = $derived.by(() => {
    const cells = this.lineup?.cells ?? [];
    const shots = (of: typeof cells) => `shots ${ranges(of.map((c) => this.project.number(c.shot_id)))}`;
    const by = grouped(cells, (c) => c.costume);
    if (by.size < 2) return cells.length ? shots(cells) : '';
    return [...by].map(([name, own]) => `${name || 'usual costume'}, ${shots(own)}`).join(' · ');
  });

  /** The pictures of a character's shots in which nobody is marked as it, and nobody said that it is not there, in words; empty where there are none, and
   * without references, as nobody can be checked then. */
  readonly unmarked = $derived.by(() => {
    const { project, threadId } = this;
    if (!threadId || this.thread?.kind !== 'character' || !project.referencesByThread.has(threadId)) return '';
    const left = project.order.filter((s) => {
      const take = project.bead(s.id, threadId) && project.picked.get(s.id);
      return take && !take.not_here.includes(threadId) && !(project.marksByTake.get(take.id) ?? []).some((m) => m.thread_id === threadId);
    });
    return left.length ? `${left.length === 1 ? 'shot' : 'shots'} ${ranges(left.map((s) => project.number(s.id)))}` : '';
  });

  constructor(readonly project: ProjectState) {}

  /** How many findings are open on a thread. */
  open(thread: string): number {
    return (this.#openByThread.get(thread) ?? []).filter((f) => !isQuestion(f)).length;
  }

  /** How many questions are open on a thread. */
  asked(thread: string): number {
    return (this.#openByThread.get(thread) ?? []).filter(isQuestion).length;
  }

  isQuestion(f: Finding): boolean {
    return isQuestion(f);
  }

  has(key: string): boolean {
    return this.all.some((f) => f.key === key);
  }

  /** Begin with what there is to look at, once it is known: at the current shot, else the first, else the first thread. */
  begin() {
    if (this.threadId !== null || !this.project.findings.read) return;
    const first = this.all.find((f) => f.shot === this.project.currentId) ?? this.project.findings.check.open[0];
    if (first) this.show(first.key);
    else this.threadId = this.threads[0]?.id ?? GENERAL;
  }

  show(key: string) {
    const f = this.all.find((x) => x.key === key);
    if (!f) return;
    this.key = key;
    this.stetOpen = false;
    if (this.threadId !== REVIEW) this.threadId = homeOf(f);
    this.project.currentId = f.shot ?? null;
  }

  chooseThread(id: string) {
    this.threadId = id;
    this.key = null;
    this.stetOpen = false;
    const first = this.all.find((f) => homeOf(f) === id);
    if (first) this.show(first.key);
  }

  chooseShot(shot: string) {
    this.project.currentId = shot;
    this.key = this.all.find((f) => homeOf(f) === this.threadId && f.shot === shot)?.key ?? null;
    this.stetOpen = false;
  }

  /** The thread whose lineup is beside what is looked at: the chosen one, in a review that of the finding. */
  readonly lineupOf = $derived.by(() => (this.threadId === REVIEW ? this.found?.thread : this.threadId) ?? null);

  /** Read that lineup anew. */
  async read(): Promise<void> {
    const id = this.lineupOf;
    if (!id || id === GENERAL || id === CUTS) {
      this.lineup = null;
      return;
    }
    try {
      const path = { project_id: this.project.id, thread_id: id };
      const got = (await ok(api.GET('/api/projects/{project_id}/lineups/{thread_id}', { params: { path } }))) as Lineup;
      if (id === this.lineupOf) this.lineup = got;
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  /** Put another picture in the place of the one that is looked at, and check again. */
  async replace(file: File): Promise<void> {
    const { shot } = this;
    if (!shot) return;
    const sha = await brought(this.project.id, file);
    if (!sha) return;
    const path = { project_id: this.project.id, shot_id: shot };
    const done = await this.project.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/replace', { params: { path }, body: { sha, name: file.name } }));
    if (done) void this.project.check.start();
  }

  /** Put the shot of the finding that is looked at down for a retake. */
  async retake(): Promise<void> {
    if (this.found) await this.project.decide([this.found.key], 'retake');
  }

  /** What a key does here; false when it means nothing. */
  pressed(key: string): boolean {
    const at = this.all.findIndex((f) => f.key === this.found?.key);
    if (key === ']') this.show((this.all[at + 1] ?? this.all[0])?.key ?? '');
    else if (key === '[') this.show((this.all[at - 1] ?? this.all.at(-1))?.key ?? '');
    else if (key === 'ArrowDown' || key === 'ArrowUp') this.#stepThread(key === 'ArrowDown' ? 1 : -1);
    else if (key === 's' && this.found && !this.project.stetByKey.has(this.found.key)) this.stetOpen = true;
    else if (key === 't' && this.found) void this.retake();
    else return false;
    return true;
  }

  #stepThread(by: 1 | -1) {
    const ids = [REVIEW, ...this.threads.map((t) => t.id), ...(this.cuts.length ? [CUTS] : []), ...(this.general.length ? [GENERAL] : [])];
    const to = Math.min(ids.length - 1, Math.max(0, ids.indexOf(this.threadId ?? '') + by));
    this.chooseThread(ids[to] ?? GENERAL);
  }
}
