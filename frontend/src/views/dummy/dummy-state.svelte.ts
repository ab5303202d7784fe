import { api, ok, type BookFacts, type BookNote, type BookView, type Opening, type PlacedWords, type Shot } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';

const READ_AFTER_MS = 200;
export const MM_PER_PT = 25.4 / 72;

export interface BoxMm {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** What a kind of note is called when several say the same. */
const TOGETHER: Record<string, (count: number) => string> = {
  small: (n) => `${n} pictures have fewer than 300 dpi at their size`,
  contrast: (n) => `The words of ${n} shots stand out too little`,
  busy: (n) => `The words of ${n} shots lie on busy places`,
  unsafe: (n) => `The words of ${n} shots lie outside the safe area`,
  empty: (n) => `${n} pages stay empty before spreads`,
};
const FEW = 3;

export interface NoteGroup {
  kind: string;
  title: string;
  notes: BookNote[];
}

/** The Dummy's behaviour: which pages lie open, where words lie, how the book is made. */
export class DummyState {
  view = $state.raw<BookView | null>(null);
  at = $state(0);
  /** The shot whose words or picture are looked at. */
  shotId = $state<string | null>(null);
  guides = $state(true);
  /** Words while they are moved. */
  moving = $state.raw<{ shot: string; box: BoxMm } | null>(null);

  readonly book = $derived(this.view?.book);
  readonly cover = $derived(this.view?.cover ?? null);
  readonly openings = $derived(this.view?.layout.openings ?? []);
  readonly opening = $derived<Opening | undefined>(this.openings[this.at]);
  readonly shot = $derived.by(() => (this.shotId ? this.project.shots.get(this.shotId) : undefined));
  readonly notes = $derived(this.view?.notes ?? []);
  readonly notesHere = $derived.by(() => {
    const pages = [this.opening?.left?.number, this.opening?.right?.number];
    return this.notes.filter((n) => pages.includes(n.page));
  });
  /** Notes; where many say the same they are one line. */
  readonly groups = $derived.by(() => {
    const by = new Map<string, BookNote[]>();
    for (const n of this.notes) by.set(n.kind, [...(by.get(n.kind) ?? []), n]);
    return [...by].flatMap(([kind, notes]): NoteGroup[] =>
      notes.length > FEW && TOGETHER[kind] ? [{ kind, title: TOGETHER[kind](notes.length), notes }] : notes.map((n) => ({ kind, title: n.title, notes: [n] })),
    );
  });
  #read: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;

  constructor(readonly project: ProjectState) {}

  readSoon(wait_ms = READ_AFTER_MS) {
    clearTimeout(this.#read);
    this.#read = setTimeout(() => void this.read(), wait_ms);
  }

  async read() {
    const asked = ++this.#asked;
    try {
      const view = await ok(api.GET('/api/projects/{project_id}/book', { params: { path: { project_id: this.project.id } } }));
      if (asked !== this.#asked) return;
      this.view = view as BookView;
      this.moving = null;
      this.at = Math.min(this.at, Math.max(0, this.openings.length - 1));
      if (this.shotId === null) this.openAt(this.project.currentId);
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error), 'trouble');
    }
  }

  /** Open the pages on which a shot lies. */
  openAt(shot: string | null | undefined) {
    const i = this.openings.findIndex((o) => shotsOf(o).includes(shot ?? ''));
    if (i < 0) return;
    this.at = i;
    this.shotId = shot ?? null;
  }

  /** Turn a page. */
  turn(by: number) {
    this.at = Math.min(Math.max(0, this.at + by), Math.max(0, this.openings.length - 1));
    this.shotId = shotsOf(this.opening)[0] ?? null;
  }

  goTo(note: BookNote) {
    if (!note.page) return void document.querySelector('[data-cover]')?.scrollIntoView({ block: 'nearest' });
    const i = this.openings.findIndex((o) => o.left?.number === note.page || o.right?.number === note.page);
    if (i >= 0) this.at = i;
    this.shotId = note.shot ?? shotsOf(this.opening)[0] ?? null;
  }

  /** The room in which a shot lies, in mm of its opening: a page, half of one, or both. */
  room(shot: Shot): BoxMm {
    const { trim_w, trim_h } = this.book!;
    if (shot.page_form === 'spread') return { x: 0, y: 0, w: 2 * trim_w, h: trim_h };
    const right = this.opening?.right?.shots?.includes(shot.id) ?? false;
    const own = (right ? this.opening?.right : this.opening?.left)?.shots ?? [];
    const half = shot.page_form === 'half';
    return { x: right ? trim_w : 0, y: half ? (own.indexOf(shot.id) * trim_h) / 2 : 0, w: trim_w, h: half ? trim_h / 2 : trim_h };
  }

  boxOf(words: PlacedWords): BoxMm {
    return this.moving?.shot === words.shot ? this.moving.box : words.box;
  }

  /** Words on their way to another place or width, in mm. */
  move(words: PlacedWords, from: BoxMm, dx: number, dy: number, dw = 0) {
    const most = 2 * this.book!.trim_w;
    this.moving = { shot: words.shot, box: { ...from, x: from.x + dx, y: from.y + dy, w: Math.min(most, Math.max(15, from.w + dw)) } };
  }

  /** Words stay where they were moved. */
  async drop() {
    const done = this.moving;
    const shot = done && this.project.shots.get(done.shot);
    if (!done || !shot) return;
    const room = this.room(shot);
    const share = (v: number) => Math.round(Math.min(1.2, Math.max(-0.2, v)) * 1e4) / 1e4;
    const words_at: [number, number, number, number] = [share((done.box.x - room.x) / room.w), share((done.box.y - room.y) / room.h), share(done.box.w / room.w), share(done.box.h / room.h)];
    const kept = await this.project.editShot(shot, { words_at });
    if (!kept) this.moving = null;
  }

  /** Words go back to where they lie by themselves. */
  async letGo(shot: Shot) {
    await this.project.editShot(shot, { words_at: null, words_tone: '' });
  }

  async make(values: Partial<BookFacts>) {
    await this.project.editProject({ book: { ...this.project.row!.book, ...values } });
  }

  close() {
    clearTimeout(this.#read);
  }
}

/** The shots on two facing pages. */
export function shotsOf(opening: Opening | undefined): string[] {
  return [...new Set([...(opening?.left?.shots ?? []), ...(opening?.right?.shots ?? [])])];
}

/** Pages in words: "pages 4 and 5". */
export function pagesOf(opening: Opening | undefined): string {
  const numbers = [opening?.left?.number, opening?.right?.number].filter((n) => n !== undefined && n !== null);
  return numbers.length === 2 ? `pages ${numbers[0]} and ${numbers[1]}` : `page ${numbers[0] ?? ''}`;
}
