import { describe, expect, it } from 'vitest';
import type { Kit } from '#model/kit';
import type { Harness, HarnessWire } from '#model/harness';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoIds, demoKit, demoModel, demoOrder } from '../../tests/demo-sheets';
import { spliceRows } from '../harness/cut-list';
import { cutRows } from '../harness/cut-list';
import { assess } from '../order/assess';
import { fitRule } from '../order/fit';
import { allowable } from '../wire-rules/allowable';
import { largestFuse } from '../wire-rules/guards';
import { compareOptions } from '../order/options';
import { sayInUnits } from '../quantity/quantity';
import { meets } from './ends';
import { planWiring } from './plan';

const DEMO: [string, string[]][] = [
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
  ['drover-2', ['overhead-audio']],
  ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']],
  ['greenway-36', ['reducer-36', 'cart-basic-lamps']],
  ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
  ['tern-300', ['aux-lamps', 'power-manager']],
  ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio']],
  ['skarn-600', ['navigator']],
];
const wires = (h: Harness): HarnessWire[] => h.elements.filter((e): e is HarnessWire => e.kind === 'wire');
const wiring = (o: { order: Order; sheets: Sheets }) => planWiring(o.order, o.sheets, DEFAULT_SETTINGS);
const circuit = (w: ReturnType<typeof wiring>, id: string) => w.circuits.find((c) => c.id === id)!;
const withKit = (o: { order: Order; sheets: Sheets }, id: string, change: (k: Kit) => void) => ({
  order: o.order,
  sheets: {
    ...o.sheets,
    kits: o.sheets.kits.map((k) => {
      if (k.id !== id) return k;
      const copy = structuredClone(k);
      change(copy);
      return copy;
    }),
  },
});

describe.each(DEMO)('the boxes of %s with %s', (model, kits) => {
  const o = demoOrder(model, kits);
  const w = wiring(o);
  const a = assess(o.order, o.sheets, DEFAULT_SETTINGS);
  it('every end of every wire is joined, capped or spare, and none twice', () => {
    for (const kit of a.sheets.kits)
      for (const h of kit.harnesses)
        for (const e of h.ends) {
          const work = a.ends.filter((x) => x.kit.id === kit.id && x.of.harness === h.id && x.of.end === e.id);
          expect(work, `${kit.id} ${h.id} ${e.id}`).toHaveLength(1);
          expect(work[0]!.wires.map((x) => x.goes).every(Boolean)).toBe(true);
        }
  });
  it('no ready wire is longer in the network than its legs are', () => {
    for (const e of wires(w.harness)) {
      if (!e.box) continue;
      const legs = a.sheets.kits.find((k) => k.id === e.box!.kit)!.harnesses.find((h) => h.id === e.box!.harness)!.legs;
      expect(e.lengthM! * 1000, e.id).toBeLessThanOrEqual(legs.reduce((s, l) => s + l.lengthMm, 0) + 50);
      expect(e.lengthM!, e.id).toBeGreaterThan(0);
    }
  });
  it('each wire of a box is cut from no spool, and what is cut comes from no box', () => {
    const cut = new Set(cutRows(w.harness, a.sheets.model).map((r) => r.wire));
    for (const e of wires(w.harness)) expect(cut.has(e.id), e.id).toBe(!e.box);
  });
  it('no fuse is above what it guards, nor under its load', () => {
    for (const c of w.circuits) {
      if (c.fuseA !== null && c.load.continuousA !== null) expect(c.fuseA, c.id).toBeGreaterThanOrEqual(c.load.continuousA * 1.25 - 1e-9);
      for (const e of wires(w.harness))
        if (e.circuit === c.id && e.box && !e.signal && c.fuseA !== null)
          expect(allowable({ ...e, awg: e.awg! }, { hot: e.hot, bundled: e.bundled }), `${c.id} ${e.id}`).toBeGreaterThanOrEqual(
            c.fuseA / largestFuse(1, DEFAULT_SETTINGS),
          );
    }
  });
  it('the network is frozen: nothing of it is changed once it is built', () => {
    expect(Object.isFrozen(w.harness)).toBe(true);
    expect(Object.isFrozen(w.harness.elements)).toBe(true);
    for (const e of w.harness.elements) expect(Object.isFrozen(e), e.id).toBe(true);
  });
  it('every device of every kit is mounted by a step, and every harness is laid or plugged by one', () => {
    const text = a.steps.map((s) => `${s.title}\n${s.text}`).join('\n');
    for (const kit of a.sheets.kits) {
      const named = new Set(kit.steps.flatMap((s) => s.mounts));
      for (const d of kit.devices)
        if (!d.uses && !named.has(d.id))
          expect(
            a.steps.some((s) => s.id === `mount/${kit.id}/${d.id}`),
            `${kit.id} ${d.id}`,
          ).toBe(true);
    }
    for (const e of a.ends) if (e.into) expect(text.toLowerCase(), `${e.kit.id} ${e.name}`).toContain(e.name.toLowerCase());
  });
});

it('any kits that fit a unit are planned with their boxes, whatever the choice: every wire has its circuit, gauge and place', () => {
  for (const m of demoIds('models')) {
    const model = demoModel(m);
    for (const id of demoIds('kits')) {
      const kit = demoKit(id);
      if (!fitRule(kit, model, model.years.to, model.builds[0]!.id)?.fits) continue;
      for (const chosen of [{}, ...kit.variants.flatMap((v) => v.options.map((x) => ({ [v.id]: x.id })))]) {
        const o = demoOrder(m, [id]);
        const w = wiring({ ...o, order: { ...o.order, variants: { [id]: chosen } } });
        for (const e of wires(w.harness)) if (e.box) expect([e.id, e.awg !== null, e.lengthM !== null]).toEqual([e.id, true, true]);
      }
    }
  }
});

describe('a winch and where its contactor stands', () => {
  it('is near the battery, where its leads reach, on either unit: no lead is led on', () => {
    for (const m of ['drover-4', 'drover-2']) {
      const o = demoOrder(m, ['winch-32']);
      const a = assess(o.order, o.sheets, DEFAULT_SETTINGS);
      expect(
        a.ends.filter((e) => e.how === 'extend').map((e) => e.name),
        m,
      ).toEqual([]);
      expect(a.sheets.kits[0]!.devices.find((d) => d.id === 'contactor')!.place, m).toBe('battery');
      expect(a.needs.filter((n) => n.kind === 'wire')).toEqual([]);
      // its box has no main fuse: that is added
      expect(a.needs.map((n) => n.name).join()).toMatch(/150 A bolt-down fuse/);
    }
  });
  it('put elsewhere by hand, its leads are too short, and it says by how much', () => {
    const o = demoOrder('drover-4', ['winch-32']);
    const placed = after(o.order, { type: 'device.placed', kit: 'winch-32', device: 'contactor', place: 'front-harness', label: 'x' });
    const a = assess(placed, o.sheets, DEFAULT_SETTINGS);
    expect(a.ends.filter((e) => e.how === 'extend').map((e) => e.harness)).toContain('red battery lead');
    expect(a.fit.kits[0]!.verdict).toBe('tight');
    expect(a.fit.kits[0]!.says).toMatch(/\d+ mm short/);
    expect(a.needs.some((n) => n.kind === 'wire' && n.name.startsWith('2 AWG'))).toBe(true);
  });
});

describe('what the maker put in', () => {
  it('stands: the road kit’s 10 A and 15 A fuses, on the plugs that the front harness provides', () => {
    const w = wiring(demoOrder('drover-4', ['front-harness', 'road-kit']));
    expect(circuit(w, 'road-kit/signals')).toMatchObject({ fuseA: 10, fuseFrom: 'box', wireFrom: 'box', verdict: 'holds' });
    expect(circuit(w, 'road-kit/horn')).toMatchObject({ fuseA: 15, fuseFrom: 'box' });
    const feeds = ['signals', 'horn'].map((c) => circuit(w, `road-kit/${c}`).feed!.id);
    expect(new Set(feeds).size).toBe(2);
    for (const f of feeds) expect(f).toMatch(/^front-/);
    // the harness before it carries both
    expect(circuit(w, 'front-harness/keyed').load.continuousA).toBeGreaterThan(7);
  });
  it('a fuse above its thinnest wire is told, with one that would do, and never changed without a word', () => {
    const o = withKit(demoOrder('drover-4', ['roof-bar']), 'roof-bar', (k) => {
      const f = k.harnesses[0]!.inline[0]!;
      if (f.kind === 'fuse') f.ratingA = 80;
    });
    const c = circuit(wiring(o), 'roof-bar/bar');
    expect(c).toMatchObject({ fuseA: 80, fuseFrom: 'box', verdict: 'fails' });
    expect(c.problems.join()).toMatch(/80 A fuse is above what the box’s 12 AWG .* may carry .*put in one of 15 A/);
    expect(c.unsafe).not.toBeNull();
  });
  it('a fuse under its load blows, and one for too few volts is told', () => {
    const low = withKit(demoOrder('drover-4', ['roof-bar']), 'roof-bar', (k) => {
      const f = k.harnesses[0]!.inline[0]!;
      if (f.kind === 'fuse') f.ratingA = 7.5;
    });
    expect(circuit(wiring(low), 'roof-bar/bar').problems.join()).toMatch(/7.5 A fuse blows: 10 A flow/);
    const volts = withKit(demoOrder('parkway-48', ['reducer-48']), 'reducer-48', (k) => {
      const f = k.harnesses[0]!.inline[0]!;
      if (f.kind === 'fuse') f.ratedV = 32;
    });
    expect(circuit(wiring(volts), 'reducer-48/input').problems.join()).toMatch(/made for 32 V, .* V stand here while charging/);
  });
  it('one off the shelf in its place is on the needs list', () => {
    const o = demoOrder('drover-4', ['roof-bar']);
    const order = after(o.order, { type: 'wire.overridden', circuit: 'roof-bar/bar', field: 'fuseA', value: 20, reason: 'x' });
    const a = assess(order, o.sheets, DEFAULT_SETTINGS);
    expect(a.wiring.circuits[0]).toMatchObject({ fuseA: 20, fuseFrom: 'shelf' });
    expect(a.needs.some((n) => n.id === 'fuse-blade-20')).toBe(true);
    expect(assess(o.order, o.sheets, DEFAULT_SETTINGS).needs).toEqual([]);
  });
});

describe('a port with a fuse and a ground of its own', () => {
  const o = demoOrder('lapwing-500', ['heated-grips']);
  const w = wiring(o);
  it('guards what is plugged in, without a second fuse, and grounds it at its own pin', () => {
    expect(circuit(w, 'heated-grips/grips')).toMatchObject({
      fuseA: null,
      fuseFrom: 'unit',
      guardedBy: 'accessory plug, 10 A',
      wireFrom: 'box',
    });
    const back = wires(w.harness).find((e) => e.to === 'gnd:pp-plug-10');
    expect(back?.box).toEqual({ kit: 'heated-grips', harness: 'grips', wire: 'ground' });
    expect(assess(o.order, o.sheets, DEFAULT_SETTINGS).needs).toEqual([]);
  });
  it('is refused to a fuse that its kit’s maker does not allow', () => {
    const tight = withKit(o, 'heated-grips', (k) => (k.circuits[0]!.fuseMaxA = 7.5));
    const c = circuit(wiring(tight), 'heated-grips/grips');
    expect(c.fuseFrom).toBe('shelf');
    expect(c.fuseA).toBe(7.5);
  });
  it('a plug of another family is told, with what to buy, seals and all', () => {
    const other = withKit(o, 'heated-grips', (k) => {
      const e = k.harnesses[0]!.ends[0]!.end;
      if (e.kind === 'connector') e.family = 'three-lock';
    });
    const a = assess(other.order, other.sheets, DEFAULT_SETTINGS);
    const c = a.wiring.circuits[0]!;
    expect(c.adapted!.why).toMatch(/three-lock plug with 2 cavities does not go into accessory plug, 10 A/);
    expect(c.adapted!.buy).toEqual([
      'two-pin sealed plug with 2 cavities',
      '2 × terminal for two-pin sealed plug',
      '2 × wire seal for two-pin sealed',
    ]);
    expect(a.needs.filter((n) => n.kind === 'buy').map((n) => [n.name, n.need])).toEqual([
      ['terminal for two-pin sealed plug', 2],
      ['two-pin sealed plug with 2 cavities', 1],
      ['wire seal for two-pin sealed', 2],
    ]);
    expect(a.fit.kits[0]!.verdict).toBe('tight');
  });
  it.each([
    ['its other half mates', { kind: 'connector', family: 'x', gender: 'plug', cavities: 2, sealed: true } as const, 'mates'],
    ['the same half does not', { kind: 'connector', family: 'x', gender: 'socket', cavities: 2, sealed: true } as const, 'adapted'],
    ['more cavities do not', { kind: 'connector', family: 'x', gender: 'plug', cavities: 3, sealed: true } as const, 'adapted'],
    ['a ring does not go into a plug', { kind: 'ring', studMm: 6 } as const, 'adapted'],
    ['a bare end is joined', { kind: 'bare' } as const, 'joined'],
  ])('%s', (_, end, as) => {
    const port = {
      kind: 'accessory-port' as const,
      name: 'port',
      connector: { family: 'x', gender: 'socket' as const, cavities: 2, sealed: true },
    };
    expect(meets(end, port, 2).as).toBe(as);
    expect(meets({ kind: 'ring', studMm: 6 }, { kind: 'bus-bar-stud', name: 'stud' }, 1).as).toBe('screws');
  });
});

describe('other ways to the same end', () => {
  it('the auxiliary lamps by relay, plug or screw: parts, price, minutes, parked draw and what is left there', () => {
    const o = demoOrder('lapwing-500', ['aux-lamps']);
    const rows = compareOptions(o.order, o.sheets, DEFAULT_SETTINGS, 'aux-lamps', 'feed');
    expect(rows.map((r) => [r.option, r.feeds.join(), r.price, r.chosen])).toEqual([
      ['relay', 'battery positive post', 0, true],
      ['plug', 'accessory plug, 10 A', 18, false],
      ['screw', 'fuse-box accessory screw', 9, false],
    ]);
    const [relay, plug, screw] = rows;
    expect(relay!.freeA).toBeNull();
    expect(plug!.freeA).toBeCloseTo(10 / 1.25, 6);
    expect(screw!.freeA).toBeCloseTo(5 / 1.25, 6);
    expect(plug!.minutes).toBeLessThan(relay!.minutes);
    for (const r of rows) expect(r.verdict).toBe('holds');
  });
  it('what is chosen is what is planned, and its event is recorded', () => {
    const o = demoOrder('lapwing-500', ['aux-lamps']);
    const order = after(o.order, { type: 'variant.chosen', kit: 'aux-lamps', variant: 'feed', option: 'plug', label: 'x' });
    const w = planWiring(order, o.sheets, DEFAULT_SETTINGS);
    expect(circuit(w, 'aux-lamps/lamps')).toMatchObject({ mode: 'direct', guardedBy: 'accessory plug, 10 A' });
    expect(w.harness.elements.some((e) => e.kind === 'coil')).toBe(false);
  });
});

describe('positions of a panel', () => {
  const o = demoOrder('sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps']);
  const order: Order = { ...o.order, variants: { 'nav-lights': { switch: 'panel' }, 'docking-lamps': { switch: 'panel' } } };
  const a = assess(order, o.sheets, DEFAULT_SETTINGS);
  it('run the lamps of other kits, one each, with the panel’s feed carrying them all', () => {
    const taken = a.wiring.circuits.filter((c) => c.feed?.kind === 'switch-position').map((c) => c.feed!.id);
    expect(taken).toHaveLength(3);
    expect(new Set(taken).size).toBe(3);
    const lamps = (3 + 3 + 5 + 60) / 12;
    expect(circuit(a.wiring, 'helm-panel/panel').load.continuousA).toBeCloseTo(2 / 12 + lamps, 6);
    expect(circuit(a.wiring, 'nav-lights/side').feed!.id).not.toBe(circuit(a.wiring, 'nav-lights/white').feed!.id);
  });
  it('leave the kits’ own switches in the box', () => {
    expect(a.sheets.kits.flatMap((k) => k.devices).some((d) => d.id === 'switch')).toBe(false);
    expect(a.fit.kits.find((k) => k.kit.id === 'nav-lights')!.box.some((b) => b.item.startsWith('switch'))).toBe(false);
    expect(a.steps.some((s) => s.id === 'nav-lights/switch')).toBe(false);
  });
});

it('a lead that a hand is short is led on in its own gauge, the joint on the sheets and its wire off the shelf', () => {
  const o = demoOrder('parkway-48', ['reducer-48', 'usb-socket']);
  const a = assess(o.order, o.sheets, DEFAULT_SETTINGS);
  const short = a.ends.filter((e) => e.how === 'extend');
  expect(short.map((e) => e.of.end)).toEqual(['feed']);
  expect(short[0]!.leg!.shortMm).toBeGreaterThan(100);
  const added = wires(a.wiring.harness).filter((e) => !e.box && e.circuit === 'usb-socket/usb');
  expect(added.map((e) => [e.awg, e.colour])).toEqual([[16, 'RD/YE']]);
  expect(a.needs.filter((n) => n.kind === 'wire').map((n) => n.name)).toEqual(['16 AWG, RD/YE']);
  expect(a.steps.find((s) => s.circuit === 'usb-socket/usb' && s.stage === 'wire')!.text).toMatch(/1\d\d mm short/);
  expect(spliceRows(a.wiring.harness, a.ends, () => 'crimp').some((r) => /end of the supply lead/.test(r.at))).toBe(true);
});

it('a thin mirror lead on a thicker signal wire is on the splice sheet with both colours and what it wants', () => {
  const o = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']);
  const a = assess(o.order, o.sheets, DEFAULT_SETTINGS);
  const rows = spliceRows(a.wiring.harness, a.ends, () => 'crimp').filter((r) => r.circuit === 'signal-mirrors/repeaters');
  expect(rows.map((r) => r.to)).toEqual([['GN'], ['GY']]);
  for (const r of rows) expect(r.warning).toMatch(/24 AWG in a terminal for 22–18 AWG/);
});

it('one return for each leg of a boat’s bow, joined at every lamp', () => {
  const o = demoOrder('sandbar-21', ['nav-lights']);
  const a = assess(o.order, o.sheets, DEFAULT_SETTINGS);
  const grounds = wires(a.wiring.harness).filter((e) => e.to.startsWith('gnd:'));
  expect(grounds).toHaveLength(1);
  expect(a.wiring.amps.get(grounds[0]!.id)).toBeCloseTo(11 / 12, 6);
  const joints = spliceRows(a.wiring.harness, a.ends, () => 'crimp').map((r) => r.at);
  for (const lamp of ['Port sidelight', 'Starboard sidelight', 'All-round white'])
    expect(joints.filter((j) => j.includes(lamp))).toHaveLength(2);
});

it('running lights are one choice, seen in power, lamps and steps', () => {
  const o = demoOrder('drover-4', ['front-harness', 'road-kit']);
  const on = after(o.order, { type: 'variant.chosen', kit: 'road-kit', variant: 'running', option: 'on', label: 'x' });
  const [off, lit] = [o.order, on].map((order) => assess(order, o.sheets, DEFAULT_SETTINGS)) as [
    ReturnType<typeof assess>,
    ReturnType<typeof assess>,
  ];
  expect(lit.power.loads.length).toBe(off.power.loads.length + 2);
  expect(lit.lamps.lamps.filter((l) => l.function === 'position').length).toBe(
    off.lamps.lamps.filter((l) => l.function === 'position').length + 2,
  );
  expect(off.steps.some((s) => s.title === 'Running-light leads capped')).toBe(true);
  expect(lit.steps.some((s) => s.title === 'Running-light leads capped')).toBe(false);
  expect(lit.steps.some((s) => s.id === 'wire/road-kit/running')).toBe(true);
});

describe('what comes off the unit', () => {
  const o = withKit(demoOrder('tern-300', ['aux-lamps']), 'aux-lamps', (k) => {
    k.takesOff = [{ function: 'reflector-side', place: 'fork-left', keep: 'bag', minutes: 2 }];
  });
  const a = assess(o.order, o.sheets, DEFAULT_SETTINGS);
  it('is gone from its lamps, and only there', () => {
    const before = demoModel('tern-300').equipment.filter((e) => e.function === 'reflector-side');
    expect(a.sheets.model.equipment.filter((e) => e.function === 'reflector-side').map((e) => e.id)).toEqual(
      before.filter((e) => e.place !== 'fork-left').map((e) => e.id),
    );
    expect(a.lamps.lamps.some((l) => l.id === 'factory/reflector-fl')).toBe(false);
  });
  it('is taken off by a step that asks where it went', () => {
    const step = a.steps.find((s) => s.id === 'take/aux-lamps/reflector-fl')!;
    expect(step).toMatchObject({ title: 'Front left reflector off', stage: 'mount', place: 'fork-left', minutes: 2 });
    expect(step.readings.map((r) => r.label)).toEqual(['Bagged and labelled']);
  });
});

describe('bolts and pads', () => {
  it('a step asks for the torque of what it uses, and says what to clean, press and leave', () => {
    const winch = assess(...(Object.values(demoOrder('drover-4', ['winch-32'])) as [Order, Sheets]), DEFAULT_SETTINGS);
    const plate = winch.steps.find((s) => s.id === 'winch-32/plate')!;
    expect(plate.text).toMatch(/bolt M8 × 25, 4: 25 N·m, thread-locker/);
    const [{ label } = { label: '' }, ...others] = plate.readings;
    expect([label, others]).toEqual(['Tightened: bolt M8 × 25 at 25 N·m', []]);
    // the bolt stays what it is called, only its torque is another figure
    expect(sayInUnits(label, 'imperial')).toMatch(/^Tightened: bolt M8 × 25 at 18\.4\d? lbf·ft$/);
    const grips = assess(...(Object.values(demoOrder('lapwing-500', ['heated-grips'])) as [Order, Sheets]), DEFAULT_SETTINGS);
    const glue = grips.steps.find((s) => s.id === 'heated-grips/grips')!;
    expect(glue.text).toMatch(/glue: wipe with alcohol, press 60 s, leave 4 h; not under 10 °C/);
    expect(glue.waitMinutes).toBe(240);
  });
});

it.each(['plug', 'relay'] as const)('a ready lead behind a %s off the shelf keeps its own fuse, and the way to it has one too', (mode) => {
  const o = demoOrder(mode === 'plug' ? 'skarn-600' : 'drover-2', [mode === 'plug' ? 'navigator' : 'overhead-audio']);
  const id = mode === 'plug' ? 'navigator/feed' : 'overhead-audio/pod';
  const order = after(o.order, { type: 'wire.overridden', circuit: id, field: 'mode', value: mode, reason: 'x' });
  const w = planWiring(order, o.sheets, DEFAULT_SETTINGS);
  const c = circuit(w, id);
  expect(c).toMatchObject({ mode, fuseFrom: 'shelf' });
  expect(c.lengthM).not.toBeNull();
  expect(w.harness.elements.filter((e) => e.kind === 'fuse' && e.circuit === id && e.box)).toHaveLength(1);
  expect(c.problems.join()).not.toMatch(/do not make a way/);
});
