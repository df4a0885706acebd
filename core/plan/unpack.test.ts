import { otherWays } from './other-ways';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Order } from '#model/order';
import { after, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { cardOf } from './cards';
import { unpackStepOf } from './unpack';

const { order, sheets } = demoOrder('drover-2', ['front-harness', 'road-kit']);
const look = (o: Order) => assess(o, sheets, DEFAULT_SETTINGS);
const count = (o: Order, kit: string, short = 0): Order =>
  after(
    o,
    ...sheets.kits
      .find((k) => k.id === kit)!
      .contents.map((c, item) => ({
        type: 'box.counted' as const,
        kit,
        item,
        count: item ? c.count : c.count - short,
        label: c.item,
        took: [],
      })),
  );
const saidWhole = (o: Order, kit: string) =>
  after(o, { type: 'step.done', step: unpackStepOf(kit), title: 'x', next: null, counts: null, took: [], affirmed: [] });
const unpacking = (o: Order) => look(o).steps.filter((s) => s.stage === 'unpack');

describe('boxes are counted before anything is taken apart', () => {
  it('each by a step of its own right after the key is out, on the card of the key, and it names what should be there', () => {
    const { steps } = look(order);
    expect(steps.slice(0, 3).map((s) => s.id)).toEqual(['safe/off', 'unpack/front-harness', 'unpack/road-kit']);
    for (const s of steps.slice(1, 3))
      for (const b of look(order).fit.kits.find((k) => k.kit.id === s.kit)!.box) expect(s.text).toContain(`${b.need} × ${b.item}`);
    expect(cardOf(steps, steps[0]!, () => true).map((s) => s.id)).toEqual(steps.slice(0, 3).map((s) => s.id));
  });
  it('but not what was counted at the door', () => {
    expect(unpacking(count(order, 'road-kit')).map((s) => s.kit)).toEqual(['front-harness']);
    expect(unpacking(count(count(order, 'road-kit'), 'front-harness'))).toEqual([]);
  });
  it('its time is in the plan, and in what the kits take one after another', () => {
    const [a, b] = [look(order), look(count(order, 'road-kit'))];
    const minutes = unpacking(order).find((s) => s.kit === 'road-kit')!.minutes;
    expect(minutes).toBeGreaterThan(1);
    expect(a.work!.cost.minutes - b.work!.cost.minutes).toBeCloseTo(minutes, 6);
    const apart = (o: Order) => otherWays(o, look(o).work!, look(o), DEFAULT_SETTINGS).apart.minutes;
    expect(apart(order) - apart(count(order, 'road-kit'))).toBeCloseTo(minutes, 6);
    expect(a.work!.cost.moves).toBe(b.work!.cost.moves);
  });
  it('said to be whole, everything of it is there; what was counted short stays short', () => {
    const a = look(saidWhole(saidWhole(order, 'road-kit'), 'front-harness'));
    expect(a.stations.fit.owed).toBe('');
    expect(a.fit.parts.inHand).toBe(a.fit.parts.needed);
    const half = after(order, { type: 'box.counted', kit: 'road-kit', item: 0, count: 0, label: 'x', took: [] });
    const short = look(saidWhole(half, 'road-kit')).fit.kits.find((k) => k.kit.id === 'road-kit')!;
    expect(short.verdict).toBe('tight');
    expect(short.box.filter((b) => b.counted === 0)).toHaveLength(1);
  });
  it('another box is counted anew', () => {
    const done = saidWhole(order, 'road-kit');
    const again = after(
      done,
      { type: 'kit.removed', kit: 'road-kit' },
      { type: 'kit.added', kit: { id: 'road-kit', revision: 1 }, name: 'Road kit' },
    );
    expect(
      look(done)
        .fit.kits.find((k) => k.kit.id === 'road-kit')!
        .box.every((b) => b.counted === b.need),
    ).toBe(true);
    expect(unpacking(again).map((s) => s.kit)).toContain('road-kit');
    expect(
      look(again)
        .fit.kits.find((k) => k.kit.id === 'road-kit')!
        .box.every((b) => b.counted === null),
    ).toBe(true);
  });
});
