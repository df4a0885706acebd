import type { Circuit, Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import { circuitId, type Wiring } from '../wiring/planned';
import type { LampItem } from '../lighting/item';
import type { OrderLamps } from '../lighting/check';

/** What a rule pack asks of a circuit's feed: volts with the key off, such as for hazard signals. */
export interface FeedDemand {
  circuit: string;
  name: string;
  /** the pack's item that asks for it */
  pack: string;
  item: string;
  title: string;
  says: string;
}
/** Two things that exclude each other: what a pack asks for, and what a kit's sheet or this unit allows. */
export interface FeedConflict extends FeedDemand {
  /** the fact that resolves it, with its question; null: nothing that a person could say does */
  asks: { key: string; question: string } | null;
  /** what would resolve it */
  resolves: string;
}
export interface FeedDemands {
  /** circuits whose feed is chosen by what a pack asks for */
  met: FeedDemand[];
  conflicts: FeedConflict[];
}

/** The fact that a kit's maker allows a constant feed where its sheet says keyed. */
export const constantFact = (circuit: string): string => `constant:${circuit}`;

/** Items that fail because lamps are dark with the key off. */
const darkWithKeyOff = (lamps: OrderLamps): { pack: string; item: LampItem }[] =>
  lamps.packs.flatMap(({ pack, items }) =>
    items
      .filter(
        (i) => i.rule?.kind === 'logic' && i.verdict === 'fails' && i.failing?.controls['unit#key'] === 'off' && / dark$/.test(i.says),
      )
      .map((item) => ({ pack: pack.name, item })),
  );

const litBy = (i: LampItem): string[] => (i.rule?.kind === 'logic' ? i.rule.then.flatMap((c) => ('lit' in c ? c.lit : [])) : []);

/**
 * What the chosen rule packs ask of the feeds, read off what fails in the wiring as its sheets alone would have it. A circuit
 * that its sheet lets stand on either gets a constant feed; one whose sheet says keyed excludes the item, until somebody says
 * that its maker allows it.
 */
export function feedDemands(order: Order, sheets: Sheets, wiring: Wiring, lamps: OrderLamps): FeedDemands {
  const out: FeedDemands = { met: [], conflicts: [] };
  for (const { pack, item } of darkWithKeyOff(lamps)) {
    const functions = litBy(item);
    const wanted = new Set(lamps.lamps.filter((l) => functions.includes(l.function)).map((l) => l.id));
    for (const c of wiring.circuits) {
      const feeds = c.circuit.devices.some((d) => wanted.has(`${c.kit.id}/${d}`));
      const dead = c.feed?.switching === 'keyed' || c.mode === 'relay';
      if (!feeds || !dead || c.circuit.taps || [...out.met, ...out.conflicts].some((x) => x.circuit === c.id)) continue;
      const demand: FeedDemand = {
        circuit: c.id,
        name: c.circuit.name,
        pack,
        item: item.id,
        title: item.title,
        says: `constant, because ${pack} asks for “${item.title}”`,
      };
      const allowed = c.circuit.switching === 'either' || order.facts[constantFact(c.id)] === true;
      const there = wiring.points.some((p) => p.switching === 'constant' && Math.abs(p.volts - c.circuit.volts) <= 2);
      if (allowed && there) out.met.push(demand);
      else out.conflicts.push({ ...demand, ...conflict(order, c.kit, c.circuit, demand, there) });
    }
  }
  out.conflicts.push(...partedOtherwise(wiring, lamps, out));
  return out;
}

const namedBy = (i: LampItem): string[] =>
  i.rule?.kind === 'logic' ? [...i.rule.given, ...i.rule.then].flatMap((c) => ('lit' in c ? c.lit : 'dark' in c ? c.dark : [])) : [];

/**
 * What the packs ask of switching, such as a plate lamp with the tail or an anchor light without sidelights, and no feed can
 * give: the circuits are fed and sound, and their switches, as the sheets have them, do otherwise.
 */
function partedOtherwise(wiring: Wiring, lamps: OrderLamps, known: FeedDemands): FeedConflict[] {
  const said = new Set([...known.met, ...known.conflicts].map((d) => d.item));
  return lamps.packs.flatMap(({ pack, items }) =>
    items.flatMap((i): FeedConflict[] => {
      if (i.rule?.kind !== 'logic' || i.verdict !== 'fails' || said.has(i.id)) return [];
      const functions = namedBy(i);
      const wanted = new Set(lamps.lamps.filter((l) => functions.includes(l.function)).map((l) => l.id));
      const circuits = wiring.circuits.filter((c) => c.circuit.devices.some((d) => wanted.has(`${c.kit.id}/${d}`)));
      // a circuit that is not fed yet, or fails by itself, is dark for that reason
      if (!circuits.length || circuits.some((c) => c.verdict !== 'holds' || (!c.feed && !c.circuit.taps))) return [];
      const names = [
        ...new Set(
          circuits.map((c) => (circuits.some((x) => x.kit.id !== c.kit.id) ? `${c.circuit.name} of ${c.kit.name}` : c.circuit.name)),
        ),
      ];
      const [first] = circuits;
      return [
        {
          circuit: first!.id,
          name: first!.circuit.name,
          pack: pack.name,
          item: i.id,
          title: i.title,
          says: `${pack.name} asks for “${i.title}”, and as the switches of ${names.join(' and ')} are joined, ${i.says}: they exclude each other`,
          asks: null,
          resolves:
            names.length > 1
              ? `one switch for ${names.join(' and ')}, or the lamps of one of them left off`
              : `a switch for ${names[0]} that parts what is to be lit from what is to be dark`,
        },
      ];
    }),
  );
}

function conflict(
  order: Order,
  kit: Kit,
  circuit: Circuit,
  d: FeedDemand,
  there: boolean,
): Pick<FeedConflict, 'says' | 'asks' | 'resolves'> {
  if (!there)
    return {
      says: `${d.pack} asks for “${d.title}”, and no point here is live with the key off at ${circuit.volts} V: they exclude each other`,
      asks: null,
      resolves: `a constant point of ${circuit.volts} V, such as a second reducer that stays on`,
    };
  const refused = order.facts[constantFact(d.circuit)] === false;
  return {
    says: `${d.pack} asks for “${d.title}”, and the sheet of ${kit.name} has ${circuit.name} on a keyed feed: they exclude each other`,
    asks: { key: constantFact(d.circuit), question: `Does the maker allow a constant feed for ${circuit.name}?` },
    resolves: refused
      ? `its maker does not allow it: another kit whose sheet does, or a rule pack without this item`
      : `a constant feed, where the maker of ${kit.name} allows it`,
  };
}

/** Sheets with circuits as the packs' demands have them: on a constant feed. */
export function demandedSheets(sheets: Sheets, met: readonly FeedDemand[]): Sheets {
  const ids = new Set(met.map((d) => d.circuit));
  if (!ids.size) return sheets;
  const kits = sheets.kits.map((kit) =>
    kit.circuits.some((c) => ids.has(circuitId(kit.id, c.id)))
      ? { ...kit, circuits: kit.circuits.map((c) => (ids.has(circuitId(kit.id, c.id)) ? { ...c, switching: 'constant' as const } : c)) }
      : kit,
  );
  return { ...sheets, kits };
}
