import { api, ok, type BoxPx, type ContactSheet, type FaultKind, type FaultMark, type Score, type Take, type TakeReading } from '../../api/client';
import type { ProjectState } from '../../lib/project.svelte';

export const FAULTS: readonly [FaultKind, string][] = [
  ['hand', 'hand'], ['twice', 'there twice'], ['extra', 'not asked for'], ['missing', 'missing'], ['wrong person', 'wrong person'],
  ['leaked', 'leaked colour'], ['lettering', 'lettering'], ['border', 'border'], ['soft', 'soft'], ['other', 'other'],
];
/** Digits mark faults in the order of the list; 0 is the tenth. */
export const FAULT_KEYS = '1234567890';
const TECHNICAL: Record<string, string> = { border: 'Border', soft: 'Soft', form: 'Form' };
const MARK_PART = 0.12;
const REST_MS = 200;

/** What the takes are sorted by: as they were made (in groups), the worst of all, a thread, or technical faults. */
export type SortedBy = string;

/** A place in a take's picture, in parts of it. */
export interface Pointed {
  take: string;
  x: number;
  y: number;
}

/** A group of takes as it is shown. */
export interface Shown {
  title: string;
  detail: string;
  /** The number of the take that they come from. */
  from: number | null;
  takes: Take[];
}

/** A shot's contact sheet: its takes in groups or sorted, how each holds, and what a key does with the one that is chosen. */
export class ContactSheetState {
  sheet = $state.raw<ContactSheet | null>(null);
  sortedBy = $state<SortedBy>('made');
  withOut = $state(true);
  chosenId = $state<string | null>(null);
  pointed = $state.raw<Pointed | null>(null);
  /** The list of faults is open. */
  marking = $state(false);
  #loadedFor = '';
  #timer: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;

  readonly shot = $derived.by(() => this.project.current);
  readonly all = $derived.by(() => (this.shot ? (this.project.takesByShot.get(this.shot.id) ?? []) : []));
  readonly takes = $derived(this.withOut ? this.all : this.all.filter((t) => t.standing !== 'out' || t.picked));
  readonly numberOf = $derived(new Map(this.all.map((t, i) => [t.id, i + 1] as const)));
  readonly readings = $derived(new Map((this.sheet?.readings ?? []).map((r) => [r.take, r] as const)));
  readonly groups = $derived.by(() => this.#grouped());
  readonly shown = $derived(this.groups.flatMap((g) => g.takes));
  readonly chosen = $derived(this.shown.find((t) => t.id === this.chosenId) ?? this.shown.find((t) => t.picked) ?? this.shown[0]);
  readonly chosenAt = $derived(this.chosen ? this.shown.indexOf(this.chosen) : -1);
  readonly picked = $derived(this.all.find((t) => t.picked));
  /** Threads that are measured here, in the order of their first score. */
  readonly measured = $derived([...new Set((this.sheet?.readings ?? []).flatMap((r) => [...r.figures.map((f) => f.of), ...(r.style ? [r.style.of] : [])]))]);
  readonly jobs = $derived.by(() => (this.shot ? (this.project.queue.openByShot.get(this.shot.id) ?? []) : []));
  /** Pictures that were asked for and are still to come. */
  readonly coming = $derived(this.jobs.reduce((sum, j) => sum + Math.max(0, j.count - j.taken), 0));

  constructor(readonly project: ProjectState) {}

  #grouped(): Shown[] {
    const takes = this.takes;
    if (this.sortedBy !== 'made') {
      const value = (t: Take) => this.valueOf(t.id) ?? Infinity;
      return takes.length ? [{ title: '', detail: '', from: null, takes: [...takes].sort((a, b) => value(a) - value(b)) }] : [];
    }
    const left = new Map(takes.map((t) => [t.id, t] as const));
    const out: Shown[] = [];
    for (const g of this.sheet?.groups ?? []) {
      const own = g.take_ids.flatMap((id) => left.get(id) ?? []);
      for (const t of own) left.delete(t.id);
      if (own.length) out.push({ title: g.title, detail: g.detail, from: g.parent_id ? (this.numberOf.get(g.parent_id) ?? null) : null, takes: own });
    }
    if (left.size) out.push({ title: this.sheet ? 'Just came' : '', detail: '', from: null, takes: [...left.values()] });
    return out;
  }

  /** What a take is sorted by, lower is better; undefined while it is not measured. */
  valueOf(take: string): number | undefined {
    const r = this.readings.get(take);
    if (!r) return undefined;
    if (this.sortedBy === 'technical') return r.technical.reduce((sum, s) => sum + (s.value ?? 0), 0);
    if (this.sortedBy === 'worst' || this.sortedBy === 'made') return r.worst;
    const score = [...r.figures, ...(r.style ? [r.style] : [])].find((s) => s.of === this.sortedBy);
    return score ? (score.value ?? 9.9) : undefined;
  }

  /** The bars under a take: its figures, the style, and technical faults that it has. */
  bars(r: TakeReading): Score[] {
    const place = new Map(this.project.columns.map((t, i) => [t.id, i] as const));
    const figures = [...r.figures].sort((a, b) => (place.get(a.of) ?? 0) - (place.get(b.of) ?? 0));
    return [...figures, ...(r.style ? [r.style] : []), ...r.technical];
  }

  nameOf(of: string): string {
    return TECHNICAL[of] ?? this.project.threads.get(of)?.name ?? '?';
  }

  /** What is wrong with a take, in words. */
  says(r: TakeReading): string[] {
    return this.bars(r).flatMap((s) => s.says.map((words) => (s.verdict === 'unseen' ? `${this.nameOf(s.of)} ${words}` : words)));
  }

  /** Read the sheet again when its shot, its takes or its measures change. To be called in an effect. */
  follow() {
    const shot = this.shot?.id ?? '';
    const { gauged, marks, references, traits } = this.project;
    void [this.all.length, gauged, marks, references, traits];
    if (shot !== this.#loadedFor) {
      this.#loadedFor = shot;
      this.sheet = null;
      this.chosenId = null;
      this.marking = false;
    }
    clearTimeout(this.#timer);
    if (shot && this.all.length) this.#timer = setTimeout(() => void this.load(), this.sheet ? REST_MS : 0);
  }

  async load() {
    const shot = this.shot?.id;
    if (!shot) return;
    const asked = ++this.#asked;
    try {
      const got = await ok(api.GET('/api/projects/{project_id}/shots/{shot_id}/sheet', { params: { path: { project_id: this.project.id, shot_id: shot } } }));
      if (asked === this.#asked && shot === this.shot?.id) this.sheet = got as ContactSheet;
    } catch {
      // The sheet is read again with the next change; the pictures are there all the same.
    }
  }

  close() {
    clearTimeout(this.#timer);
  }

  pick(take = this.chosen) {
    if (!take || take.picked) return;
    void this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/pick', { params: { path: { project_id: this.project.id, take_id: take.id } } }));
  }

  /** Keep a take, or put it out; once more takes that back. The next one that is not sorted is chosen. */
  stand(standing: 'kept' | 'out', take = this.chosen) {
    if (!take) return;
    const now = take.standing === standing ? '' : standing;
    void this.project.send(() => api.PUT('/api/projects/{project_id}/takes/standing', { params: { path: { project_id: this.project.id } }, body: { take_ids: [take.id], standing: now } }));
    if (now) this.#goOn();
  }

  #goOn() {
    const at = this.chosenAt;
    const rest = [...this.shown.slice(at + 1), ...this.shown.slice(0, Math.max(0, at))];
    this.chosenId = (rest.find((t) => !t.standing && !t.picked) ?? this.shown[at + 1] ?? this.chosen)?.id ?? null;
  }

  /** Mark a fault where the pointer is, else in the middle of the chosen picture. */
  mark(kind: FaultKind) {
    const place = this.pointed ?? (this.chosen ? { take: this.chosen.id, x: 0.5, y: 0.5 } : null);
    const take = place && this.project.takes.get(place.take);
    const picture = take && this.project.pictures.get(take.picture_sha);
    this.marking = false;
    if (!place || !take || !picture) return;
    this.chosenId = take.id;
    void this.markAt(take, kind, around(place, picture.width, picture.height));
  }

  markAt(take: Take, kind: FaultKind, box: BoxPx, note = '') {
    return this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/faults', { params: { path: { project_id: this.project.id, take_id: take.id } }, body: { kind, box, note } }));
  }

  noteFault(fault: FaultMark, note: string) {
    const path = { project_id: this.project.id, fault_mark_id: fault.id };
    return this.project.edit(fault, (revision) => api.PATCH('/api/projects/{project_id}/faults/{fault_mark_id}', { params: { path }, body: { kind: fault.kind, note, revision } }));
  }

  unmark(fault_mark_id: string) {
    return this.project.send(() => api.DELETE('/api/projects/{project_id}/faults/{fault_mark_id}', { params: { path: { project_id: this.project.id, fault_mark_id } } }));
  }

  /** Take a take off its shot; its picture stays in the library, and undo brings it back. */
  remove(take = this.chosen) {
    if (!take) return;
    this.step(this.chosenAt === this.shown.length - 1 ? -1 : 1);
    return this.project.send(() => api.DELETE('/api/projects/{project_id}/takes/{take_id}', { params: { path: { project_id: this.project.id, take_id: take.id } } }));
  }

  step(by: number) {
    const at = Math.min(this.shown.length - 1, Math.max(0, this.chosenAt + by));
    this.chosenId = this.shown[at]?.id ?? null;
  }

  /** Go a line up or down, to the take nearest below or above; `perLine` takes stand in a line. */
  stepLine(by: 1 | -1, perLine: number) {
    const lines = this.groups.flatMap((g) => chunks(g.takes, perLine));
    const at = lines.findIndex((line) => line.some((t) => t.id === this.chosen?.id));
    const other = lines[at + by];
    const column = lines[at]?.findIndex((t) => t.id === this.chosen?.id) ?? 0;
    if (other) this.chosenId = other[Math.min(column, other.length - 1)]!.id;
  }

  /** What a key does here; false when it means nothing. */
  key(key: string, perLine: number): boolean {
    const fault = FAULT_KEYS.indexOf(key);
    if (fault >= 0 && key.length === 1 && (this.marking || this.pointed)) this.mark(FAULTS[fault]![0]);
    else if (this.marking && key === 'Escape') this.marking = false;
    else if (key === 'Enter') this.pick();
    else if (key === '+' || key === '=') this.stand('kept');
    else if (key === '-' || key === '−') this.stand('out');
    else if (key === '.') this.marking = !this.marking;
    else if (key === 'Delete') void this.remove();
    else if (key === 'ArrowRight' || key === 'ArrowLeft') this.step(key === 'ArrowRight' ? 1 : -1);
    else if (key === 'ArrowDown' || key === 'ArrowUp') this.stepLine(key === 'ArrowDown' ? 1 : -1, perLine);
    else return false;
    return true;
  }
}

/** A box around a place, within the picture. */
export function around(place: { x: number; y: number }, width: number, height: number): BoxPx {
  const side = MARK_PART * Math.max(width, height);
  const x = Math.min(width - side, Math.max(0, place.x * width - side / 2));
  const y = Math.min(height - side, Math.max(0, place.y * height - side / 2));
  return { x: Math.max(0, x), y: Math.max(0, y), w: Math.min(side, width), h: Math.min(side, height) };
}

export function chunks<T>(items: readonly T[], size: number): T[][] {
  const out: T[][] = [];
  for (let i = 0; i < items.length; i += Math.max(1, size)) out.push(items.slice(i, i + Math.max(1, size)));
  return out;
}
