import type { FactoryWire, PowerPoint } from '#model/unit-model';
import { bankOhms } from '../energy/cell';
import { sourceAmps } from '../energy/source';
import { CHARGING_FACTOR } from '../wire-rules/fuse-volts';
import { fuseFamily } from '../wire/fuse-time';
import type { Builder } from './builder';

/** Positions of the key in which a keyed point is live. */
const KEYED = ['acc', 'run'];
/** Volts of a rested, charged 12 V battery, for which a pack's volts are scaled. Common practice, no source. */
const FULL_12 = 12.7;
/** Amperes that a charged battery still takes at the regulator's volts, as a share of its ampere-hours. Common practice, no source. */
const TAKES = 0.06;
const POST_OHMS = 0.0003;

/** The unit's own supply: batteries, source, what it draws itself, its power points, grounds, and the factory wires in use. */
export function addUnit(b: Builder, points: readonly PowerPoint[], factory: readonly FactoryWire[]): void {
  const { model } = b;
  const { battery, source, ownLoads, parkedMa, systemV } = model.electrical;
  const e = { of: 'unit', circuit: null };
  b.node('bat+', `${battery.name}, positive post`, 'battery', battery.place, 'unit');
  b.node('bat-', `${battery.name}, negative post`, 'battery', battery.place, 'unit');
  b.unitControl('key');
  const full = (battery.count * battery.voltsEach * FULL_12) / 12;
  const inner = bankOhms(battery);
  const over = source.kind === 'none' ? 0 : Math.max(0, source.regulatedV - full);
  const taps = points.filter((p) => p.kind === 'pack-tap').sort((a, c) => a.volts - c.volts);
  let below = 'bat-';
  let belowV = 0;
  for (const t of [...taps.filter((x) => x.volts < systemV), null]) {
    const top = t ? b.node(`pp:${t.id}`, t.name, 'point', t.place, 'unit') : 'bat+';
    const v = t ? (t.volts * FULL_12) / 12 : full;
    if (v - belowV > 0.01)
      b.add({
        ...e,
        kind: 'battery',
        id: `unit:battery-${top}`,
        name: battery.name,
        from: top,
        to: below,
        volts: v - belowV,
        ohms: (inner * (v - belowV)) / full,
        chargeOhms: (Math.max(inner, over / (TAKES * battery.capacityAh)) * (v - belowV)) / full,
      });
    below = top;
    belowV = v;
  }
  if (source.kind !== 'none') {
    b.unitControl('engine');
    const carried = [...points, ...factory].reduce((s, p) => s + p.usedA * p.volts, 0);
    b.add({
      ...e,
      kind: 'charger',
      id: 'unit:source',
      name: source.kind,
      from: 'bat+',
      to: 'bat-',
      volts: source.regulatedV,
      ohms: 0.01,
      idleA: sourceAmps(source, source.idleRpm),
      workingA: sourceAmps(source, source.workingRpm),
    });
    for (const [state, key] of [
      ['idle', 'idleW'],
      ['working', 'workingW'],
    ] as const) {
      // what the points carry already is a part of it
      const watts = ownLoads.reduce((s, l) => s + l[key], 0) - carried;
      if (watts <= 0) continue;
      const n = b.node(`unit:own-${state}`, 'the unit’s own needs', 'inner', null, 'unit');
      b.add({
        ...e,
        kind: 'contact',
        id: `unit:own-${state}:on`,
        name: 'the unit’s own needs',
        from: 'bat+',
        to: n,
        when: [{ control: 'unit#engine', in: [state] }],
        ohms: 0.001,
      });
      b.add({
        ...e,
        kind: 'load',
        id: `unit:own-${state}:load`,
        name: 'the unit’s own needs',
        from: n,
        to: 'bat-',
        law: 'constant-power',
        watts,
        volts: systemV,
        minVolts: systemV * 0.6,
        leastVolts: null,
        own: true,
      });
    }
  }
  if (parkedMa > 0)
    b.add({
      ...e,
      kind: 'resistor',
      id: 'unit:parked',
      name: 'the unit itself, parked',
      from: 'bat+',
      to: 'bat-',
      ohms: systemV / (parkedMa / 1000),
    });

  /** Battery through its wire, guard and key contact to a point. */
  const chain = (
    id: string,
    p: { name: string; ohms: number; fuseA?: number; usedA: number; volts: number },
    live: Parameters<Builder['conditions']>[0],
  ) => {
    let at = 'bat+';
    const step = (suffix: string, last: boolean) => {
      const to = last
        ? id
        : b.node(`${id}#${suffix}`, `${p.name}, ${suffix === 'wire' ? 'before its fuse' : 'before the key'}`, 'inner', null, 'unit');
      const from = at;
      at = to;
      return { from, to };
    };
    const parts = ['wire', ...(p.fuseA === undefined ? [] : ['fuse']), ...(live.length ? ['key'] : [])];
    parts.forEach((part, i) => {
      const ends = step(part, i === parts.length - 1);
      if (part === 'wire')
        b.add({ ...e, kind: 'resistor', id: `${id}:wire`, name: `${p.name}, the unit’s own wire`, ...ends, ohms: p.ohms });
      else if (part === 'fuse')
        b.add({
          ...e,
          kind: 'fuse',
          id: `${id}:fuse`,
          name: `${p.name}, the unit’s fuse`,
          ...ends,
          ratingA: p.fuseA!,
          family: fuseFamily(p.fuseA!),
          // a factory's own fuse is taken to be made for its circuit
          ratedV: Math.max(32, Math.ceil(p.volts * CHARGING_FACTOR)),
          burstS: null,
        });
      else
        b.add({
          ...e,
          kind: 'contact',
          id: `${id}:live`,
          name: p.name,
          ...ends,
          when: b.conditions(live, null, p.name) ?? [],
          ohms: 0.002,
        });
    });
    if (p.usedA > 0) {
      const used = b.node(`${id}#used`, `${p.name}, what it carries already`, 'inner', null, 'unit');
      b.add({
        ...e,
        kind: 'contact',
        id: `${id}:in-use`,
        name: p.name,
        from: id,
        to: used,
        when: b.conditions([`key:${KEYED.join('|')}`], null, p.name) ?? [],
        ohms: 0.001,
      });
      b.add({
        ...e,
        kind: 'load',
        id: `${id}:used`,
        name: `${p.name}, what it carries already`,
        from: used,
        to: 'bat-',
        law: 'constant-power',
        watts: p.usedA * p.volts,
        volts: p.volts,
        minVolts: p.volts * 0.6,
        leastVolts: null,
        own: true,
      });
    }
  };
  for (const p of points) {
    if (p.kind === 'pack-tap') continue;
    const id = b.node(`pp:${p.id}`, p.name, 'point', p.place, 'unit');
    const post = p.kind === 'battery-post' || p.kind === 'solenoid-post';
    chain(id, { ...p, ohms: post ? POST_OHMS : p.ohms }, p.switching === 'keyed' ? [`key:${KEYED.join('|')}`] : []);
  }
  for (const w of factory) {
    if (b.nodes.has(`wire:${w.id}`)) continue;
    const id = b.node(`wire:${w.id}`, w.name, 'unit-wire', w.place, 'unit');
    if (w.takesW !== undefined)
      b.add({
        ...e,
        kind: 'load',
        id: `${id}:takes`,
        name: `what the ${w.name} leads to`,
        from: id,
        to: 'bat-',
        law: 'resistor',
        watts: w.takesW,
        volts: w.volts,
        minVolts: w.volts * 0.6,
        leastVolts: null,
        own: true,
      });
    else chain(id, { ...w, ohms: 0.03 }, w.live);
  }
  const grounds = model.grounds.length
    ? model.grounds
    : [{ id: 'battery', name: `${battery.name}, negative post`, place: battery.place, ohms: POST_OHMS }];
  for (const g of grounds) {
    const id = b.node(`gnd:${g.id}`, g.name, 'ground', g.place, 'unit');
    b.add({
      ...e,
      kind: 'resistor',
      id: `gnd:${g.id}:way`,
      name: `${g.name}, back to the battery`,
      from: id,
      to: 'bat-',
      ohms: Math.max(g.ohms, 1e-4),
    });
  }
}
