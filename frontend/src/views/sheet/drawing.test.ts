import { describe, expect, it } from 'vitest';
import { drawing, type Knot } from './drawing';
import { beadRadius } from './geometry';

const knot = (facts: Partial<Knot> = {}, bead: Partial<Knot['bead']> = {}): Knot => ({ x: 24, kind: 'character', bead: { hold: 'figure', weight: 1, costume: '', ...bead }, above: null, ...facts });
const count = (path: string, what: RegExp) => path.match(what)?.length ?? 0;

describe('the threads at a shot', () => {
  it.each([
    ['figure', 'whole', ''], ['place', 'whole', ''], ['face', 'partial', 'dots'], ['light', 'partial', 'dots'], ['outfit', 'partial', 'bars'], ['layout', 'partial', 'bars'],
  ] as const)('held by its %s is drawn %s with %s', (hold, form, sign) => {
    const d = drawing([knot({}, { hold })]);
    expect(count(d[form], /M/g)).toBe(1);
    expect(d[form === 'whole' ? 'partial' : 'whole']).toBe('');
    for (const other of ['dots', 'bars'] as const) expect(d[other] !== '').toBe(other === sign);
  });

  it('are one path a look, however many they are', () => {
    const d = drawing([knot(), knot({ x: 72 }), knot({ x: 120, kind: 'prop' })]);
    expect(count(d.whole, /M/g)).toBe(3);
    expect(count(d.whole, /z/g)).toBe(1);
    expect(d.strands).toBe('');
  });

  it('are tied to the bead above, up to its edge', () => {
    const d = drawing([knot({ above: { bead: { weight: 0, costume: '' }, way: 72 } })]);
    expect(d.strands).toBe(`M24 0V${beadRadius(0) - 72}`);
    expect(d.breaks).toEqual([]);
  });

  it('are parted where the costume changes, which is named', () => {
    const above = { bead: { weight: 1, costume: 'coat' }, way: 100 };
    const d = drawing([knot({ above }, { costume: 'wet' }), knot({ x: 72, above }, { costume: '' })]);
    expect(count(d.strands, /h16/g)).toBe(4);
    expect(d.breaks).toEqual([{ x: 37, y: -46, to: 'wet' }, { x: 85, y: -46, to: 'usual costume' }]);
  });

  it('show what is open before what is stale, and that before what was let stand', () => {
    const d = drawing([knot({ state: 'open', stale: true }), knot({ state: 'stet', stale: true }), knot({ state: 'stet' })]);
    expect([d.kinks, d.stale].map((p) => count(p, /M/g))).toEqual([1, 1]);
    expect(count(d.stets, /M/g)).toBe(4);
  });
});
