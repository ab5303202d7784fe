import { changed, finding, server, shotRow as shot, soon, told } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import type { Review } from '../../api/client';
import { REASONS, ReviewState } from './review-state.svelte';

eachTestAfresh();

const FOUND = ['a', 'b', 'c', 'd'].map((key, i) => finding(key, String(i + 1)));
const band = { thread_id: '', term: 'rhythm:', label: 'the rhythm', before: 1, after: 1.6, accepted: 3, refused: 0, words: 'After 3 accepted …', moved: true, used: true, within: 2 };
const REVIEW = {
  groups: [
    { cause: 'reference', title: 'Three', why: '', advice: '', keys: ['c', 'a', 'b'], weight: 3 },
    { cause: 'alone', title: 'One', why: '', advice: '', keys: ['d', 'gone'], weight: 1 },
  ],
  bands: [band],
} as unknown as Review;

async function looked() {
  const p = project([shot('1'), shot('2'), shot('3'), shot('4')]);
  server.standing.set('/findings', told(FOUND));
  server.standing.set('/review', REVIEW);
  p.findings.again(0);
  await soon(() => expect(p.findings.read).toBeTruthy());
  const review = new ReviewState(p);
  await review.read();
  server.asked.length = 0;
  return { p, review };
}

const decidedOf = (keys: string[], verdict = 'stet') =>
  changed({ stet: keys.map((key) => ({ id: `s-${key}`, revision: 1, finding_key: key, reason: 'x', verdict, thread_id: null, term: '', departure: 0 })) } as never);

describe('a review', () => {
  it('shows what is still there, the weightiest first, and begins with it', async () => {
    const { p, review } = await looked();
    expect(review.order.map((f) => f.key)).toEqual(['c', 'a', 'b', 'd']);
    expect([review.key, p.currentId]).toEqual(['c', '3']);
  });

  it('lets stand with one key, and goes on at once', async () => {
    const { p, review } = await looked();
    server.answers.push({ status: 200, body: decidedOf(['c']) });
    expect(review.pressed('2', false)).toBe(true);
    expect(review.key).toBe('a');
    await soon(() => expect(p.decidedByKey.has('c')).toBe(true));
    expect(server.of('POST')[0]!.body).toEqual({ finding_keys: ['c'], verdict: 'stet', reason: REASONS[1], seen: {} });
    expect(review.left.map((f) => f.key)).toEqual(['a', 'b', 'd']);
  });

  it('decides about all that is open of a group with Shift', async () => {
    const { p, review } = await looked();
    p.apply(decidedOf(['a']));
    server.answers.push({ status: 200, body: decidedOf(['c', 'b'], 'retake') });
    review.pressed('T', true);
    expect(review.key).toBe('d');
    await soon(() => expect(review.left.map((f) => f.key)).toEqual(['d']));
    expect(server.of('POST')[0]!.body).toEqual({ finding_keys: ['c', 'b'], verdict: 'retake', reason: '', seen: {} });
    expect(p.findings.check.again.map((f) => f.key).sort()).toEqual(['b', 'c']);
  });

  it('says what it has seen decided, and sends over what somebody else decided only when asked to', async () => {
    const { p, review } = await looked();
    p.apply(decidedOf(['c']));
    review.show(FOUND[2]);
    const theirs = { id: 's-c', revision: 4, finding_key: 'c', verdict: 'stet' };
    server.refuse(409, 'somebody else', { mine: { verdict: 'retake' }, theirs });
    await review.decide('retake');
    expect((server.of('POST')[0]!.body as { seen: unknown }).seen).toEqual({ c: 1 });
    expect(review.key).toBe('c');
    server.answers.push({ status: 200, body: decidedOf(['c'], 'retake') });
    await p.edits.keepMine(p.edits.conflict);
    expect((server.of('POST')[1]!.body as { seen: unknown }).seen).toEqual({ c: 4 });
  });

  it('stays where it is when nothing is left, and comes back when a decision fails', async () => {
    const { p, review } = await looked();
    p.apply(decidedOf(['a', 'b', 'c']));
    review.show(FOUND[3]);
    server.refuse(422, 'no');
    await review.decide('retake');
    expect(review.key).toBe('d');
    expect(review.isDecided(FOUND[3]!)).toBe(false);
  });

  it('is gone through round and round', async () => {
    const { review } = await looked();
    review.pressed('[', false);
    expect(review.key).toBe('d');
    review.pressed(']', false);
    expect(review.key).toBe('c');
    expect(review.pressed('9', false)).toBe(false);
    expect(review.pressed('q', false)).toBe(false);
  });

  it('sets a learned band back and uses it again', async () => {
    const { p, review } = await looked();
    p.apply(changed({ project: [{ id: 'p', revision: 1, unlearned: [{ thread_id: 'x', term: 'other:' }] }] } as never));
    await review.use(band as never, false);
    const sent = server.of('PATCH')[0]!.body as { unlearned: unknown[] };
    expect(sent.unlearned).toEqual([{ thread_id: 'x', term: 'other:' }, { thread_id: '', term: 'rhythm:' }]);
  });
});
