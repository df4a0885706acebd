import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Kit } from '#model/kit';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoModel, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { fitRule } from '../order/fit';
import { uncovered } from './coverage';
import { otherWays } from './other-ways';
import { planSays } from './say-plan';

const fitting = (model: string): string[] => {
  const m = demoModel(model);
  return demoIds('kits').filter((k) => fitRule(demoKit(k), m, m.years.to, m.builds[0]!.id)?.fits);
};
const judged = (model: string, kits: string[], change: (k: Kit) => void = () => undefined) => {
  const { order, sheets } = demoOrder(model, kits);
  const changed = structuredClone(sheets.kits);
  changed.forEach(change);
  return assess(order, { ...sheets, kits: changed }, DEFAULT_SETTINGS);
};
const says = (a: ReturnType<typeof judged>, order: ReturnType<typeof demoOrder>['order']) =>
  planSays(a.work!, otherWays(order, a.work!, a, DEFAULT_SETTINGS));
const leftOut = (a: ReturnType<typeof judged>) => a.work!.leftOut.map((u) => `${u.what} ${u.lacks}`);

describe('a plan leaves nothing out', () => {
  it.each(demoIds('models').filter((m) => fitting(m).length))('of %s with every kit that fits it', (model) => {
    const a = judged(model, fitting(model));
    expect(leftOut(a)).toEqual([]);
    expect(says(a, demoOrder(model, fitting(model)).order)).toContain('Nothing is left out.');
  });
  it('whatever steps its kits’ sheets lack: what is mounted by none gets one of its own, wires and ends have theirs', () => {
    const some = fc.constantFrom(...demoIds('models').filter((m) => fitting(m).length > 1)).chain((model) =>
      fc.record({
        model: fc.constant(model),
        kits: fc.shuffledSubarray(fitting(model), { minLength: 1, maxLength: 4 }),
        drop: fc.array(fc.nat(), { maxLength: 6 }),
      }),
    );
    fc.assert(
      fc.property(some, ({ model, kits, drop }) => {
        const a = judged(model, kits, (k) => {
          // steps that tighten or stick something stay: nothing else knows how
          const may = k.steps.filter((s) => !s.uses.length && s.stage !== 'prove');
          const gone = new Set(drop.flatMap((n) => (may.length > 1 ? [may[n % may.length]!.id] : [])));
          if (k.steps.some((s) => !gone.has(s.id))) k.steps = k.steps.filter((s) => !gone.has(s.id));
        });
        expect(leftOut(a)).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });
  it('and what no step sees to is named, and the plan is not called whole', () => {
    const bolts = judged('drover-2', ['roof-bar'], (k) => k.steps.forEach((s) => (s.uses = [])));
    expect(leftOut(bolts).length).toBeGreaterThan(0);
    expect(leftOut(bolts).every((x) => /is (tightened|stuck) by no step$/.test(x))).toBe(true);
    expect(bolts.stations.plan).toMatchObject({ verdict: 'tight', owed: `${leftOut(bolts).length} left out` });
    expect(says(bolts, demoOrder('drover-2', ['roof-bar']).order)).toMatch(/Left out: .* by no step/);
  });
  it('and any step that is dropped is missed, but one that only tells or proves', () => {
    const { order, sheets } = demoOrder('drover-2', ['rear-lamp-signals', 'roof-bar']);
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    const without = (id: string) =>
      uncovered(
        a.steps.filter((s) => s.id !== id),
        a.sheets,
        sheets.model,
        a.wiring,
        a.ends,
      );
    const doing = a.steps.filter((s) => ['take', 'cut', 'lay', 'wire', 'find', 'mount', 'open', 'shut'].includes(s.id.split('/')[0]!));
    expect(doing.length).toBeGreaterThan(12);
    for (const s of doing) expect(without(s.id).length, s.id).toBeGreaterThan(0);
  });
});

describe('every position of a kit’s switches', () => {
  it('is thrown in a proof: one that no sheet asks for has its own, with what it works', () => {
    const a = judged('sandbar-21', ['nav-lights'], (k) => {
      k.steps = k.steps.filter((s) => s.stage !== 'prove');
    });
    const own = a.steps.filter((s) => s.id.startsWith('works/'));
    expect(own.length).toBeGreaterThan(0);
    expect(own[0]!.text).toMatch(
      /^Key on, everything else off\. Navigation switch to (under way|at anchor): .*All-round white.*\. Then back\.$/,
    );
    expect(own.every((s) => s.proof && s.stage === 'prove')).toBe(true);
    // where its volts are read it is thrown by name
    expect(a.steps.find((s) => s.id === 'volts/nav-lights/nav')!.text).toMatch(
      /; Navigation switch .*\. Meter at the last device\. Then off, by the same switch: dead\./,
    );
  });
  it('that works nothing has none: a panel’s spare ones', () => {
    expect(judged('sandbar-21', ['helm-panel']).steps.some((s) => /^works\/helm-panel/.test(s.id) && !/indicator/i.test(s.text))).toBe(
      false,
    );
  });
});
