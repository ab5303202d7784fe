import { ChangeSet } from '@codemirror/state';
import { describe, expect, it } from 'vitest';
import { ranked } from '../../lib/commands.svelte';
import { byWord, moved, wordEdge } from './text-page';

const TEXT = 'Ada came in. Bo sat down.';
const span = (from: number, to: number) => [{ id: 'a', from, to }];

describe('stretches while a text is typed', () => {
  const after = (changes: Parameters<typeof ChangeSet.of>[0], from: number, to: number) => {
    const set = ChangeSet.of(changes, TEXT.length);
    return moved(span(from, to), set).map((s) => [s.from, s.to]);
  };

  it.each([
    ['words put in before it', { from: 0, insert: 'Then ' }, [18, 30]],
    ['words put in right before it', { from: 13, insert: 'Then ' }, [18, 30]],
    ['words put in inside it', { from: 16, insert: 'slowly ' }, [13, 32]],
    ['words put in right after it', { from: 25, insert: ' Yes.' }, [13, 25]],
    ['some of its words taken out', { from: 20, to: 25 }, [13, 20]],
  ])('%s', (_, change, wanted) => expect(after(change, 13, 25)).toEqual([wanted]));

  it('is gone when all its words are', () => expect(after({ from: 12, to: 25 }, 13, 25)).toEqual([]));
});

describe('the ends of a bracket', () => {
  it.each([
    [14, 'start', 13],
    [17, 'start', 16],
    [11, 'end', 12],
    [2, 'end', 3],
  ] as const)('at %d snaps its %s to %d', (at, side, wanted) => expect(wordEdge(TEXT, at, side)).toBe(wanted));

  it('move by a word and keep one', () => {
    expect(byWord(TEXT, 13, 25, 'end', -1)).toEqual([13, 19]);
    expect(byWord(TEXT, 13, 19, 'end', 1)).toEqual([13, 25]);
    expect(byWord(TEXT, 13, 25, 'start', 1)).toEqual([16, 25]);
    expect(byWord(TEXT, 13, 15, 'end', -1)).toEqual([13, 15]);
    expect(byWord(TEXT, 0, 12, 'start', -1)).toEqual([0, 12]);
  });
});

describe('commands by name', () => {
  const all = ['Go to Story', 'Accept all proposals', 'All keys', 'History'].map((name) => ({ name }));
  it('hold every typed word, those that begin a word first', () => {
    expect(ranked(all, 'all').map((c) => c.name)).toEqual(['Accept all proposals', 'All keys']);
    expect(ranked(all, 'sto').map((c) => c.name)).toEqual(['Go to Story', 'History']);
    expect(ranked(all, 'zzz')).toEqual([]);
    expect(ranked(all, '').length).toBe(4);
  });
});
