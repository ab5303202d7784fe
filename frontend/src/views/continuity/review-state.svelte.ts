import { api, ok, type Finding, type Review } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';

/** Reasons that are given most; their number lets a finding stand at once. */
export const REASONS = ['meant so', 'nobody sees it', 'the story wants it', 'the check errs', 'good enough'] as const;

const REST_MS = 700;

type ReviewGroup = Review['groups'][number];
type Band = Review['bands'][number];

/** A review: all findings in the order of their weight, grouped by what they come from, decided one after another with a key each. */
export class ReviewState {
  told = $state.raw<Review | null>(null);
  key = $state<string | null>(null);
  #asked = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  readonly #byKey = $derived.by(() => {
    const { open, stood, again } = this.project.findings.check;
    return new Map([...open, ...stood, ...again].map((f) => [f.key, f] as const));
  });
  /** Groups with their findings, as far as they are still there. */
  readonly groups = $derived.by(() =>
    (this.told?.groups ?? [])
      .map((g) => ({ ...g, findings: g.keys.flatMap((k) => this.#byKey.get(k) ?? []) }))
      .filter((g) => g.findings.length),
  );
  readonly order = $derived(this.groups.flatMap((g) => g.findings));
  readonly left = $derived(this.order.filter((f) => !this.#decided(f)));
  readonly found = $derived(this.order.find((f) => f.key === this.key));
  readonly group = $derived(this.groups.find((g) => g.findings.some((f) => f.key === this.key)));
  readonly bands = $derived(this.told?.bands ?? []);

  constructor(readonly project: ProjectState) {}

  async read(): Promise<void> {
    const asked = ++this.#asked;
    try {
      const got = await ok(api.GET('/api/projects/{project_id}/review', { params: { path: { project_id: this.project.id } } }));
      if (asked !== this.#asked) return;
      this.told = got as Review;
      if (!this.found) this.show(this.left[0] ?? this.order[0]);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  show(f: Finding | undefined) {
    this.key = f?.key ?? null;
    if (f) this.project.currentId = f.shot ?? null;
  }

  isDecided(f: Finding): boolean {
    return this.#decided(f);
  }

  /** What decisions taught is read again when the hand rests. */
  readSoon() {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.read(), REST_MS);
  }

  /** Go on to what is left to decide. */
  next() {
    this.readSoon();
    this.show(this.#after(new Set(this.key ? [this.key] : [])));
  }

  step(by: 1 | -1) {
    const at = this.order.findIndex((f) => f.key === this.key);
    this.show(this.order[(at + by + this.order.length) % this.order.length]);
  }

  /** The findings of the group that are still open: what a decision about the group is about. */
  openOf(group: (ReviewGroup & { findings: Finding[] }) | undefined): Finding[] {
    return (group?.findings ?? []).filter((f) => !this.#decided(f));
  }

  /** Decide about the finding, or about all of its group that are open, and go on to what is left. */
  async decide(verdict: 'stet' | 'retake', reason = '', whole = false): Promise<void> {
    const about = whole ? this.openOf(this.group) : this.found ? [this.found] : [];
    if (!about.length) return;
    const after = this.#after(new Set(about.map((f) => f.key)));
    // The next one is shown at once, so that a quick hand never decides twice about one.
    this.show(after);
    const done = await this.project.decide(about.map((f) => f.key), verdict, reason);
    if (!done) return this.show(about[0]);
    this.readSoon();
  }

  /** What a key does here; false when it means nothing. */
  pressed(key: string, shift: boolean): boolean {
    const reason = REASONS[Number(key) - 1];
    if (key === ']' || key === 'ArrowRight') this.step(1);
    else if (key === '[' || key === 'ArrowLeft') this.step(-1);
    else if (reason) void this.decide('stet', reason, shift);
    else if (key.toLowerCase() === 't') void this.decide('retake', '', shift || key === 'T');
    else return false;
    return true;
  }

  /** Use a learned band, or set it back to what it was. */
  async use(band: Band, used: boolean): Promise<void> {
    const rest = (this.project.row?.unlearned ?? []).filter((u) => u.thread_id !== band.thread_id || u.term !== band.term);
    const unlearned = used ? rest : [...rest, { thread_id: band.thread_id, term: band.term }];
    if (await this.project.editProject({ unlearned })) {
      await this.read();
      void this.project.check.start();
    }
  }

  /** The next open finding after those: in this order, else from the beginning. */
  #after(gone: Set<string>): Finding | undefined {
    const at = this.order.findIndex((f) => f.key === this.key);
    const ring = [...this.order.slice(at), ...this.order.slice(0, at)];
    return ring.find((f) => !gone.has(f.key) && !this.#decided(f)) ?? ring.find((f) => gone.has(f.key));
  }

  #decided(f: Finding): boolean {
    return this.project.decidedByKey.has(f.key);
  }
}
