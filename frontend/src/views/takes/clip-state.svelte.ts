import { api, ok, type Schemas, type Take } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';

export type ClipTold = Schemas['ClipTold'];

/** A take's clip: which frame of it is looked at, how it holds along its frames, and which part of it is shown. */
export class ClipState {
  told = $state.raw<ClipTold | null>(null);
  trouble = $state('');
  at_s = $state(0);
  playing = $state(false);
  busy = $state(false);

  readonly take = $derived.by(() => this.project.takes.get(this.takeId));
  readonly facts = $derived.by(() => this.project.pictures.get(this.take?.picture_sha ?? '')?.clip ?? null);
  readonly seconds = $derived(this.facts?.seconds ?? 0);
  readonly frame_s = $derived(this.facts ? this.seconds / Math.max(1, this.facts.frames) : 0.04);
  readonly part = $derived.by((): [number, number] => (this.take?.trim as [number, number] | null | undefined) ?? [0, this.seconds]);
  /** Where the clip holds, when that is less than what is shown. */
  readonly proposed = $derived.by(() => {
    const told = this.told;
    return told && told.proposed[1] < this.seconds - this.frame_s / 2 && Math.abs(told.proposed[1] - this.part[1]) > this.frame_s / 2 ? (told.proposed as [number, number]) : null;
  });

  /** Where those who are followed are in the frame that is looked at, in px of the picture; nobody where the clip is not read yet. */
  readonly followed = $derived.by(() => {
    const { told, at_s } = this;
    const picture = this.project.pictures.get(this.take?.picture_sha ?? '');
    if (!told || !picture) return [];
    const next = told.times.findIndex((t) => t > at_s + this.frame_s / 2);
    const here = next < 0 ? told.times.length - 1 : Math.max(0, next - 1);
    return told.tracks.flatMap((t) => {
      const box = t.boxes[here];
      if (!t.thread_id || !box || box[2] <= 0) return [];
      const [x, y, w, h] = box as [number, number, number, number];
      return [{ id: t.thread_id, label: t.name, x: x * picture.width, y: y * picture.height, w: w * picture.width, h: h * picture.height }];
    });
  });

  constructor(
    readonly project: ProjectState,
    readonly takeId: string,
  ) {}

  get #path() {
    return { project_id: this.project.id, take_id: this.takeId };
  }

  /** Read how it holds; again when marks or pictures change. */
  async load() {
    this.trouble = '';
    try {
      this.told = (await ok(api.GET('/api/projects/{project_id}/takes/{take_id}/clip', { params: { path: this.#path } }))) as ClipTold;
    } catch (error) {
      this.trouble = (error as Error).message;
    }
  }

  go(at_s: number) {
    this.playing = false;
    this.at_s = Math.min(Math.max(0, this.seconds - this.frame_s), Math.max(0, at_s));
  }

  step(by: number) {
    this.go((Math.round(this.at_s / this.frame_s) + by) * this.frame_s);
  }

  trim(part: [number, number] | null) {
    const { take } = this;
    if (!take) return;
    const whole = part && part[0] < this.frame_s / 2 && part[1] > this.seconds - this.frame_s / 2 ? null : part;
    return this.project.trim(take, whole);
  }

  /** Let it begin, or end, at the frame that is looked at. */
  begin() {
    if (this.at_s < this.part[1] - this.frame_s) void this.trim([this.at_s, this.part[1]]);
    else notices.say('It would begin after its end. Move the end first.');
  }

  end() {
    if (this.at_s + this.frame_s > this.part[0] + this.frame_s) void this.trim([this.part[0], Math.min(this.seconds, this.at_s + this.frame_s)]);
    else notices.say('It would end before it begins. Move the beginning first.');
  }

  /** A frame becomes a take: of this shot, or of the next one, to start from. */
  async frameOut(which: 'first' | 'last' | 'here' | 'sharpest', next = false) {
    const at_s = which === 'first' ? this.part[0] : which === 'last' ? Math.max(0, this.part[1] - this.frame_s) : this.at_s;
    const { order, indexOf } = this.project;
    const shot = next ? order[(indexOf.get(this.take?.shot_id ?? '') ?? -2) + 1]?.id : null;
    if (next && !shot) return notices.say('There is no next shot.');
    this.busy = true;
    const done = await this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/frame', { params: { path: this.#path }, body: { at_s, sharpest: which === 'sharpest', shot_id: shot } }));
    this.busy = false;
    if (done) notices.say(next ? `The frame is a take of shot ${this.project.number(shot)}.` : 'The frame is a take of this shot.');
  }

  /** What is heard in it becomes a sound of the shot, from the shot's beginning on. */
  async laySound() {
    this.busy = true;
    const done = await this.project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/sound', { params: { path: this.#path } }));
    this.busy = false;
    if (done) notices.say(`Its sound lies on shot ${this.project.number(this.take?.shot_id ?? '')}: see it in the run-through.`);
  }

  key(key: string): boolean {
    if (key === 'ArrowLeft' || key === 'ArrowRight') this.step(key === 'ArrowRight' ? 1 : -1);
    else if (key === 'i') this.begin();
    else if (key === 'o') this.end();
    else if (key === ' ') this.playing = !this.playing;
    else if (key === 'Home' || key === 'End') this.go(key === 'Home' ? this.part[0] : this.part[1] - this.frame_s);
    else return false;
    return true;
  }
}
