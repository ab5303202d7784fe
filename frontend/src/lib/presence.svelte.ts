import { uniqueName } from './without-tls';
import { api, ok, type Schemas } from '../api/client';
import { VIEW_NAMES, VIEWS } from './router.svelte';

export type Here = Schemas['Here'];
const SOON_MS = 150;

/** A random name for this window, by which others see it. */
export const WINDOW = uniqueName();

/** The other windows on this project: whose they are, in which view, at which shot. */
export class PresenceState {
  windows = $state.raw<Here[]>([]);
  readonly others = $derived(this.windows.filter((w) => w.window !== WINDOW));
  /** Who is at a shot, by its id. */
  readonly byShot = $derived(grouped(this.others));
  #soon: ReturnType<typeof setTimeout> | undefined;
  #said = '';

  constructor(private readonly projectId: string) {}

  told(windows: Here[]) {
    const came = !this.windows.some((w) => w.window === WINDOW) && windows.some((w) => w.window === WINDOW);
    this.windows = windows;
    if (came && this.#said) this.#say(this.#said); // The line was cut meanwhile: say it again.
  }

  /** This window is there now. */
  at(view: string, shot_id: string | null) {
    const said = JSON.stringify({ window: WINDOW, view, shot_id });
    if (said === this.#said) return;
    this.#said = said;
    clearTimeout(this.#soon);
    this.#soon = setTimeout(() => this.#say(said), SOON_MS);
  }

  close() {
    clearTimeout(this.#soon);
  }

  #say(said: string) {
    void ok(api.PUT('/api/projects/{project_id}/here', { params: { path: { project_id: this.projectId } }, body: JSON.parse(said) as Schemas['At'] })).catch(() => undefined);
  }
}

function grouped(windows: Here[]): Map<string, Here[]> {
  const found = new Map<string, Here[]>();
  for (const w of windows) if (w.shot_id) found.set(w.shot_id, [...(found.get(w.shot_id) ?? []), w]);
  return found;
}

export const nameOf = (w: Here) => w.name || 'Another window';
/** Two letters for a small sign. */
export function lettersOf(w: { name: string }): string {
  const words = w.name.split(/\s+/).filter(Boolean);
  return words.length ? words.slice(0, 2).map((x) => [...x][0]!.toLocaleUpperCase()).join('') : '□';
}
export const viewOf = (w: Here) => VIEW_NAMES[VIEWS.find((v) => v === w.view) ?? 'sheet'];
