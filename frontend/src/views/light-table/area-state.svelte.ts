import { api, ok, type Schemas } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { Laid } from '../../lib/on-table.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { brought } from '../../lib/pictures';

export type AreaShape = Schemas['ShapeRow'];
export const TOOLS = [['brush', 'brush'], ['outline', 'outline'], ['box', 'box']] as const;
export type Tool = (typeof TOOLS)[number][0];
const KEPT_SERVICE = 'juxtaform.edit-service';
const NEAREST = 0.002;
const MOST_POINTS = 1500;

/** An area of a take that is to be changed: drawn with a brush, an outline or boxes, then sent to a service or brought from elsewhere. */
export class AreaState {
  tool = $state<Tool>('brush');
  rubbing = $state(false);
  /** A part of the picture's longer side. */
  radius = $state(0.04);
  feather = $state(0.01);
  shapes = $state.raw<AreaShape[]>([]);
  live = $state.raw<AreaShape | null>(null);
  words = $state('');
  count = $state(2);
  serviceId = $state(localStorage.getItem(KEPT_SERVICE) ?? '');
  busy = $state(false);
  #undone: AreaShape[] = [];

  readonly take = $derived.by(() => this.project.takes.get(this.laid.take ?? ''));
  readonly all = $derived(this.live ? [...this.shapes, this.live] : this.shapes);
  readonly empty = $derived(!this.shapes.some((s) => !s.rubbed));
  readonly service = $derived.by(() => this.project.serviceList.find((s) => s.id === this.serviceId) ?? this.project.serviceList[0]);

  constructor(
    readonly project: ProjectState,
    readonly laid: Laid,
  ) {}

  /** Begin a form at a place, in parts of the picture. */
  begin(x: number, y: number) {
    const points: [number, number][] = [[x, y], [x, y]];
    this.live = { kind: this.tool, points, radius: this.tool === 'brush' ? this.radius : 0, rubbed: this.rubbing };
  }

  go(x: number, y: number) {
    const live = this.live;
    if (!live) return;
    const last = live.points.at(-1)!;
    if (live.kind === 'box') this.live = { ...live, points: [live.points[0]!, [x, y]] };
    else if (Math.hypot(x - last[0], y - last[1]) > NEAREST && live.points.length < MOST_POINTS) this.live = { ...live, points: [...live.points, [x, y]] };
  }

  /** The form is drawn; one that is too small to be meant is dropped, a touch of the brush is not. */
  end() {
    const live = this.live;
    this.live = null;
    if (!live) return;
    const xs = live.points.map((p) => p[0]);
    const ys = live.points.map((p) => p[1]);
    const small = Math.max(...xs) - Math.min(...xs) < 0.005 || Math.max(...ys) - Math.min(...ys) < 0.005;
    if (small && live.kind !== 'brush') return;
    this.shapes = [...this.shapes, round(live)];
    this.#undone = [];
  }

  back() {
    const last = this.shapes.at(-1);
    if (!last) return;
    this.#undone.push(last);
    this.shapes = this.shapes.slice(0, -1);
  }

  forth() {
    const last = this.#undone.pop();
    if (last) this.shapes = [...this.shapes, last];
  }

  clear() {
    this.#undone = [...this.shapes].reverse();
    this.shapes = [];
  }

  /** Move the last form by parts of the picture, without the mouse. */
  nudge(dx: number, dy: number) {
    const last = this.shapes.at(-1);
    if (last) this.shapes = [...this.shapes.slice(0, -1), round({ ...last, points: last.points.map(([x, y]) => [x + dx, y + dy]) })];
  }

  /** A box in the middle, to be moved by keys. */
  put() {
    this.shapes = [...this.shapes, { kind: 'box', points: [[0.35, 0.35], [0.65, 0.65]], radius: 0, rubbed: this.rubbing }];
  }

  get #area() {
    return { shapes: this.shapes, feather: this.feather };
  }

  /** Ask the service; true when it was asked. */
  async send(): Promise<boolean> {
    const { take, service } = this;
    if (!take || !service || this.empty || !this.words.trim()) return false;
    localStorage.setItem(KEPT_SERVICE, service.id);
    return this.#doing(async () => {
      const path = { project_id: this.project.id, take_id: take.id };
      const body = { area: this.#area, words: this.words.trim(), count: this.count, service_id: service.id, model: '', quality: take.made_from.made?.quality ?? ('draft' as const) };
      await ok(api.POST('/api/projects/{project_id}/takes/{take_id}/area', { params: { path }, body }));
      this.project.queue.told();
      notices.say(`${this.count === 1 ? 'One take was' : `${this.count} takes were`} asked for. They come to the shot’s contact sheet, with their proof.`);
      return true;
    });
  }

  /** Take a picture that was retouched elsewhere; the take that it became. */
  async bring(file: File): Promise<string | null> {
    const { take } = this;
    if (!take || this.empty) return null;
    let made: string | null = null;
    await this.#doing(async () => {
      const sha = await brought(this.project.id, file);
      if (!sha) return false;
      const path = { project_id: this.project.id, take_id: take.id };
      const body = { sha, name: file.name, area: this.#area };
      const done = await this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/retouched', { params: { path }, body }));
      made = (done?.rows?.take ?? []).find((t) => t.parent_id === take.id)?.id ?? null;
      return made !== null;
    });
    return made;
  }

  async #doing(what: () => Promise<boolean>): Promise<boolean> {
    this.busy = true;
    try {
      return await what();
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
      return false;
    } finally {
      this.busy = false;
    }
  }
}

function round(shape: AreaShape): AreaShape {
  const within = (v: number) => Math.round(Math.min(1.5, Math.max(-0.5, v)) * 1e4) / 1e4;
  return { ...shape, points: shape.points.map(([x, y]) => [within(x), within(y)]) };
}
