import type { WireEnd } from '#model/box';
import type { Kit } from '#model/kit';
import type { Sheets } from '#model/sheet';
import { capital } from '../words';
import { findTap } from '../harness/tap';
import { adapted, legName, type LaidBox } from './box-network';
import { isJoined, sayEnd } from './ends';
import type { LaidLeg } from './lay';
import type { Wiring } from './planned';
import { sayTarget } from './target';

/** How an end of a box is dealt with at the bench. */
export type EndHow = 'plug' | 'screw' | 'push' | 'join' | 'extend' | 'cap' | 'spare';

/** One end of a ready harness: where it goes, by what, and whether its leg reaches. */
export interface EndWork {
  kit: Kit;
  harness: string;
  /** the harness’s id, and the end’s */
  of: { harness: string; end: string };
  name: string;
  end: WireEnd;
  how: EndHow;
  place: string | null;
  /** what it goes into, in words */
  into: string;
  /** circuits whose wires end here */
  circuits: string[];
  /** each wire, what it goes to, and colour and gauge of what it meets there */
  wires: { colour: string; awg: number; cavity: number | null; goes: string; meets: string | null; meetsAwg: number | null }[];
  /** the leg that leads to it, as it lies; null where it is joined nowhere */
  leg: LaidLeg | null;
  legName: string;
  /** more than its way asks, to be folded back and tied, millimetres */
  overMm: number;
  /** what does not go together as it comes, and what to buy */
  adapted: { why: string; buy: string[] } | null;
}

/** Surplus that is worth a word. Common practice, no source. */
const STOW_MM = 100;

/** Words in a row, the last with “and”. */
const listed = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '');
const distinct = <T>(list: readonly T[]): T[] => [...new Set(list)];

/** Every end of every ready harness of an order, as the wiring was planned. */
export function endWork(wiring: Wiring, { kits, model }: Pick<Sheets, 'kits' | 'model'>): EndWork[] {
  return wiring.boxes.flatMap((box) => {
    const kit = kits.find((k) => k.id === box.kit)!;
    const told = new Set<string>();
    return box.ends.map((e) => {
      const end = oneEnd(box, e, kit, wiring, model, kits);
      // a lead with two ends has one way: its surplus is told once
      if (!end.leg || !told.has(end.leg.id)) {
        if (end.leg) told.add(end.leg.id);
        return end;
      }
      return { ...end, overMm: 0 };
    });
  });
}

function oneEnd(box: LaidBox, e: LaidBox['ends'][number], kit: Kit, wiring: Wiring, model: Sheets['model'], kits: readonly Kit[]): EndWork {
  const { harness } = box;
  const planned = (circuit: string) => wiring.circuits.find((c) => c.kit.id === kit.id && c.circuit.id === circuit);
  const leg =
    box.laid?.legs.find((l) => l.to === e.end.id && l.needMm > 0) ??
    box.laid?.legs.find((l) => l.from === e.end.id && l.needMm > 0) ??
    null;
  const targets = e.wires.map((w) => w.target);
  const feed = targets.flatMap((t) => (t.to === 'feed' ? [planned(t.circuit)] : []))[0];
  const others = kits.filter((k) => k.id !== kit.id);
  /** the wire of the unit, or of another kit, that a wire of the box is joined to */
  const tapOf = (t: (typeof targets)[number]) => (t.to === 'wire' ? findTap(model, others, t.function) : null);
  const goes = (t: (typeof targets)[number]): string => {
    switch (t.to) {
      case 'wire':
        return tapOf(t)?.name ?? sayTarget(kit, t);
      case 'feed':
        return planned(t.circuit)?.feed?.name ?? 'a feed still to choose';
      case 'trigger':
        return planned(t.circuit)?.trigger?.name ?? 'a keyed wire still to choose';
      case 'ground': {
        if (feed?.feed?.pins.some((p) => p.carries === 'ground')) return `${feed.feed.name}, ground pin`;
        const at = box.laid?.at.get(e.end.id);
        return (model.grounds.find((g) => g.place === at) ?? model.grounds[0])?.name ?? 'ground';
      }
      default:
        return sayTarget(kit, t);
    }
  };
  const meetsColour = (t: (typeof targets)[number]): string | null => {
    if (t.to === 'wire') return tapOf(t)?.colour ?? null;
    if (t.to === 'terminal') return kit.devices.find((d) => d.id === t.device)?.terminals.find((x) => x.id === t.terminal)?.colour ?? null;
    if (t.to === 'feed' || t.to === 'ground')
      return feed?.feed?.pins.find((p) => p.carries === (t.to === 'feed' ? 'feed' : 'ground'))?.colour ?? null;
    return null;
  };
  const meetsGauge = (t: (typeof targets)[number]): number | null => {
    if (t.to === 'terminal') return kit.devices.find((d) => d.id === t.device)?.terminals.find((x) => x.id === t.terminal)?.awg ?? null;
    if (t.to !== 'wire') return null;
    // a wire of another kit is as thick as that kit made it; of the unit’s own nobody says
    const tap = tapOf(t);
    const giver = wiring.harness.elements.find(
      (x) => x.kind === 'wire' && x.box?.kit !== kit.id && (x.from === tap?.node || x.to === tap?.node),
    );
    return giver?.kind === 'wire' ? giver.awg : null;
  };
  const terminals = targets.flatMap((t) => (t.to === 'terminal' ? [t] : []));
  // one terminal is named, several are their device
  const devices =
    terminals.length === 1
      ? [goes(terminals[0]!)]
      : distinct(terminals.map((t) => kit.devices.find((d) => d.id === t.device)?.name ?? t.device));
  // a plug that takes its feed finds its ground in the same plug
  const plugged = e.end.end.kind === 'connector' && targets.some((t) => t.to === 'feed');
  const besides = distinct(
    e.wires
      .filter((w) => !['terminal', 'capped', 'spare'].includes(w.target.to) && !(plugged && w.target.to === 'ground'))
      .map((w) => goes(w.target)),
  );
  const into = listed([...devices, ...besides]);
  const plug = targets.map((t) => tapOf(t)?.wire).find((w) => w?.connector);
  const misfit =
    feed?.feed && targets.some((t) => t.to === 'feed') && !feed.circuit.taps
      ? adapted(e, feed.feed)
      : plug?.connector
        ? adapted(e, { kind: 'factory-wire', connector: plug.connector, name: plug.name })
        : null;
  const short = (leg?.shortMm ?? 0) > 0;
  const how: EndHow = !into
    ? targets.some((t) => t.to === 'spare')
      ? 'spare'
      : 'cap'
    : short
      ? 'extend'
      : misfit || isJoined(e.end.end)
        ? 'join'
        : e.end.end.kind === 'connector'
          ? 'plug'
          : e.end.end.kind === 'blade'
            ? 'push'
            : 'screw';
  return {
    kit,
    harness: harness.name,
    of: { harness: harness.id, end: e.end.id },
    name: e.end.name,
    end: e.end.end,
    how,
    place: box.laid && into ? (box.laid.at.get(e.end.id) ?? null) : null,
    into,
    circuits: distinct(
      wiring.harness.elements.flatMap((x) =>
        x.kind === 'wire' &&
        x.circuit &&
        x.box?.kit === kit.id &&
        x.box.harness === harness.id &&
        e.wires.some((w) => w.wire === x.box!.wire)
          ? [x.circuit]
          : [],
      ),
    ),
    wires: e.end.wires.map(({ wire: id, cavity }) => {
      const wire = harness.wires.find((x) => x.id === id)!;
      const to = e.wires.filter((w) => w.wire === id).map((w) => w.target);
      return {
        colour: wire.colour,
        awg: wire.awg,
        cavity: cavity ?? null,
        goes: distinct(to.map(goes)).join(' and '),
        meets: to.map(meetsColour).find((c) => c !== null) ?? null,
        meetsAwg: to.map(meetsGauge).find((g) => g !== null) ?? null,
      };
    }),
    leg,
    legName: leg ? legName(harness, leg.id) : '',
    overMm: leg ? Math.max(0, Math.round(leg.hasMm - leg.needMm)) : 0,
    adapted: misfit,
  };
}

/** Wires of an end that are joined to something, each with the gauge of the thinner side: by that a joint is pulled. */
export const joinedWires = (e: Pick<EndWork, 'wires'>): (EndWork['wires'][number] & { thinner: number })[] =>
  e.wires.filter((w) => w.goes !== 'capped' && w.goes !== 'spare').map((w) => ({ ...w, thinner: Math.max(w.awg, w.meetsAwg ?? w.awg) }));

/** Whether so much of its leg is left that it is folded back and tied. */
export const toStow = (e: EndWork): boolean => e.place !== null && e.overMm >= STOW_MM;

/** What is done with an end, in one sentence; lengths in SI, as all sentences are kept. */
export function sayEndWork(e: EndWork): string {
  return capital(sayPlain(e));
}

/** An end by its name and what it is, each word once. */
function nameOf(e: EndWork): string {
  const { kind } = e.end;
  if (kind === 'connector' || kind === 'bare') return e.name;
  const is = sayEnd(e.end);
  return `${e.name} (${e.name.toLowerCase().includes(kind) ? is.replace(kind, '').trim() : is})`;
}

function sayPlain(e: EndWork): string {
  const what = nameOf(e);
  switch (e.how) {
    case 'plug':
      return `${what} into ${e.into}.`;
    case 'screw':
      return `${what} onto ${e.into}.`;
    case 'push':
      return `${what} onto ${e.into}.`;
    case 'join': {
      const wires = joinedWires(e);
      const besides = e.adapted ? `; ${e.adapted.why}: ${e.adapted.buy.join(', ')}` : '';
      // of several, each is told by what it goes to
      return wires.length > 1
        ? `Join ${what}: ${wires.map((w) => `${w.colour} to ${w.meets ? `${w.meets}, ${w.goes}` : w.goes}`).join('; ')}${besides}.`
        : // where nobody knows the colour that it meets, its own is enough
          `Join ${what} to ${e.into}: ${wires.map((w) => (w.meets === null && w.goes === e.into ? w.colour : `${w.colour} to ${w.meets ?? w.goes}`)).join(', ')}${besides}.`;
    }
    case 'extend':
      return `The ${e.legName} is ${Math.round(e.leg!.shortMm)} mm short of ${e.into}: lead it on${e.end.kind === 'connector' ? ', behind its plug, joints staggered' : ''}.`;
    case 'spare':
      return `Leave ${what} for later: cap it and tie it back.`;
    case 'cap':
      return `Cap ${what} and tie it back.`;
  }
}

/** In a line what the ready leads of a box come to on this unit. */
export function sayLeads(ends: readonly EndWork[]): string {
  const joined = ends.filter((e) => e.into);
  const short = joined.filter((e) => e.how === 'extend');
  const made = joined.filter((e) => e.how === 'join').length;
  const ready = joined.length - made - short.length;
  const capped = ends.length - joined.length;
  return [
    `${ready} of ${joined.length} ends plug or screw on as they come`,
    ...(made ? [`${made} to join`] : []),
    ...(capped ? [`${capped} to cap`] : []),
    short.length ? `${short.length} ${short.length === 1 ? 'leg is' : 'legs are'} too short` : 'every leg reaches',
  ].join(', ');
}
