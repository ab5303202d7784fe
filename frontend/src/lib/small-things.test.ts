import { describe, expect, it, vi } from 'vitest';
import type { Shot } from '../api/client';
import { commands, ranked } from './commands.svelte';
import { chosenFiles, droppedFiles } from './files';
import { heardOver } from './heard';
import { notices } from './notices.svelte';
import { isPicture } from './pictures';
import { listOf } from './words';

describe('commands by name', () => {
  const items = ['Next finding', 'Finding before', 'Copy this brief', 'Recopy', 'Go to the Story'].map((name) => ({ name }));

  it.each([
    ['', ['Next finding', 'Finding before', 'Copy this brief', 'Recopy', 'Go to the Story']],
    ['finding', ['Next finding', 'Finding before']],
    ['copy', ['Copy this brief', 'Recopy']],
    ['brief copy', ['Copy this brief']],
    ['STORY go', ['Go to the Story']],
    ['(', []],
    ['nothing such', []],
  ])('%j finds %j', (query, names) => expect(ranked(items, query).map((i) => i.name)).toEqual(names));

  it('go when their view goes', () => {
    const away = commands.offer('Briefs', [{ name: 'Copy this brief', run: () => 1 }]);
    expect(commands.found('briefs copy').map((c) => c.group)).toEqual(['Briefs']);
    away();
    expect(commands.found('copy')).toEqual([]);
  });
});

describe('notices', () => {
  it('go by themselves unless they tell trouble; the same is said once; no more than three stand', () => {
    vi.useFakeTimers();
    notices.say('Done.');
    notices.say('Bad file.', 'trouble');
    notices.say('Done.');
    expect(notices.all.map((n) => n.text)).toEqual(['Bad file.', 'Done.']);
    vi.advanceTimersByTime(5000);
    expect(notices.all.map((n) => n.text)).toEqual(['Bad file.']);
    for (const text of ['a', 'b', 'c']) notices.say(text, 'trouble');
    expect(notices.all.map((n) => n.text)).toEqual(['a', 'b', 'c']);
    vi.useRealTimers();
  });
});

describe('what is heard', () => {
  it('is never longer than the shot, words of the cast first', () => {
    const shots = [{ id: 'a', length_s: 4 }, { id: 'b', length_s: 3 }, { id: 'new', length_s: 2 }] as Shot[];
    const planned = new Map([['a', { spoken_s: 3, told_s: 5 }], ['b', { spoken_s: 0, told_s: 1 }]]);
    expect(heardOver(shots, planned)).toEqual({ spoken_s: 3, told_s: 2, shown_s: 4 });
  });
});

describe('typed lists', () => {
  it.each([
    ['lettering, frames', ['lettering', 'frames']],
    [' a ,, a,b ', ['a', 'b']],
    ['', []],
  ])('%j is %j', (typed, list) => expect(listOf(typed)).toEqual(list));
});

it.each([['scan.TIF', ''], ['sketch.heic', ''], ['page', 'image/png'], ['leaf.psd', 'application/octet-stream']])('%s, %j, is a picture', (name, type) =>
  expect(isPicture(new File(['x'], name, { type }))).toBe(true));
it.each([['story.docx', ''], ['shots.csv', 'text/csv'], ['tif', '']])('%s, %j, is none', (name, type) => expect(isPicture(new File(['x'], name, { type }))).toBe(false));

describe('dropped files', () => {
  const file = (name: string) => ({ isFile: true, isDirectory: false, name, file: (yes: (f: File) => void) => yes(new File(['x'], name)) });
  const folder = (name: string, parts: unknown[][]) => ({
    isFile: false, isDirectory: true, name,
    createReader: () => ({ readEntries: (yes: (e: unknown[]) => void) => yes(parts.shift() ?? []) }),
  });
  const drop = (entries: unknown[]) => ({ items: entries.map((e) => ({ webkitGetAsEntry: () => e })), files: [] }) as unknown as DataTransfer;

  it('are found in folders within folders, in all the parts that the browser gives, hidden ones left out', async () => {
    const tree = folder('act one', [[file('1.png'), file('.hidden'), folder('retakes', [[file('2.png')]])], [file('3.png')]]);
    const found = await droppedFiles(drop([tree, file('loose.png')]));
    expect(found.map((f) => f.name)).toEqual(['act one/1.png', 'act one/retakes/2.png', 'act one/3.png', 'loose.png']);
  });

  it('are taken as they are where there are no folders', async () => {
    const plain = { items: [{ webkitGetAsEntry: () => null }], files: [new File(['x'], 'a.png')] } as unknown as DataTransfer;
    expect((await droppedFiles(plain)).map((f) => f.name)).toEqual(['a.png']);
    expect(chosenFiles(null)).toEqual([]);
  });
});
