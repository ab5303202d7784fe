import { api, ok, type LibraryItem, type LibraryPart } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';

export const PART = 200;
const REST_MS = 220;

/** The library: what is looked for, the parts of the answer that are here, and what is chosen. */
export class LibraryState {
  words = $state('');
  colour = $state('');
  like = $state('');
  thread = $state('');
  tag = $state('');
  binned = $state(false);
  total = $state(0);
  tags = $state.raw<string[]>([]);
  parts = $state.raw(new Map<number, LibraryItem[]>());
  chosen = $state.raw(new Set<string>());
  cursor = $state(0);
  loaded = $state(false);
  #asked = new Set<number>();
  #turn = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  readonly asking = $derived(!!(this.words || this.colour || this.like || this.thread || this.tag));
  readonly current = $derived.by(() => this.item(this.cursor));
  readonly chosenItems = $derived.by(() => {
    const all = [...this.parts.values()].flat().filter((i) => this.chosen.has(i.id));
    return all.length ? all : this.current ? [this.current] : [];
  });

  constructor(readonly project: ProjectState) {}

  item(index: number): LibraryItem | undefined {
    return this.parts.get(Math.floor(index / PART))?.[index % PART];
  }

  /** Ask anew, soon: typing is one question. */
  ask(wait_ms = REST_MS) {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => {
      this.#turn += 1;
      this.#asked.clear();
      this.parts = new Map();
      this.chosen = new Set();
      this.cursor = 0;
      void this.part(0);
    }, wait_ms);
  }

  /** The same question again, what is here staying until the answer comes. */
  async again() {
    this.#turn += 1;
    const wanted = [...this.#asked];
    this.#asked.clear();
    await Promise.all(wanted.map((n) => this.part(n)));
  }

  /** See that the parts which hold some places are here. */
  need(first: number, last: number) {
    for (let n = Math.floor(first / PART); n <= Math.floor(last / PART); n++) void this.part(n);
  }

  async part(n: number) {
    if (this.#asked.has(n) || (n > 0 && n * PART >= this.total)) return;
    this.#asked.add(n);
    const turn = this.#turn;
    const { words, colour, like, thread, tag, binned } = this;
    try {
      const got = (await ok(
        api.GET('/api/projects/{project_id}/library', {
          params: { path: { project_id: this.project.id }, query: { words, colour, like, thread, tag, binned, offset: n * PART, limit: PART } },
        }),
      )) as LibraryPart;
      if (turn !== this.#turn) return;
      this.parts = new Map(this.parts).set(n, got.items as LibraryItem[]);
      this.total = got.total;
      this.tags = got.tags;
      this.loaded = true;
    } catch (error) {
      this.#asked.delete(n);
      notices.say((error as Error).message, 'trouble');
    }
  }

  clear() {
    this.words = this.colour = this.like = this.thread = this.tag = '';
    this.ask(0);
  }

  choose(index: number, how: 'one' | 'more' | 'range') {
    const item = this.item(index);
    if (!item) return;
    if (how === 'one') this.chosen = new Set();
    else if (how === 'more') {
      const next = new Set(this.chosen);
      if (this.current && !next.size && this.current.id !== item.id) next.add(this.current.id);
      if (!next.delete(item.id)) next.add(item.id);
      this.chosen = next;
    } else {
      const [a, b] = [Math.min(this.cursor, index), Math.max(this.cursor, index)];
      const next = new Set(this.chosen);
      for (let i = a; i <= b; i++) {
        const held = this.item(i);
        if (held) next.add(held.id);
      }
      this.chosen = next;
    }
    this.cursor = index;
  }

  async retag(add: string[], remove: string[] = []) {
    const ids = this.chosenItems.map((i) => i.id);
    if (!ids.length || !(add.length + remove.length)) return;
    if (await this.project.send(() => api.POST('/api/projects/{project_id}/library/tags', { params: { path: { project_id: this.project.id } }, body: { ids, add, remove } }))) await this.again();
  }

  async bin(binned: boolean) {
    const ids = this.chosenItems.map((i) => i.id);
    if (!ids.length) return;
    const done = await this.project.send(() => api.POST('/api/projects/{project_id}/library/bin', { params: { path: { project_id: this.project.id } }, body: { ids, binned } }));
    if (!done) return;
    notices.say(`${done.label[0]!.toUpperCase()}${done.label.slice(1)}. Ctrl+Z takes it back.`);
    this.chosen = new Set();
    await this.again();
  }
}
