import { beadRow, changed, file, server, settled, shotRow as shot, soon, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { ShotPanelState } from './shot-panel-state.svelte';

eachTestAfresh();

function panel(chosen: string[] = [], facts: object = {}) {
  const p = project([shot('1', { size: 'MS', notes: 'Old', framings: [], speakers: ['ada', 'a gull'] }), shot('2'), shot('3')]);
  p.apply(changed({ thread: [thread('ada', 'character', { name: 'Ada', aliases: ['the girl'] })], bead: [beadRow('1', 'ada')], project: [{ ...p.row!, revision: 2, ...facts }] }));
  p.currentId = '1';
  return { p, view: new ShotPanelState(p, () => chosen) };
}

describe('facts of a shot', () => {
  it('go to all chosen shots when they are of framing and form, and to the current one when they are words', async () => {
    const { view } = panel(['1', '2']);
    view.set({ size: 'CU' });
    await settled();
    expect(server.asked[0]).toMatchObject({ method: 'PATCH', path: '/api/projects/p/shots', body: { shot_ids: ['1', '2'], values: { size: 'CU' } } });
    view.write('notes', 'New');
    await soon(() => expect(server.of('PATCH').at(-1)).toMatchObject({ path: '/api/projects/p/shots/1', body: { notes: 'New' } }));
  });

  it('are not sent when they are what they were', () => {
    const { view } = panel();
    view.write('notes', 'Old');
    expect(server.asked).toEqual([]);
  });

  it('name who speaks: threads by any of their names, others as they are written', async () => {
    const { view } = panel();
    expect(view.speakers).toBe('Ada, a gull');
    view.writeSpeakers('The girl, , a gull');
    await soon(() => expect(server.of('PATCH')[0]!.body).toMatchObject({ speakers: ['ada', 'a gull'] }));
  });

  it.each([[{ seed_rule: 'one', seed: 7 }, '7'], [{ seed_rule: 'per shot', seed: 100 }, '101'], [{ seed_rule: 'free', seed: null }, 'any']])('by %j the seed is %s', (rule, told) => {
    expect(panel([], rule).view.usualSeed).toBe(told);
  });

  it('say what face somebody makes', async () => {
    const { view } = panel();
    view.looks('ada', { face: 'wary' });
    await soon(() => expect(server.of('PATCH')[0]).toMatchObject({ body: { shot_ids: ['1'], face: 'wary', revisions: { '1-ada': 1 } } }));
  });

  it('say where somebody stands, once the keys rest, and take them off again', async () => {
    const { p, view } = panel();
    expect([view.drawFor, view.standOf('ada')]).toEqual(['ada', null]);
    view.place('ada');
    view.put('ada', [0.12345678, 0.2, 0.3, 1.0000001]);
    expect(view.standOf('ada')![0]).toBeCloseTo(0.123);
    expect(view.drawFor).toBeNull();
    await soon(() => expect(server.of('PATCH')).toHaveLength(1));
    expect(server.of('PATCH')[0]).toMatchObject({ path: '/api/projects/p/threads/ada/beads', body: { shot_ids: ['1'], stands: [0.1235, 0.2, 0.3, 1], revisions: { '1-ada': 1 } } });
    p.apply(changed({ bead: [beadRow('1', 'ada', { revision: 2, stands: [0.1, 0.2, 0.3, 0.4] })] }));
    view.drawn([0.5, 0.2, 0.3, 0.4]);
    expect(server.of('PATCH')).toHaveLength(1);
    view.put('ada', null);
    p.currentId = '2';
    view.begin();
    await soon(() => expect(server.of('PATCH').at(-1)).toMatchObject({ body: { shot_ids: ['1'], stands: null } }));
  });

  it('have the form of the guide, or of the picture', () => {
    const { p, view } = panel([], { aspect: '2:1' });
    expect(view.frame_px).toEqual([960, 480]);
    p.apply(changed({ shot: [shot('1', { revision: 2, sketch_sha: 'g' })] }));
    p.pictures.set('g', { sha: 'g', width: 300, height: 200 } as never);
    expect(view.frame_px).toEqual([300, 200]);
  });

  it('say why nobody is found on the guide', async () => {
    const { view } = panel();
    server.refuse(422, 'Nobody was recognised on the guide.');
    await view.lookOnGuide();
    expect(server.of('POST')[0]).toMatchObject({ path: '/api/projects/p/shots/1/stands' });
    expect([notices.all.at(-1)!.text, view.looking]).toEqual(['Nobody was recognised on the guide.', false]);
  });

  it('say where somebody looks; who is not in the shot looks nowhere', async () => {
    const { p, view } = panel();
    view.looks('ada', { facing: 'left' });
    await soon(() => expect(server.of('PATCH')[0]).toMatchObject({ path: '/api/projects/p/threads/ada/beads', body: { shot_ids: ['1'], facing: 'left', revisions: { '1-ada': 1 } } }));
    p.currentId = '2';
    view.looks('ada', { facing: 'left' });
    expect(view.cast).toEqual([]);
    expect(server.of('PATCH')).toHaveLength(1);
  });
});

describe('what is offered', () => {
  it('is put away when another shot is looked at, also when it comes late', async () => {
    const { p, view } = panel();
    server.answers = [{ status: 200, body: [{ size: 'CU', angle: 'high', move: 'static', why: 'closer' }] }];
    const asking = view.offer();
    p.currentId = '2';
    view.begin();
    await asking;
    expect(view.offers).toBeNull();
    p.currentId = '1';
    server.answers = [{ status: 200, body: [{ size: 'CU', angle: 'high', move: 'static', why: 'closer' }] }];
    await view.offer();
    expect(view.offers).toHaveLength(1);
    view.frame(view.offers!, 0);
    await soon(() => expect(server.of('PUT')[0]).toMatchObject({ path: '/api/projects/p/shots/1/framings', body: { picked: 0, revision: 1 } }));
    expect(view.offers).toBeNull();
  });

  it('are words that can be taken; when the service is away it is said', async () => {
    const { view } = panel();
    server.answers = [{ status: 200, body: { service: 'x', note: 'Mine.', texts: ['Ada sits.'] } }];
    await view.suggest();
    view.takeWords(view.suggested!.texts[0]!);
    await soon(() => expect(server.of('PATCH')[0]!.body).toMatchObject({ shows: 'Ada sits.' }));
    expect(view.suggested).toBeNull();
    server.refuse(422, 'It does not answer.');
    await view.suggest();
    expect(notices.all.at(-1)!.text).toBe('It does not answer.');
  });

  it('is a guide from a file; one that is no picture is refused by name', async () => {
    const { view } = panel();
    server.answers = [{ status: 200, body: { name: 's.png', sha: 'abc', refused: '', told: '' } }];
    await view.guide(file('s.png').file);
    await soon(() => expect(server.of('PATCH')[0]!.body).toMatchObject({ sketch_sha: 'abc' }));
    server.answers = [{ status: 200, body: { name: 's.txt', sha: null, refused: 'No picture.', told: '' } }];
    await view.guide(file('s.txt').file);
    expect(notices.all.at(-1)!.text).toBe('s.txt: No picture.');
  });
});
