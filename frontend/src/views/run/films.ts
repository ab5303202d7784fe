import type { Take } from '../../api/client';
import { OWN, type Places } from './bitmaps';

/** A clip that plays off its place by more is put right; less is not seen. */
const APART_S = 0.12;
const MOST_HELD = 4;

/** What of a clip is shown: its first frame's digest, and from when to when, in s. */
export interface ShownClip {
  sha: string;
  start_s: number;
  end_s: number;
}

/** The clip of a take. */
export function clipOf(take: Pick<Take, 'picture_sha' | 'trim'> | undefined, clip: { seconds: number } | null | undefined): ShownClip | null {
  if (!take || !clip) return null;
  const [start_s, end_s] = take.trim ?? [0, clip.seconds];
  return { sha: take.picture_sha, start_s, end_s };
}

/** Clips on the stage: they run while the run-through does, and stand where it stands; those not asked for the longest are let go. */
export class Films {
  readonly #held = new Map<string, HTMLVideoElement>();

  constructor(
    readonly came: () => void,
    private readonly places: Places = OWN,
  ) {}

  /** The frame of a clip at a moment of its shot, as far as it is there; `runs` tells that it is played at plain speed. */
  get(clip: ShownClip, into_s: number, runs: boolean): HTMLVideoElement | null {
    const film = this.#film(clip.sha);
    const wanted = Math.min(clip.start_s + Math.max(0, into_s), Math.max(clip.start_s, clip.end_s - 0.02));
    const ends = wanted >= clip.end_s - 0.03;
    if (runs && !ends) {
      if (film.paused) void film.play().catch(() => undefined);
      if (Math.abs(film.currentTime - wanted) > APART_S && !film.seeking) film.currentTime = wanted;
    } else {
      if (!film.paused) film.pause();
      if (Math.abs(film.currentTime - wanted) > 0.01 && !film.seeking) film.currentTime = wanted;
    }
    return film.readyState >= 2 ? film : null;
  }

  /** Clips that are not on the stage stand still. */
  rest(but: ReadonlySet<string>) {
    for (const [sha, film] of this.#held) if (!but.has(sha) && !film.paused) film.pause();
  }

  #film(sha: string): HTMLVideoElement {
    let film = this.#held.get(sha);
    if (film) {
      this.#held.delete(sha);
    } else {
      film = document.createElement('video');
      film.muted = true;
      film.playsInline = true;
      film.preload = 'auto';
      film.src = this.places.clip(sha);
      for (const told of ['loadeddata', 'seeked'] as const) film.addEventListener(told, () => this.came());
    }
    this.#held.set(sha, film);
    while (this.#held.size > MOST_HELD) {
      const [old, gone] = this.#held.entries().next().value!;
      gone.pause();
      gone.removeAttribute('src');
      gone.load();
      this.#held.delete(old);
    }
    return film;
  }

  close() {
    for (const film of this.#held.values()) {
      film.pause();
      film.removeAttribute('src');
      film.load();
    }
    this.#held.clear();
  }
}
