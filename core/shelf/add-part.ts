import { Circuit, Content, Device, type Kit } from '#model/kit';
import { Lead } from '#model/parts';
import type { UnitModel } from '#model/unit-model';
import { rightOf } from '../known/values';
import { freeId } from '../slug';
import { circuitNets, moduleNets } from './nets';
import type { ShelfPart } from './parts';

/** The place on the other side, by name; the same where a place has no side. */
const across = (place: string): string => rightOf(place).replace(/(^|-)port(?=$|-)/, '$1starboard');

const cap = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** Colours that circuits are begun in, one after another. */
const COLOURS = ['RD', 'YE', 'BU', 'OG', 'VT', 'PK', 'TQ', 'WH'];

/** Where a part usually stands: the first of its places that a unit has, those that a way leads to before all others where it has wires. */
function usualPlace(part: ShelfPart, model: UnitModel): string {
  const there = part.at.filter((p) => model.places.some((x) => x.id === p));
  const reached = there.find((p) => model.runs.some((r) => r.from === p || r.to === p));
  const wired = part.circuit !== undefined || part.device.terminals !== undefined;
  return (wired ? reached : undefined) ?? there[0] ?? model.places[0]!.id;
}

/**
 * Loose wire for circuits whose parts are joined by more than a plus and a minus; what a ready harness joins needs none. Only the
 * circuits named are led anew: what a maker says of others stays.
 */
export function withLeads(kit: Kit, circuits: readonly string[]): Kit {
  const worked = kit.circuits.flatMap((c) => (circuits.includes(c.id) ? { c, nets: circuitNets(kit, c) ?? [] } : []));
  const ends = new Set(worked.flatMap(({ c, nets }) => [`feed:${c.id}`, ...nets.flatMap((n) => n.terminals)]));
  const others = kit.leads.filter((l) => !ends.has(l.from) && !ends.has(l.to));
  const leads = worked.flatMap(({ c, nets }) =>
    feedsHarness(kit, c.id) !== null
      ? []
      : nets.flatMap((n) => {
          const [from, ...to] = n.outside ? [n.outside, ...n.terminals] : n.terminals;
          return to.map((t) =>
            // ground is where a lead goes to
            Lead.parse({
              from: from === 'ground' ? t : from,
              to: from === 'ground' ? 'ground' : t,
              colour: n.colour,
              signal: n.signal,
              // the unit’s own wire keeps its colour
              ...(n.outside?.startsWith('wire:') && c.unitColour && { unitColour: c.unitColour }),
            }),
          );
        }),
  );
  return { ...kit, leads: [...others, ...leads] };
}

/** The ready harness that takes a circuit’s feed; null where it is loose wire. */
export const feedsHarness = (kit: Kit, circuit: string): string | null =>
  kit.joins.find((j) => Object.values(j.to).flat().includes(`feed:${circuit}`))?.harness ?? null;

/**
 * A part of the shelf put into a box: its devices where they usually stand on a unit, a line of the contents, and the circuit it
 * draws from. A switch works the last circuit that has none.
 * @returns the box, and what came into it
 */
export function addPart(kit: Kit, part: ShelfPart, model: UnitModel): { kit: Kit; devices: string[] } {
  const taken = kit.devices.map((d) => d.id);
  const place = usualPlace(part, model);
  const sides = part.pair ? (['left', 'right'] as const) : [null];
  const single = part.name.replace(/^Pair of (.*?)s$/, '$1').replace(/s$/, '');
  const devices = sides.map((side) => {
    const said = side ? `${side} ${single.toLowerCase()}` : part.name;
    const id = freeId(side ? `${single} ${side}` : part.name, taken);
    taken.push(id);
    const again = /-(\d+)$/.exec(id)?.[1];
    const { equipment } = part.device;
    return Device.parse({
      ...part.device,
      // the driver’s mirror is the left one, the other the passenger’s
      ...(equipment?.function === 'mirror-driver' && side === 'right' && { equipment: { ...equipment, function: 'mirror-passenger' } }),
      id,
      name: `${cap(said)}${again ? ` ${again}` : ''}`,
      place: side === 'right' ? across(place) : place,
    });
  });
  const ids = devices.map((d) => d.id);
  let { circuits } = kit;
  if (part.circuit) {
    const { shares, colour, ...rest } = part.circuit;
    const shared = shares === undefined ? undefined : circuits.find((c) => c.name === shares);
    if (shared) circuits = circuits.map((c) => (c === shared ? { ...c, devices: [...c.devices, ...ids] } : c));
    else {
      const name = shares ?? (part.pair ? cap(`${single}s`) : devices[0]!.name);
      const id = freeId(
        name,
        circuits.map((c) => c.id),
      );
      circuits = [
        ...circuits,
        Circuit.parse({
          ...rest,
          ...(rest.makes && { makes: { ...rest.makes, id: `${kit.id}-${rest.makes.id}`.slice(0, 40), place } }),
          // a reducer is of the unit’s own pack
          ...(rest.makes && { volts: model.electrical.systemV }),
          id,
          name,
          devices: ids,
          colour: colour ?? COLOURS[circuits.length % COLOURS.length],
        }),
      ];
    }
  }
  if (part.switches) {
    const last = circuits.findLast((c) => !c.switch && !moduleNets(kit, c) && !c.makes && !c.taps && c.switching !== 'constant');
    const { switches } = part;
    const own = last && kit.devices.find((d) => d.id === last.devices[0]);
    if (last) circuits = circuits.map((c) => (c === last ? { ...c, switch: { device: ids[0]!, ...switches } } : c));
    // a switch is called by what it works
    if (last && own)
      devices[0] = {
        ...devices[0]!,
        name: `${last.name}: ${part.name.toLowerCase()}`,
        controls: devices[0]!.controls.map((c) => ({ ...c, name: `${last.name} switch` })),
      };
  }
  const worked = circuits.filter((c) => [...c.devices, c.switch?.device].some((d) => d !== undefined && ids.includes(d)));
  // a switch that a module asks belongs to the module’s circuit
  const asked = part.device.terminals?.some((t) => t.id.startsWith('ask-')) ? circuits.filter((c) => c.name === 'Signals') : [];
  const content = Content.parse({ item: part.pair ? single.toLowerCase() : part.name.toLowerCase(), count: ids.length, of: ids });
  return {
    devices: ids,
    kit: withLeads(
      { ...kit, devices: [...kit.devices, ...devices], circuits, contents: [...kit.contents, content] },
      [...worked, ...asked].map((c) => c.id),
    ),
  };
}
