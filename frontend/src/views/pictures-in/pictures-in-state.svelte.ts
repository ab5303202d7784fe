import { api, ok, sendFile, sendPicture, type TakenIn } from '../../api/client';
import type { NamedFile } from '../../lib/files';
import { notices } from '../../lib/notices.svelte';
import { patiently } from '../../lib/outbox.svelte';
import type { ProjectState } from '../../lib/project.svelte';

const AT_ONCE = 3;
const isBook = (name: string) => /\.(cbz|pdf)$/i.test(name);

/** Pictures coming in: each file by itself, so that a bad one harms no other; which shot each belongs to is shown before it is taken. */
export class PicturesInState {
  done = $state(0);
  stopped = $state(false);
  ready = $state(false);
  taken = $state<TakenIn[]>([]);
  /** The shot of each file by its name; empty for none. */
  target = $state<Record<string, string>>({});
  /** Why a file was matched to its shot. */
  reason = $state<Record<string, string>>({});
  /** The takes that were made, while the user says who stands where in them. */
  standing = $state<string[] | null>(null);
  /** Names of what are pages of a book. */
  readonly #pages = new Set<string>();

  readonly good = $derived(this.taken.filter((t) => t.sha));
  readonly bad = $derived(this.taken.filter((t) => !t.sha));
  readonly placed = $derived(this.good.filter((t) => this.target[t.name]));
  readonly sorted = $derived([...this.good].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })));

  constructor(
    readonly project: ProjectState,
    readonly files: NamedFile[],
    /** The shot that all were dropped on. */
    readonly shot: string | null = null,
  ) {}

  /** Send the files, some at a time, then match them to shots. */
  async read(): Promise<void> {
    const waiting = [...this.files];
    const work = async () => {
      for (let next = waiting.shift(); next && !this.stopped; next = waiting.shift()) {
        this.taken.push(...(await this.#sent(next)));
        this.done++;
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, work));
    if (this.stopped) return;
    await this.#match();
    this.ready = true;
  }

  stop() {
    this.stopped = true;
  }

  /** Make takes of the files that have a shot; returns whether that is all there is to do, false while somebody is still to be marked. */
  async accept(): Promise<boolean> {
    const files = this.placed.map((t) => ({ name: t.name, sha: t.sha!, shot_id: this.target[t.name]! }));
    const made = await this.project.send(() => api.POST('/api/projects/{project_id}/takes', { params: { path: { project_id: this.project.id } }, body: { files } }));
    if (!made) return false;
    const takes = made.rows.take ?? [];
    if (!takes.some((t) => this.#hasSomebodyToFind(t.shot_id))) return true;
    this.standing = takes.map((t) => t.id);
    return false;
  }

  /** What came of a file: a picture, or all pages of a comic archive or PDF. */
  async #sent({ file, name }: NamedFile): Promise<TakenIn[]> {
    try {
      if (isBook(name)) return await patiently(() => sendFile<TakenIn[]>(`/api/projects/${this.project.id}/book-pages`, file), () => this.stopped).then((pages) => this.#noted(pages));
      return [await patiently(() => sendPicture(this.project.id, file, name), () => this.stopped)];
    } catch (error) {
      return [{ name, sha: null, width: 0, height: 0, refused: (error as Error).message, told: '' }];
    }
  }

  #noted(pages: TakenIn[]): TakenIn[] {
    for (const page of pages) this.#pages.add(page.name);
    return pages;
  }

  async #match(): Promise<void> {
    // What is dropped on a shot belongs to it; the pages of a book belong to their shots wherever it is dropped.
    const here = this.shot ? this.good.filter((t) => !this.#pages.has(t.name)) : [];
    for (const t of here) {
      this.target[t.name] = this.shot!;
      this.reason[t.name] = 'dropped on this shot';
    }
    const others = this.good.filter((t) => !here.includes(t));
    if (!others.length) return;
    try {
      const body = { files: others.map((t) => ({ name: t.name, sha: t.sha! })) };
      for (const p of await ok(api.POST('/api/projects/{project_id}/takes/propose', { params: { path: { project_id: this.project.id } }, body }))) {
        this.target[p.name] = p.shot_id ?? '';
        this.reason[p.name] = p.reason;
      }
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  /** Whether the plan puts somebody into a shot whom references show. */
  #hasSomebodyToFind(shot: string): boolean {
    return [...(this.project.beadsByShot.get(shot)?.keys() ?? [])].some((id) => {
      const kind = this.project.threads.get(id)?.kind;
      return (kind === 'character' || kind === 'prop') && this.project.referencesByThread.has(id);
    });
  }
}
