import type { BoxPx, Take } from '../../api/client';
import type { ProjectState } from '../../lib/project.svelte';
import type { Proposed } from '../../lib/standings.svelte';

/**
 * Looking through who stands where: pictures in the order of the story, one shown large. What is found is confirmed all at once; what is
 * doubtful is asked one by one; a box that is dragged is confirmed where it was put.
 */
export class LookThrough {
  currentId = $state<string | null>(null);
  chosen = $state<string | null>(null);
  /** Figures that were confirmed here. */
  confirmed = $state(0);
  /** Who a drawn box is for: a figure that waits without a box. */
  drawFor = $state<string | null>(null);

  constructor(
    readonly project: ProjectState,
    /** The takes to look through; null for all that wait. */
    private readonly only: string[] | null = null,
  ) {
    project.standings.want(only ?? []);
  }

  readonly takes = $derived.by(() => {
    const { standings, takes, indexOf } = this.project;
    const ids = this.only ?? [...standings.byTake.keys()];
    const shown = ids.map((id) => takes.get(id)).filter((t): t is Take => !!t && (this.only !== null || standings.of(t.id).length > 0));
    return shown.sort((a, b) => (indexOf.get(a.shot_id) ?? 0) - (indexOf.get(b.shot_id) ?? 0) || a.position - b.position);
  });
  readonly proposals = $derived.by(() => this.takes.flatMap((t) => this.project.standings.of(t.id)));
  readonly found = $derived(this.proposals.filter((p) => p.answer === 'found' && p.box));
  readonly doubtful = $derived(this.proposals.filter((p) => p.answer === 'doubtful' && p.box));
  readonly absent = $derived(this.proposals.filter((p) => p.answer === 'absent' || !p.box));
  readonly current = $derived(this.takes.find((t) => t.id === this.currentId) ?? this.takes[0] ?? null);
  readonly here = $derived.by(() => (this.current ? this.project.standings.of(this.current.id) : []));
  /** The proposal that Y and N answer: the chosen one, else the first doubtful one here, else the first with a box. */
  readonly asked = $derived.by(() => {
    const boxed = this.here.filter((p) => p.box);
    return boxed.find((p) => p.key === this.chosen) ?? boxed.find((p) => p.answer === 'doubtful') ?? boxed[0] ?? null;
  });

  go(take: string | null) {
    this.currentId = take;
    this.chosen = null;
    this.drawFor = null;
  }

  step(by: number) {
    const at = this.takes.findIndex((t) => t.id === this.current?.id);
    const next = this.takes[Math.min(this.takes.length - 1, Math.max(0, at + by))];
    if (next) this.go(next.id);
  }

  /** The next picture with something doubtful, after this one and round again; with nothing doubtful left, whatever still waits. */
  onwards() {
    const at = Math.max(0, this.takes.findIndex((t) => t.id === this.current?.id));
    const round = [...this.takes.slice(at), ...this.takes.slice(0, at)];
    const waits = (t: Take, answer: string) => this.project.standings.of(t.id).some((p) => p.answer === answer && p.box);
    const next = round.find((t) => waits(t, 'doubtful')) ?? round.find((t) => waits(t, 'found'));
    if (next && next.id !== this.current?.id) this.go(next.id);
    else this.chosen = null;
  }

  /** Everything that is found, in one step. */
  async confirmAll(): Promise<boolean> {
    const all = this.found;
    if (!all.length || !(await this.#confirm(all))) return false;
    this.onwards();
    return true;
  }

  async yes(proposal: Proposed | null = this.asked): Promise<boolean> {
    if (!proposal) this.onwards();
    if (!proposal?.box || !(await this.#confirm([proposal]))) return false;
    this.onwards();
    return true;
  }

  async no(proposal: Proposed | null = this.asked): Promise<boolean> {
    const take = proposal && this.project.takes.get(proposal.take);
    if (!proposal) this.onwards();
    if (!proposal || !take || !(await this.project.refuse(take, proposal.figure))) return false;
    await this.project.standings.load();
    this.onwards();
    return true;
  }

  /** Put a figure where the user dragged or drew its box. */
  async put(figure: string, box: BoxPx) {
    if (!this.current) return;
    if (await this.project.mark(this.current.id, figure, box)) {
      this.confirmed += 1;
      this.drawFor = null;
      await this.project.standings.load();
    }
  }

  async #confirm(proposals: Proposed[]): Promise<boolean> {
    if (!(await this.project.confirm(proposals))) return false;
    this.confirmed += proposals.length;
    await this.project.standings.load();
    return true;
  }

  /** A key; true when it meant something here. */
  key(event: KeyboardEvent): boolean {
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    const { key } = event;
    if (key === 'ArrowDown' || key === 'ArrowRight') this.step(1);
    else if (key === 'ArrowUp' || key === 'ArrowLeft') this.step(-1);
    else if (key === 'Enter' && this.found.length) void this.confirmAll();
    else if (key === 'y') void this.yes();
    else if (key === 'n') void this.no();
    else if (key === '.' && this.doubtful.length) this.onwards();
    else return false;
    return true;
  }
}
