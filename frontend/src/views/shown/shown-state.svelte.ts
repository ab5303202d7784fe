import { api, ApiError, ok, type FrozenShot, type NoteView, type Schemas, type Shown } from '../../api/client';
import type { Frame } from '../../lib/move-frames';
import { grouped } from '../../lib/order';
import type { Places } from '../run/bitmaps';
import { Player } from '../run/player.svelte';
import type { Drawable } from '../run/stage';
import { seenAt, spanAt, type Span } from '../run/timeline';

export type Says = 'good' | 'change';
type Word = Schemas['WordView'];
const NAME = 'juxtaform-name';
const CHANGED: Record<string, string> = { new: 'new', picture: 'another picture', words: 'other words', length: 'another length' };

/** A showing as its viewer sees it: the frozen sequence, what was said, and what they say. */
export class ShownState {
  shown = $state.raw<Shown | null>(null);
  /** 'opening', 'open', 'passphrase', or 'gone' with the words why. */
  state = $state<'opening' | 'open' | 'passphrase' | 'gone'>('opening');
  trouble = $state('');
  name = $state('');
  notes = $state.raw<NoteView[]>([]);
  verdicts = $state.raw<Word[]>([]);
  signs = $state.raw<Shown['signs']>([]);
  #id = '';
  #secret = '';

  readonly shots = $derived(this.shown?.sequence.shots ?? []);
  readonly byId = $derived(new Map(this.shots.map((s) => [s.id, s])));
  readonly spans: Span[] = $derived.by(() => {
    let start_s = 0;
    return this.shots.map((s) => {
      const span = { id: s.id, scene: s.scene, start_s, length_s: s.length_s, join: s.join as Span['join'], join_s: s.join_s };
      start_s += s.length_s;
      return span;
    });
  });
  readonly length_s = $derived(this.shots.reduce((sum, s) => sum + s.length_s, 0));
  readonly player = new Player(
    () => this.length_s,
    () => this.shown?.sequence.fps ?? 24,
  );
  readonly at = $derived(spanAt(this.spans, this.player.shown_s));
  /** Before it plays, the first picture as it is once it has come: many begin out of the dark. */
  readonly #begun = $derived(this.player.playing || this.player.time_s > 0);
  readonly seen = $derived(seenAt(this.spans, this.#begun ? this.player.shown_s : Math.min(this.spans[0]?.join_s ?? 0, (this.spans[0]?.length_s ?? 0) / 2)));
  readonly caption = $derived.by(() => {
    const span = this.spans[this.at];
    const into = span ? this.player.shown_s - span.start_s : 0;
    return (span && this.byId.get(span.id)?.captions.find(([, from, to]) => into >= from && into < to)?.[0]) ?? '';
  });
  readonly notesByShot = $derived(grouped(this.notes.filter((n) => !n.parent_id), (n) => n.shot_id));
  readonly answersTo = $derived(grouped(this.notes.filter((n) => n.parent_id), (n) => n.parent_id!));
  readonly wordsByShot = $derived(grouped(this.verdicts, (w) => w.shot_id));
  readonly own = $derived(new Map(this.verdicts.filter((w) => w.name === this.name.trim()).map((w) => [w.shot_id, w.says])));
  readonly count = $derived({ good: [...this.own.values()].filter((s) => s === 'good').length, change: [...this.own.values()].filter((s) => s === 'change').length });
  readonly signed = $derived(this.signs.find((s) => s.edition === this.shown?.edition && s.name === this.name.trim()));

  /** Where this showing's pictures are. */
  readonly places: Places = {
    thumb: (sha, side) => `/api/shown/${this.#id}/pictures/${sha}/thumb?side=${side}`,
    whole: (sha) => `/api/shown/${this.#id}/pictures/${sha}`,
    clip: (sha) => `/api/shown/${this.#id}/clips/${sha}`,
  };

  get soundUrl(): string | null {
    return this.shown?.has_sound ? `/api/shown/${this.#id}/sound` : null;
  }

  /** Open it by the secret of its link; where that is not given any more, as it was opened before. */
  async open(secret: string, passphrase = '') {
    this.#secret = secret || this.#secret;
    this.trouble = '';
    try {
      if (this.#secret) this.#id = (await ok(api.POST('/api/shown/open', { body: { secret: this.#secret, passphrase } }))).showing_id;
      await this.look();
      this.state = 'open';
    } catch (error) {
      this.state = error instanceof ApiError && error.problem.title === 'Passphrase' ? 'passphrase' : 'gone';
      this.trouble = (error as Error).message;
    }
  }

  /** As it was opened before in this browser. */
  openedBefore(id: string) {
    this.#id = id;
    return this.open('');
  }

  get id(): string {
    return this.#id;
  }

  async look() {
    const shown = (await ok(api.GET('/api/shown/{showing_id}', { params: { path: { showing_id: this.#id } } }))) as Shown;
    this.shown = shown;
    ({ notes: this.notes, verdicts: this.verdicts, signs: this.signs } = shown);
    this.name ||= shown.name || kept(NAME);
  }

  changedOf(shot: FrozenShot): string {
    return (this.shown?.changed[shot.id] ?? []).map((c) => CHANGED[c]).join(', ');
  }

  drawable(id: string): Drawable | null {
    const shot = this.byId.get(id);
    if (!shot) return null;
    const clip = shot.sha && shot.clip ? { sha: shot.sha, start_s: shot.clip[0] as number, end_s: shot.clip[1] as number } : null;
    return { shot: { shows: shot.shows, move: shot.move as never, move_start: shot.move_start as Frame | null, move_end: shot.move_end as Frame | null }, number: shot.number, sha: shot.sha, clip };
  }

  /** Comment on a shot: at a place, at a moment, or as an answer. */
  async comment(shot_id: string, words: string, where: { place?: number[]; at_s?: number; parent_id?: string } = {}): Promise<boolean> {
    return this.#said(async () => {
      const made = await ok(
        api.POST('/api/shown/{showing_id}/notes', { params: { path: { showing_id: this.#id } }, body: { shot_id, words, name: this.name, place: where.place ?? null, at_s: where.at_s ?? null, parent_id: where.parent_id ?? null } }),
      );
      this.notes = [...this.notes, made];
    });
  }

  async say(shot_id: string, says: Says): Promise<boolean> {
    const now = this.own.get(shot_id) === says ? null : says;
    return this.#said(async () => {
      this.verdicts = await ok(api.PUT('/api/shown/{showing_id}/shots/{shot_id}/word', { params: { path: { showing_id: this.#id, shot_id } }, body: { says: now, name: this.name } }));
    });
  }

  async sign(words: string): Promise<boolean> {
    return this.#said(async () => {
      this.signs = await ok(api.POST('/api/shown/{showing_id}/signs', { params: { path: { showing_id: this.#id } }, body: { name: this.name, words } }));
    });
  }

  async #said(say: () => Promise<void>): Promise<boolean> {
    this.trouble = '';
    try {
      await say();
      keep(NAME, this.name.trim());
      return true;
    } catch (error) {
      this.trouble = (error as Error).message;
      return false;
    }
  }
}

/** What is kept in this browser; where it may keep nothing, that is nothing. */
export function kept(key: string): string {
  try {
    return localStorage.getItem(key) ?? '';
  } catch {
    return '';
  }
}

export function keep(key: string, value: string) {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing asks again.
  }
}
