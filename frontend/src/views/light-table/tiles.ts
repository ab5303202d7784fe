import { thumb } from '../../api/client';

export const TILE = 512;
const MOST_TILES = 120;
const MOST_AT_ONCE = 6;

/** Parts of large pictures as they are needed: fetched a few at a time, decoded beside the page, the latest kept. */
export class Tiles {
  #held = new Map<string, ImageBitmap>();
  #asked = new Set<string>();
  #waiting: [string, string][] = [];
  #under_way = 0;
  #closed = false;

  constructor(readonly oncome: () => void) {}

  /** A tile, or nothing while it is still to come. */
  tile(sha: string, level: number, column: number, row: number): ImageBitmap | undefined {
    return this.#get(`${sha}/${level}/${column}/${row}`, `/api/pictures/${sha}/tile?level=${level}&column=${column}&row=${row}`);
  }

  /** All of a picture, small. */
  small(sha: string): ImageBitmap | undefined {
    return this.#get(`${sha}/small`, thumb(sha, 960));
  }

  /** Drop what was asked for and is not needed any more: the view moved on. */
  forget() {
    for (const [key] of this.#waiting) this.#asked.delete(key);
    this.#waiting = [];
  }

  close() {
    this.#closed = true;
    this.forget();
    for (const bitmap of this.#held.values()) bitmap.close();
    this.#held.clear();
  }

  #get(key: string, address: string): ImageBitmap | undefined {
    const held = this.#held.get(key);
    if (held) {
      this.#held.delete(key);
      this.#held.set(key, held);
      return held;
    }
    if (!this.#asked.has(key)) {
      this.#asked.add(key);
      this.#waiting.push([key, address]);
      this.#next();
    }
    return undefined;
  }

  #next() {
    while (this.#under_way < MOST_AT_ONCE && this.#waiting.length) {
      const [key, address] = this.#waiting.shift()!;
      this.#under_way++;
      void this.#fetch(key, address).finally(() => {
        this.#under_way--;
        this.#next();
      });
    }
  }

  async #fetch(key: string, address: string) {
    try {
      const answer = await fetch(address);
      if (!answer.ok) return; // It is not asked for again: there is no such tile.
      const bitmap = await createImageBitmap(await answer.blob());
      if (this.#closed) return bitmap.close();
      this.#held.set(key, bitmap);
      this.#asked.delete(key);
      for (const [old, gone] of this.#held) {
        if (this.#held.size <= MOST_TILES) break;
        if (old.endsWith('/small')) continue;
        gone.close();
        this.#held.delete(old);
      }
      this.oncome();
    } catch {
      setTimeout(() => this.#asked.delete(key), 2000); // Nobody answers: with the next drawing it is asked for again.
    }
  }
}
