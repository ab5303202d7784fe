import { api, ok, type BoxPx, type SpotStatus, type Standing } from '../api/client';

/** Tables that who stands where depends on. */
const TABLES = new Set(['take', 'mark', 'bead', 'shot', 'reference', 'thread']);
const REST_MS = 300;
/** While pictures are looked through, a project with many waits so much longer for each before it is read again. */
const BIG_MS = 10;

/** A proposal: who stands in a take, where, and how sure that is. */
export interface Proposed extends Standing {
  take: string;
  /** Take and figure: it stays the same while the proposal is mended. */
  key: string;
}

/** Boxes that wait for the user's word, and how looking for them goes. */
export class StandingsState {
  byTake = $state.raw(new Map<string, Proposed[]>());
  /** Takes that nobody has looked through yet. */
  unseen = $state(0);
  status = $state.raw<SpotStatus>({ done: 0, total: 0, message: '' });
  readonly #extra = new Set<string>();
  #timer: ReturnType<typeof setTimeout> | undefined;
  #due = 0;
  #wanted = false;
  /** Readings asked for, and the latest that was answered: one that was overtaken is not taken any more. */
  #asked = 0;
  #taken = 0;

  readonly running = $derived(this.status.done < this.status.total);
  readonly all = $derived([...this.byTake.values()].flat());
  readonly found = $derived(this.all.filter((p) => p.answer === 'found'));
  readonly doubtful = $derived(this.all.filter((p) => p.answer === 'doubtful'));

  constructor(
    private readonly projectId: string,
    private readonly trouble: (error: unknown) => void,
  ) {}

  of(take: string): Proposed[] {
    return this.byTake.get(take) ?? [];
  }

  /** From now on it is kept fresh, for picked takes and for these. */
  want(takes: string[] = []) {
    const fresh = takes.filter((t) => !this.#extra.has(t));
    for (const take of fresh) this.#extra.add(take);
    if (this.#wanted && !fresh.length) return;
    this.#wanted = true;
    this.again(0);
  }

  /** Have these takes looked through, or all picked ones; what is known is not looked for again. */
  async look(takes: string[] | null) {
    try {
      this.status = (await ok(
        api.POST('/api/projects/{project_id}/standings/look', { params: { path: { project_id: this.projectId } }, body: { take_ids: takes } }),
      )) as SpotStatus;
    } catch (error) {
      this.trouble(error);
    }
  }

  async stop() {
    this.status = (await ok(api.POST('/api/projects/{project_id}/standings/stop', { params: { path: { project_id: this.projectId } } }))) as SpotStatus;
  }

  changed(tables: string[]) {
    if (this.#wanted && tables.some((t) => TABLES.has(t))) this.again();
  }

  /** The server told how looking goes. */
  told(status: SpotStatus) {
    this.status = status;
    if (this.#wanted) this.again(this.running ? REST_MS + BIG_MS * this.byTake.size : REST_MS);
  }

  /** Read again after a while; what is due sooner stays due. */
  again(wait_ms = REST_MS) {
    const due = Date.now() + wait_ms;
    if (this.#timer !== undefined && this.#due <= due) return;
    clearTimeout(this.#timer);
    this.#due = due;
    this.#timer = setTimeout(() => {
      this.#timer = undefined;
      void this.load().catch(this.trouble);
    }, wait_ms);
  }

  async load() {
    const asked = ++this.#asked;
    const got = await ok(
      api.GET('/api/projects/{project_id}/standings', {
        params: { path: { project_id: this.projectId }, query: { take_id: [...this.#extra].slice(-200) } },
      }),
    );
    if (asked < this.#taken) return;
    this.#taken = asked;
    this.byTake = new Map(got.takes.map((t) => [t.take_id, t.figures.map((f) => ({ ...f, take: t.take_id, key: `${t.take_id} ${f.figure}` }))]));
    this.unseen = got.unseen;
    this.status = got.status;
  }

  close() {
    clearTimeout(this.#timer);
  }
}

/** The boxes of proposals as they are confirmed. */
export function asMarks(proposals: Proposed[]): { take_id: string; thread_id: string; box: BoxPx }[] {
  return proposals.flatMap((p) => (p.box ? [{ take_id: p.take, thread_id: p.figure, box: p.box }] : []));
}
