import { describe, expect, it } from 'vitest';
import { bench, hunt, noisy, prove, UNITS } from '../../tests/fault-hunt';
import { judgeReading } from '../plan/judge';
import { singleFaults } from './causes';
import type { Evidence } from './sight';

const counted: { seen: number; named: number }[] = [];
describe.each(UNITS)('%s', (model, kits) => {
  const b = bench(model, kits);

  it('a sound unit passes every reading that the model foretells', () => {
    expect(b.asked.length).toBeGreaterThan(10);
    for (const [i, q] of b.asked.entries()) {
      const told = b.finder.healthy(q.sight) ?? NaN;
      const shown = q.sight.look.kind === 'works' ? told : noisy(told, i);
      expect(judgeReading(shown, q.reading.expected), `${q.id} by a meter: ${shown}`).not.toBe('fails');
      const v = b.finder.healthy(q.sight);
      expect(v, q.id).not.toBeNull();
      expect(judgeReading(v!, q.reading.expected), `${q.id}: ${v} in ${q.reading.expected.low} to ${q.reading.expected.high}`).not.toBe(
        'fails',
      );
    }
  });
  it('names what is wrong within three measurements', { timeout: 120_000 }, () => {
    let seen = 0;
    let named = 0;
    // each cause in one of its forms, in turn; the benchmark counts every form of each
    for (const [i, cause] of b.finder.causes.entries()) {
      const { faults } = cause.variants[i % cause.variants.length]!;
      const evidence = prove(b, faults);
      if (!evidence) continue;
      seen++;
      if (hunt(b, evidence, faults).named === cause.id) named++;
    }
    counted.push({ seen, named });
    expect(seen).toBeGreaterThan(25);
    // within a ready harness there are fewer points to measure at
    expect(named / seen).toBeGreaterThan(0.8);
  });
});

it('nine of ten over all faults of all units that any reading shows', () => {
  expect(counted).toHaveLength(UNITS.length);
  const sum = (key: 'seen' | 'named') => counted.reduce((s, c) => s + c[key], 0);
  expect(sum('seen')).toBeGreaterThan(200);
  expect(sum('named') / sum('seen')).toBeGreaterThanOrEqual(0.9);
});

describe('the finder', () => {
  const b = bench(...UNITS[0]!);
  const plant = (id: string) => {
    const cause = b.finder.causes.find((c) => c.id === id)!;
    return { cause, faults: cause.variants[0]!.faults };
  };
  it('a lamp that stays dark while the rest of its side flashes points at its own leads, not the module', () => {
    const { faults } = plant('open:road-kit/signals:ground:front-left');
    const evidence = prove(b, faults)!;
    const { causes } = b.finder.find(evidence);
    const front = causes.filter((c) => c.cause.id.includes('front-left')).reduce((s, c) => s + c.share, 0);
    expect(front).toBeGreaterThan(0.6);
    expect(causes.find((c) => c.cause.id === 'blown:road-kit/signals#fuse')?.share ?? 0).toBeLessThan(0.01);
  });
  it('what was measured is not measured again, in whatever order the record keeps its words', () => {
    const { faults } = plant('open:road-kit/signals:ground:front-left');
    const evidence = prove(b, faults)!;
    const first = b.finder.find(evidence).next[0]!;
    // as an order has it: the look first, its switches after
    const { look, state } = first.sight;
    const told = { look, state: { beat: state.beat, controls: Object.fromEntries(Object.entries(state.controls).reverse()) } };
    evidence.push({ id: 'm', sight: told, value: b.finder.foretell(first.sight, faults)!, failing: false });
    for (const m of b.finder.find(evidence).next) expect(m.sight).not.toEqual(first.sight);
  });
  it('a dead stud has the few causes that can make it dead, not every lead of the harness', () => {
    const q = b.asked.find((x) => x.id === 'feed/bus-keyed/on')!;
    const { causes, left, none } = b.finder.find([{ id: q.id, sight: q.sight, value: 0, failing: true }]);
    expect(causes[0]!.cause.id).toBe('feed:pp:bus-keyed');
    expect(causes[0]!.share).toBeGreaterThan(0.9);
    expect(causes.length).toBeLessThan(10);
    expect(none).toBeLessThan(0.05);
    // the key is looked at before a meter is
    expect(left.map((l) => l.id)).toEqual(['slip:unit#key']);
  });
  it('what cannot move a reading the way it went has no share: a parked draw is none of an open lead', () => {
    const q = b.asked.find((x) => x.id === 'prove/parked/amps')!;
    const { causes, left } = b.finder.find([{ id: q.id, sight: q.sight, value: 0.9, failing: true }]);
    expect(causes.length).toBeGreaterThan(1);
    for (const c of causes) {
      expect(c.cause.kind, c.says).not.toBe('open');
      expect(Math.max(...c.cause.variants.map((v) => b.finder.foretell(q.sight, v.faults) ?? Infinity))).toBeGreaterThan(
        b.finder.healthy(q.sight)!,
      );
    }
    expect(left).toEqual([]);
  });
  it('what no measurement tells apart stands together, and what one does tell apart does not', () => {
    const { faults } = plant('blown:road-kit/horn#fuse');
    const { causes, next } = b.finder.find(prove(b, faults)!);
    for (const c of causes)
      expect(
        causes.some((x) => x.cause.id === c.alike),
        c.cause.id,
      ).toBe(true);
    const told = next[0]!.outcomes.map((o) => o.causes);
    for (const c of causes) {
      const of = (id: string) => told.findIndex((ids) => ids.includes(id));
      if (of(c.cause.id) >= 0 && of(c.alike) >= 0 && c.cause.variants.length === 1) expect(of(c.alike)).toBe(of(c.cause.id));
    }
  });
  it('ohms are asked for with the key off and the engine still, as the battery is off then', () => {
    for (const id of ['shorted:road-kit/horn#fused', 'blown:road-kit/horn#fuse']) {
      const { next } = b.finder.find(prove(b, plant(id).faults)!);
      for (const m of next)
        if (m.sight.look.kind === 'ohms') expect(Object.keys(m.sight.state.controls).filter((c) => c.startsWith('unit#'))).toEqual([]);
    }
  });
  it('shares add up to one with the wiring being sound', () => {
    const { faults } = plant('blown:road-kit/horn#fuse');
    const r = b.finder.find(prove(b, faults)!);
    expect(r.causes.reduce((s, c) => s + c.share, r.sound)).toBeGreaterThan(0.9);
    expect(r.causes.reduce((s, c) => s + c.share, r.sound)).toBeLessThan(1.0001);
  });
  it('what a cause does not explain is named with it', () => {
    const { faults } = plant('blown:road-kit/horn#fuse');
    const evidence = prove(b, faults)!;
    const r = b.finder.find(evidence);
    const best = r.causes[0]!;
    expect(best.against).toEqual([]);
    for (const c of r.causes) for (const id of c.against) expect(evidence.some((e) => e.id === id)).toBe(true);
  });
  it('outcomes of the next measurement cover every likely cause, each in one of them', () => {
    const { faults } = plant('open:roof-bar/relay:lamp:lamp');
    const r = b.finder.find(prove(b, faults)!);
    const next = r.next[0]!;
    expect(next.outcomes.length).toBeGreaterThan(1);
    expect(next.outcomes.reduce((s, o) => s + o.share, 0)).toBeCloseTo(1, 3);
    for (const o of next.outcomes) expect(o.low).toBeLessThanOrEqual(o.high);
  });
  it('a point that is hard to reach is asked for later', () => {
    const { faults } = plant('open:roof-bar/relay:lamp:lamp');
    const evidence = prove(b, faults)!;
    const easy = b.finder.find(evidence).next[0]!.sight.look;
    const hard = b.finder.find(evidence, (n) => (n === easy.plus || n === easy.minus ? 50 : 1)).next[0]!.sight.look;
    expect(hard).not.toEqual(easy);
  });
  it('all well: nothing is likely but a misreading', () => {
    const evidence = b.asked.map((q): Evidence => ({ id: q.id, sight: q.sight, value: b.finder.healthy(q.sight)!, failing: false }));
    expect(b.finder.find(evidence).causes[0]!.share).toBeLessThan(0.5);
  });
  it('every fault has its own name, words, and something to plant', () => {
    const causes = singleFaults(b.harness);
    expect(new Set(causes.map((c) => c.id)).size).toBe(causes.length);
    for (const c of causes) {
      expect(c.says.length).toBeGreaterThan(8);
      expect(c.look.length).toBeGreaterThan(8);
      expect(c.variants.length).toBeGreaterThan(0);
      expect(c.prior).toBeGreaterThan(0);
    }
  });
});
