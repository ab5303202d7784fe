import { api, ok, type Reference, type Schemas, type Thread } from '../../api/client';
import type { NamedFile } from '../../lib/files';
import { notices } from '../../lib/notices.svelte';
import { grouped } from '../../lib/order';
import type { ProjectState } from '../../lib/project.svelte';
import { brought } from '../../lib/pictures';

export type ThreadValues = Omit<Schemas['ThreadEdit'], 'revision'>;

/** The Model sheets' behaviour: one thread with its references, and how well they serve. */
export class ModelsState {
  /** The thread that was asked for; the first one where it is not there. */
  wanted = $state<string | null>(null);
  shownId = $state<string | null>(null);
  costume = $state('');
  /** How many of the pictures that come in are read. */
  reading = $state<{ done: number; of: number } | null>(null);
  replacing = $state<Reference | null>(null);

  readonly thread = $derived.by<Thread | undefined>(() => (this.wanted ? this.project.threads.get(this.wanted) : undefined) ?? this.project.columns[0]);
  /** The newest versions; older ones that still hold before a shot stand behind them. */
  readonly references = $derived.by(() => {
    const own = this.thread ? (this.project.referencesByThread.get(this.thread.id) ?? []) : [];
    const replaced = new Set(own.filter((r) => r.replaces_id && !r.from_shot_id).map((r) => r.replaces_id));
    return own.filter((r) => !replaced.has(r.id));
  });
  readonly hasCostumes = $derived(this.thread?.kind === 'character' || this.thread?.kind === 'setting');
  readonly hasTraits = $derived(this.thread?.kind === 'character' || this.thread?.kind === 'prop');
  readonly visible = $derived.by(() => (this.hasCostumes ? this.references.filter((r) => r.costume === this.costume) : this.references));
  readonly shown = $derived.by(() => this.visible.find((r) => r.id === this.shownId) ?? this.visible[0]);
  readonly weight = $derived(this.references.reduce((sum, r) => sum + r.weight, 0));
  /** Changes with the pictures and their weights. */
  readonly stamp = $derived(this.references.map((r) => r.picture_sha + r.weight).join());
  readonly faults = $derived.by(() => grouped(this.project.findings.reference.open, (f) => f.reference ?? ''));
  /** Changes when a reference's fitness may. */
  readonly judgedBy = $derived.by(() => {
    const traits = this.project.traitsByThread.get(this.thread?.id ?? '') ?? [];
    return [this.thread?.id, this.thread?.kind, ...this.references.map((r) => r.picture_sha + r.view + r.costume), ...traits.map((t) => t.id + t.colours)].join();
  });

  constructor(readonly project: ProjectState) {}

  /** Another thread is looked at. */
  begin(thread: string) {
    this.wanted = thread;
    this.shownId = null;
    this.costume = '';
  }

  /** Have the references judged as they are now; what is told of them comes with the findings. */
  async judge(): Promise<void> {
    const { thread } = this;
    if (!thread) return;
    try {
      await ok(api.GET('/api/projects/{project_id}/threads/{thread_id}/fitness', { params: { path: this.#path(thread) } }));
      this.project.findings.again(0);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  edit(values: ThreadValues) {
    const { thread } = this;
    if (thread) void this.project.edit(thread, (revision) => api.PATCH('/api/projects/{project_id}/threads/{thread_id}', { params: { path: this.#path(thread) }, body: { ...values, revision } }));
  }

  async remove(): Promise<void> {
    const { thread } = this;
    if (!thread) return;
    this.wanted = null;
    const done = await this.project.send(() => api.DELETE('/api/projects/{project_id}/threads/{thread_id}', { params: { path: this.#path(thread) } }));
    if (done) notices.say(`${done.label}. Ctrl+Z brings it back.`);
  }

  /** Take pictures in as references of the thread that is looked at now, in the costume that is shown. */
  async add(files: NamedFile[]): Promise<void> {
    const { thread, costume } = this;
    if (!thread || !files.length) return;
    this.reading = { done: 0, of: files.length };
    const pictures: { sha: string; name: string }[] = [];
    for (const { file, name } of files) {
      const sha = await brought(this.project.id, file, name);
      if (sha) pictures.push({ sha, name: name.split('/').at(-1)!.replace(/\.[^.]+$/, '') });
      this.reading = { done: this.reading.done + 1, of: files.length };
    }
    this.reading = null;
    if (pictures.length)
      await this.project.send(() => api.POST('/api/projects/{project_id}/threads/{thread_id}/references', { params: { path: this.#path(thread) }, body: { pictures, costume } }));
  }

  #path(thread: Thread) {
    return { project_id: this.project.id, thread_id: thread.id };
  }
}
