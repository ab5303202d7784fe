import { changed, server, shotRow as shot, soon } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import type { BookNote, BookView } from '../../api/client';
import { DummyState, pagesOf, shotsOf } from './dummy-state.svelte';

eachTestAfresh();

const page = (number: number, ...shots: string[]) => ({ number, kind: shots.length ? 'shot' : 'blank', shots });
const words = (of: string, x: number) => ({ shot: of, words: of, box: { x, y: 100, w: 60, h: 10 }, size_pt: 15, over: true, by_hand: false, tone: 'dark' as const });
const note = (kind: string, at: number, of: string | null = null) => ({ kind, shot: of, page: at, title: `${kind} ${at}`, advice: '', box: null }) as unknown as BookNote;

function shown(notes: BookNote[] = []) {
  const p = project([shot('1', { page_form: 'single', words_at: null }), shot('2', { page_form: 'spread' }), shot('3', { page_form: 'half' })]);
  p.apply(changed({ project: [{ id: 'p', revision: 1, title: 'P', book: { bleed: 3 } }] }));
  const openings = [
    { left: null, right: page(1, '1'), pictures: [], words: [words('1', 220)] },
    { left: page(2, '2'), right: page(3, '2'), pictures: [], words: [words('2', 10)] },
    { left: page(4, '0', '3'), right: null, pictures: [], words: [] },
  ];
  const view = new DummyState(p);
  const told = { book: { trim_w: 200, trim_h: 150, gutter: 8, safe: 10 }, layout: { openings, pages: [] }, notes, shas: {} };
  server.standing.set('/book', told);
  view.view = told as unknown as BookView;
  return { p, view };
}

describe('the dummy', () => {
  it('opens at the current shot and turns its pages', async () => {
    const { p, view } = shown();
    p.currentId = '2';
    await view.read();
    expect([view.at, view.shotId, pagesOf(view.opening)]).toEqual([1, '2', 'pages 2 and 3']);
    view.turn(1);
    expect([view.at, view.shotId]).toEqual([2, '0']);
    view.turn(9);
    expect(view.at).toBe(2);
    view.turn(-9);
    expect([view.at, pagesOf(view.opening)]).toEqual([0, 'page 1']);
    expect(shotsOf(undefined)).toEqual([]);
  });

  it('puts words where they are dropped, in shares of their page', async () => {
    const { view } = shown();
    const [own] = view.opening!.words;
    view.move(own!, own!.box, 30, -25);
    expect(view.boxOf(own!)).toEqual({ x: 250, y: 75, w: 60, h: 10 });
    await view.drop();
    await soon(() => expect(server.of('PATCH')[0]?.body).toEqual({ words_at: [0.25, 0.5, 0.3, 0.0667], revision: 1 }));
  });

  it('knows the room of a spread and of a half', () => {
    const { p, view } = shown();
    view.turn(1);
    expect(view.room(p.shots.get('2')!)).toEqual({ x: 0, y: 0, w: 400, h: 150 });
    view.turn(1);
    expect(view.room(p.shots.get('3')!)).toEqual({ x: 0, y: 75, w: 200, h: 75 });
  });

  it('keeps words from becoming nothing, and lets them go', async () => {
    const { p, view } = shown();
    const [own] = view.opening!.words;
    view.move(own!, own!.box, 0, 0, -100);
    expect(view.boxOf(own!).w).toBe(15);
    await view.letGo(p.shots.get('1')!);
    expect(server.of('PATCH')[0]!.body).toEqual({ words_at: null, words_tone: '', revision: 1 });
  });

  it('says once what many pages share, and leads to each', () => {
    const { view } = shown([note('small', 1), note('small', 2), note('small', 3), note('small', 4), note('fold', 3, '2')]);
    expect(view.groups.map((g) => g.title)).toEqual(['4 pictures have fewer than 300 dpi at their size', 'fold 3']);
    view.goTo(view.notes[4]!);
    expect([view.at, view.shotId, view.notesHere.map((n) => n.kind)]).toEqual([1, '2', ['small', 'small', 'fold']]);
  });

  it('changes how the book is made without losing the rest', async () => {
    const { view } = shown();
    await view.make({ gutter: 12 });
    expect(server.of('PATCH')[0]!.body).toEqual({ book: { bleed: 3, gutter: 12 }, revision: 1 });
  });
});
