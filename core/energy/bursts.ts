import { Phase } from '#model/day';
import { addLoad, BURST_SECONDS, loadsIn, NO_GUESS, sourceAt } from './phases';
import { cellAt } from './cell';
import { run } from './simulate';
import type { PowerSystem } from './system';

/** What one use of something that runs in bursts does to the bus and takes from the battery. */
export interface Burst {
  id: string;
  name: string;
  amps: number;
  seconds: number;
  offVolts: number;
  /** null with no engine */
  idleVolts: number | null;
  /** charge, engine off, Peukert counted */
  takesAh: number;
}

/** Each load that is used in bursts, by itself, for as long as is usual: with the engine off, and at idle with the unit's own needs. */
export function burstsOf(s: PowerSystem, tempC = 20): Burst[] {
  const cells = s.cells.map((c) => cellAt(c, tempC));
  const charge = s.cells.map((c) => c.capacityAh * s.startSoc);
  const idle = Phase.parse({ id: 'idle', name: 'Idle', minutes: 1, rpm: s.source?.idleRpm ?? 0, tempC });
  const own = { ...s, loads: s.loads.filter((l) => l.own) };
  return s.loads.flatMap((l): Burst[] => {
    if (l.own || l.kind === 'continuous' || !l.watts) return [];
    const seconds = l.kind === 'burst' ? BURST_SECONDS.burst : BURST_SECONDS.intermittent;
    const at = (engine: boolean) => {
      const loads = engine ? loadsIn(own, idle, NO_GUESS) : loadsIn({ ...s, loads: [] }, idle, NO_GUESS);
      addLoad(loads[Math.min(l.bus, loads.length - 1)]!, l, l.watts!);
      return run(
        [
          {
            phase: 0,
            hours: seconds / 3600,
            sourceA: engine ? sourceAt(s, idle.rpm, tempC) : 0,
            regulatedV: engine ? s.source!.regulatedV : 0,
            loads,
            cells,
          },
        ],
        charge,
        s.join,
      );
    };
    const off = at(false);
    return [
      {
        id: l.id,
        name: l.name,
        amps: l.watts / (l.via?.efficiency ?? 1) / (l.via ? s.systemV : l.volts),
        seconds,
        offVolts: off.leastVolts[0]!,
        idleVolts: s.source ? at(true).leastVolts[0]! : null,
        takesAh: charge[0]! - off.charge[0]!,
      },
    ];
  });
}
