import { SvelteMap } from 'svelte/reactivity';
import { api, ok, type Bead, type Framing, type Schemas, type Shot, type ShotFacts } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import type { Frame } from '../../lib/move-frames';
import { brought } from '../../lib/pictures';
import { listOf } from '../../lib/words';

/** What goes to all chosen shots: framing and form. Words go to the current shot alone. */
const ALIKE = new Set(['size', 'angle', 'move', 'length_s', 'page_form', 'bleed', 'guide_strength', 'aspect', 'sketch_sha']);

const KEYS_REST_MS = 450;

/** The behaviour of the facts of one shot. */
export class ShotPanelState {
  /** Other framings on offer. */
  offers = $state.raw<Framing[] | null>(null);
  /** Words on offer. */
  suggested = $state.raw<Schemas['Offers'] | null>(null);
  /** Whose box on the guide is chosen. */
  placing = $state<string | null>(null);
  /** Whether the guide is being looked through. */
  looking = $state(false);
  /** Boxes that are being typed or are on their way, by shot and thread. */
  #typed = new SvelteMap<string, { stand: Frame | null; rest?: ReturnType<typeof setTimeout>; send?: () => void }>();

  readonly shot = $derived.by(() => this.project.current);
  readonly cast = $derived.by(() => this.project.columns.filter((t) => t.kind === 'character' && this.shot && this.project.bead(this.shot.id, t.id)));
  /** Whom a box that is drawn now is for: somebody of the cast who is nowhere yet. */
  readonly drawFor = $derived.by(() => this.cast.find((t) => !this.standOf(t.id))?.id ?? null);
  /** The frame's width and height: the guide's own, or the form of the shot's picture. */
  readonly frame_px = $derived.by((): [number, number] => {
    const guide = this.shot?.sketch_sha ? this.project.pictures.get(this.shot.sketch_sha) : undefined;
    if (guide) return [guide.width, guide.height];
    const [w, h] = (this.shot?.aspect || this.project.row?.aspect || '3:2').split(':').map(Number) as [number, number];
    return [960, Math.round((960 * h) / w) || 640];
  });
  /** The seed that the project's rule gives the shot, in words. */
  readonly usualSeed = $derived.by(() => {
    const { seed_rule, seed } = this.project.row ?? {};
    if (seed_rule === 'one') return `${seed ?? 1}`;
    return seed_rule === 'per shot' && this.shot ? `${(seed ?? 0) + this.project.number(this.shot.id)}` : 'any';
  });
  readonly speakers = $derived.by(() => (this.shot?.speakers ?? []).map((s) => this.project.threads.get(s)?.name ?? s).join(', '));

  constructor(
    readonly project: ProjectState,
    readonly chosen: () => string[] = () => [],
  ) {}

  /** Another shot is looked at. */
  begin() {
    this.keepTyped();
    this.placing = null;
    this.offers = null;
    this.suggested = null;
  }

  set(values: ShotFacts) {
    const { shot, project } = this;
    const chosen = this.chosen();
    if (!shot) return;
    if (chosen.length < 2 || !Object.keys(values).every((k) => ALIKE.has(k))) return void project.editShot(shot, values);
    void project.editAll(chosen.flatMap((id) => project.shots.get(id) ?? []), (revisions) =>
      api.PATCH('/api/projects/{project_id}/shots', { params: { path: { project_id: project.id } }, body: { shot_ids: chosen, values, revisions } }),
    );
  }

  /** Words were written; the same words are no change. */
  write(key: keyof Shot, words: string) {
    if (this.shot && words !== this.shot[key]) this.set({ [key]: words } as ShotFacts);
  }

  /** Who speaks, by name with commas; a name that no thread has stays a name. */
  writeSpeakers(words: string) {
    const known = (name: string) => this.project.columns.find((t) => [t.name, ...t.aliases].some((a) => a.toLowerCase() === name.toLowerCase()))?.id ?? name;
    this.set({ speakers: listOf(words).map(known) });
  }

  /** Make a picture the shot's layout guide. */
  async guide(file: File): Promise<void> {
    await this.#asking(async () => {
      const sha = await brought(this.project.id, file);
      if (sha) this.set({ sketch_sha: sha });
    });
  }

  /** Ask the writing service for words. */
  suggest(): Promise<void> {
    return this.#asking(async (path) => {
      const got = await ok(api.POST('/api/projects/{project_id}/shots/{shot_id}/offers', { params: { path } }));
      if (path.shot_id === this.shot?.id) this.suggested = got;
    });
  }

  takeWords(words: string) {
    this.set({ shows: words });
    this.suggested = null;
  }

  /** Ask for other ways to look at the moment. */
  offer(): Promise<void> {
    return this.#asking(async (path) => {
      const got = (await ok(api.GET('/api/projects/{project_id}/shots/{shot_id}/framings', { params: { path } }))) as Framing[];
      if (path.shot_id === this.shot?.id) this.offers = got;
    });
  }

  /** Keep framings beside the shot; the one of that index becomes the shot's, none when null. */
  frame(kept: Framing[], picked: number | null) {
    const { shot } = this;
    if (!shot) return;
    this.offers = null;
    const path = { project_id: this.project.id, shot_id: shot.id };
    void this.project.edit(shot, (revision) => api.PUT('/api/projects/{project_id}/shots/{shot_id}/framings', { params: { path }, body: { framings: kept, picked, revision } }));
  }

  /** Where somebody stands on the picture, as shares of it; what a key or the mouse makes of it is seen at once, and sent when the keys rest. */
  standOf(thread_id: string): Frame | null {
    const typed = this.shot && this.#typed.get(`${this.shot.id} ${thread_id}`);
    if (typed) return typed.stand;
    return ((this.shot && this.project.bead(this.shot.id, thread_id))?.stands as Frame | undefined) ?? null;
  }

  /** Put somebody on the picture, or take them off. */
  put(thread_id: string, stand: Frame | null) {
    if (!this.shot) return;
    const shot_id = this.shot.id;
    const key = `${shot_id} ${thread_id}`;
    clearTimeout(this.#typed.get(key)?.rest);
    const send = () => {
      const stands = (stand?.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 1e4) / 1e4) as Frame | undefined) ?? null;
      const sent = { stand };
      this.#typed.set(key, sent);
      void this.#editBead(shot_id, thread_id, { stands }).finally(() => {
        if (this.#typed.get(key) === sent) this.#typed.delete(key);
      });
    };
    this.#typed.set(key, { stand, send, rest: setTimeout(send, KEYS_REST_MS) });
    this.placing = stand ? thread_id : null;
  }

  /** Put somebody who is nowhere yet beside the others. */
  place(thread_id: string) {
    const others = this.cast.filter((t) => this.standOf(t.id)).length;
    const wide = Math.min(0.3, 0.9 / Math.max(1, this.cast.length));
    this.put(thread_id, [Math.min(1 - wide, 0.05 + others * wide), 0.25, wide * 0.9, 0.65]);
  }

  /** A box was drawn: it is for the first who is nowhere yet, else for who is chosen. */
  drawn(stand: Frame) {
    const who = this.drawFor ?? this.placing;
    if (who) this.put(who, stand);
  }

  /** Send at once what waits for the keys to rest. */
  keepTyped() {
    for (const { rest, send } of [...this.#typed.values()]) {
      clearTimeout(rest);
      send?.();
    }
  }

  /** Look on the layout guide for those who are nowhere yet. */
  async lookOnGuide(): Promise<void> {
    this.keepTyped();
    if (!this.shot) return;
    this.looking = true;
    const path = { project_id: this.project.id, shot_id: this.shot.id };
    await this.project.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/stands', { params: { path } }));
    this.looking = false;
  }

  /** Say where somebody looks on the screen, or with what face. */
  looks(thread_id: string, said: { facing: Bead['facing'] } | { face: string }) {
    if (this.shot) void this.#editBead(this.shot.id, thread_id, said);
  }

  async #editBead(shot_id: string, thread_id: string, said: { facing: Bead['facing'] } | { face: string } | { stands: Frame | null }): Promise<void> {
    const { project } = this;
    const bead = project.bead(shot_id, thread_id);
    if (!bead) return;
    await project.editAll([bead], (revisions) =>
      api.PATCH('/api/projects/{project_id}/threads/{thread_id}/beads', { params: { path: { project_id: project.id, thread_id } }, body: { shot_ids: [shot_id], ...said, revisions } }),
    );
  }

  async #asking(what: (path: { project_id: string; shot_id: string }) => Promise<void>): Promise<void> {
    if (!this.shot) return;
    try {
      await what({ project_id: this.project.id, shot_id: this.shot.id });
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }
}
