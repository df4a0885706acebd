import { pairsOf } from '#model/box';
import type { Harness } from '#model/harness';
import { madeIds, type Device, type Kit } from '#model/kit';
import { contactOhms, CONTACTORS, contactorPart, PLAIN_SWITCH, type Contactor } from '../wire-rules/contacts';
import { fuseFamily } from '../wire/fuse-time';
import type { Lead, WireFunction } from '#model/parts';
import type { PowerPoint, UnitModel } from '#model/unit-model';
import { findRun, runLength } from '../circuit/route';
import { adopt, attribute } from './attribute';
import { Builder } from './builder';
import { joinGrounds, looseGrounds, type GroundLead } from './grounds';
import { addRelay } from './relay';
import { findTap, functionWord, type TapTarget } from './tap';
import { addBox, layKit, type BoxSurroundings, type LaidBox } from '../wiring/box-network';
import type { BoxFeed } from '../wiring/target';
import { addUnit } from './unit-network';

/** What was decided for a circuit, as far as its wiring needs it. */
export interface CircuitChoice {
  id: string;
  kit: Kit;
  circuit: Kit['circuits'][number];
  feed: PowerPoint | null;
  trigger: PowerPoint | null;
  mode: 'direct' | 'relay' | 'plug';
  via?: string;
  /** joined to these wires instead of a feed */
  taps: readonly TapTarget[] | null;
  /** what its relay is, where it has one: the contact and the coil */
  contactor: { part: Contactor; coilV: number } | null;
  /** what its box brings for its feed; null: nothing, all of it comes off the shelf */
  box: BoxFeed | null;
  /** the fuse of its feed guards every wire after it: it brings none of its own */
  guarded: boolean;
}
export const terminalNode = (kit: string, device: string, terminal: string): string => `${kit}/${device}.${terminal}`;

/**
 * Builds the whole added wiring of a unit as a network: the unit's own supply, every circuit from its feed to ground,
 * every device's inside, laid along the runs with splices where ways part. Gauges and fuse ratings are still open.
 * What is wrong with the description is named in `problems`; the rest is built all the same.
 */
export function buildHarness(
  model: UnitModel,
  points: readonly PowerPoint[],
  kits: readonly Kit[],
  choices: readonly CircuitChoice[],
  watts: (kit: Kit, device: Device) => number | null,
): { harness: Harness; boxes: LaidBox[] } {
  const b = new Builder(model);
  for (const c of choices) b.circuitNames.set(c.id, c.circuit.name);
  const joinedTo = kits
    .flatMap((k) => [...k.leads.flatMap((l) => [l.from, l.to]), ...k.joins.flatMap((j) => pairsOf(j).map(([, t]) => t))])
    .filter((end) => end.startsWith('wire:'));
  const provided = kits.flatMap((kit) => kit.provides.map((p) => ({ kit, p })));
  const taps = [...new Set(joinedTo)].flatMap((end) => findTap(model, kits, end.slice(5) as WireFunction) ?? []);
  addUnit(
    b,
    points.filter(
      (p) => !choices.some((c) => c.circuit.makes && madeIds(c.circuit.makes).includes(p.id)) && !provided.some((x) => x.p.id === p.id),
    ),
    taps.flatMap((t) => (t.wire ? [t.wire] : [])),
  );
  for (const kit of kits) for (const device of kit.devices) addDevice(b, kit, device, watts(kit, device));
  for (const c of choices) if (c.circuit.makes) addSupply(b, c);
  for (const { kit, p } of provided) addProvided(b, kit, p);
  for (const c of choices) addFeed(b, c);
  const boxes = kits.flatMap((kit) => {
    const s = boxSurroundings(b, kit, kits, choices);
    const laid = layKit(kit, s);
    addBox(b, kit, laid, s);
    return laid;
  });
  for (const c of choices) addTrigger(b, c);
  const led = kits.flatMap((kit) => addLeads(b, kit, choices, kits));
  for (const c of choices) if (!hasOwnLeads(c)) addDefaultLeads(b, c);
  const coils = choices.filter(shelfRelay).map((c) => ({ node: `${c.id}#85`, circuit: c.id }));
  joinGrounds(b, [...led, ...looseGrounds(b, kits, choices, led, coils)], choices);
  attribute(b, choices, feedNode);
  adopt(b, choices);
  nameProblems(b, kits, choices);
  return { harness: b.done(choices.flatMap((c) => (c.circuit.switching === 'keyed' ? [c.id] : []))), boxes };
}

/** Ohms of two halves of a plug, or of a stud, that are together. From memory: makers’ sheets. */
const MATED_OHMS = 0.002;

/** What a kit gives others to take: a point of its own, behind the terminal where it is found. */
function addProvided(b: Builder, kit: Kit, p: Kit['provides'][number]): void {
  const at = `${kit.id}/${p.at}`;
  const inner = b.nodes.get(at);
  if (!inner) return;
  const node = b.node(`pp:${p.id}`, p.name, 'point', inner.place, inner.of);
  b.add({ kind: 'resistor', id: `${node}:mated`, name: p.name, from: at, to: node, of: inner.of, circuit: null, ohms: MATED_OHMS });
}

/** What the harnesses of a kit’s box are joined to, as feeds were chosen. */
function boxSurroundings(b: Builder, kit: Kit, kits: readonly Kit[], choices: readonly CircuitChoice[]): BoxSurroundings {
  const { model } = b;
  const of = (circuit: string) => choices.find((c) => c.kit.id === kit.id && c.circuit.id === circuit);
  return {
    model,
    feedOf: (circuit) => {
      const c = of(circuit);
      if (!c) return null;
      if (c.taps) return c.taps[0] ? { node: c.taps[0].node, place: c.taps[0].place, ground: null } : null;
      const pin = c.feed?.pins.some((p) => p.carries === 'ground') ? groundPin(b, c.feed) : null;
      return { node: boxStart(c), place: c.feed?.place ?? null, ground: pin };
    },
    triggerOf: (circuit) => {
      const trigger = of(circuit)?.trigger;
      return trigger ? { node: `pp:${trigger.id}`, place: trigger.place } : null;
    },
    tapOf: (f) => {
      const tap = findTap(
        model,
        kits.filter((k) => k.id !== kit.id),
        f,
      );
      if (!tap || !b.nodes.has(tap.node)) return null;
      // where this kit cuts it, there it is joined
      const cut = kit.cuts.find((c) => c.wire === f && c.unitSide === 'joined' && model.places.some((p) => p.id === c.place));
      return { node: tap.node, place: cut?.place ?? tap.place, takes: tap.wire?.takesW !== undefined };
    },
    grounds: [...b.nodes.values()].flatMap((n) => {
      if (n.kind !== 'ground' || !n.place || n.ready) return [];
      const way = b.elements.find((e) => e.id === `${n.id}:way`);
      return [{ node: n.id, place: n.place, ohms: way?.kind === 'resistor' ? way.ohms : 0 }];
    }),
    // behind a plug or a relay off the shelf it is a second one
    fuseOf: (circuit) => choices.some((c) => c.id === circuit && c.box?.fuse && c.feed !== null && c.mode !== 'plug' && !shelfRelay(c)),
    circuitId: (circuit) => of(circuit)?.id ?? `${kit.id}/${circuit}`,
  };
}

/** The ground in a port’s own plug. */
function groundPin(b: Builder, p: PowerPoint): string {
  const id = b.node(`gnd:pp-${p.id}`, `${p.name}, ground pin`, 'ground', p.place, 'unit');
  b.markReady(id);
  b.add({
    kind: 'resistor',
    id: `${id}:way`,
    name: `${p.name}, its ground pin`,
    from: id,
    to: 'bat-',
    of: 'unit',
    circuit: null,
    ohms: p.ohms,
  });
  return id;
}

/** Where the wire of a box that takes a circuit’s feed begins. */
const boxStart = (c: CircuitChoice): string =>
  c.feed && (c.guarded || c.box?.fuse) && c.mode !== 'plug' && !shelfRelay(c) ? `pp:${c.feed.id}` : feedNode(c);

/** Whether a circuit’s relay comes off the shelf. */
const shelfRelay = (c: CircuitChoice): boolean => c.mode === 'relay' && !c.circuit.makes && !c.box?.relay;

const hasOwnLeads = (c: CircuitChoice): boolean =>
  c.taps !== null || c.box !== null || c.kit.leads.some((l) => l.from === `feed:${c.circuit.id}` || l.to === `feed:${c.circuit.id}`);

const DEFAULT_TERMINALS = [{ id: 'plus' }, { id: 'minus' }] as const;

function addDevice(b: Builder, kit: Kit, device: Device, watts: number | null): void {
  const id = `${kit.id}/${device.id}`;
  const used =
    device.terminals.length > 0 || (kit.circuits.some((c) => c.devices.includes(device.id)) && (device.load || !!device.standbyMa));
  if (!used || kit.circuits.some((c) => c.makes && c.devices.includes(device.id))) return;
  if (!b.model.places.some((p) => p.id === device.place))
    b.problem(`${device.name}: this unit has no place “${device.place}”`, { node: `${id}.plus` });
  for (const t of device.terminals.length ? device.terminals : DEFAULT_TERMINALS) {
    b.node(`${id}.${t.id}`, `${device.name}, ${('name' in t && t.name) || t.id}`, 'terminal', device.place, id);
    if ('end' in t && t.end) b.endWords.set(`${id}.${t.id}`, t.end);
  }
  const volts = device.load?.volts ?? 12;
  // what may stand by, or is used with the engine off, has a switch of its own
  const ownSwitch =
    !device.terminals.length &&
    device.load &&
    (device.standbyMa > 0 || (device.load.engineOff && !kit.devices.some((d) => d.controls.length)));
  const load = {
    kind: 'load' as const,
    from: ownSwitch ? 'switched' : 'plus',
    to: 'minus',
    share: 1,
    watts: undefined,
    law: device.load?.law ?? 'constant-power',
    minVolts: 8,
  };
  const inside: Device['inside'] = device.terminals.length
    ? device.inside
    : ownSwitch
      ? [load, { kind: 'contact', from: 'plus', to: 'switched', when: ['power:on'] }]
      : device.load
        ? [load]
        : [];
  const controls = ownSwitch
    ? [
        {
          id: 'power',
          name: device.name,
          positions: [
            { id: 'off', name: 'off' },
            { id: 'on', name: 'on' },
          ],
          momentary: false,
        },
      ]
    : device.controls;
  for (const c of controls) {
    if (!c.positions.length) b.problem(`${device.name}: the switch “${c.name}” has no position`, { place: device.place });
    else if (!b.controls.has(`${id}#${c.id}`))
      b.controls.set(`${id}#${c.id}`, {
        id: `${id}#${c.id}`,
        name: c.name,
        positions: c.positions,
        momentary: c.momentary,
        ...(c.does && { does: c.does }),
        of: id,
        place: device.place,
      });
  }
  const at = (x: string) => b.node(`${id}.${x}`, `${device.name}, inside (${x})`, 'inner', device.place, id);
  inside.forEach((p, i) => {
    const e = { id: `${id}:${p.kind}-${i}`, name: device.name, from: at(p.from), to: at(p.to), of: id, circuit: null };
    switch (p.kind) {
      case 'load':
        return b.add({
          ...e,
          kind: 'load',
          law: p.law,
          watts: p.watts ?? (watts === null ? null : watts * p.share),
          volts,
          minVolts: p.minVolts,
          leastVolts: device.load?.leastVolts ?? null,
          own: false,
        });
      case 'contact': {
        const when = b.conditions(p.when, { id, controls }, device.name);
        // what a hand throws is taken for a plain switch where its maker says nothing; an amplifier's own power is no switch of the line
        const thrown = !ownSwitch && when?.some((w) => 'control' in w && w.control.startsWith(`${id}#`));
        const rated = p.rated ?? (thrown ? PLAIN_SWITCH : undefined);
        return when === null ? undefined : b.add({ ...e, kind: 'contact', when, ohms: contactOhms(rated), ...(rated && { rated }) });
      }
      case 'coil':
        return b.add({ ...e, id: `${id}@${p.id}`, kind: 'coil', ohms: p.ohms, pullInV: p.pullInV, dropOutV: p.dropOutV });
      case 'diode':
        return b.add({ ...e, kind: 'diode', volts: p.volts });
      case 'resistor':
        return b.add({ ...e, kind: 'resistor', ohms: p.ohms });
      case 'fuse':
        return b.add({ ...e, kind: 'fuse', ratingA: p.ratingA, family: fuseFamily(p.ratingA), ratedV: 32, burstS: null });
    }
  });
  if (device.standbyMa > 0 && b.nodes.has(`${id}.plus`) && b.nodes.has(`${id}.minus`))
    b.add({
      kind: 'resistor',
      id: `${id}:standby`,
      name: `${device.name}, standing by`,
      from: `${id}.plus`,
      to: `${id}.minus`,
      of: id,
      circuit: null,
      ohms: volts / (device.standbyMa / 1000),
    });
}

/** A reducer or a power manager: its terminals, and the points it makes. */
function addSupply(b: Builder, c: CircuitChoice): void {
  const makes = c.circuit.makes!;
  const device = c.kit.devices.find((d) => d.id === c.circuit.devices[0])!;
  const id = `${c.kit.id}/${device.id}`;
  const input = b.node(`${id}.in`, `${device.name}, input`, 'terminal', device.place, id);
  const minus = b.node(`${id}.minus`, `${device.name}, negative`, 'terminal', device.place, id);
  const trigger = b.node(`${id}.trigger`, `${device.name}, trigger lead`, 'terminal', device.place, id);
  b.endWords.set(input, c.circuit.terminal);
  const e = { name: device.name, of: id, circuit: c.id };
  if (makes.channels) {
    b.add({
      ...e,
      kind: 'coil',
      id: `${id}@wake`,
      from: trigger,
      to: minus,
      ohms: 4700,
      pullInV: makes.volts * 0.6,
      dropOutV: makes.volts * 0.4,
    });
    for (let n = 1; n <= makes.channels.count; n++) {
      const out = b.node(`pp:${makes.id}-${n}`, `${makes.name} ${n}`, 'point', makes.place, id);
      const inner = b.node(`${id}.channel-${n}`, `${device.name}, channel ${n} inside`, 'inner', device.place, id);
      b.add({
        ...e,
        kind: 'contact',
        id: `${id}:channel-${n}`,
        from: input,
        to: inner,
        when: [{ coil: `${id}@wake`, pulled: true }],
        ohms: 0.006,
      });
      b.add({
        ...e,
        kind: 'fuse',
        id: `${id}:limit-${n}`,
        from: inner,
        to: out,
        ratingA: makes.channels.amps,
        family: 'blade',
        ratedV: 32,
        burstS: null,
      });
    }
  } else
    b.add({
      ...e,
      kind: 'supply',
      id: `${id}:supply`,
      from: input,
      to: minus,
      out: b.node(`pp:${makes.id}`, makes.name, 'point', makes.place, id),
      trigger,
      volts: makes.volts,
      ohms: 0.02,
      limitA: makes.ratedA,
      efficiency: makes.efficiency,
      cutoffV: makes.cutoffV ?? null,
      asleepV: makes.asleepV,
    });
  if (device.standbyMa > 0)
    b.add({
      ...e,
      kind: 'resistor',
      id: `${id}:standby`,
      name: `${device.name}, standing by`,
      from: input,
      to: minus,
      ohms: c.circuit.volts / (device.standbyMa / 1000),
    });
}

/** Point that a circuit's own leads start from. */
const feedNode = (c: CircuitChoice): string =>
  shelfRelay(c)
    ? `${c.id}#87`
    : c.mode === 'plug'
      ? `${c.id}#plugged`
      : c.guarded && c.feed && !c.box?.fuse
        ? `pp:${c.feed.id}`
        : `${c.id}#fused`;

function addFeed(b: Builder, c: CircuitChoice): void {
  if (c.taps) return;
  const place = c.feed?.place ?? null;
  const relay = shelfRelay(c);
  // the box's own fuse, or the feed's, guards it
  if (c.feed && !relay && c.mode !== 'plug' && (c.guarded || c.box?.fuse)) return;
  const fused = relay
    ? b.node(`${c.id}#30`, `${c.circuit.name}, relay 30`, 'relay', place, `${c.id}#relay`)
    : b.node(`${c.id}#fused`, `${c.circuit.name}, after its fuse`, 'fused', place);
  const e = { of: null, circuit: c.id };
  if (c.feed) {
    const burst = c.circuit.devices.map((d) => c.kit.devices.find((x) => x.id === d)!).filter((d) => d.load);
    b.add({
      ...e,
      kind: 'fuse',
      id: `${c.id}#fuse`,
      name: `${c.circuit.name}, fuse`,
      from: `pp:${c.feed.id}`,
      to: fused,
      ratingA: 1,
      family: 'blade',
      ratedV: 32,
      burstS: burst.length && burst.every((d) => d.load!.kind === 'burst') ? Math.max(...burst.map((d) => d.load!.burstSeconds)) : null,
    });
  } else
    b.problem(`${c.circuit.name}: joined to no feed`, {
      node: fused,
      circuit: c.id,
      place: c.kit.devices.find((d) => d.id === c.circuit.devices[0])?.place ?? null,
    });
  if (relay) {
    const part = c.contactor?.part ?? CONTACTORS[0]!;
    const coilV = c.contactor?.coilV ?? c.circuit.volts;
    addRelay(b, `${c.id}#relay`, {
      name: c.circuit.name,
      circuit: c.id,
      place,
      pin: (p) => `${c.id}#${p}`,
      coilOhms: part.coilOhms * (coilV / 12) ** 2,
      coilV,
      rated: c.contactor?.part.rated,
      part: c.contactor ? contactorPart(c.contactor.part, c.contactor.coilV) : undefined,
    });
  } else if (c.mode === 'plug') {
    b.node(`${c.id}#plugged`, `${c.circuit.name}, after its plug`, 'feed', place);
    b.controls.set(`${c.id}#plug`, {
      id: `${c.id}#plug`,
      name: `${c.circuit.name}: plug`,
      positions: [
        { id: 'in', name: 'in' },
        { id: 'pulled', name: 'pulled' },
      ],
      momentary: false,
      of: c.id,
      place,
    });
    b.add({
      ...e,
      kind: 'contact',
      id: `${c.id}#plug:contact`,
      name: `${c.circuit.name}, plug`,
      from: fused,
      to: `${c.id}#plugged`,
      when: [{ control: `${c.id}#plug`, in: ['in'] }],
      ohms: contactOhms(PLAIN_SWITCH),
    });
  }
}

const SIGNAL = { signal: true } as const;
/** Its box brings the wire that pulls in its relay, or wakes its supply. */
const triggeredByBox = (c: CircuitChoice): boolean => {
  const wakes = c.circuit.makes ? `${c.circuit.devices[0]}.trigger` : null;
  return c.kit.joins.some((j) => pairsOf(j).some(([, t]) => t === `trigger:${c.circuit.id}` || t === wakes));
};

/** The wire that pulls in a circuit's relay, or wakes its supply, through its switch where it has one. */
function addTrigger(b: Builder, c: CircuitChoice): void {
  if (c.mode !== 'relay' || c.taps || c.box?.relay || triggeredByBox(c)) return;
  const supply = c.circuit.makes ? `${c.kit.id}/${c.circuit.devices[0]}` : null;
  const coil = supply ? `${supply}.trigger` : `${c.id}#86`;
  if (!b.nodes.has(coil)) return;
  if (c.trigger) {
    const from = `pp:${c.trigger.id}`;
    const look = { colour: c.circuit.unitColour ?? 'OG', circuit: c.id, ...SIGNAL };
    const sw = c.circuit.switch;
    if (sw && !hasOwnLeads(c) && b.nodes.has(terminalNode(c.kit.id, sw.device, sw.in))) {
      b.join(from, [terminalNode(c.kit.id, sw.device, sw.in)], look);
      b.join(terminalNode(c.kit.id, sw.device, sw.out), [coil], look);
    } else b.join(from, [coil], look);
  } else b.problem(`${c.circuit.name}: its trigger lead has no partner`, { node: coil, circuit: c.id });
}

function addDefaultLeads(b: Builder, c: CircuitChoice): void {
  const supply = c.circuit.makes ? `${c.kit.id}/${c.circuit.devices[0]}.in` : null;
  const targets = supply ? [supply] : c.circuit.devices.map((d) => terminalNode(c.kit.id, d, 'plus')).filter((n) => b.nodes.has(n));
  for (const t of targets) if (!b.endWords.has(t) && c.circuit.terminal) b.endWords.set(t, 'butt splice');
  const look = { colour: c.circuit.colour, unitColour: c.circuit.unitColour, circuit: c.id, via: c.via, ends: undefined };
  let from = feedNode(c);
  const sw = c.circuit.switch;
  if (sw && c.mode !== 'relay' && b.nodes.has(terminalNode(c.kit.id, sw.device, sw.in))) {
    b.join(from, [terminalNode(c.kit.id, sw.device, sw.in)], look);
    from = terminalNode(c.kit.id, sw.device, sw.out);
  }
  if (targets.length) b.join(from, targets, look);
}

/** A kit's own leads, resolved to points; those from one point in one colour make one tree. Gives back those that go to ground. */
function addLeads(b: Builder, kit: Kit, choices: readonly CircuitChoice[], kits: readonly Kit[]): GroundLead[] {
  const grounds: GroundLead[] = [];
  const groups = new Map<string, { from: string; targets: string[]; lead: Lead; circuit: CircuitChoice | null }>();
  for (const lead of kit.leads) {
    const owner = choices.find((c) => c.kit.id === kit.id && [lead.from, lead.to].includes(`feed:${c.circuit.id}`)) ?? null;
    const at = (end: string): { node: string | null; says: string } => {
      if (end === 'ground') return { node: 'ground', says: '' };
      if (end.startsWith('feed:')) {
        const c = choices.find((x) => x.kit.id === kit.id && x.circuit.id === end.slice(5));
        return c ? { node: feedNode(c), says: '' } : { node: null, says: `the circuit “${end.slice(5)}”, which this kit does not have` };
      }
      if (end.startsWith('wire:')) {
        const tap = findTap(b.model, kits, end.slice(5) as WireFunction);
        return tap && b.nodes.has(tap.node)
          ? { node: tap.node, says: '' }
          : {
              node: null,
              says: `a ${functionWord(end.slice(5) as WireFunction)} wire, which neither this unit nor another kit has`,
            };
      }
      const n = `${kit.id}/${end}`;
      return b.nodes.has(n) ? { node: n, says: '' } : { node: null, says: `“${end.replace('.', ', ')}”, which this kit does not have` };
    };
    const [from, to] = [at(lead.from), at(lead.to)];
    if (from.node === null || to.node === null) {
      const known = from.node ?? to.node;
      b.problem(`${kit.name}: its ${lead.colour} lead has no partner: it asks for ${from.node === null ? from.says : to.says}`, {
        node: known === 'ground' ? null : known,
        place: known && known !== 'ground' ? (b.nodes.get(known)?.place ?? null) : null,
        circuit: owner?.id ?? null,
      });
      continue;
    }
    if (to.node === 'ground' || from.node === 'ground') {
      const n = to.node === 'ground' ? from.node : to.node;
      grounds.push({ node: n, colour: lead.colour, circuit: owner?.id ?? null, awg: lead.awg, signal: lead.signal });
      continue;
    }
    const key = `${from.node} ${lead.colour} ${lead.awg ?? ''} ${lead.signal} ${lead.ends?.join() ?? ''}`;
    const g = groups.get(key) ?? { from: from.node, targets: [], lead, circuit: owner };
    g.targets.push(to.node);
    groups.set(key, g);
  }
  for (const g of groups.values())
    b.join(g.from, g.targets, {
      colour: g.lead.colour,
      unitColour: g.lead.unitColour,
      signal: g.lead.signal,
      bothWays: g.lead.bothWays,
      awg: g.lead.awg,
      ends: g.lead.ends,
      circuit: g.circuit?.id ?? null,
      via: g.circuit?.via,
    });
  return grounds;
}

function nameProblems(b: Builder, kits: readonly Kit[], choices: readonly CircuitChoice[]): void {
  const joined = new Set(b.wires().flatMap((w) => [w.from, w.to]));
  for (const kit of kits)
    for (const d of kit.devices) {
      const own = [...b.nodes.values()].filter((n) => n.of === `${kit.id}/${d.id}` && n.kind === 'terminal');
      if (own.length && !own.some((n) => joined.has(n.id)))
        b.problem(`${d.name}: joined to nothing`, {
          node: own[0]!.id,
          place: own[0]!.place,
          circuit: choices.find((c) => c.kit.id === kit.id && c.circuit.devices.includes(d.id))?.id ?? null,
        });
    }
  for (const w of b.wires())
    for (let i = 1; i < w.places.length; i++) {
      const run = findRun(b.model, `${w.places[i - 1]}>${w.places[i]}`) ?? findRun(b.model, `${w.places[i]}>${w.places[i - 1]}`);
      if (run && runLength(b.model, run) <= 0)
        b.problem(`the run from ${b.placeName(run.from)} to ${b.placeName(run.to)} has no length: measure it`, {
          place: run.from,
          node: w.to,
          circuit: w.circuit,
        });
    }
}
