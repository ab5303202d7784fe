import { beadRow, changed, file, finding, server, shotRow as shot, soon, told, threadRow as thread } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { ContinuityState, GENERAL } from './continuity-state.svelte';

eachTestAfresh();

const FOUND = [
  finding('coat', '2', { thread: 'ada', title: 'The coat is red' }),
  finding('who', '1', { thread: 'ada', kind: 'figure_doubtful', title: 'Is this Ada?' }),
  finding('hat', '1', { thread: 'ada', title: 'The hat is gone' }),
  finding('rim', '3', { title: 'A border' }),
];

async function looked(findings = FOUND) {
  const p = project([shot('1'), shot('2'), shot('3')]);
  p.apply(changed({ thread: [thread('ada'), thread('bo', 'character', { position: 1 })], bead: [beadRow('1', 'ada')] }));
  server.standing.set('/findings', told(findings));
  p.findings.again(0);
  await soon(() => expect(p.findings.read).toBeTruthy());
  server.asked.length = 0;
  return { p, view: new ContinuityState(p) };
}

describe('what there is to look at', () => {
  it('comes in the order of the story, questions last', async () => {
    const { view } = await looked();
    expect(view.all.map((f) => f.key)).toEqual(['hat', 'coat', 'rim', 'who']);
    expect([view.open('ada'), view.asked('ada'), view.open('bo'), view.open(GENERAL)]).toEqual([2, 1, 0, 1]);
  });

  it('begins at the current shot, else with the first, else with the first thread', async () => {
    const { p, view } = await looked();
    p.currentId = '2';
    view.begin();
    expect([view.key, view.threadId]).toEqual(['coat', 'ada']);
    const none = (await looked([])).view;
    none.begin();
    expect([none.key, none.threadId]).toEqual([null, 'ada']);
  });

  it('waits until findings are read', () => {
    const view = new ContinuityState(project([shot('1')]));
    view.begin();
    expect(view.threadId).toBeNull();
  });

  it('is gone through by keys, round and round', async () => {
    const { p, view } = await looked();
    view.show('rim');
    expect([view.threadId, p.currentId]).toEqual([GENERAL, '3']);
    view.pressed(']');
    expect(view.key).toBe('who');
    view.pressed(']');
    expect(view.key).toBe('hat');
    view.pressed('[');
    expect(view.key).toBe('who');
    expect(view.pressed('s')).toBe(true);
    expect(view.stetOpen).toBe(true);
    expect(view.pressed('q')).toBe(false);
  });

  it('stays with the shot when an answer makes another finding of it', async () => {
    const { p, view } = await looked();
    view.show('who');
    server.standing.set('/findings', told([finding('gone', '1', { thread: 'ada', kind: 'figure_missing', title: 'Ada is not there' })]));
    p.findings.again(0);
    await soon(() => expect(view.found?.key).toBe('gone'));
    expect(view.others).toEqual([]);
    view.chooseShot('2');
    expect(view.found).toBeUndefined();
  });

  it('follows the thread that is chosen, and the shot on it', async () => {
    const { view } = await looked();
    view.chooseThread('ada');
    expect(view.found?.key).toBe('hat');
    expect(view.others.map((f) => f.key)).toEqual(['coat', 'who']);
    view.chooseShot('2');
    expect(view.found?.key).toBe('coat');
    view.chooseShot('3');
    expect([view.found, view.shot]).toEqual([undefined, '3']);
    view.pressed('ArrowDown');
    expect([view.threadId, view.key]).toEqual(['bo', null]);
    view.pressed('ArrowDown');
    view.pressed('ArrowDown');
    expect(view.threadId).toBe(GENERAL);
  });
});

describe('a lineup', () => {
  const cell = (shot_id: string, costume: string) => ({ shot_id, costume, sha: shot_id, box: null, distance: 0.2, verdict: 'holds', traits: [] });

  it('is that of the thread that is chosen now, however late an answer comes', async () => {
    const { view } = await looked();
    view.chooseThread('ada');
    server.answers = [{ status: 200, body: { thread_id: 'ada', cells: [cell('1', ''), cell('2', 'coat')], anchors: [] } }];
    const reading = view.read();
    view.chooseThread('bo');
    await reading;
    expect(view.lineup).toBeNull();
    view.chooseThread('ada');
    server.answers = [{ status: 200, body: { thread_id: 'ada', cells: [cell('1', ''), cell('2', 'coat'), cell('3', 'coat')], anchors: [] } }];
    await view.read();
    expect(view.costumes).toBe('usual costume, shots 1 · coat, shots 2–3');
    view.chooseThread(GENERAL);
    await view.read();
    expect(view.lineup).toBeNull();
  });

  it('says why when it cannot be read', async () => {
    const { view } = await looked();
    view.chooseThread('ada');
    server.refuse(503, 'The database is away.');
    await view.read();
    expect(notices.all.at(-1)!.text).toBe('The database is away.');
  });
});

describe('another picture in the place of one', () => {
  it('is sent, put there and checked', async () => {
    const { view } = await looked();
    view.show('coat');
    server.answers = [{ status: 200, body: { name: 'new.png', sha: 'fresh', width: 1, height: 1, refused: '', told: '' } }];
    await view.replace(file('new.png').file);
    await soon(() => expect(server.of('POST').map((a) => a.path)).toEqual(['/api/projects/p/pictures', '/api/projects/p/shots/2/replace', '/api/projects/p/check']));
    expect(server.of('POST')[1]!.body).toEqual({ sha: 'fresh', name: 'new.png' });
  });

  it('that is refused changes nothing', async () => {
    const { view } = await looked();
    view.show('coat');
    server.answers = [{ status: 200, body: { name: 'new.gif', sha: null, refused: 'This is no picture.', told: '' } }];
    await view.replace(file('new.gif').file);
    expect(server.of('POST')).toHaveLength(1);
    expect(notices.all.at(-1)!.text).toBe('new.gif: This is no picture.');
  });
});
