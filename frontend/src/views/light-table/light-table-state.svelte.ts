import { api, ok } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import { MOST_LAID, type Laid } from '../../lib/on-table.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { at, inverse, onPage, SAME, times, type Affine, type Size } from './geometry';
import { LoupeState } from './loupe-state.svelte';

export const WAYS = [['beside', 'side by side'], ['wipe', 'wipe'], ['blink', 'blink'], ['onion', 'onion skin'], ['difference', 'difference']] as const;
export type Way = (typeof WAYS)[number][0];
/** What pictures are pegged on: the page, or a thread's figure or head. */
export interface PeggedOn {
  on: 'page' | 'picture' | 'figure' | 'head';
  thread: string;
}

const CLOSEST = 16;
const STEP = 1.25;
export const BLINK_MS = 450;

/** The light table's behaviour: what lies there and how, which part of it is seen, and what the loupe reads. */
export class LightTableState {
  way = $state<Way>('wipe');
  pegged = $state.raw<PeggedOn>({ on: 'page', thread: '' });
  /** How each laid picture lies on the first, from its own px to those of the first; none where the pegged figure is not in it. */
  pegs = $state.raw<(Affine | null)[]>([]);
  /** From px of the first picture to px of the board. */
  scale = $state(0);
  x = $state(0);
  y = $state(0);
  /** Where the wipe's line stands, as a part of the board; how much of the upper picture is seen; how much a difference is strengthened. */
  wipe = $state(0.5);
  onion = $state(0.5);
  stronger = $state(1);
  /** The picture that lies on top of the first one, by its place. */
  top = $state(1);
  /** While blinking: whether the upper one is shown now. */
  blinked = $state(false);
  board = $state.raw<Size>({ width: 0, height: 0 });
  readonly loupe = new LoupeState(this);
  /** The pictures are being laid on each other. */
  pegging = $state(false);
  #turn = 0;
  #begun = false;

  readonly laid = $derived.by(() => this.project.table.laid);
  readonly first = $derived(this.laid[0]);
  /** Takes and references that can be laid: of the current shot, its neighbours, and who is in it. */
  readonly tray = $derived.by(() => this.#tray());
  /** Figures that stand in the first picture and in another one. */
  readonly figures = $derived.by(() => {
    const [first, ...others] = this.laid.map((l) => this.standIn(l));
    return this.project.columns.map((t) => t.id).filter((t) => first?.includes(t) && others.some((o) => o.includes(t)));
  });
  readonly ways = $derived.by((): PeggedOn[] => [
    { on: 'page', thread: '' },
    ...(this.laid.length > 1 ? [{ on: 'picture' as const, thread: '' }] : []),
    ...this.figures.flatMap((thread) => {
      const head: PeggedOn[] = this.project.threads.get(thread)?.kind === 'character' ? [{ on: 'head', thread }] : [];
      return [...head, { on: 'figure' as const, thread }];
    }),
  ]);
  /** Boards side by side, one a picture; else one. */
  readonly panes = $derived(this.way === 'beside' ? Math.max(1, this.laid.length) : 1);
  readonly pane = $derived<Size>({ width: Math.max(1, (this.board.width - (this.panes - 1) * 8) / this.panes), height: this.board.height });

  constructor(readonly project: ProjectState) {}

  /** Who stands in a picture. */
  standIn(laid: Laid): string[] {
    if (laid.take) return (this.project.marksByTake.get(laid.take) ?? []).map((m) => m.thread_id);
    const kind = laid.thread ? this.project.threads.get(laid.thread)?.kind : undefined;
    return kind === 'character' || kind === 'prop' ? [laid.thread!] : [];
  }

  peggedWords({ on, thread }: PeggedOn): string {
    const name = this.project.threads.get(thread)?.name ?? '';
    return on === 'page' ? 'the page' : on === 'picture' ? 'what all show' : on === 'head' ? `${name}’s head` : name;
  }

  #tray(): Laid[] {
    const { project } = this;
    const { order, currentIndex, table } = project;
    const shot = project.current;
    const own = (project.takesByShot.get(shot?.id ?? '') ?? []).flatMap((t) => table.ofTake(t));
    const around = [-1, 1].flatMap((by) => table.ofShot(order[currentIndex + by]?.id));
    const threads = [...(project.beadsByShot.get(shot?.id ?? '')?.keys() ?? [])];
    const faces = project.columns.filter((t) => threads.includes(t.id)).flatMap((t) => {
      const face = project.face(t.id);
      return face ? table.ofReference(face.picture_sha, t.id, face.name) : [];
    });
    const all = [...table.ofShot(shot?.id), ...around, ...faces, ...own];
    return all.filter((l, i) => all.findIndex((o) => o.sha === l.sha) === i);
  }

  /** The transform of a laid picture to the board; in a pane of its own where they lie side by side. */
  toScreen(i: number): Affine | null {
    const peg = this.pegs[i];
    return peg ? times([this.scale, 0, this.x, 0, this.scale, this.y], peg) : null;
  }

  /** What lies there changed: lay it anew on the page, then on what it was pegged on. To be called in an effect. */
  follow() {
    const laid = this.laid;
    this.pegs = laid.map((l) => (this.first ? onPage(l, this.first) : SAME));
    if (this.top >= laid.length || this.top < 1) this.top = Math.min(1, laid.length - 1);
    if (laid.length < 2 && this.way !== 'beside') this.way = 'beside';
    this.#begin();
    const still = this.ways.find((w) => w.on === this.pegged.on && w.thread === this.pegged.thread);
    void this.peg(still ?? { on: 'page', thread: '' });
    this.loupe.begin();
  }

  /** A figure's reference beside a picture that it stands in begins pegged on the figure: the pages have nothing in common. */
  #begin() {
    if (this.#begun || !this.first) return;
    this.#begun = true;
    const { thread } = this.first;
    if (!thread || !this.figures.includes(thread)) return;
    this.way = 'beside';
    this.pegged = { on: 'figure', thread };
  }

  /** Peg the pictures on something else. */
  async peg(on: PeggedOn) {
    this.pegged = on;
    const turn = ++this.#turn;
    this.pegging = on.on !== 'page';
    const laid = this.laid;
    if (on.on === 'page') {
      this.pegs = laid.map((l) => (this.first ? onPage(l, this.first) : SAME));
      return this.loupe.read();
    }
    try {
      const pictures = laid.map((l) => ({ sha: l.sha, take_id: this.standIn(l).includes(on.thread) ? (l.take ?? null) : null }));
      const everywhere = on.on === 'picture';
      const got = await ok(
        api.POST('/api/projects/{project_id}/pegs', { params: { path: { project_id: this.project.id } }, body: { thread_id: on.thread || null, on: on.on, pictures } }),
      );
      if (turn !== this.#turn) return;
      this.pegging = false;
      this.pegs = got.pegs.map((p, i) => (p && (everywhere || this.standIn(laid[i]!).includes(on.thread)) ? (p.affine as readonly number[] as Affine) : null));
      this.#wipeAcross(on.thread);
      this.loupe.read();
    } catch (error) {
      if (turn !== this.#turn) return;
      notices.say((error as Error).message, 'trouble');
      void this.peg({ on: 'page', thread: '' });
    }
  }

  /** Put the wipe's line through the middle of the figure that is pegged. */
  #wipeAcross(thread: string) {
    const mark = (this.project.marksByTake.get(this.first?.take ?? '') ?? []).find((m) => m.thread_id === thread);
    if (mark && this.board.width) this.wipe = Math.min(0.95, Math.max(0.05, (this.x + this.scale * (mark.x + mark.w / 2)) / this.board.width));
  }

  nextPeg() {
    const at = this.ways.findIndex((w) => w.on === this.pegged.on && w.thread === this.pegged.thread);
    void this.peg(this.ways[(at + 1) % this.ways.length]!);
  }

  choose(way: Way) {
    if (this.laid.length < 2 && way !== 'beside') return;
    const was = this.panes;
    this.way = way;
    if (was !== this.panes) this.fit();
  }

  /** Show all of the first picture. */
  fit() {
    if (!this.first || !this.board.width) return;
    this.scale = Math.min(this.pane.width / this.first.width, this.pane.height / this.first.height);
    this.x = (this.pane.width - this.scale * this.first.width) / 2;
    this.y = (this.pane.height - this.scale * this.first.height) / 2;
  }

  /** Make everything larger or smaller around a place of the board; its middle where none is given. */
  zoom(factor: number, x = this.pane.width / 2, y = this.pane.height / 2) {
    if (!this.first) return;
    const least = 0.5 * Math.min(this.pane.width / this.first.width, this.pane.height / this.first.height);
    const scale = Math.min(CLOSEST, Math.max(least, this.scale * factor));
    const f = scale / this.scale;
    this.x = x - f * (x - this.x);
    this.y = y - f * (y - this.y);
    this.scale = scale;
  }

  pan(dx: number, dy: number) {
    this.x += dx;
    this.y += dy;
  }

  /** Show a part of the first picture, large. */
  lookAt(box: { x: number; y: number; w: number; h: number }) {
    this.scale = Math.min(4, 0.35 * Math.min(this.pane.width / box.w, this.pane.height / box.h));
    this.x = this.pane.width / 2 - this.scale * (box.x + box.w / 2);
    this.y = this.pane.height / 2 - this.scale * (box.y + box.h / 2);
    this.loupe.put([box.x + box.w / 2, box.y + box.h / 2]);
  }

  /** The take on the table of which an area was changed, or that was grown, when the one that it was made of lies there too. */
  readonly edited = $derived.by(() => {
    const takes = this.laid.map((l) => (l.take ? this.project.takes.get(l.take) : undefined));
    return takes.find((t) => t && (t.made_from.edit || t.made_from.grown) && takes.some((o) => o?.id === t.parent_id));
  });

  /** The laid take that an edit would begin with: the one on top, else the first. */
  readonly toEdit = $derived.by(() => [this.laid[this.top], this.laid[0]].find((l) => l?.take));

  /** Put the loupe on a place of the board. */
  look(x: number, y: number) {
    this.loupe.put(at(inverse([this.scale, 0, this.x, 0, this.scale, this.y]), x, y));
  }

  /** Move the loupe by px of the board; it begins in the middle. */
  moveLoupe(dx: number, dy: number) {
    const [x, y] = this.loupe.at ? at([this.scale, 0, this.x, 0, this.scale, this.y], ...this.loupe.at) : [this.pane.width / 2, this.pane.height / 2];
    this.look(x + dx, y + dy);
  }

  /** Lay a picture in the place of another one, or beside them where there is room. */
  put(laid: Laid, place = this.top) {
    const next = [...this.laid];
    const there = next.findIndex((l) => l.sha === laid.sha);
    if (there >= 0 && there !== place) [next[there], next[place]] = [next[place]!, next[there]!];
    else next[Math.min(place, next.length)] = laid;
    this.project.table.laid = next.filter((l) => l !== undefined).slice(0, MOST_LAID);
  }

  add() {
    const fresh = this.tray.find((l) => !this.laid.some((o) => o.sha === l.sha));
    if (fresh && this.laid.length < MOST_LAID) this.project.table.laid = [...this.laid, fresh];
  }

  remove(place = this.laid.length - 1) {
    if (this.laid.length > 1) this.project.table.laid = this.laid.filter((_, i) => i !== place);
  }

  /** Lay the next or the one before of the tray in a place. */
  step(by: 1 | -1, place = this.top) {
    const free = this.tray.filter((l) => l.sha === this.laid[place]?.sha || !this.laid.some((o) => o.sha === l.sha));
    if (!free.length) return;
    const at = free.findIndex((l) => l.sha === this.laid[place]?.sha);
    this.put(free[(at + by + free.length) % free.length]!, place);
  }

  swap() {
    const [a, b] = [this.laid[0], this.laid[this.top]];
    if (a && b) this.project.table.laid = this.laid.map((l, i) => (i === 0 ? b : i === this.top ? a : l));
  }

  /** Make the most of the way: the line further, more of the upper picture, a stronger difference. */
  adjust(by: 1 | -1) {
    const within = (v: number) => Math.min(1, Math.max(0, v));
    if (this.way === 'wipe') this.wipe = within(this.wipe + by * 0.04);
    else if (this.way === 'onion') this.onion = within(this.onion + by * 0.1);
    else if (this.way === 'difference') this.stronger = Math.min(16, Math.max(1, this.stronger * (by > 0 ? 2 : 0.5)));
  }

  /** What a key does here; false when it means nothing. */
  key(key: string, shift: boolean): boolean {
    const ways = ({ ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as Record<string, [number, number]>)[key];
    if (ways && shift) this.moveLoupe(-ways[0] * 12, -ways[1] * 12);
    else if (ways) this.pan(ways[0] * 60, ways[1] * 60);
    else if (key >= '1' && key <= '5') this.choose(WAYS[Number(key) - 1]![0]);
    else if (key === '+' || key === '=') this.zoom(STEP);
    else if (key === '-') this.zoom(1 / STEP);
    else if (key === '0') this.fit();
    else if (key === '9') this.zoom(1 / this.scale);
    else if (key === ',' || key === '.') this.adjust(key === '.' ? 1 : -1);
    else if (key === 'p') this.nextPeg();
    else if (key === 'x') this.swap();
    else if (key === ' ') this.blinked = !this.blinked;
    else if (key === '[' || key === ']') this.step(key === ']' ? 1 : -1);
    else if (key === '{' || key === '}') this.step(key === '}' ? 1 : -1, 0);
    else if (key === 'a') this.add();
    else if (key === 'Delete' || key === 'Backspace') this.remove();
    else if (key === 'j' || key === 'k') this.project.step(key === 'j' ? 1 : -1);
    else if (key === 't' && this.laid.length > 2) this.top = 1 + (this.top % (this.laid.length - 1));
    else return false;
    return true;
  }
}
