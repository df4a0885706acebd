import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { OrderCommand } from '../events/registry';
import type { Order } from '#model/order';
import { after, assessed, demoOrder } from '../../tests/demo-sheets';
import { behind } from './problem';
import { decide, Refused } from '../events/decide';
import { placesFor } from './moves';
import { pinRefused } from './problem';
import { replaySequence } from './replay-sequence';
import { otherWays } from './other-ways';
import { planSays, toolsOf } from './say-plan';
import { sequence } from './sequence';

const KITS = ['front-harness', 'road-kit', 'winch-32', 'roof-bar'];
const made = (kits = KITS, model = 'drover-4') => demoOrder(model, kits);
const work = (order: Order, sheets: ReturnType<typeof made>['sheets'], settings = DEFAULT_SETTINGS) =>
  assessed(order, sheets, settings).work!;
const other = (order: Order, sheets: ReturnType<typeof made>['sheets'], settings = DEFAULT_SETTINGS) => {
  const a = assessed(order, sheets, settings);
  return otherWays(order, a.work!, a, settings);
};
const settle = (order: Order, ...ids: string[]) =>
  after(order, ...ids.map((step) => ({ type: 'step.done' as const, step, title: 't', next: null, counts: null, affirmed: [], took: [] })));
const ask = (order: Order, sheets: ReturnType<typeof made>['sheets'], command: OrderCommand) =>
  decide(command, order, {
    role: 'lead',
    sheets,
    settings: DEFAULT_SETTINGS,
    assessment: assessed(order, sheets),
    by: 'tor',
    known: { kit: () => null, people: [], hasPhoto: () => true, seal: () => '0'.repeat(64) },
  });

describe('the plan of an order', () => {
  it('is a proved least order of its own problem, and its minutes are those of the steps with the moves', () => {
    const { order, sheets } = made();
    const w = work(order, sheets);
    expect(w.optimal).toBe(true);
    const walked = replaySequence(w.problem, sequence(w.problem).steps);
    expect(walked.refused).toBeNull();
    const idle = w.idle.reduce((n, x) => n + x.minutes, 0);
    expect(walked.minutes).toBeCloseTo(w.left, 6);
    // ties fill what they can of the time in which modules fall asleep
    expect(w.idle.map((x) => x.before)).toEqual(['prove/parked']);
    // before it, everything is made safe
    const safe = w.steps.findIndex((s) => s.id === 'safe/negative');
    // but what must be found with power on, and what hides it
    const finds = w.steps.filter((s) => s.stage === 'find');
    expect(finds.map((s) => s.id)).toContain('feed/bus-keyed');
    const sought = new Set(finds.map((s) => s.place));
    const hides = behind(
      sheets.model,
      sheets.model.panels.filter((p) => p.hides.some((h) => h === 'battery' || sought.has(h))).map((p) => p.id),
    );
    expect(
      w.steps
        .slice(0, safe + 1)
        .every((s) => ['make-safe', 'unpack', 'find', 'bench-test'].includes(s.stage) || (s.panel && hides.has(s.panel.id))),
    ).toBe(true);
    // nothing is torn down for what is dead out of its box
    const tried = w.steps.flatMap((s, i) => (s.stage === 'bench-test' ? [i] : []));
    expect(Math.max(...tried)).toBeLessThan(w.steps.findIndex((s) => s.stage === 'open'));
    for (const f of finds) expect(w.steps.indexOf(f)).toBeLessThan(safe);
    expect(w.at.get(w.steps[safe]!.id)! + w.steps[safe]!.minutes + w.left).toBeCloseTo(w.cost.minutes, 6);
    expect(w.bound).toBeCloseTo(w.cost.minutes + idle, 6);
    expect(planSays(w, other(order, sheets))).toMatch(
      /^\d+ steps, \d+ minutes and \d+ minutes of waiting \(its modules fall asleep\); no order takes less, and one tear-down saves \d+ minutes over kit by kit\. Nothing is left out\.$/,
    );
    expect(toolsOf(w.steps)).toContain('meter');
    expect(toolsOf(w.steps)).not.toContain('hand');
  });

  it('takes each panel off once for all kits, where kit by kit takes it off again and again', () => {
    const { order, sheets } = made();
    const w = work(order, sheets);
    const { apart } = other(order, sheets);
    expect(w.cost.panelsOff).toBeLessThan(apart.panelsOff);
    expect([w.cost.powerOff, apart.powerOff]).toEqual([1, KITS.length]);
    expect(apart.minutes - w.cost.minutes).toBeGreaterThan(60);
  });

  it('one kit alone takes what it takes apart', () => {
    const { order, sheets } = made(['roof-bar']);
    const w = work(order, sheets);
    expect(other(order, sheets).apart).toEqual(w.cost);
  });

  it('work done in the planned order changes nothing of what is left', () => {
    const { sheets, ...m } = made();
    let { order } = m;
    const all = work(order, sheets).steps.map((s) => s.id);
    for (const n of [1, 4, 9, 15]) {
      order = settle(m.order, ...all.slice(0, n));
      const w = work(order, sheets);
      expect(w.steps.map((s) => s.id).slice(n)).toEqual(all.slice(n));
      expect(w.optimal).toBe(true);
    }
  });

  it('goes on from work done out of order, with what is off and on as it is', () => {
    const { order, sheets } = made();
    const o = settle(order, 'open/grille', 'safe/negative');
    const w = work(o, sheets);
    // the hood is off with the grille: it is not taken off again, but comes back on
    const ids = w.steps.map((s) => s.id);
    expect(ids.slice(0, 2).sort()).toEqual(['open/grille', 'safe/negative']);
    expect(ids).not.toContain('open/hood');
    expect(ids).toContain('shut/hood');
    // power was off before the feeds were found: it comes back for that, and goes off again before anything is joined
    expect(ids.filter((i) => i.startsWith('safe/negative'))).toEqual(['safe/negative', 'safe/negative/2']);
    const [again, wired] = [ids.indexOf('safe/negative/2'), ids.findIndex((i) => i.startsWith('wire/'))];
    for (const f of w.steps.filter((s) => s.stage === 'find')) expect(ids.indexOf(f.id)).toBeLessThan(again);
    expect(again).toBeLessThan(wired);
  });

  it('a kit added after closing opens what it needs again, and nothing for proofs elsewhere', () => {
    const { order, sheets } = made(['roof-bar']);
    const ids = work(order, sheets).steps.map((s) => s.id);
    const closed = settle(order, ...ids);
    expect(work(closed, sheets).left).toBe(0);
    const more = made(['roof-bar', 'winch-32']);
    const both = { ...closed, kits: more.order.kits };
    const w = work(both, more.sheets);
    const again = w.steps.map((s) => s.id).filter((i) => !ids.includes(i));
    expect(again).toContain('open/hood/2');
    expect(again).toContain('shut/hood/2');
    expect(again).toContain('power/on/2');
    // a proof reopened by itself brings no panel off but that over its own place
    const reopened = after(closed, { type: 'step.reopened', step: 'prove/parked', title: 't' });
    const left = work(reopened, sheets).steps.filter((s) => !ids.includes(s.id) || s.id === 'prove/parked');
    expect(left.every((s) => s.panel === null || s.panel.hides.includes('battery'))).toBe(true);
  });

  it('work that waits for a part comes after all that does not', () => {
    const { order, sheets } = made(['road-kit', 'roof-bar', 'front-harness']);
    const short = after(order, { type: 'box.counted', kit: 'roof-bar', item: 0, count: 0, label: 'x', took: [] });
    const w = work(short, sheets);
    const hands = w.steps.filter((s) => s.stage === 'mount' || s.stage === 'wire');
    const first = hands.findIndex((s) => s.waits);
    expect(first).toBeGreaterThan(0);
    expect(hands.slice(first).every((s) => s.waits)).toBe(true);
    expect(planSays(w, other(short, sheets))).toMatch(/Waits for 1 × .*: that work comes last\.$/);
  });

  it('fishing leaves panels on and takes its minutes; taking everything off is the other way round', () => {
    const { order, sheets } = made(['heated-grips', 'aux-lamps'], 'lapwing-500');
    const choose = (runs: 'fish' | 'off' | null, fishMinutes = 4) => {
      const chosen = after(order, { type: 'plan.chosen', choice: { runs, benchTest: true } });
      const settings = { ...DEFAULT_SETTINGS, fishMinutes };
      return { ...work(chosen, sheets, settings), other: other(chosen, sheets, settings) };
    };
    const [fish, off] = [choose('fish'), choose('off')];
    expect(fish.cost.panelsOff).toBeLessThanOrEqual(off.cost.panelsOff);
    expect(fish.cost.minutes).toBeCloseTo(fish.other.fish, 6);
    expect(off.cost.minutes).toBeCloseTo(off.other.off, 6);
    expect(choose(null).cost.minutes).toBeCloseTo(Math.min(fish.other.fish, fish.other.off), 6);
    expect(choose(null, 60).runs).toBe('off');
    expect(choose(null, 0).runs).toBe('fish');
  });

  it('without trying harnesses first there is no bench-test, but one that is done stays in the record', () => {
    const { order, sheets } = made();
    const tests = work(order, sheets).steps.filter((s) => s.stage === 'bench-test');
    expect(tests.length).toBeGreaterThan(0);
    const none: OrderCommand = { type: 'plan.chosen', choice: { runs: null, benchTest: false } };
    expect(work(after(order, none), sheets).steps.some((s) => s.stage === 'bench-test')).toBe(false);
    expect(work(after(settle(order, tests[0]!.id), none), sheets).steps.some((s) => s.id === tests[0]!.id)).toBe(true);
  });
});

describe('a step put elsewhere by hand', () => {
  const { order, sheets } = made();
  const w = work(order, sheets);
  const ahead = w.steps.filter((s) => w.problem.tasks.some((t) => t.id === s.id)).map((s) => s.id);
  const places = placesFor(w.problem, w.free, [], ahead, 'wire/roof-bar/bar', w.left);

  it('has its present place for no more, and dearer ones for more', () => {
    const i = ahead.indexOf('wire/roof-bar/bar');
    const here = places.find((p) => p.after === ahead[i - 1] && p.before === ahead[i + 1])!;
    expect(here.more).toBeCloseTo(0, 6);
    expect(places).toHaveLength(ahead.length);
    expect(places.every((p) => p.more === null || p.more >= 0)).toBe(true);
  });
  it('is refused before what it needs and after what needs it, by name', () => {
    const refused = places.filter((p) => p.more === null).map((p) => p.why);
    expect(refused.some((t) => /comes before “Wire Roof bar/.test(t))).toBe(true);
    expect(refused.some((t) => /comes after “Wire Roof bar/.test(t))).toBe(true);
  });
  it('stays there when the plan is made anew, until it is freed', () => {
    const place = places.find((p) => p.more !== null && p.after !== ahead[ahead.indexOf('wire/roof-bar/bar') - 1] && p.after)!;
    const pin = { step: 'wire/roof-bar/bar', after: place.after, before: place.before };
    const event = ask(order, sheets, { type: 'plan.pinned', pin });
    expect(event).toMatchObject({ label: expect.stringMatching(/^“Wire Roof bar.*” after “/) });
    const pinned = after(order, event);
    const now = work(pinned, sheets).steps.map((s) => s.id);
    expect(now.indexOf(pin.step)).toBeGreaterThan(now.indexOf(pin.after!));
    if (pin.before) expect(now.indexOf(pin.step)).toBeLessThan(now.indexOf(pin.before));
    const freed = after(pinned, ask(pinned, sheets, { type: 'plan.freed', step: pin.step }));
    expect(work(freed, sheets).steps.map((s) => s.id)).toEqual(w.steps.map((s) => s.id));
  });
  it.each<[string, OrderCommand, RegExp]>([
    [
      'a panel',
      { type: 'plan.pinned', pin: { step: 'open/hood', after: null, before: 'prove/parked' } },
      /panels and power follow the work/,
    ],
    ['nowhere', { type: 'plan.pinned', pin: { step: 'wire/roof-bar/bar', after: null, before: null } }, /comes after, or before/],
    [
      'before what it needs',
      { type: 'plan.pinned', pin: { step: 'wire/roof-bar/bar', after: null, before: 'roof-bar/clamps' } },
      /comes before/,
    ],
    ['one that stands where it did', { type: 'plan.freed', step: 'wire/roof-bar/bar' }, /stands where Kadro put it/],
  ])('refuses %s', (_, command, why) => {
    expect(() => ask(order, sheets, command)).toThrow(Refused);
    expect(() => ask(order, sheets, command)).toThrow(why);
  });
  it('a pin against the order of things is passed over', () => {
    expect(pinRefused(w.free, { step: 'wire/roof-bar/bar', after: 'prove/parked', before: null })).toMatchObject({ step: 'prove/parked' });
    const odd = after(order, { type: 'plan.pinned', pin: { step: 'wire/roof-bar/bar', after: 'prove/parked', before: null }, label: 'x' });
    expect(work(odd, sheets).steps.map((s) => s.id)).toEqual(w.steps.map((s) => s.id));
  });
});
