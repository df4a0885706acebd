import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from './assess';
import { inHandFirst, lotItems, lotsThatCame, nextInHand, readLot, sayLots } from './lots';

describe('serial and lot numbers', () => {
  const { order, sheets } = demoOrder('drover-4', ['winch-32']);

  it('stand on what is in the boxes and on what comes off the shelf, also once it is used up', () => {
    const before = lotItems(order, assess(order, sheets, DEFAULT_SETTINGS));
    expect(before.some((i) => /winch/i.test(i.name))).toBe(true);
    const used = { ...order, used: { x: [{ of: 'shelf' as const, id: 'relay-12', pieces: 1 }] } };
    expect(lotItems(used, assess(used, sheets, DEFAULT_SETTINGS)).map((i) => i.item)).toContain('relay-12');
    expect(new Set(before.map((i) => i.item)).size).toBe(before.length);
  });

  it('are asked for first of what the step mounts, one for each device, then of what else it uses and of its kit', () => {
    for (const [model, kits] of [
      ['drover-4', ['winch-32', 'roof-bar']],
      ['parkway-48', ['cart-basic-lamps']],
    ] as const) {
      const { order: o, sheets: all } = demoOrder(model, [...kits]);
      const a = assess(o, all, DEFAULT_SETTINGS);
      const items = lotItems(o, a);
      let met = 0;
      for (const step of a.steps.filter((s) => s.stage === 'mount' && s.kit)) {
        const kit = all.kits.find((k) => k.id === step.kit)!;
        const sorted = inHandFirst(items, step, all.kits);
        expect([...sorted].map((i) => i.item).sort()).toEqual(items.map((i) => i.item).sort());
        const [first] = sorted;
        expect(first!.kit).toBe(kit.id);
        // by the sheet itself: what its step names
        const names = kit.steps.find((s) => step.id === `${kit.id}/${s.id}`)?.mounts ?? [];
        const own = items.filter((i) => i.kit === kit.id && i.of.some((d) => names.includes(d)));
        if (!own.length) continue;
        met++;
        expect(own.map((i) => i.item)).toContain(first!.item);
        // a number for each of it, then the next
        const lots = Array.from({ length: first!.count }, (_x, k) => ({
          item: first!.item,
          name: first!.name,
          lot: `N${k}`,
          at: '',
          by: 'tor',
        }));
        expect(nextInHand(sorted, lots.slice(1))).toBe(first);
        expect(nextInHand(sorted, lots)).not.toBe(first);
      }
      expect(met).toBeGreaterThan(0);
    }
  });

  it('a label of the shop names its thing; a maker’s code is the number of the thing in hand', () => {
    const items = [{ item: 'winch-32-winch' }, { item: 'relay-12' }];
    expect(readLot('relay-12||R-7', 'winch-32-winch', items)).toEqual({ item: 'relay-12', lot: 'R-7' });
    expect(readLot('relay-12', 'winch-32-winch', items)).toEqual({ item: 'relay-12', lot: '' });
    expect(readLot(' WX 0042/7 ', 'winch-32-winch', items)).toEqual({ item: 'winch-32-winch', lot: 'WX 0042/7' });
    // a code that reads like an item of another order is a number here
    expect(readLot('fuse-30', 'winch-32-winch', items)).toEqual({ item: 'winch-32-winch', lot: 'fuse-30' });
  });

  it('that a thing came with are offered one by one, but for those that it has', () => {
    const receipt = (...lots: string[]) => ({
      receipts: [{ id: 'r', by: 'wyn', at: '2026-03-04T09:00:00.000Z', lines: lots.map((lot) => ({ item: 'relay-12', amount: 1, lot })) }],
    });
    const has = { lots: [{ item: 'relay-12', name: 'relay', lot: 'A1', at: '', by: 'tor' }] };
    expect(lotsThatCame(has, 'relay-12', [receipt('A1, A2', ''), receipt('A2', 'A3')])).toEqual(['A2', 'A3']);
    expect(lotsThatCame(has, 'winch-32-winch', [receipt('A1')])).toEqual([]);
  });

  it('are said thing by thing', () => {
    expect(sayLots([])).toBe('');
    expect(
      sayLots([
        { name: 'lamp', lot: 'A1' },
        { name: 'winch', lot: 'W' },
        { name: 'lamp', lot: 'A2' },
      ]),
    ).toBe('lamp: A1, A2 · winch: W');
  });
});
