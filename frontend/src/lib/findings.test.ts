import { changed, finding, server, shotRow as shot, told } from '../testing/server';
import { eachTestAfresh, project } from '../testing/project';
import { describe, expect, it, vi } from 'vitest';

eachTestAfresh();

const some = () => {
  const p = project([shot('1'), shot('2'), shot('3')]);
  p.findings.put(told([finding('b', '3'), finding('a', '1'), finding('p', '2', { source: 'plan' }), finding('r', null, { source: 'reference' })]));
  return p;
};

describe('what there is to look at', () => {
  it('is not asked for before a view wants it, then once after many changes, and only for what it depends on', async () => {
    const { findings } = project([shot('1')]);
    server.standing.set('/findings', told([]));
    findings.changed(['shot', 'bead']);
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.asked).toEqual([]);
    findings.want();
    findings.want();
    await vi.advanceTimersByTimeAsync(50);
    expect(findings.read).toBe(1);
    for (let i = 0; i < 20; i++) findings.changed(['bead']);
    findings.changed(['mark', 'stet', 'duel']);
    await vi.advanceTimersByTimeAsync(1000);
    expect(findings.read).toBe(2);
    findings.close();
    findings.changed(['mark', 'stet']);
    await vi.advanceTimersByTimeAsync(1000);
    expect(findings.read).toBe(2);
  });

  it('is parted by where it was found, in the order of the story', () => {
    const { findings } = some();
    expect(findings.check.open.map((f) => f.key)).toEqual(['a', 'b']);
    expect(findings.plan.openByShot.get('2')!.map((f) => f.key)).toEqual(['p']);
    expect(findings.reference.open.map((f) => f.key)).toEqual(['r']);
    expect(findings.brief.open).toEqual([]);
  });

  it('takes only what changed, and lets go of what is gone', () => {
    const { findings } = some();
    findings.put(told([finding('c', '2')], { anew: false, groups: [{ source: 'check', shot: '2', findings: [finding('c', '2') as never] }, { source: 'check', shot: '3', findings: [] }] }));
    expect(findings.check.open.map((f) => f.key)).toEqual(['a', 'c']);
    expect(findings.plan.open).toHaveLength(1);
    findings.put(told([finding('x', '1')]));
    expect(findings.plan.open).toHaveLength(0);
  });

  it('names what it has when it asks again, and takes no answer that was overtaken', async () => {
    const { findings } = some();
    const first = told([finding('new', '1')]);
    server.answers = [{ status: 200, body: first }, { status: 200, body: told([finding('late', '1')]) }];
    await Promise.all([findings.load(), findings.load()]);
    expect(findings.check.open.map((f) => f.key)).toEqual(['new']);
    server.standing.set('/findings', told([]));
    await findings.load();
    expect(server.asked.at(-1)!.query.after).toBe(first.mark);
  });

  it('a stet moves a finding of any room aside, and back', () => {
    const p = some();
    p.apply(changed({ stet: [{ id: 'k', revision: 1, finding_key: 'r', reason: 'old but good' }] }));
    expect(p.findings.reference.open).toEqual([]);
    expect(p.findings.reference.stood.map((f) => f.key)).toEqual(['r']);
    p.apply(changed({}, { gone: { stet: ['k'] } }));
    expect(p.findings.reference.open.map((f) => f.key)).toEqual(['r']);
  });
});
