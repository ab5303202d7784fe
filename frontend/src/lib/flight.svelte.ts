import { api, ok, type Flight, type KeyedConcern, type Profile, type Stale } from '../api/client';
import { grouped } from './order';

/** Tables that a brief depends on. */
const BRIEF_TABLES = new Set(['project', 'shot', 'scene', 'thread', 'reference', 'trait', 'bead', 'take', 'stet']);
const REST_MS = 300;

/** What preflight says of the whole project, and which pictures were made from older references; read again after changes. */
export class FlightState {
  told = $state.raw<Flight | null>(null);
  profiles = $state.raw<Profile[]>([]);
  /** How often it was read: views that show one brief read it again with this. */
  read = $state(0);
  #timer: ReturnType<typeof setTimeout> | undefined;
  #wanted = false;

  readonly concernsByShot = $derived(new Map((this.told?.shots ?? []).map((s) => [s.shot_id, s.concerns as KeyedConcern[]] as const)));
  readonly open = $derived((this.told?.shots ?? []).flatMap((s) => (s.concerns as KeyedConcern[]).filter((k) => !k.stood)));
  readonly stale = $derived((this.told?.stale ?? []) as Stale[]);
  readonly staleByShot = $derived(grouped(this.stale.filter((s) => !s.stood), (s) => s.shot_id));

  constructor(
    private readonly projectId: string,
    private readonly trouble: (error: unknown) => void,
  ) {}

  openOf(shot: string): KeyedConcern[] {
    return (this.concernsByShot.get(shot) ?? []).filter((k) => !k.stood);
  }

  /** From now on it is kept fresh. */
  want() {
    if (this.#wanted) return;
    this.#wanted = true;
    this.again(0);
  }

  changed(tables: string[], wait_ms = REST_MS) {
    if (this.#wanted && tables.some((t) => BRIEF_TABLES.has(t))) this.again(wait_ms);
  }

  again(wait_ms = REST_MS) {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.load().catch(this.trouble), wait_ms);
  }

  async load() {
    const params = { params: { path: { project_id: this.projectId } } };
    const [told, profiles] = await Promise.all([
      ok(api.GET('/api/projects/{project_id}/preflight', params)),
      ok(api.GET('/api/projects/{project_id}/profiles', params)),
    ]);
    this.told = told as Flight;
    this.profiles = profiles as Profile[];
    this.read += 1;
  }

  close() {
    clearTimeout(this.#timer);
  }
}
