import { api, ok, type Bridge } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { RunState } from './run-state.svelte';

const READ_AFTER_MS = 400;

/** Shots that are proposed between two: looked at one after another, put in or not. */
export class BridgeState {
  all = $state.raw<Bridge[]>([]);
  read = $state(false);
  at = $state(0);
  readonly one = $derived(this.all[Math.min(this.at, this.all.length - 1)]);
  #timer: ReturnType<typeof setTimeout> | undefined;
  #reads = 0;

  constructor(readonly run: RunState) {}

  /** Read them again soon; many changes are one reading. */
  readSoon(wait_ms = READ_AFTER_MS) {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.load(), wait_ms);
  }

  async load() {
    const asked = ++this.#reads;
    try {
      const told = (await ok(api.GET('/api/projects/{project_id}/bridges', this.#params()))) as Bridge[];
      if (asked !== this.#reads) return;
      this.all = told;
      this.read = true;
      this.at = Math.min(this.at, Math.max(0, told.length - 1));
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error), 'trouble');
    }
  }

  /** Look at one; the cut comes under the red line. */
  look(at: number) {
    this.at = Math.min(Math.max(0, at), this.all.length - 1);
    const span = this.run.spans.find((s) => s.id === this.one?.after_id);
    if (!span) return;
    this.run.player.stop();
    this.run.player.seek(span.start_s);
  }

  async putIn(bridge = this.one) {
    if (!bridge) return;
    await this.run.keep();
    const done = await this.run.project.send(() => api.POST('/api/projects/{project_id}/bridges', { ...this.#params(), body: { key: bridge.key } }));
    if (!done) return;
    const fresh = done.rows?.shot?.find((s) => s.revision === 1);
    notices.say(`Shot ${this.run.project.number(fresh?.id)} is in. Its brief has the pictures around it as first and last frames.`);
    await this.load();
    if (fresh) this.run.goTo(fresh.id);
  }

  async refuse(bridge = this.one) {
    if (!bridge) return;
    const done = await this.run.project.send(() => api.POST('/api/projects/{project_id}/bridges/refuse', { ...this.#params(), body: { key: bridge.key } }));
    if (!done) return;
    notices.say('No shot there. Undo brings the proposal back.');
    await this.load();
    if (this.all.length) this.look(this.at);
  }

  close() {
    clearTimeout(this.#timer);
  }

  #params() {
    return { params: { path: { project_id: this.run.project.id } } };
  }
}
