import { beadRow, changed, server, shotRow as shot, soon, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { TrialDraft, TrialReading } from './trial-state.svelte';

eachTestAfresh();

const CAN = { models: [{ id: 'm', kinds: ['picture'], seeds: true, qualities: [{ id: 'draft', side_px: 640, credits: 1 }, { id: 'final', side_px: 1536, credits: 4 }] }] };

async function drafted(services = 1) {
  const p = project([shot('1')]);
  const rows = Array.from({ length: services }, (_, i) => ({ id: `s${i}`, revision: 1, name: `S${i}`, address: 'understudy:', position: i }));
  p.apply(changed({ thread: [thread('ada'), thread('ink', 'style'), thread('oil', 'style')], bead: [beadRow('1', 'ada')], service: rows }));
  p.currentId = '1';
  server.standing.set('/jobs', { counts: {}, jobs: [] });
  server.standing.set('/services', rows.map((r) => ({ service_id: r.id, can: CAN })));
  server.standing.set('/brief', { whole: { phrases: [{ key: 'action', text: 'Ada waits.' }, { key: 'hold:ada', text: 'Hold all.' }, { key: 'framing', text: 'Wide shot.' }] } });
  await p.queue.load();
  return { p, draft: new TrialDraft(p) };
}

describe('a trial that is put together', () => {
  it('begins with the weight of somebody in the shot, and says what it costs', async () => {
    const { draft } = await drafted();
    expect(draft.axes).toMatchObject([{ varies: 'weight', about: 'ada', choices: ['40', '60', '80', '100'] }]);
    expect([draft.cells, draft.credits, draft.ready]).toEqual([4, 20, true]);
    draft.quality = 'final';
    expect(draft.credits).toBe(80);
  });

  it('varies a second thing, which multiplies the settings', async () => {
    const { draft } = await drafted(2);
    draft.add();
    expect(draft.axes[1]).toMatchObject({ varies: 'style', choices: ['ink', 'oil'] });
    expect(draft.cells).toBe(8);
    draft.vary(1, 'service');
    expect(draft.axes[1]).toMatchObject({ varies: 'service', choices: ['s0/m', 's1/m'] });
  });

  it('offers the phrases of the brief, but not the holds', async () => {
    const { draft } = await drafted();
    draft.vary(0, 'phrase');
    await draft.loadPhrases();
    expect(draft.phrases.map(([key]) => key)).toEqual(['action', 'framing']);
    expect(draft.axes[0]).toMatchObject({ about: 'action', choices: ['Ada waits.', 'Ada waits.'] });
    draft.about(0, 'framing');
    expect(draft.axes[0]!.choices).toEqual(['Wide shot.', 'Wide shot.']);
  });

  it('is begun with what it varies and whom it is about; a refusal is told', async () => {
    const { p, draft } = await drafted();
    server.answers.push({ status: 202, body: { trial_id: 't', job_ids: ['j'], changed: changed({ trial: [{ id: 't', revision: 1, shot_id: '1', axes: [], seeds: [], position: 0, thread_id: 'ada' }] }) } });
    expect(await draft.begin()).toBe('t');
    expect(server.of('POST')[0]).toMatchObject({ path: '/api/projects/p/shots/1/trials', body: { axes: [{ varies: 'weight', about: 'ada' }], seeds: 5, service_id: 's0', about_thread_id: 'ada' } });
    expect(p.trials.get('t')).toBeDefined();
    server.refuse(422, 'Two choices are the same.');
    expect(await draft.begin()).toBeNull();
    expect(draft.trouble).toContain('the same');
  });

  it('cannot be begun without a service', async () => {
    const { draft } = await drafted(0);
    expect(draft.ready).toBe(false);
    expect(await draft.begin()).toBeNull();
  });
});

it('a trial is read, one measure at a time, on one scale, and its winner taken', async () => {
  const { p } = await drafted();
  const measure = (of: string, top: number) => ({ of, values: { low: { 1: top, 2: 0.5 }, high: { 1: 0.1 } }, middle: { low: 1, high: 0.1 }, best: 'high', alike: ['high'], worse: {}, told: of, apart: false });
  server.standing.set('/trials/t', { trial_id: 't', title: 'Weight of Ada', cells: [], measures: [measure('ada', 2.4), measure('ink', 0.2)], coming: 1, waiting: 2 });
  const reading = new TrialReading(p, 't');
  reading.follow();
  await soon(() => expect(reading.view?.coming).toBe(1));
  expect([reading.measure?.of, reading.most]).toEqual(['ada', 2.4]);
  expect(reading.values('low')).toEqual([[1, 2.4], [2, 0.5]]);
  reading.of = 'ink';
  expect([reading.measure?.of, reading.most]).toEqual(['ink', 1.5]);
  await reading.take([1], true);
  expect(server.of('POST').at(-1)).toMatchObject({ path: '/api/projects/p/trials/t/winner', body: { at: [1], everywhere: true } });
  await reading.remove();
  expect(server.of('DELETE')[0]!.path).toBe('/api/projects/p/trials/t');
  server.refuse(404, 'This trial is not there any more.');
  await reading.load();
  expect(reading.trouble).toContain('not there');
  reading.close();
});
