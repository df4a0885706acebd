import type { Harness, HarnessElement } from '#model/harness';
import { NO_FAULTS, type Faults } from '../harness/simulate';

export type CauseKind = 'blown' | 'open' | 'corroded' | 'device' | 'swapped' | 'stuck' | 'shorted' | 'fed' | 'unit' | 'two';

/** One fault as it is planted in the model, and its words where they say more than its cause’s. */
export interface Variant {
  faults: Faults;
  says: string | null;
  /** it comes and goes: a reading may as well find nothing wrong */
  loose?: boolean;
}

/** One single thing that may be wrong with a harness and is put right as one: how it is planted, and what a person would look at. */
export interface Cause {
  id: string;
  kind: CauseKind;
  says: string;
  /** what to do about it at the bench */
  look: string;
  place: string | null;
  circuit: string | null;
  /** how often it is met, beside the others; common practice, no source */
  prior: number;
  /** the same fault in several strengths, or what inside a device or the unit’s own way to a feed may be broken */
  variants: readonly Variant[];
}

/** How often each kind is met on newly fitted kits, beside the others. Common practice, no source. */
const PRIOR: Record<CauseKind, number> = {
  open: 4,
  corroded: 3,
  blown: 3,
  swapped: 2,
  shorted: 1.5,
  device: 0.6,
  stuck: 0.7,
  fed: 0.5,
  unit: 1,
  two: 0,
};
/** Ohms of a joint hardly noticed, one that dims, and one that kills. Common practice, no source. */
const BAD_JOINT_OHMS = [0.3, 3, 40];
/** The same of cables: where 100 A flow, 3 mΩ take 0.3 V and get hot. Common practice, no source. */
const BAD_LUG_OHMS = [0.003, 0.02, 0.2];
/** Wires this thick and thicker carry what a winch or a starter takes. */
const CABLE_AWG = 8;
/** What a worn source still gives of its amperes; what a flat battery, and one with a dead cell, show of their volts. Common practice, no source. */
const WEAK_SOURCE = [0.5, 0.1];
const FLAT_BATTERY = [0.95, 0.84];
/** A fuse that somebody put in by what was at hand, as a share of the planned one. */
const WRONG_FUSE = 0.3;

const isUnits = (e: HarnessElement) => e.of === 'unit' || e.id.startsWith('unit:');

/**
 * Every single fault that the model of a harness can plant: each fuse blown, each lead open, with a bad joint or chafed through,
 * each ground corroded, each lamp, coil, contact and supply dead, each contact stuck, each pair of leads of one device
 * changed over. What is changed as one is one cause: a device, or the unit’s own way to a feed. Shorts only behind a fuse:
 * before it, the way burns and nobody hunts with a meter.
 */
export function singleFaults(h: Harness): Cause[] {
  const causes = new Map<string, Cause>();
  const nodes = new Map(h.nodes.map((n) => [n.id, n]));
  const say = (id: string) => nodes.get(id)?.label ?? id;
  const note = (
    kind: CauseKind,
    id: string,
    e: HarnessElement,
    says: string,
    look: string,
    faults: Partial<Faults>[],
    detail: string | null = null,
    loose: Partial<Faults> | null = null,
  ) => {
    const variants: Variant[] = faults.map((f) => ({ faults: { ...NO_FAULTS, ...f }, says: detail }));
    if (loose) variants.push({ faults: { ...NO_FAULTS, ...loose }, says: `Loose: ${says.replace(/^[^:]+: /, '')}`, loose: true });
    const known = causes.get(id);
    causes.set(id, {
      id,
      kind,
      says,
      look,
      place: nodes.get(e.to)?.place ?? nodes.get(e.from)?.place ?? null,
      circuit: e.circuit,
      ...known,
      // what has more in it fails more often
      prior: (known && kind === 'device' ? known.prior : 0) + PRIOR[kind],
      variants: [...(known?.variants ?? []), ...variants],
    });
  };
  const hot = behindFuse(h);
  const nets = netsOf(h);
  const batteries = h.elements.flatMap((e) => (e.kind === 'battery' ? [e.id] : []));
  const badJoint = (id: string, awg: number | null = null) =>
    (awg !== null && awg <= CABLE_AWG ? BAD_LUG_OHMS : BAD_JOINT_OHMS).map((ohms) => ({ corroded: { [id]: ohms } }));
  /** the part that is changed as one, and its name */
  const inside = (e: HarnessElement) => {
    const relay = e.of?.endsWith('#relay') ? e.name.replace(/ (coil|contact)$/, '') : null;
    return { id: e.of ?? e.id, name: relay ?? e.name };
  };
  const dead = (e: HarnessElement, what: string, faults: Partial<Faults>) => {
    const part = inside(e);
    note(
      'device',
      `dead:${part.id}`,
      e,
      `${part.name}: dead inside`,
      'Prove what goes in, and what comes out; then change it.',
      [faults],
      `${part.name}: ${what}`,
    );
  };
  for (const e of h.elements) {
    const between = `${say(e.from)} to ${say(e.to)}`;
    if (isUnits(e)) {
      if (e.kind === 'battery')
        note(
          'unit',
          'flat:battery',
          e,
          `${e.name}: flat, or failing`,
          'Volts at rest and under load, on the posts; charge it and test it.',
          FLAT_BATTERY.map((share) => ({ weak: { ...Object.fromEntries(batteries.map((id) => [id, share])) } })),
        );
      if (e.kind === 'charger')
        note(
          'unit',
          `weak:${e.id}`,
          e,
          'The source gives too little',
          'Its plug, its regulator, its phases one against another.',
          WEAK_SOURCE.map((share) => ({ weak: { [e.id]: share } })),
        );
      const feed = /^((?:pp|wire):[^:]+):(wire|fuse|live)$/.exec(e.id);
      if (feed) {
        const name = say(feed[1]!);
        const what = { wire: 'the unit’s own wire is open', fuse: 'the unit’s fuse is blown', live: 'the key or its relay does not make' }[
          feed[2] as 'wire'
        ];
        const faults = feed[2] === 'fuse' ? { blown: [e.id] } : { open: [e.id] };
        note(
          'unit',
          `feed:${feed[1]}`,
          e,
          `${name}: not live`,
          'The unit’s own fuse first, then its key, relay and wire.',
          [faults],
          `${name}: ${what}`,
        );
        if (feed[2] === 'live')
          note('stuck', `stuck:${e.id}`, e, `${name}: live with the key off`, 'Not a keyed feed: choose another.', [{ stuck: [e.id] }]);
      } else if (e.kind === 'resistor' && e.id.startsWith('gnd:'))
        note(
          'corroded',
          `corroded:${e.id}`,
          { ...e, to: e.from },
          `Bad ground: ${say(e.from)}`,
          'Ring off, paint off, bright metal, tight.',
          badJoint(e.id),
        );
      continue;
    }
    switch (e.kind) {
      case 'fuse':
        if (e.of !== null) dead(e, 'its own fuse or limit is open', { blown: [e.id] });
        else
          note(
            'blown',
            `blown:${e.id}`,
            e,
            `${e.name} is blown, or one too small is in`,
            'Pull it, look at it and read its figure; ask why before a new one goes in.',
            [{ blown: [e.id] }, { fuses: { [e.id]: e.ratingA * WRONG_FUSE } }],
          );
        break;
      case 'wire':
        note('open', `open:${e.id}`, e, `Open: ${between}`, 'Tug each end; a crimp on insulation looks fine.', [{ open: [e.id] }], null, {
          open: [e.id],
        });
        note('corroded', `corroded:${e.id}`, e, `Bad joint: ${between}`, 'Remake both ends; clean to bright metal.', badJoint(e.id, e.awg));
        if (hot.has(e.to))
          note(
            'shorted',
            `shorted:${nets.get(e.to)}`,
            e,
            `Chafed to ground: the leads of ${say(nets.get(e.to)!)}`,
            'Follow the lead; look at clamps, edges and grommets.',
            [{ shorted: [e.to] }],
          );
        if (hot.has(e.to))
          note(
            'fed',
            `fed:${nets.get(e.to)}`,
            e,
            `Touches plus: the leads of ${say(nets.get(e.to)!)}`,
            'Pull its fuse: what still has volts is fed from elsewhere. Follow the lead.',
            [{ fed: [e.to] }],
          );
        break;
      case 'contact':
        dead(e, 'a contact does not make', { open: [e.id] });
        note('stuck', `stuck:${inside(e).id}`, e, `${inside(e).name}: does not let go`, 'Pull its plug: what is behind it then dies.', [
          { stuck: [e.id] },
        ]);
        break;
      case 'load':
        if (!e.own) dead(e, 'does nothing', { open: [e.id] });
        break;
      case 'coil':
        dead(e, 'a coil is open', { open: [e.id] });
        break;
      case 'diode':
        dead(e, 'a diode is open', { open: [e.id] });
        dead(e, 'a diode is shorted', { leaky: [e.id] });
        break;
      case 'supply':
        dead(e, 'gives nothing', { open: [e.id] });
        break;
    }
  }
  return [...causes.values(), ...changedOver(h, say)];
}

/** Which leads hang together, by the first point of each: a meter cannot tell where along them they touch metal. */
function netsOf(h: Harness): ReadonlyMap<string, string> {
  const net = new Map<string, string>();
  const at = (n: string): string => {
    const to = net.get(n) ?? n;
    return to === n ? n : at(to);
  };
  for (const e of h.elements) if (e.kind === 'wire') net.set(at(e.to), at(e.from));
  return new Map(h.nodes.map((n) => [n.id, at(n.id)]));
}

/** Points that a fuse of this order's own guards, on the live side: up to loads and coils, through wires and contacts. */
function behindFuse(h: Harness): ReadonlySet<string> {
  const through = new Map<string, string[]>();
  const link = (a: string, b: string) => through.set(a, [...(through.get(a) ?? []), b]);
  for (const e of h.elements)
    if (e.kind === 'wire' || e.kind === 'contact' || (e.kind === 'fuse' && !isUnits(e))) {
      link(e.from, e.to);
      if (e.kind !== 'fuse') link(e.to, e.from);
    }
  const walk = (starts: string[]) => {
    const seen = new Set<string>();
    const open = [...starts];
    while (open.length) {
      const n = open.pop()!;
      if (seen.has(n) || n === 'bat+' || n === 'bat-' || n.startsWith('gnd:')) continue;
      seen.add(n);
      open.push(...(through.get(n) ?? []));
    }
    return seen;
  };
  const live = walk(h.elements.flatMap((e) => (e.kind === 'fuse' && !isUnits(e) ? [e.to] : [])));
  return new Set([...live].filter((n) => !n.startsWith('pp:') && !n.startsWith('wire:')));
}

/** Whether an end of a ready wire is put on by hand, and not in a plug’s cavity. */
const byHand = (end: string): boolean => !/, \d+$/.test(end) && end !== 'ready';

/** Pairs of one device's leads whose far ends, or whose ends at it, may have been changed over. */
function changedOver(h: Harness, say: (id: string) => string): Cause[] {
  const out: Cause[] = [];
  const of = new Map(h.nodes.map((n) => [n.id, n.of]));
  const wires = h.elements.filter((e) => e.kind === 'wire');
  for (const [i, a] of wires.entries())
    for (const b of wires.slice(i + 1)) {
      const [fa, fb, ta, tb] = [of.get(a.from), of.get(b.from), of.get(a.to), of.get(b.to)];
      const sameStart = fa && fa !== 'unit' && fa === fb && a.from !== b.from;
      const sameEnd = ta && ta !== 'unit' && ta === tb && a.to !== b.to;
      if (a.to === b.to || a.from === b.from || !(sameStart || sameEnd)) continue;
      // the plugs of a ready harness were filled by its maker: only what is pushed on or joined by hand may be changed over
      const one = a.box && b.box && a.box.harness === b.box.harness && a.box.kit === b.box.kit;
      if (one && !(sameStart && byHand(a.ends[0]) && byHand(b.ends[0])) && !(sameEnd && byHand(a.ends[1]) && byHand(b.ends[1]))) continue;
      out.push({
        id: `swapped:${a.id}:${b.id}`,
        kind: 'swapped',
        says: `Changed over: leads to ${say(a.to)} and ${say(b.to)}`,
        look: 'Follow both leads by their colour, end to end.',
        place: h.nodes.find((n) => n.id === a.to)?.place ?? null,
        circuit: a.circuit ?? b.circuit,
        prior: PRIOR.swapped,
        variants: [{ faults: { ...NO_FAULTS, swapped: [[a.id, b.id]] }, says: null }],
      });
    }
  return out;
}
