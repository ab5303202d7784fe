import { thumb, whole } from '../../api/client';

/** Where pictures and clips are asked for. */
export interface Places {
  thumb(sha: string, side: number): string;
  whole(sha: string): string;
  clip(sha: string): string;
}
export const OWN: Places = { thumb, whole, clip: (sha) => `/api/clips/${sha}/film` };

const MOST_HELD = 14;
const QUICK_SIDE = 960;

interface Held {
  bitmap: ImageBitmap | null;
  fine: boolean;
  wanted: number;
}

/** Pictures decoded ahead of their time: a small one at once, a fine one after it; those not asked for the longest are let go. */
export class Bitmaps {
  readonly #held = new Map<string, Held>();
  #closed = false;

  constructor(
    readonly came: () => void,
    private readonly places: Places = OWN,
  ) {}

  /** A picture as far as it is there; it is on its way from now on. `side` is the longer side in px that it is drawn at. */
  get(sha: string, side: number): ImageBitmap | null {
    let held = this.#held.get(sha);
    if (held) {
      this.#held.delete(sha);
      this.#held.set(sha, held);
      if (!held.fine && held.wanted < side && held.bitmap) void this.#load(sha, held, side);
      return held.bitmap;
    }
    held = { bitmap: null, fine: false, wanted: 0 };
    this.#held.set(sha, held);
    void this.#load(sha, held, side);
    for (const [old, { bitmap }] of this.#held) {
      if (this.#held.size <= MOST_HELD) break;
      if (old === sha) continue;
      bitmap?.close();
      this.#held.delete(old);
    }
    return null;
  }

  async #load(sha: string, held: Held, side: number) {
    held.wanted = side;
    const before = held.bitmap;
    if (!before) await this.#decode(sha, this.places.thumb(sha, QUICK_SIDE), held);
    if (side > QUICK_SIDE) await this.#decode(sha, this.places.whole(sha), held, side);
    held.fine = true;
  }

  async #decode(sha: string, from: string, held: Held, side?: number) {
    try {
      const blob = await (await fetch(from)).blob();
      let bitmap = await createImageBitmap(blob);
      const scale = side ? side / Math.max(bitmap.width, bitmap.height) : 1;
      if (scale < 0.9) {
        const smaller = await createImageBitmap(bitmap, { resizeWidth: Math.round(bitmap.width * scale), resizeHeight: Math.round(bitmap.height * scale), resizeQuality: 'medium' });
        bitmap.close();
        bitmap = smaller;
      }
      if (this.#closed || this.#held.get(sha) !== held) return bitmap.close();
      held.bitmap?.close();
      held.bitmap = bitmap;
      this.came();
    } catch {
      // A picture that cannot be read is drawn as a missing one; the Sheet says why.
    }
  }

  close() {
    this.#closed = true;
    for (const { bitmap } of this.#held.values()) bitmap?.close();
    this.#held.clear();
  }
}
