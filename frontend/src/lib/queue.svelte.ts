import { api, ok, type Job, type Queue, type ServiceView } from '../api/client';

export type Deed = 'pause' | 'resume' | 'cancel' | 'up' | 'again' | 'approve' | 'dismiss';
const REST_MS = 250;
const OPEN = new Set(['running', 'asking', 'waiting', 'paused', 'held']);

/** What is asked of services: the queue as it stands, and what the services can do. */
export class QueueState {
  counts = $state.raw<Record<string, number>>({});
  jobs = $state.raw<Job[]>([]);
  services = $state.raw<ServiceView[]>([]);
  readonly open = $derived(this.jobs.filter((j) => OPEN.has(j.state)));
  readonly wrong = $derived(this.jobs.filter((j) => j.state === 'failed' || j.state === 'refused'));
  readonly held = $derived(this.jobs.filter((j) => j.state === 'held'));
  readonly openCount = $derived([...OPEN].reduce((sum, state) => sum + (this.counts[state] ?? 0), 0));
  readonly wrongCount = $derived((this.counts.failed ?? 0) + (this.counts.refused ?? 0));
  readonly running = $derived((this.counts.running ?? 0) + (this.counts.asking ?? 0));
  readonly openByShot = $derived.by(() => {
    const by = new Map<string, Job[]>();
    for (const job of this.open) by.set(job.shot_id, [...(by.get(job.shot_id) ?? []), job]);
    return by;
  });
  readonly serviceById = $derived(new Map(this.services.map((s) => [s.service_id, s] as const)));
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly projectId: string,
    private readonly trouble: (error: unknown) => void,
  ) {}

  /** The server told that something changed; many changes at once are one reading. */
  told() {
    this.#timer ??= setTimeout(() => {
      this.#timer = undefined;
      void this.load().catch(this.trouble);
    }, REST_MS);
  }

  async load() {
    const params = { params: { path: { project_id: this.projectId } } };
    const [queue, services] = await Promise.all([ok(api.GET('/api/projects/{project_id}/jobs', params)), ok(api.GET('/api/projects/{project_id}/services', params))]);
    this.counts = (queue as Queue).counts;
    this.jobs = (queue as Queue).jobs;
    this.services = services as ServiceView[];
  }

  /** Do something with some jobs, or with all that it can be done with. */
  async steer(deed: Deed, job_ids: string[] | null = null) {
    try {
      await ok(api.POST('/api/projects/{project_id}/jobs/steer', { params: { path: { project_id: this.projectId } }, body: { deed, job_ids } }));
    } catch (error) {
      this.trouble(error);
    }
    await this.load().catch(this.trouble);
  }

  close() {
    clearTimeout(this.#timer);
  }
}
