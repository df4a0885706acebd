import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aimBeam, aimCard, lowBeamAim } from './aim';
import type { Lamp } from './lamp';

const lamp = (over: Partial<Lamp>): Lamp => ({
  id: 'k/l',
  name: 'Left headlamp',
  function: 'headlamp',
  at: { x: 2000, y: 400, z: 700 },
  where: '',
  from: 'kit',
  known: true,
  moved: false,
  ...over,
});

describe('aim, by trigonometry', () => {
  it('the beam is a straight line: on the wall it has fallen by distance times its fall, and it ends where height is used up', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        fc.double({ min: 1, max: 50, noNaN: true }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        (h, d, pct) => {
          const a = aimBeam(h, d, pct);
          const angle = Math.atan(pct / 100);
          expect(a.wallHeightM).toBeCloseTo(h - d * Math.tan(angle), 9);
          expect(aimBeam(h, a.reachM!, pct).wallHeightM).toBeCloseTo(0, 9);
        },
      ),
    );
  });
  it('0.7 m up, 10 m away, 1 %: 0.6 m on the wall, 70 m to the ground; a level beam never meets it', () => {
    expect(aimBeam(0.7, 10, 1)).toEqual({
      wallHeightM: expect.closeTo(0.6, 12),
      reachM: expect.closeTo(70, 9),
      dropM: expect.closeTo(0.1, 12),
    });
    expect(aimBeam(0.7, 10, 0).reachM).toBeNull();
  });
  it('UNECE R48, from memory: a low beam under 0.8 m is set between 1.0 and 1.5 %, within 0.5 and 2.5 %', () => {
    const b = lowBeamAim(0.79);
    expect([b.lowPct, b.highPct]).toEqual([0.5, 2.5]);
    expect(b.setPct).toBeGreaterThanOrEqual(1);
    expect(b.setPct).toBeLessThanOrEqual(1.5);
    expect(lowBeamAim(1.2)).toMatchObject({ lowPct: 1, highPct: 3 });
  });
  it('a card has a line for every aimed lamp whose place is known; auxiliary lamps go outward, one on the centre line does not', () => {
    const card = aimCard(
      [
        lamp({}),
        lamp({ id: 'k/r', function: 'tail' }),
        lamp({ id: 'k/n', at: null }),
        lamp({ id: 'k/a', function: 'auxiliary-lamp' }),
        lamp({ id: 'k/b', function: 'work-lamp', at: { x: 0, y: 0, z: 1900 } }),
      ],
      7.62,
    );
    expect(card.map((c) => c.lamp.id)).toEqual(['k/l', 'k/a', 'k/b']);
    expect(card[0]!.outM).toBe(0);
    expect(card[1]!.outM).toBeCloseTo(7.62 * Math.tan((3 * Math.PI) / 180), 9);
    expect(card[2]!.outM).toBe(0);
    for (const c of card) expect(c.lowM < c.wallM && c.wallM < c.highM && c.highM < c.mountM).toBe(true);
  });
});
