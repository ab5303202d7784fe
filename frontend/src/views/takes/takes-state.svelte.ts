import { api, type BoxPx, type FaultKind, type Take } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';

/** Somebody who was marked in a shot that the plan does not put them in. */
interface Stranger {
  thread: string;
  take: string;
  shot: string;
  box: BoxPx;
}

/** The Takes view's behaviour: one shot's pictures, and who stands where in them. */
export class TakesState {
  shownId = $state<string | null>(null);
  /** Whose box is drawn next: a place among `people`. */
  who = $state(0);
  /** The mark or proposal that is chosen. */
  chosen = $state<string | null>(null);
  asked = $state.raw<Stranger | null>(null);
  /** The next box marks a fault of this kind. */
  faulting = $state<FaultKind | null>(null);
  #looked = '';

  readonly shot = $derived.by(() => this.project.current);
  readonly takes = $derived.by(() => (this.shot ? (this.project.takesByShot.get(this.shot.id) ?? []) : []));
  readonly take = $derived.by<Take | undefined>(() => this.takes.find((t) => t.id === this.shownId) ?? this.takes.find((t) => t.picked) ?? this.takes[0]);
  readonly picture = $derived.by(() => this.take && this.project.pictures.get(this.take.picture_sha));
  readonly marks = $derived.by(() => (this.take ? (this.project.marksByTake.get(this.take.id) ?? []) : []));
  readonly markedIds = $derived(new Set(this.marks.map((m) => m.thread_id)));
  /** Figures have one number in every shot: characters first, then props, as on the Sheet. */
  readonly figures = $derived.by(() => ['character', 'prop'].flatMap((kind) => this.project.columns.filter((t) => t.kind === kind)));
  readonly numberOf = $derived(new Map(this.figures.map((t, i) => [t.id, i + 1])));
  /** Who can be marked; those whom the plan puts into the shot come first. */
  readonly people = $derived.by(() => [...this.figures].sort((a, b) => Number(!this.isHere(a.id)) - Number(!this.isHere(b.id))));
  readonly proposals = $derived.by(() => (this.take ? this.project.standings.of(this.take.id) : []));
  readonly placed = $derived(this.proposals.filter((p) => p.box));
  readonly faults = $derived.by(() => (this.take ? (this.project.faultsByTake.get(this.take.id) ?? []) : []));
  readonly boxes = $derived.by(() => [
    ...this.faults.map((f) => ({ ...f, label: f.kind, colour: '#c4372a' })),
    ...this.marks.map((m) => ({ ...m, label: this.#name(m.thread_id) })),
    ...this.placed.map((p) => ({ ...p.box!, id: p.key, label: this.#name(p.figure) + (p.answer === 'found' ? '' : '?'), proposed: true })),
  ]);

  constructor(readonly project: ProjectState) {}

  #name(thread: string): string {
    return this.project.threads.get(thread)?.name ?? '?';
  }

  /** Whether the plan puts somebody into the shot. */
  isHere(thread: string): boolean {
    return !!this.shot && !!this.project.bead(this.shot.id, thread);
  }

  proposal(thread: string) {
    return this.proposals.find((p) => p.figure === thread);
  }

  /** What is known of a figure's place in this picture, in a word or two. */
  inWords(thread: string): string {
    if (this.markedIds.has(thread)) return 'marked';
    if (this.take?.not_here.includes(thread)) return 'not there';
    const p = this.proposal(thread);
    if (p?.box) return p.answer === 'found' ? 'found' : 'this one?';
    if (p) return 'not found';
    return this.isHere(thread) && this.project.threads.get(thread)?.kind === 'character' ? 'to mark' : '';
  }

  /** Another shot is looked at. */
  begin() {
    this.shownId = null;
    this.chosen = null;
    this.asked = null;
    this.faulting = null;
  }

  /** The next box is drawn round the first character of the shot who is not marked. */
  awaitNext() {
    const unmarked = this.people.findIndex((p) => this.isHere(p.id) && p.kind === 'character' && !this.markedIds.has(p.id));
    this.who = Math.max(0, unmarked);
  }

  /** Whom the plan puts here, and nobody has marked, is looked for: once for each take and each such cast. */
  look() {
    const { take } = this;
    this.project.standings.want(take && !take.picked ? [take.id] : []);
    const open = this.people.filter((p) => this.isHere(p.id) && !this.markedIds.has(p.id) && this.project.referencesByThread.has(p.id));
    const what = take && open.length ? `${take.id} ${open.map((p) => p.id).join(' ')}` : '';
    if (!take || !what || what === this.#looked) return;
    this.#looked = what;
    void this.project.standings.look([take.id]);
  }

  /** A box was drawn: it marks whoever is next. Somebody whom the plan does not put here is asked about first. */
  draw(box: BoxPx) {
    if (this.faulting && this.take) return void this.#markFault(this.take.id, this.faulting, box);
    const thread = this.people[this.who];
    if (!thread || !this.take || !this.shot) return notices.say('Make a character first: its box needs a name.', 'trouble');
    if (this.isHere(thread.id)) return void this.project.mark(this.take.id, thread.id, box);
    this.asked = { thread: thread.id, take: this.take.id, shot: this.shot.id, box };
  }

  #markFault(take_id: string, kind: FaultKind, box: BoxPx) {
    this.faulting = null;
    return this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/faults', { params: { path: { project_id: this.project.id, take_id } }, body: { kind, box, note: '' } }));
  }

  /** Put the one who was asked about into the shot, and mark them. */
  async putThere() {
    const put = this.asked;
    this.asked = null;
    if (!put) return;
    if (await this.project.run(put.thread, [put.shot], true)) await this.project.mark(put.take, put.thread, put.box);
  }

  /** A box was dragged: a proposal is confirmed where it was put. */
  move(id: string, box: BoxPx) {
    const fault = this.faults.find((f) => f.id === id);
    if (fault) {
      const path = { project_id: this.project.id, fault_mark_id: id };
      return void this.project.edit(fault, (revision) => api.PATCH('/api/projects/{project_id}/faults/{fault_mark_id}', { params: { path }, body: { kind: fault.kind, note: fault.note, box, revision } }));
    }
    const figure = this.marks.find((m) => m.id === id)?.thread_id ?? this.proposals.find((p) => p.key === id)?.figure;
    if (figure && this.take) void this.project.mark(this.take.id, figure, box);
  }

  /** Say no to the proposal that is chosen, else to the first. */
  refuse() {
    const refused = this.placed.find((p) => p.key === this.chosen) ?? this.placed[0];
    if (refused && this.take) void this.project.refuse(this.take, refused.figure);
  }

  unmark(mark_id: string) {
    this.chosen = null;
    return this.project.send(() => api.DELETE('/api/projects/{project_id}/marks/{mark_id}', { params: { path: { project_id: this.project.id, mark_id } } }));
  }

  /** Take the chosen box away, be it a mark or a proposal. */
  dropChosen() {
    if (!this.chosen) return;
    if (this.faults.some((f) => f.id === this.chosen)) void this.#unmarkFault(this.chosen);
    else if (this.placed.some((p) => p.key === this.chosen)) this.refuse();
    else void this.unmark(this.chosen);
  }

  #unmarkFault(fault_mark_id: string) {
    this.chosen = null;
    return this.project.send(() => api.DELETE('/api/projects/{project_id}/faults/{fault_mark_id}', { params: { path: { project_id: this.project.id, fault_mark_id } } }));
  }

  pick() {
    const { take } = this;
    if (take && !take.picked)
      void this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/pick', { params: { path: { project_id: this.project.id, take_id: take.id } } }));
  }

  remove(take_id: string) {
    return this.project.send(() => api.DELETE('/api/projects/{project_id}/takes/{take_id}', { params: { path: { project_id: this.project.id, take_id } } }));
  }

  /** Show the take before or after. */
  stepTake(by: 1 | -1) {
    const at = this.takes.findIndex((t) => t.id === this.take?.id) + by;
    this.shownId = this.takes[Math.min(this.takes.length - 1, Math.max(0, at))]?.id ?? null;
  }

  /** Go to the next shot, or the one before, that has a picture. */
  stepPicture(by: 1 | -1) {
    const { order, currentIndex, takesByShot } = this.project;
    for (let i = 1; i <= order.length; i++) {
      const other = order[(currentIndex + (by + order.length) * i) % order.length];
      if (other && takesByShot.has(other.id)) return void (this.project.currentId = other.id);
    }
  }

  /** What a key does here; false when it means nothing. */
  key(key: string, onButton: boolean): boolean {
    const numbered = this.people.findIndex((t) => this.numberOf.get(t.id) === Number(key));
    if (this.asked && (key === 'Enter' || key === 'y')) void this.putThere();
    else if (this.asked && (key === 'Escape' || key === 'n')) this.asked = null;
    else if (numbered >= 0) this.who = numbered;
    else if (key === '.' || key === ',') this.stepPicture(key === '.' ? 1 : -1);
    else if (key === 'p') this.pick();
    else if (key === 'Enter' && this.placed.length && !onButton) void this.project.confirm(this.placed);
    else if (key === 'n' && this.placed.length) this.refuse();
    else if (key === '[' || key === ']') this.stepTake(key === ']' ? 1 : -1);
    else if ((key === 'Delete' || key === 'Backspace') && this.chosen) this.dropChosen();
    else if (key === 'Escape') this.chosen = this.faulting = null;
    else if (key === 'ArrowDown' || key === 'ArrowUp') this.project.step(key === 'ArrowDown' ? 1 : -1);
    else return false;
    return true;
  }
}
