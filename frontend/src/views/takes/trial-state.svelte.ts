import { api, ok, type Schemas } from '../../api/client';
import type { ProjectState } from '../../lib/project.svelte';

export type TrialView = Schemas['TrialView'];
export type Measured = Schemas['MeasuredView'];
type AxisIn = Schemas['AxisIn'];
const REST_MS = 250;

/** One axis of a trial as it is put together. */
export interface AxisDraft {
  varies: 'weight' | 'style' | 'service' | 'phrase';
  about: string;
  choices: string[];
}

/** A trial of a shot as it is begun: what is varied, how often, what it costs. */
export class TrialDraft {
  axes = $state<AxisDraft[]>([]);
  seeds = $state(5);
  quality = $state<'draft' | 'final'>('draft');
  trouble = $state('');
  phrases = $state.raw<[string, string][]>([]);

  readonly shot = $derived.by(() => this.project.current);
  readonly members = $derived.by(() => this.project.columns.filter((t) => t.kind !== 'style' && this.shot && this.project.bead(this.shot.id, t.id)));
  readonly styles = $derived.by(() => this.project.columns.filter((t) => t.kind === 'style'));
  readonly services = $derived.by(() => this.project.serviceList);
  readonly service = $derived(this.services[0]);
  readonly model = $derived.by(() => this.project.queue.serviceById.get(this.service?.id ?? '')?.can?.models.find((m) => m.kinds.includes('picture')));
  /** Who can make pictures with seeds: each service's models, by id and name. */
  readonly makers = $derived.by<[string, string][]>(() =>
    this.services.flatMap((s) => (this.project.queue.serviceById.get(s.id)?.can?.models ?? []).filter((m) => m.seeds && m.kinds.includes('picture')).map((m, _, all) => [`${s.id}/${m.id}`, all.length > 1 ? `${s.name}, ${m.name}` : s.name] as [string, string])),
  );
  readonly cells = $derived(this.axes.reduce((n, a) => n * Math.max(1, filled(a).length), 1));
  readonly credits = $derived(this.cells * this.seeds * (this.model?.qualities.find((q) => q.id === this.quality)?.credits ?? 0));
  readonly ready = $derived(this.axes.length > 0 && this.cells > 1 && !!this.service);

  constructor(readonly project: ProjectState) {
    this.add();
  }

  /** What can be varied here. */
  get kinds(): [AxisDraft['varies'], string][] {
    const out: [AxisDraft['varies'], string][] = [];
    if (this.members.length) out.push(['weight', 'the weight of a thread']);
    if (this.styles.length > 1) out.push(['style', 'the style']);
    out.push(['phrase', 'the words of one phrase']);
    if (this.makers.length > 1) out.push(['service', 'the service and model']);
    return out;
  }

  add() {
    const taken = new Set(this.axes.map((a) => a.varies));
    const kind = this.kinds.find(([k]) => !taken.has(k))?.[0] ?? 'phrase';
    this.axes.push(this.#axis(kind));
  }

  vary(at: number, varies: AxisDraft['varies']) {
    this.axes[at] = this.#axis(varies);
  }

  about(at: number, about: string) {
    const axis = this.axes[at]!;
    axis.about = about;
    if (axis.varies === 'phrase') {
      const words = this.phrases.find(([k]) => k === about)?.[1] ?? '';
      axis.choices = [words, words];
    }
  }

  #axis(varies: AxisDraft['varies']): AxisDraft {
    if (varies === 'weight') return { varies, about: this.members[0]?.id ?? '', choices: ['40', '60', '80', '100'] };
    if (varies === 'style') return { varies, about: '', choices: this.styles.slice(0, 3).map((t) => t.id) };
    if (varies === 'service') return { varies, about: '', choices: this.makers.slice(0, 4).map(([id]) => id) };
    const words = this.phrases.find(([k]) => k === 'action')?.[1] ?? '';
    return { varies, about: 'action', choices: [words, words] };
  }

  /** The phrases of the shot's brief, of which one can be varied. */
  async loadPhrases() {
    if (!this.shot) return;
    const got = await ok(api.GET('/api/projects/{project_id}/shots/{shot_id}/brief', { params: { path: { project_id: this.project.id, shot_id: this.shot.id } } })).catch(() => null);
    this.phrases = (got?.whole.phrases ?? []).filter((p) => p.text && !p.key.startsWith('hold:')).map((p) => [p.key, p.text] as [string, string]);
    for (const [i, axis] of this.axes.entries()) if (axis.varies === 'phrase' && !axis.choices.some(Boolean)) this.about(i, axis.about);
  }

  /** Begin the trial; its id when that is done. */
  async begin(): Promise<string | null> {
    if (!this.shot || !this.service) return null;
    this.trouble = '';
    const axes: AxisIn[] = this.axes.map((a) => ({ varies: a.varies, about: a.about, choices: filled(a) }));
    const about = this.axes.find((a) => a.varies === 'weight')?.about ?? null;
    try {
      const got = await ok(
        api.POST('/api/projects/{project_id}/shots/{shot_id}/trials', {
          params: { path: { project_id: this.project.id, shot_id: this.shot.id } },
          body: { axes, seeds: this.seeds, service_id: this.service.id, model: '', quality: this.quality, about_thread_id: about },
        }),
      );
      await this.project.receive(got.changed as never);
      this.project.queue.told();
      return got.trial_id;
    } catch (error) {
      this.trouble = (error as Error).message;
      return null;
    }
  }
}

/** An axis's choices that say something; a phrase may also be left out. */
function filled(axis: AxisDraft): string[] {
  return axis.choices.map((c) => c.trim()).filter((c) => c || axis.varies === 'phrase');
}

/** A trial that is looked at: read again as its takes come and are measured. */
export class TrialReading {
  view = $state.raw<TrialView | null>(null);
  of = $state('');
  trouble = $state('');
  #timer: ReturnType<typeof setTimeout> | undefined;

  readonly measure = $derived.by(() => this.view?.measures.find((m) => m.of === this.of) ?? this.view?.measures[0]);
  /** The end of the scale that all settings share. */
  readonly most = $derived.by(() => Math.max(1.5, ...Object.values(this.measure?.values ?? {}).flatMap((v) => Object.values(v))));

  constructor(
    readonly project: ProjectState,
    readonly id: string,
  ) {}

  /** Read it again when takes come or are measured. To be called in an effect. */
  follow() {
    void [this.project.gauged, this.project.takes.size];
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.load(), this.view ? REST_MS : 0);
  }

  async load() {
    try {
      this.view = (await ok(api.GET('/api/projects/{project_id}/trials/{trial_id}', { params: { path: { project_id: this.project.id, trial_id: this.id } } }))) as TrialView;
    } catch (error) {
      this.trouble = (error as Error).message;
    }
  }

  values(cell: string): [number, number][] {
    return Object.entries(this.measure?.values[cell] ?? {}).map(([seed, value]) => [Number(seed), value]);
  }

  take(at: number[], everywhere: boolean) {
    return this.project.send(() => api.POST('/api/projects/{project_id}/trials/{trial_id}/winner', { params: { path: { project_id: this.project.id, trial_id: this.id } }, body: { at, everywhere } }));
  }

  remove() {
    return this.project.send(() => api.DELETE('/api/projects/{project_id}/trials/{trial_id}', { params: { path: { project_id: this.project.id, trial_id: this.id } } }));
  }

  close() {
    clearTimeout(this.#timer);
  }
}
