import { api, ok, sendFile, type NoteView, type Schemas, type ShowingCard } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { grouped } from '../../lib/order';

export interface NewShowing {
  title: string;
  words: string;
  days: number;
  passphrase: string;
}

/** The links by which a project is shown, and what viewers said. */
export class ShowingsState {
  cards = $state.raw<ShowingCard[] | null>(null);
  /** The link that was just made: it is shown this once. */
  link = $state('');
  chosen = $state<string | null>(null);
  only = $state<'open' | 'all'>('open');
  busy = $state(false);

  readonly card = $derived(this.cards?.find((c) => c.id === this.chosen) ?? this.cards?.[0] ?? null);
  readonly answersTo = $derived(grouped(this.card?.notes.filter((n) => n.parent_id) ?? [], (n) => n.parent_id!));
  /** What still asks for something: comments that nobody decided about. */
  readonly threads = $derived((this.card?.notes ?? []).filter((n) => !n.parent_id && (this.only === 'all' || !this.project.decidedByKey.has(n.key))));
  readonly wanted = $derived((this.card?.verdicts ?? []).filter((w) => w.says === 'change'));
  readonly shots = $derived.by(() => {
    const notes = grouped(this.threads, (n) => n.shot_id);
    const words = grouped(this.wanted, (w) => w.shot_id);
    return this.project.order.filter((s) => notes.has(s.id) || (this.only === 'all' && words.has(s.id))).map((shot) => ({ shot, notes: notes.get(shot.id) ?? [], words: words.get(shot.id) ?? [] }));
  });
  readonly good = $derived((this.card?.verdicts ?? []).filter((w) => w.says === 'good').length);

  constructor(readonly project: ProjectState) {}

  get #path() {
    return { project_id: this.project.id };
  }

  async load() {
    await this.#done(async () => {
      this.cards = await ok(api.GET('/api/projects/{project_id}/showings', { params: { path: this.#path } }));
    });
  }

  async make(given: NewShowing): Promise<boolean> {
    return this.#done(async () => {
      const made = await ok(api.POST('/api/projects/{project_id}/showings', { params: { path: this.#path }, body: given }));
      this.link = location.origin + made.path;
      this.cards = [made.showing, ...(this.cards ?? [])];
      this.chosen = made.showing.id;
    });
  }

  freeze(card: ShowingCard) {
    return this.#done(async () => {
      const fresh = await ok(api.POST('/api/projects/{project_id}/showings/{showing_id}/freeze', { params: { path: { ...this.#path, showing_id: card.id } } }));
      this.cards = (this.cards ?? []).map((c) => (c.id === fresh.id ? fresh : c));
      notices.say(`Edition ${fresh.edition} is shown under the same link.`);
    });
  }

  revoke(card: ShowingCard) {
    return this.#done(async () => {
      await ok(api.POST('/api/projects/{project_id}/showings/{showing_id}/revoke', { params: { path: { ...this.#path, showing_id: card.id } } }));
      await this.load();
    });
  }

  remove(card: ShowingCard) {
    return this.#done(async () => {
      await ok(api.DELETE('/api/projects/{project_id}/showings/{showing_id}', { params: { path: { ...this.#path, showing_id: card.id } } }));
      this.chosen = null;
      await this.load();
    });
  }

  answer(note: NoteView, words: string) {
    return this.#done(async () => {
      const made = await ok(api.POST('/api/projects/{project_id}/notes/{note_id}/answers', { params: { path: { ...this.#path, note_id: note.id } }, body: { words } }));
      this.cards = (this.cards ?? []).map((c) => (c.id === this.card?.id ? { ...c, notes: [...c.notes, made] } : c));
    });
  }

  async takeIn(card: ShowingCard, file: File) {
    await this.#done(async () => {
      const taken = await sendFile<Schemas['RemarksTaken']>(`/api/projects/${this.project.id}/showings/${card.id}/annotations`, file);
      notices.say(`${taken.taken} comments taken in${taken.known ? `, ${taken.known} were here` : ''}${taken.left_out.length ? `. Left out: ${taken.left_out.slice(0, 3).join(' ')}` : '.'}`, taken.left_out.length ? 'trouble' : 'plain');
      await this.load();
    });
  }

  async #done(work: () => Promise<void>): Promise<boolean> {
    this.busy = true;
    try {
      await work();
      return true;
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
      return false;
    } finally {
      this.busy = false;
    }
  }
}
