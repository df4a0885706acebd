import { describe, expect, it } from 'vitest';
import { demoIds, demoKit } from '../../tests/demo-sheets';
import { boxScheme } from './box-scheme';
import { drawBranches } from './harness-branches';

const leg = (from: string, to: string, lengthMm = 300) => ({ id: `${from}-${to}`, from, to, lengthMm });
type End = { at: readonly [number, number]; side: 'near' | 'far' };
const near = (y: number): End => ({ at: [100, y], side: 'near' });
const far = (y: number): End => ({ at: [300, y], side: 'far' });

describe('the inside of a ready harness on the drawing of its box', () => {
  it('each branch stands where its legs meet, from what is outside to the devices', () => {
    const h = { legs: [leg('feed', 'relay'), leg('relay', 'dash', 1150), leg('dash', 'lamp'), leg('dash', 'switch')] };
    const ends = new Map([
      ['feed', near(20)],
      ['lamp', far(0)],
      ['switch', far(80)],
    ]);
    const { branches, legs } = drawBranches(h, ends, [140, 260], 20);
    expect(branches).toEqual([
      { id: 'relay', x: 140, y: expect.any(Number) as number },
      { id: 'dash', x: 260, y: expect.any(Number) as number },
    ]);
    expect(legs.map((l) => [l.id, l.from[0], l.to[0], l.lengthMm])).toEqual([
      ['feed-relay', 100, 130, 300],
      ['relay-dash', 150, 250, 1150],
      ['dash-lamp', 270, 300, 300],
      ['dash-switch', 270, 300, 300],
    ]);
    // what joins two branches has its length in the middle
    expect(legs[1]!.label).toMatchObject({ x: 200, anchor: 'middle' });
  });
  it('a lead from end to end has none', () => {
    const { branches, legs } = drawBranches(
      { legs: [leg('battery', 'contactor')] },
      new Map([
        ['battery', near(0)],
        ['contactor', far(0)],
      ]),
      [140, 260],
      20,
    );
    expect([branches, legs.length, legs[0]!.from, legs[0]!.to]).toEqual([[], 1, [100, 0], [300, 0]]);
  });
  it.each(demoIds('kits').filter((id) => demoKit(id).harnesses.length))(
    'of %s: every leg once, no branch on another, no length on another',
    (id) => {
      const kit = demoKit(id);
      const { blocks, links, lengths } = boxScheme(kit);
      const legs = kit.harnesses.reduce((n, h) => n + h.legs.length, 0);
      expect([links.filter((l) => l.kind === 'leg').length, lengths.length]).toEqual([legs, legs]);
      const hubs = blocks.filter((b) => b.key.startsWith('hub'));
      const points = kit.harnesses.flatMap((h) =>
        [...new Set(h.legs.flatMap((l) => [l.from, l.to]))].filter((p) => !h.ends.some((e) => e.id === p)).map((p) => `hub ${h.id} ${p}`),
      );
      expect(hubs.map((b) => b.key).sort()).toEqual(points.sort());
      for (const [i, a] of hubs.entries())
        for (const b of hubs.slice(i + 1)) {
          const apart = a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y;
          expect(apart, `${a.key} and ${b.key}`).toBe(true);
        }
      // no length is written over a branch
      for (const { key, label } of lengths) {
        const left = label.x - (label.anchor === 'start' ? 0 : label.anchor === 'end' ? 46 : 23);
        for (const b of hubs)
          expect(left + 46 <= b.x || left >= b.x + b.w || label.y <= b.y || label.y - 11 >= b.y + b.h, `${key} on ${b.key}`).toBe(true);
      }
      for (const [i, a] of lengths.entries())
        for (const b of lengths.slice(i + 1))
          expect(Math.abs(a.label.x - b.label.x) > 20 || Math.abs(a.label.y - b.label.y) >= 12, `${a.key} and ${b.key}`).toBe(true);
    },
  );
});
