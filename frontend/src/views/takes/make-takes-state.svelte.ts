import { uniqueName } from '../../lib/without-tls';
import { api, ok, type Offer, type OrderIn, type Schemas } from '../../api/client';
import type { ProjectState } from '../../lib/project.svelte';

export type Scope = 'shot' | 'scene' | 'bare' | 'all' | 'these';
type Model = Schemas['ServiceSaid']['models'][number];
const KEPT = 'juxtaform.making';
const REST_MS = 200;

/** An order for takes as it is put together: for which shots, by whom, how many, and what it would mean. */
export class MakeTakesState {
  scope = $state<Scope>('shot');
  count = $state(4);
  quality = $state<'draft' | 'final'>('draft');
  serviceId = $state('');
  modelId = $state('');
  asItIs = $state(false);
  offer = $state.raw<Offer | null>(null);
  trouble = $state('');
  busy = $state(false);
  #timer: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  /** Names the order until it is taken: sent again, because an answer was lost, it is the same one. */
  #orderId = uniqueName();

  readonly services = $derived.by(() => this.project.serviceList);
  readonly view = $derived.by(() => this.project.queue.serviceById.get(this.service?.id ?? ''));
  readonly service = $derived(this.services.find((s) => s.id === this.serviceId) ?? this.services[0]);
  readonly models = $derived<Model[]>((this.view?.can?.models ?? []).filter((m) => m.kinds.includes('picture')));
  readonly model = $derived(this.models.find((m) => m.id === this.modelId) ?? this.models[0]);
  readonly scopes = $derived.by(() => this.#scopes());
  readonly shots = $derived(this.scopes.find((s) => s.scope === this.scope)?.shots ?? this.scopes[0]?.shots ?? []);
  readonly held = $derived((this.offer?.shots ?? []).filter((s) => s.held_back.length));
  /** Briefs of which something is left out, to fit what the service takes. */
  readonly shortened = $derived((this.offer?.shots ?? []).filter((s) => s.left_out.length));
  readonly going = $derived(this.offer ? this.offer.shots.length - (this.asItIs ? 0 : this.held.length) : 0);

  constructor(
    readonly project: ProjectState,
    private readonly these: string[] = [],
  ) {
    try {
      const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<{ count: number; quality: 'draft' | 'final' }>;
      this.count = kept.count ?? 4;
      this.quality = kept.quality ?? 'draft';
    } catch {
      // What was kept is of another time.
    }
    if (these.length) this.scope = 'these';
  }

  #scopes(): { scope: Scope; name: string; shots: string[] }[] {
    const { current, order, picked, queue } = this.project;
    const settled = order.filter((s) => s.status === 'settled');
    const bare = settled.filter((s) => !picked.has(s.id) && !queue.openByShot.has(s.id));
    const out: { scope: Scope; name: string; shots: string[] }[] = [];
    if (this.these.length) out.push({ scope: 'these', name: `the ${this.these.length} chosen`, shots: this.these });
    if (current) {
      out.push({ scope: 'shot', name: `shot ${this.project.number(current.id)}`, shots: current.status === 'settled' ? [current.id] : [] });
      out.push({ scope: 'scene', name: 'its scene', shots: settled.filter((s) => s.scene_id === current.scene_id).map((s) => s.id) });
    }
    out.push({ scope: 'bare', name: `all without a picture (${bare.length})`, shots: bare.map((s) => s.id) });
    out.push({ scope: 'all', name: `all ${settled.length}`, shots: settled.map((s) => s.id) });
    return out;
  }

  get order(): OrderIn | null {
    const { service, shots } = this;
    if (!service || !shots.length) return null;
    return { shot_ids: [...shots], count: this.count, service_id: service.id, model: this.model?.id ?? '', quality: this.quality, as_it_is: this.asItIs, order_id: null };
  }

  /** Ask what the order would mean, whenever something of it changes. To be called in an effect. */
  follow() {
    const { order } = this;
    clearTimeout(this.#timer);
    if (!order || !this.model) {
      this.offer = null;
      return;
    }
    this.#timer = setTimeout(() => void this.#ask(order), this.offer ? REST_MS : 0);
  }

  async #ask(order: OrderIn) {
    const asked = ++this.#asked;
    try {
      const got = await ok(api.POST('/api/projects/{project_id}/orders/offer', { params: { path: { project_id: this.project.id } }, body: order }));
      if (asked !== this.#asked) return;
      this.offer = got as Offer;
      this.trouble = '';
    } catch (error) {
      if (asked === this.#asked) this.trouble = (error as Error).message;
    }
  }

  /** Put the order into the queue; true when that is done. */
  async make(): Promise<boolean> {
    const { order } = this;
    if (!order || this.busy) return false;
    this.busy = true;
    try {
      await ok(api.POST('/api/projects/{project_id}/orders', { params: { path: { project_id: this.project.id } }, body: { ...order, order_id: this.#orderId } }));
      this.#orderId = uniqueName();
      globalThis.localStorage?.setItem(KEPT, JSON.stringify({ count: this.count, quality: this.quality }));
      this.project.queue.told();
      return true;
    } catch (error) {
      this.trouble = (error as Error).message;
      return false;
    } finally {
      this.busy = false;
    }
  }

  close() {
    clearTimeout(this.#timer);
  }
}
