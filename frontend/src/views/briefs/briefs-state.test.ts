import { describe, expect, it } from 'vitest';
import type { KeyedConcern, Phrase } from '../../api/client';
import { underlined } from './briefs-state.svelte';

const phrase = { key: 'action', text: 'Pell and Oda sit.' } as Phrase;
const concern = (key: string, start: number, end: number, of = 'action') => ({ key, concern: { phrase: of, start, end } }) as KeyedConcern;

describe('the words of a phrase', () => {
  it('are whole when nothing concerns them', () => {
    expect(underlined(phrase, [], undefined)).toEqual([{ words: 'Pell and Oda sit.', keys: [], now: false }]);
    expect(underlined(phrase, [concern('x', 0, 4, 'cast:p')], 'x')).toHaveLength(1);
  });

  it('are cut where concerns begin and end, overlapping ones too', () => {
    const cut = underlined(phrase, [concern('a', 9, 12), concern('b', 0, 17)], 'a');
    expect(cut.map((c) => c.words)).toEqual(['Pell and ', 'Oda', ' sit.']);
    expect(cut.map((c) => c.keys)).toEqual([['b'], ['a', 'b'], ['b']]);
    expect(cut.map((c) => c.now)).toEqual([false, true, false]);
    expect(cut.map((c) => c.words).join('')).toBe(phrase.text);
  });

  it('are left alone by a concern of an older, longer wording', () => {
    expect(underlined(phrase, [concern('a', 9, 99)], 'a')).toHaveLength(1);
  });
});
