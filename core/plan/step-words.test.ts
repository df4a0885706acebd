import { describe, expect, it } from 'vitest';
import type { UnitModel } from '#model/unit-model';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, looseKit, demoModel, looseOrder, looseIds } from '../../tests/demo-sheets';
import { assess, type Assessment } from '../order/assess';
import { fitRule } from '../order/fit';
import { awgName } from '../wire/resistance';
import { CAUTION } from './cautions';

const fitting = (m: string) =>
  looseIds().filter((k) => fitRule(looseKit(k), demoModel(m), demoModel(m).years.to, demoModel(m).builds[0]!.id)?.fits);
/** Every demo unit with all the kits that fit it, and each of them alone. */
const orders = (): [string, Assessment][] =>
  demoIds('models').flatMap((m) =>
    [fitting(m), ...fitting(m).map((k) => [k])].map((kits): [string, Assessment] => {
      const { order, sheets } = looseOrder(m, kits);
      return [`${m}: ${kits.join(', ')}`, assess(order, sheets, DEFAULT_SETTINGS)];
    }),
  );
const all = orders();

describe('what a meter is said to read', () => {
  it.each(all)('keeps to what feeds the circuit, and lets no other system’s volts pass: %s', (_, a) => {
    for (const s of a.steps.filter((x) => x.id.startsWith('volts/'))) {
      const { low, high } = s.readings[0]!.expected;
      const fed = a.wiring.circuits.find((c) => c.id === s.circuit)!.circuit.volts;
      const where = `${s.title}: ${low} to ${high} V on ${fed} V`;
      expect(low, where).toBeGreaterThan(fed * 0.5);
      expect(high, where).toBeLessThan(fed * 1.3);
    }
  });
});

describe('what a step says of the wiring', () => {
  it.each(all)('is in the network and on the needs list, and nothing of either is left out: %s', (_, a) => {
    const { elements, nodes } = a.wiring.harness;
    for (const s of a.steps) {
      const said = `${s.title}. ${s.text} ${s.readings.map((r) => r.label).join('. ')}`;
      const circuit = a.wiring.circuits.find((c) => c.id === s.circuit);
      const mine = elements.filter((e) => e.circuit === s.circuit);
      if (s.id.startsWith('wire/') && circuit) {
        // relays and contactors: by part, on the shelf's list, each terminal that is named joined to something
        const coils = mine.filter((e) => e.kind === 'coil' && e.part !== undefined);
        expect(/\b(relay|contactor)\b/i.test(s.text)).toBe(coils.length > 0);
        for (const c of coils) {
          if (c.kind !== 'coil') continue;
          expect(said.toLowerCase()).toContain(c.part!.name.toLowerCase());
          expect(a.needs.some((n) => n.id === c.part!.id)).toBe(true);
          // a coil stands the volts that work it
          const wire = elements.find((e) => e.kind === 'wire' && e.to === c.from);
          const point = wire && a.wiring.points.find((p) => `pp:${p.id}` === wire.from);
          if (point) expect(c.pullInV / 0.65 / point.volts).toBeCloseTo(1, 1);
        }
        for (const [, n] of said.matchAll(/\b(30|85|86|87a?)\b(?! ?(?:A|V|m|mm|N|%|°))/g))
          expect(nodes.some((x) => x.id === `${s.circuit}#${n}`)).toBe(true);
        // fuses, with their volts
        const fuse = mine.find((e) => e.id === `${s.circuit}#fuse`);
        const fuses = [...said.matchAll(/([\d.]+) A (blade|bolt-down) fuse \((\d+) V\)/g)];
        expect(fuses.map((f) => [Number(f[1]), Number(f[3])])).toEqual(
          circuit.fuseA === null || fuse?.kind !== 'fuse' ? [] : [[fuse.ratingA, fuse.ratedV]],
        );
        for (const f of fuses) expect(a.needs.some((n) => n.kind === 'fuse' && n.name.startsWith(f[0]))).toBe(true);
        // wires: each gauge and colour that is said is cut, and each that is cut is said
        const cut = new Set(mine.flatMap((e) => (e.kind === 'wire' ? [`${e.awg === null ? '?' : awgName(e.awg)} AWG ${e.colour}`] : [])));
        const named = new Set([...s.text.matchAll(/(\?|\d+(?:\/0)?) AWG ([A-Z]{2}(?:\/[A-Z]{2})?|GNYE)/g)].map((x) => x[0]));
        expect(named).toEqual(cut);
      } else {
        // no step of another kind speaks of terminals or fuses of the added wiring that are not there
        for (const f of said.matchAll(/([\d.]+) A (?:blade|bolt-down) fuse/g))
          expect(elements.some((e) => e.kind === 'fuse' && e.ratingA === Number(f[1]))).toBe(true);
        if (/\brelay\b/i.test(said) && !s.id.startsWith('change/'))
          expect(elements.some((e) => e.kind === 'coil' && (e.part !== undefined || e.of?.startsWith(`${s.kit}/`)))).toBe(true);
      }
    }
  });
  it('a reducer’s step tells of its trigger lead, and of no relay', () => {
    const { order, sheets } = looseOrder('parkway-48', ['reducer-48', 'usb-socket']);
    const s = assess(order, sheets, DEFAULT_SETTINGS).steps.find((x) => x.id === 'wire/reducer-48/input')!;
    expect(s.text).toMatch(/key-switch wire, 48 V to Reducer, trigger lead/);
    expect(s.text).not.toMatch(/relay|86/);
  });
});

const steps = (model: string, kits: string[], change: (m: UnitModel) => void = () => undefined) => {
  const { order, sheets } = looseOrder(model, kits);
  const copy = structuredClone(sheets);
  change(copy.model);
  return assess(order, copy, DEFAULT_SETTINGS).steps;
};
const cautionsAt = (list: ReturnType<typeof steps>, id: RegExp) => list.filter((s) => id.test(s.id)).flatMap((s) => s.cautions);

describe('packs', () => {
  it('a cart goes to TOW, its pack comes back with an insulated tool, eyes covered, loads off, and to RUN, held; its key wire is read at RUN, held, before its power is off', () => {
    const list = steps('parkway-48', ['reducer-48', 'usb-socket']);
    const at = (id: string) => list.findIndex((s) => s.id === id);
    expect(at('safe/tow')).toBeGreaterThan(0);
    expect(at('power/run')).toBe(at('power/on') + 1);
    const key = list[at('feed/key-wire')]!;
    expect(at('feed/key-wire')).toBeLessThan(at('safe/tow'));
    expect(key.readings[0]!.label).toMatch(/RUN, wheels chocked/);
    expect(key.cautions.join()).toMatch(/may move/);
    const on = list[at('power/on')]!;
    expect(on.tool).toMatch(/insulated/);
    expect(on.text).toMatch(/Loads off/);
    expect(on.cautions.join()).toMatch(/last post may spark.*eyes covered/);
    expect(list[at('power/run')]!.readings.map((r) => r.label).join()).toMatch(/chocked, or raised on stands/);
    expect(list.some((s) => s.tool?.includes('10 mm wrench') && /^(safe|power)\//.test(s.id))).toBe(false);
  });
  it.each([72, 110])(
    '%i V in a unit of any kind is a traction pack: insulated tool, isolation, proof of no voltage; over 60 V its maker’s procedure first',
    (v) => {
      const list = steps('lapwing-500', ['heated-grips'], (m) => {
        m.electrical.systemV = v;
        m.electrical.battery = { ...m.electrical.battery, count: Math.round(v / 12), voltsEach: v / Math.round(v / 12) };
        m.electrical.source = { kind: 'none' };
        for (const p of m.powerPoints) p.volts = v;
      });
      const safe = list.filter((s) => s.stage === 'make-safe');
      expect(safe.map((s) => s.id)).toEqual(['safe/off', 'safe/rest', 'safe/isolation', 'safe/drive-off', 'safe/isolate']);
      expect(safe.at(-1)!.tool).toMatch(/insulated/);
      expect(safe.at(-1)!.readings[0]!.label).toMatch(/reads nothing/);
      expect(safe.flatMap((s) => s.cautions).join()).toMatch(/shock/);
      expect(list.some((s) => s.tool === '10 mm wrench')).toBe(false);
    },
  );
  it('nothing is planned on more than 60 V until a qualified person acknowledges the isolation procedure', () => {
    const { order, sheets } = looseOrder('parkway-48', ['reducer-48']);
    const high = structuredClone(sheets);
    high.model.electrical.wall!.volts = 66;
    const circuit = (facts: Record<string, boolean>) => assess({ ...order, facts }, high, DEFAULT_SETTINGS).wiring.circuits[0]!;
    expect(circuit({}).verdict).toBe('fails');
    expect(circuit({}).problems.join()).toMatch(/over 60 V nothing is planned on the pack until a qualified person/);
    // acknowledged, what is left is that no small fuse is made for such volts
    expect(circuit({ 'isolation:qualified': true }).problems.join()).not.toMatch(/qualified person/);
  });
});

describe('cautions are said where they are needed', () => {
  it('gasoline boat: blower and sniff before battery work, ignition-protected parts in tank and engine spaces (33 CFR 183.410)', () => {
    const list = steps('sandbar-21', ['nav-lights', 'docking-lamps', 'helm-panel']);
    expect(cautionsAt(list, /^safe\/negative|^power\/on/).filter((c) => c === CAUTION.blower)).toHaveLength(2);
    const withSpace = steps('sandbar-21', ['deck-audio', 'nav-lights'], (m) => m.places.forEach((p) => (p.space = 'engine')));
    expect(cautionsAt(withSpace, /^wire\//)).toContain(CAUTION.ignition);
    expect(cautionsAt(steps('drover-4', ['roof-bar']), /./)).not.toContain(CAUTION.blower);
  });
  it('jack stands, pretensioners, what lies behind, ears, an ammeter’s fuse', () => {
    const list = steps('drover-4', ['front-harness', 'road-kit', 'roof-bar']);
    expect(cautionsAt(list, /^safe\/off/)).toContain(CAUTION.stands);
    expect(cautionsAt(list, /road-kit\/switch/)).toEqual(expect.arrayContaining([CAUTION.behind, CAUTION.eyes]));
    expect(cautionsAt(list, /road-kit\/horn-clear|volts\/road-kit\/horn/)).toContain(CAUTION.hearing);
    const parked = list.find((s) => s.id === 'prove/parked')!;
    expect(parked.cautions).toContain(CAUTION.ammeter);
    expect(parked.text).toMatch(/lamps off, doors shut/);
    // what sleeps is left to it, with ties in the meantime; a boat’s modules hang on its battery switch
    expect(list.find((s) => s.holds.includes(parked.id))).toMatchObject({ waitMinutes: 20, waitsFor: 'its modules fall asleep' });
    expect(steps('sandbar-21', ['nav-lights']).some((s) => s.holds.includes('prove/parked'))).toBe(false);
    expect(cautionsAt(steps('parkway-48', ['reducer-48', 'cart-road-lamps']), /cut-front/)).toContain(CAUTION.behind);
  });
  it('lithium under 0 °C, wherever it is charged', () => {
    const list = steps('drover-4', ['roof-bar'], (m) => (m.electrical.battery.chemistry = 'lfp'));
    expect(cautionsAt(list, /^power\/on|^prove\/charging/).filter((c) => c === CAUTION.lithium)).toHaveLength(2);
  });
});
