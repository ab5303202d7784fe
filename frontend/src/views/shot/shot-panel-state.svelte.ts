import { api, ok, sendPicture, type Bead, type Framing, type Schemas, type Shot, type ShotFacts } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { listOf } from '../../lib/words';

/** What goes to all chosen shots: framing and form. Words go to the current shot alone. */
const ALIKE = new Set(['size', 'angle', 'move', 'length_s', 'page_form', 'bleed', 'guide_strength', 'aspect', 'sketch_sha']);

/** The behaviour of the facts of one shot. */
export class ShotPanelState {
  /** Other framings on offer. */
  offers = $state.raw<Framing[] | null>(null);
  /** Words on offer. */
  suggested = $state.raw<Schemas['Offers'] | null>(null);

  readonly shot = $derived.by(() => this.project.current);
  readonly cast = $derived.by(() => this.project.columns.filter((t) => t.kind === 'character' && this.shot && this.project.bead(this.shot.id, t.id)));
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
      const taken = await sendPicture(this.project.id, file, file.name);
      if (taken.sha) this.set({ sketch_sha: taken.sha });
      else notices.say(`${file.name}: ${taken.refused}`, 'trouble');
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

  /** Say where somebody looks on the screen, or with what face. */
  looks(thread_id: string, said: { facing: Bead['facing'] } | { face: string }) {
    const { shot, project } = this;
    const bead = shot && project.bead(shot.id, thread_id);
    if (!shot || !bead) return;
    void project.editAll([bead], (revisions) =>
      api.PATCH('/api/projects/{project_id}/threads/{thread_id}/beads', { params: { path: { project_id: project.id, thread_id } }, body: { shot_ids: [shot.id], ...said, revisions } }),
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
