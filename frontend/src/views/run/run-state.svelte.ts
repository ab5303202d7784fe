import { api, ok, type Join, type ReadAlong, type Shot } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { Player } from './player.svelte';
import { laidOut, rippled, rolled, seenAt, spanAt } from './timeline';

export const JOINS: readonly (readonly [Join, string])[] = [['cut', 'cut'], ['dissolve', 'dissolve'], ['fade', 'fade']];
export const TRIMS = [['ripple', 'ripple'], ['roll', 'roll']] as const;
export type Trim = (typeof TRIMS)[number][0];

const KEPT_AFTER_MS = 500;
const READ_AFTER_MS = 300;
/** Px of the column for a second. */
const ZOOMS = [4, 6, 10, 16, 26, 42, 68];

/** The Run-through's behaviour: what is seen and read when, and lengths trimmed while it plays. */
export class RunState {
  readonly player: Player;
  trim = $state<Trim>('ripple');
  looping = $state(false);
  zoom = $state(2);
  /** Lengths that are on screen and not kept yet. */
  lengths = $state.raw(new Map<string, number>());
  reading = $state.raw(new Map<string, ReadAlong>());
  readonly pxPerS = $derived(ZOOMS[this.zoom]!);

  readonly spans = $derived.by(() => laidOut(this.project.order, this.lengths));
  readonly length_s = $derived(this.spans.length ? this.spans.at(-1)!.start_s + this.spans.at(-1)!.length_s : 0);
  readonly fps = $derived.by(() => this.project.row?.fps ?? 24);
  readonly at = $derived.by(() => spanAt(this.spans, this.player.time_s));
  readonly span = $derived(this.spans[this.at]);
  readonly shot = $derived.by(() => (this.span ? this.project.shots.get(this.span.id) : undefined));
  readonly seen = $derived.by(() => seenAt(this.spans, this.player.frame / this.fps));
  readonly scene = $derived.by(() => (this.span ? this.project.scenes.get(this.span.scene) : undefined));
  readonly sceneSpans = $derived(this.spans.filter((s) => s.scene === this.span?.scene));
  readonly scene_s = $derived(this.sceneSpans.reduce((sum, s) => sum + s.length_s, 0));
  /** The form of the stage: the project's, else that of the first picture. */
  readonly aspect = $derived.by(() => {
    const said = /^([\d.]+):([\d.]+)$/.exec(this.project.row?.aspect ?? '');
    if (said && Number(said[1]) > 0 && Number(said[2]) > 0) return Number(said[1]) / Number(said[2]);
    const first = this.project.order.map((s) => this.project.pictureOf(s.id)).find((p) => p);
    return first ? first.width / first.height : 3 / 2;
  });
  /** The caption that is read now: its words before and after the place where the voice is. */
  readonly caption = $derived.by(() => {
    const own = this.span && this.reading.get(this.span.id);
    if (!own || !this.span) return null;
    const into = (this.player.time_s - this.span.start_s) / (own.in_voice ? 1 : Math.min(1, this.span.length_s / own.needs_s || 1));
    let word = own.said.findIndex((w) => w[2] > into);
    if (word < 0) word = own.said.length;
    const ends = own.lines;
    const line = Math.max(0, ends.findIndex((end) => end >= Math.max(1, word)));
    const first = own.said[line ? ends[line - 1]! : 0];
    const last = own.said[(ends[line] ?? own.said.length) - 1];
    if (!first || !last) return null;
    const read = word ? Math.min(own.said[word - 1]![1], last[1]) : first[0];
    const letters = [...own.words];
    return { read: letters.slice(first[0], read).join(''), rest: letters.slice(read, last[1]).join('') };
  });
  #keep: ReturnType<typeof setTimeout> | undefined;
  #read: ReturnType<typeof setTimeout> | undefined;
  #reads = 0;

  constructor(readonly project: ProjectState) {
    this.player = new Player(() => this.length_s, () => this.fps);
  }

  /** Frames that came late, in words. */
  readonly lateness = $derived.by(() => {
    const { due, late } = this.player;
    if (!due || !late) return 'no frame late';
    return `${late} of ${due} frames late`;
  });

  /** How long a shot's words take beyond its length, in s. */
  over(shot: string, length_s: number): number {
    return Math.max(0, (this.reading.get(shot)?.needs_s ?? 0) - length_s);
  }

  /** Read the words again soon; many changes are one reading. */
  readSoon(wait_ms = READ_AFTER_MS) {
    clearTimeout(this.#read);
    this.#read = setTimeout(() => void this.readAlong(), wait_ms);
  }

  async readAlong() {
    const asked = ++this.#reads;
    try {
      const told = await ok(api.GET('/api/projects/{project_id}/read-along', { params: { path: { project_id: this.project.id } } }));
      if (asked === this.#reads) this.reading = new Map((told as ReadAlong[]).map((r) => [r.shot_id, r]));
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error), 'trouble');
    }
  }

  /** Go to where a shot begins. */
  goTo(shot: string | null | undefined) {
    const span = this.spans.find((s) => s.id === shot);
    if (span) this.player.seek(span.start_s);
  }

  /** To the shot before or after; from within a shot first to its beginning. */
  shotStep(by: 1 | -1) {
    const now = this.span;
    if (!now) return;
    const into = this.player.time_s - now.start_s;
    const to = by < 0 && into > 0.4 ? now : this.spans[this.at + by];
    this.player.seek(to ? to.start_s : this.length_s);
  }

  toggleLoop() {
    this.looping = !this.looping;
    this.followLoop();
  }

  /** The loop is the scene that is seen. */
  followLoop() {
    const [first, last] = [this.sceneSpans[0], this.sceneSpans.at(-1)];
    this.player.loop = this.looping && first && last ? { start_s: first.start_s, end_s: last.start_s + last.length_s } : null;
  }

  /** Make a shot longer or shorter, or move the cut behind it; the place in the shot is kept. */
  trimBy(by_s: number, how: Trim = this.trim, at = this.at) {
    const now = this.spans.map((s) => s.length_s);
    if (at < 0 || at >= now.length) return;
    this.#take(how === 'roll' ? rolled(now, at, by_s) : rippled(now, at, by_s));
  }

  #take(lengths: number[]) {
    const own = this.span;
    const into = own ? this.player.time_s - own.start_s : 0;
    const next = new Map(this.lengths);
    this.project.order.forEach((shot, i) => {
      if (lengths[i] !== undefined && Math.abs(lengths[i] - (this.lengths.get(shot.id) ?? shot.length_s)) > 1e-6) next.set(shot.id, lengths[i]);
    });
    this.lengths = next;
    const moved = this.spans.find((s) => s.id === own?.id);
    if (moved) this.player.time_s = moved.start_s + Math.min(into, Math.max(0, moved.length_s - 1e-3));
    this.followLoop();
    clearTimeout(this.#keep);
    this.#keep = setTimeout(() => void this.keep(), KEPT_AFTER_MS);
  }

  /** Keep what was trimmed, in one step of the history. */
  async keep() {
    clearTimeout(this.#keep);
    const trimmed = this.project.order.filter((s) => this.lengths.has(s.id));
    const wanted = this.lengths;
    if (!trimmed.length) return void (this.lengths = new Map());
    await this.project.editAll(trimmed, (revisions) =>
      api.PUT('/api/projects/{project_id}/lengths', {
        params: { path: { project_id: this.project.id } },
        body: { lengths: trimmed.map((s) => ({ shot_id: s.id, length_s: wanted.get(s.id)!, revision: revisions[s.id] ?? null })) },
      }),
    );
    // What was trimmed further meanwhile waits for its own turn.
    this.lengths = new Map([...this.lengths].filter(([id, s]) => wanted.get(id) !== s));
  }

  get unkept(): boolean {
    return this.lengths.size > 0;
  }

  /** Fit the scene that is seen to a time. */
  async fitScene(target_s: number) {
    if (!this.scene || !(target_s >= 1)) return;
    await this.keep();
    const path = { project_id: this.project.id, scene_id: this.scene.id };
    const done = await this.project.send(() => api.POST('/api/projects/{project_id}/scenes/{scene_id}/fit', { params: { path }, body: { target_s } }));
    if (done && this.scene_s > target_s + 0.05) notices.say(`The scene takes ${this.scene_s.toFixed(1)} s: its words need no less. Take words out, or let them be read faster.`);
    this.followLoop();
  }

  /** How the shot that is seen comes after the one before it. */
  async joinBy(join: Join) {
    const shot = this.shot;
    if (shot && shot.join !== join) await this.project.editShot(shot, { join });
  }

  async joinFor(shot: Shot, join_s: number) {
    if (join_s >= 0.1 && join_s <= 5) await this.project.editShot(shot, { join_s });
  }

  nextJoin() {
    const at = JOINS.findIndex(([j]) => j === this.shot?.join);
    void this.joinBy(JOINS[(at + 1) % JOINS.length]![0]);
  }

  zoomBy(by: number) {
    this.zoom = Math.min(ZOOMS.length - 1, Math.max(0, this.zoom + by));
  }

  /** What a key does; false when it is none of the view's. */
  pressed(key: string): boolean {
    const { player } = this;
    switch (key) {
      case ' ': player.toggle(); break;
      case 'l': player.shuttle(1); break;
      case 'j': player.shuttle(-1); break;
      case 'k': player.stop(); break;
      case ',': case '<': player.step(-1); break;
      case '.': case '>': player.step(1); break;
      case 'ArrowUp': case 'ArrowLeft': this.shotStep(-1); break;
      case 'ArrowDown': case 'ArrowRight': this.shotStep(1); break;
      case 'Home': player.seek(0); break;
      case 'End': player.seek(this.length_s); break;
      case '[': this.trimBy(-0.2); break;
      case ']': this.trimBy(0.2); break;
      case '{': this.trimBy(-1); break;
      case '}': this.trimBy(1); break;
      case 't': this.trim = this.trim === 'ripple' ? 'roll' : 'ripple'; break;
      case 'o': this.toggleLoop(); break;
      case 'd': this.nextJoin(); break;
      case '+': case '=': this.zoomBy(1); break;
      case '-': case '_': this.zoomBy(-1); break;
      default: return false;
    }
    return true;
  }

  close() {
    this.player.stop();
    clearTimeout(this.#read);
    if (this.unkept) void this.keep();
  }
}
