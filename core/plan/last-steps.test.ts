import { describe, expect, it } from 'vitest';
import { Kit } from '#model/kit';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { cardOf } from './cards';
import { LAST_RUN, RIDE_STEP, TIE_STEP } from './last-steps';
import type { PlannedStep } from './planned';
import { heldUntil } from './waits';
import { whyOf } from './whys';

const planOf = (model: string, kits: string[]) => {
  const { order, sheets } = demoOrder(model, kits);
  return assess(order, sheets, DEFAULT_SETTINGS);
};
const UNITS: [string, string[]][] = [
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
  ['drover-2', ['overhead-audio']],
  ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']],
  ['greenway-36', ['cart-basic-lamps']],
  ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
  ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']],
  ['skarn-600', ['navigator']],
  ['tern-300', ['aux-lamps']],
];

describe.each(UNITS)('the end of the work on %s', (model, kits) => {
  const a = planOf(model, kits);
  const at = (match: (s: PlannedStep) => boolean) => a.steps.flatMap((s, i) => (match(s) ? [i] : []));
  it('everything is tied once it is proved, with its panels off; then closed, tried once more, and ridden', () => {
    const [tie] = at((s) => s.id === TIE_STEP);
    const asleep = a.steps.find((s) => s.id === 'prove/asleep')?.holds ?? [];
    expect(tie).toBeGreaterThan(Math.max(...at((s) => s.stage === 'prove' && !['prove/bars', ...asleep].includes(s.id))));
    // nothing that would wake it comes between
    for (const held of asleep)
      expect(
        a.steps
          .slice(
            a.steps.findIndex((s) => s.holds.includes(held)) + 1,
            a.steps.findIndex((s) => s.id === held),
          )
          .every((s) => s.stage === 'tie' || s.id === 'prove/bars'),
      ).toBe(true);
    const shut = at((s) => s.stage === 'close' && s.panel !== null);
    if (shut.length) expect(tie).toBeLessThan(Math.min(...shut));
    const bars = at((s) => s.id === 'prove/bars');
    for (const b of bars) expect(b).toBeGreaterThan(tie!);
    const [last] = at((s) => s.id === LAST_RUN);
    expect(last).toBeGreaterThan(Math.max(tie!, ...shut));
    for (const r of at((s) => s.id === RIDE_STEP)) expect(r).toBe(a.steps.length - 1);
  });
  it('says why each step is done', () => {
    for (const s of a.steps) expect(whyOf(s), s.id).toMatch(/^[A-Z].*\.$/);
  });
  it('lays each harness before anything of it is joined', () => {
    for (const lay of a.steps.filter((s) => s.id.startsWith('lay/')))
      for (const w of a.steps.filter((s) => s.stage === 'wire' && s.after.includes(lay.id)))
        expect(a.steps.indexOf(w), `${w.id} after ${lay.id}`).toBeGreaterThan(a.steps.indexOf(lay));
  });
  it('cuts and drills only after looking', () => {
    for (const s of a.steps)
      if (s.cautions.some((c) => c.startsWith('Before the drill'))) expect(s.readings.map((r) => r.id)).toContain('behind');
  });
});

it('a boat is looked over for what hangs below, and is not ridden', () => {
  const { steps } = planOf('sandbar-21', ['nav-lights']);
  expect(steps.find((s) => s.id === TIE_STEP)!.readings.map((r) => r.id)).toEqual(['tied', 'hangs']);
  // ABYC E-11: supported at most every 18 in (457 mm)
  expect(Number(/every (\d+) mm/.exec(steps.find((s) => s.id === TIE_STEP)!.text)![1])).toBeLessThanOrEqual(457);
  expect(steps.some((s) => s.id === RIDE_STEP)).toBe(false);
});
it('glue on the grips is begun before all that need not come before it, and the ride waits for it', () => {
  const { work, steps } = planOf('lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']);
  expect(work!.idle).toMatchObject([{ before: RIDE_STEP, for: 'glue cures 4 h, not under 10 °C' }]);
  expect(work!.optimal).toBe(true);
  const at = work!.at;
  const glue = steps.find((s) => s.id === 'heated-grips/grips')!;
  expect(at.get(RIDE_STEP)! - at.get(glue.id)! - glue.minutes).toBeGreaterThanOrEqual(240 - 1e-9);
  const held = heldUntil(steps.at(-1)!, steps, (id) => (id === glue.id ? '2026-03-02T10:00:00Z' : undefined));
  expect(held?.until.toISOString()).toBe('2026-03-02T14:00:00.000Z');
  expect(heldUntil(glue, steps, () => '2026-03-02T10:00:00Z')).toBeNull();
});
it('what holds a person is read on the wrench and seen by a second one', () => {
  const { order, sheets } = demoOrder('parkway-48', ['usb-socket']);
  const [kit] = sheets.kits;
  const belts = Kit.parse({
    ...kit,
    contents: [...kit!.contents, { id: 'belt-bolts', item: 'belt bolt', count: 2, fastener: { torqueNm: 45, holdsPerson: true } }],
    steps: [
      {
        id: 'belt',
        stage: 'mount',
        title: 'Lap belt on',
        text: 'Both ends.',
        place: kit!.devices[0]!.place,
        minutes: 6,
        uses: ['belt-bolts'],
      },
      ...kit!.steps,
    ],
  });
  const belt = assess(order, { ...sheets, kits: [belts] }, DEFAULT_SETTINGS).steps.find((s) => s.id === 'usb-socket/belt')!;
  expect(belt.text).toMatch(/belt bolt, 2: all started by hand, aligned, then 45 N·m/);
  expect(belt.readings.map((r) => [r.id, r.expected.unit])).toEqual([
    ['torque', 'yes'],
    ['torque-belt-bolts', 'Nm'],
    ['second', 'yes'],
  ]);
});
it('what belongs together is one card: lids, and what is tried of one kit; never a figure, a count or a caution', () => {
  for (const [model, kits] of UNITS) {
    const { steps } = planOf(model, kits);
    for (const s of steps) {
      const card = cardOf(steps, s, () => true);
      expect(card[0]).toBe(s);
      expect(card.length).toBeLessThanOrEqual(3);
      if (card.length === 1) continue;
      for (const x of card) {
        expect(x.readings.every((r) => r.expected.unit === 'yes') && !x.panel?.fasteners.length, x.id).toBe(true);
        // what the first warns of stands at the head of its card; a box that is counted is of a kit, the key and a lid of none
        if (x !== s || s.id !== 'safe/off') expect(x.cautions, x.id).toEqual([]);
        expect([x.stage === 'unpack' ? null : x.kit, x.stage === 'prove'], x.id).toEqual([
          s.stage === 'unpack' ? null : s.kit,
          s.stage === 'prove',
        ]);
      }
    }
  }
  const { steps } = planOf('sandbar-21', ['nav-lights']);
  const run = steps.find((s) => s.id === 'nav-lights/run')!;
  expect(cardOf(steps, run, () => true).map((s) => s.id)).toEqual(['nav-lights/run', 'nav-lights/anchor']);
  expect(cardOf(steps, run, (s) => s.id !== 'nav-lights/anchor')).toEqual([run]);
});
