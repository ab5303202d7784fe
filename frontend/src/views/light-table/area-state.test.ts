import { changed, server, shotRow as shot, takeRow as take } from '../../testing/server';
import { eachTestAfresh, project } from '../../testing/project';
import { beforeEach, describe, expect, it } from 'vitest';
import { notices } from '../../lib/notices.svelte';
import { AreaState } from './area-state.svelte';

eachTestAfresh();
beforeEach(() => {
  const held = new Map<string, string>();
  globalThis.localStorage = { getItem: (k: string) => held.get(k) ?? null, setItem: (k: string, v: string) => void held.set(k, v) } as unknown as Storage;
});

function drawn() {
  const p = project([shot('1')]);
  p.apply(changed({ take: [take('a', '1')], service: [{ id: 's1', revision: 1, name: 'One', position: 0 }, { id: 's2', revision: 1, name: 'Two', position: 1 }] }));
  return { p, area: new AreaState(p, { sha: 'shaa', name: 'shot 1', width: 1200, height: 800, take: 'a' }) };
}

const draw = (area: AreaState, ...points: [number, number][]) => {
  area.begin(...points[0]!);
  for (const point of points.slice(1)) area.go(...point);
  area.end();
};

describe('an area', () => {
  it('is drawn with brush, outline and box, in parts of the picture', () => {
    const { area } = drawn();
    draw(area, [0.1, 0.1], [0.2, 0.1], [0.2003, 0.1], [0.3, 0.2]);
    area.tool = 'box';
    draw(area, [0.5, 0.5], [0.6, 0.7], [0.65, 0.66]);
    area.tool = 'outline';
    area.rubbing = true;
    draw(area, [0.5, 0.5], [0.6, 0.5], [0.6, 0.6]);
    expect(area.shapes.map((s) => [s.kind, s.points.length, s.rubbed])).toEqual([['brush', 4, false], ['box', 2, false], ['outline', 4, true]]);
    expect(area.empty).toBe(false);
  });

  it('keeps a touch of the brush, and no box that was only clicked', () => {
    const { area } = drawn();
    draw(area, [0.1, 0.1]);
    area.tool = 'box';
    draw(area, [0.5, 0.5], [0.501, 0.5]);
    expect(area.shapes.map((s) => s.kind)).toEqual(['brush']);
  });

  it('takes forms back and brings them again; what is only rubbed out is empty', () => {
    const { area } = drawn();
    area.put();
    area.nudge(0.1, 0);
    expect(area.shapes[0]!.points).toEqual([[0.45, 0.35], [0.75, 0.65]]);
    area.back();
    expect(area.empty).toBe(true);
    area.forth();
    expect(area.empty).toBe(false);
    area.clear();
    area.rubbing = true;
    area.put();
    expect(area.empty).toBe(true);
  });

  it('is sent to the chosen service only with words and something drawn', async () => {
    const { area } = drawn();
    area.serviceId = 's2';
    area.words = '  an open hand ';
    expect(await area.send()).toBe(false);
    area.put();
    expect(await area.send()).toBe(true);
    const asked = server.asked.find((a) => a.path.endsWith('/takes/a/area'));
    expect(asked?.body).toMatchObject({ words: 'an open hand', service_id: 's2', count: 2, area: { feather: 0.01, shapes: [{ kind: 'box' }] } });
    server.refuse(422, 'Two has no model that changes areas.');
    expect(await area.send()).toBe(false);
    expect(notices.all.at(-1)?.text).toContain('no model');
    expect(area.shapes).toHaveLength(1);
  });

  it('takes a picture that was retouched elsewhere, and says when it is none', async () => {
    const { area } = drawn();
    area.put();
    server.answers.push({ status: 200, body: { name: 'x.png', sha: 'new', width: 1, height: 1, refused: '', told: '' } });
    server.answers.push({ status: 200, body: changed({ take: [take('b', '1', { parent_id: 'a', picked: false })] }) });
    expect(await area.bring(new File(['x'], 'x.png'))).toBe('b');
    server.answers.push({ status: 200, body: { name: 'x.png', sha: null, width: 0, height: 0, refused: 'This is not a picture.' } });
    expect(await area.bring(new File(['x'], 'x.png'))).toBeNull();
    expect(notices.all.at(-1)?.text).toContain('not a picture');
  });
});
