import type { Kit } from '#model/kit';
import type { WireFunction } from '#model/parts';
import type { FactoryWire, UnitModel } from '#model/unit-model';

/** A wire that others are joined to, by what it does: the unit’s own, or a terminal of a kit’s device. */
export interface TapTarget {
  function: WireFunction;
  node: string;
  name: string;
  place: string;
  colour: string | null;
  wire: FactoryWire | null;
  /** the terminal of a kit’s device where it is found; null: a wire of the unit */
  of: { kit: string; device: string; terminal: string } | null;
}

const FUNCTION_WORD: Record<WireFunction, string> = {
  key: 'key',
  tail: 'tail-lamp',
  stop: 'stop-lamp',
  'turn-left': 'left-signal',
  'turn-right': 'right-signal',
  'low-beam': 'low-beam',
  'high-beam': 'high-beam',
  horn: 'horn',
  reverse: 'reverse',
  data: 'data',
  'winch-feed': 'winch-feed',
  'winch-in': 'winch-in',
  'winch-out': 'winch-out',
};
export const functionWord = (f: WireFunction): string => FUNCTION_WORD[f];

/** What gives a wire function on this unit: its own wire first, then another kit's terminal. */
export function findTap(model: UnitModel, kits: readonly Kit[], f: WireFunction): TapTarget | null {
  const wire = model.factoryWires.find((w) => w.function === f);
  if (wire) return { function: f, node: `wire:${wire.id}`, name: wire.name, place: wire.place, colour: wire.colour, wire, of: null };
  for (const kit of kits)
    for (const d of kit.devices)
      for (const t of d.terminals)
        if (t.gives === f && model.places.some((p) => p.id === d.place))
          return {
            function: f,
            node: `${kit.id}/${d.id}.${t.id}`,
            name: `${d.name}, ${t.name ?? t.id}`,
            place: d.place,
            colour: t.colour ?? null,
            wire: null,
            of: { kit: kit.id, device: d.id, terminal: t.id },
          };
  return null;
}
