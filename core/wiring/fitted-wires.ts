import type { FittedItem } from '#model/fitted';
import type { WireFunction } from '#model/parts';
import type { FactoryWire } from '#model/unit-model';
import { functionWord } from '../harness/tap';

/** When a wire of such a function is live, by the unit’s own controls. */
const LIVE: Partial<Record<WireFunction, string[]>> = {
  key: ['key:acc|run'],
  'winch-feed': ['key:acc|run'],
  data: ['key:acc|run'],
  tail: ['lights:on', 'key:run'],
  stop: ['brake:pressed', 'key:run'],
  'turn-left': ['key:run', 'turn:left', 'beat'],
  'turn-right': ['key:run', 'turn:right', 'beat'],
  'high-beam': ['beam:high', 'lights:on', 'key:run'],
  reverse: ['gear:reverse', 'key:run'],
};
/** Watts of a contactor’s coil, for a wire that pulls one in. Common practice, no source. */
const COIL_W = 12;

/** Wires of what was fitted before, as wires that the unit has. */
export const fittedWires = (fitted: readonly Pick<FittedItem, 'id' | 'name' | 'wires'>[]): FactoryWire[] =>
  fitted.flatMap((f) =>
    (f.wires ?? []).map((w): FactoryWire => {
      const takes = w.takesW ?? (w.function === 'winch-in' || w.function === 'winch-out' ? COIL_W : undefined);
      return {
        id: `fitted-${f.id}-${w.function}`,
        name: `${functionWord(w.function)} wire of the ${f.name}`,
        function: w.function,
        colour: w.colour,
        place: w.place,
        volts: 12,
        usedA: 0,
        ...(takes !== undefined && { takesW: takes }),
        live: takes !== undefined ? [] : (LIVE[w.function] ?? []),
      };
    }),
  );
