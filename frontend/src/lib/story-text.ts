import type { Shot, TextPart } from '../api/client';

const PAIR = /[\ud800-\udbff][\udc00-\udfff]/g;

/** The story's text in its parts. Places on a page are counted in units of a JavaScript string, those of the server in characters: a
 * character outside of the basic plane is one there and two units here. */
export class StoryText {
  readonly words: string;
  readonly #at = new Map<string, number>();
  readonly #parts: { words: string; paired: boolean; units: number; characters: number }[] = [];

  constructor(parts: Iterable<TextPart>) {
    const ordered = [...parts].sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));
    this.words = ordered.map((p) => p.words).join('');
    let units = 0;
    let characters = 0;
    for (const [i, part] of ordered.entries()) {
      const pairs = part.words.match(PAIR)?.length ?? 0;
      this.#at.set(part.id, i);
      this.#parts.push({ words: part.words, paired: pairs > 0, units, characters });
      units += part.words.length;
      characters += part.words.length - pairs;
    }
  }

  /** The units from and to which a shot covers the text; null when it covers none of it. */
  stretch(shot: Shot): [number, number] | null {
    const first = this.#at.get(shot.start_part_id ?? '');
    const last = this.#at.get(shot.end_part_id ?? '');
    if (first === undefined || last === undefined || shot.start_at === null || shot.end_at === null) return null;
    return [this.#units(first, shot.start_at), this.#units(last, shot.end_at)];
  }

  /** The place on the page of a character that the server counts. */
  unit(character: number): number {
    const part = this.#last((p) => p.characters <= character);
    return this.#parts.length ? this.#units(part, character - this.#parts[part]!.characters) : 0;
  }

  /** The character, as the server counts, at a place on the page. */
  character(unit: number): number {
    const held = this.#parts[this.#last((p) => p.units <= unit)];
    return held ? held.characters + (held.paired ? characters(held.words.slice(0, unit - held.units)) : unit - held.units) : 0;
  }

  #units(part: number, at: number): number {
    const held = this.#parts[part]!;
    return held.units + (held.paired ? [...held.words].slice(0, at).join('').length : at);
  }

  #last(is: (part: { units: number; characters: number }) => boolean): number {
    let low = 0;
    for (let high = this.#parts.length - 1; low < high; ) {
      const middle = (low + high + 1) >> 1;
      if (is(this.#parts[middle]!)) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}

/** How many characters a string has. */
export const characters = (words: string): number => words.length - (words.match(PAIR)?.length ?? 0);

const isHalf = (words: string, at: number) => at > 0 && at < words.length && /[\udc00-\udfff]/.test(words[at]!);

/** Where two texts differ: the units `from`..`to` of the old one give way to `put`. No character is cut in half. */
export function difference(old: string, now: string): { from: number; to: number; put: string } {
  let head = 0;
  const least = Math.min(old.length, now.length);
  while (head < least && old[head] === now[head]) head++;
  if (isHalf(old, head) || isHalf(now, head)) head--;
  let tail = 0;
  while (tail < least - head && old[old.length - 1 - tail] === now[now.length - 1 - tail]) tail++;
  if (isHalf(old, old.length - tail) || isHalf(now, now.length - tail)) tail--;
  return { from: head, to: old.length - tail, put: now.slice(head, now.length - tail) };
}
