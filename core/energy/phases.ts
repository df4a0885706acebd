import type { OwnerDay, Phase } from '#model/day';
import { noLoads, type Loads } from './bus';
import { cellAt, type Cell, type CellAt } from './cell';
import type { Segment } from './simulate';
import { sourceAmps } from './source';
import { crankAmps, type EnergyLoad, type PowerSystem } from './system';

/** Share of the time that signals, stop lamps and the like are on while the unit moves. Common practice, no source. */
export const INTERMITTENT_SHARE = 0.03;
/** How long a use of what runs in bursts lasts: a pull of a winch or a compressor, a horn or a signal. Common practice, no source. */
export const BURST_SECONDS = { burst: 25, intermittent: 5 } as const;
/** Heated gear is wanted up to here. Common practice, no source. */
export const HEAT_UNTIL_C = 12;

/** How far off the true figures may be, as factors on what the sheets say, or degrees; all 1 or 0 for the sheets' own. */
export interface Guess {
  source: number;
  capacity: number;
  ohms: number;
  own: number;
  added: number;
  audio: number;
  minutes: number;
  crank: number;
  startSoc: number;
  tempC: number;
  /** where in its band a draw lies that was given as a band, 0 to 1 */
  band: number;
}
export const NO_GUESS: Guess = {
  source: 1,
  capacity: 1,
  ohms: 1,
  own: 1,
  added: 1,
  audio: 1,
  minutes: 1,
  crank: 1,
  startSoc: 0,
  tempC: 0,
  band: 0.5,
};

/** The engine runs; a cart is in use whenever its key is on. */
const running = (s: PowerSystem, p: Phase) => (s.source === null ? p.key === 'on' && !p.wall : p.rpm > 0);
const powered = (s: PowerSystem, p: Phase) => running(s, p) || p.key === 'on';
/** What an owner says of these is how long they are on; of the rest, how much of what their sheet expects. */
const byTime = (l: EnergyLoad) => l.use === 'lamp' || l.use === null;

/** What Kadro takes for a load in a phase where the owner said nothing: lamps in the dark, heat in the cold, the rest as its sheet says. */
export function usualDuty(s: PowerSystem, l: EnergyLoad, p: Phase): number {
  if (l.own) return powered(s, p) ? 1 : 0;
  // with the key off nobody uses anything, unless the owner says so
  if (l.kind === 'burst' || !powered(s, p)) return 0;
  if (!running(s, p) && !l.engineOff) return 0;
  if (l.kind === 'intermittent') return INTERMITTENT_SHARE;
  if (l.use === 'lamp') return p.dark ? l.share : 0;
  if (l.use === 'heat') return p.tempC <= HEAT_UNTIL_C ? l.share : 0;
  return l.share;
}

/** Share of a load's watts that it takes in a phase: what the owner said, or what is usual; nothing where it has no power. */
export function dutyIn(s: PowerSystem, l: EnergyLoad, p: Phase): number {
  const said = p.duty[l.id];
  const duty = said === undefined ? usualDuty(s, l, p) : l.keyed && !powered(s, p) ? 0 : said * (byTime(l) ? 1 : l.share);
  return l.shedBelowRpm !== null && p.rpm > 0 && p.rpm < l.shedBelowRpm ? 0 : duty;
}

/** Watts of a load that is on, at its own nominal volts. Null while nobody knows. */
export function wattsIn(s: PowerSystem, l: EnergyLoad, p: Phase): number | null {
  if (!l.own) return l.watts;
  if (s.source === null) return p.driveKm > 0 ? l.own.workingW : l.own.idleW;
  if (p.rpm <= 0) return l.own.keyW;
  const { idleRpm, workingRpm } = s.source;
  const t = Math.min(1, Math.max(0, (p.rpm - idleRpm) / (workingRpm - idleRpm)));
  return l.own.idleW + (l.own.workingW - l.own.idleW) * t;
}

/** Adds a load of `watts` at its nominal volts to a bus, by its law; through a supply it is constant power, whatever it is itself. */
export function addLoad(to: Loads, l: Pick<EnergyLoad, 'law' | 'volts' | 'via'>, watts: number): void {
  if (l.via) to.power += watts / l.via.efficiency;
  else if (l.law === 'constant-power') to.power += watts;
  else if (l.law === 'constant-current') to.amps += watts / l.volts;
  else if (l.law === 'resistor') to.siemens += watts / (l.volts * l.volts);
  else to.filament += watts / l.volts ** 1.6;
}

/** What one of a system's loads adds to its bus by law: 0 power, 1 steady, 2 resistor, 3 filament. */
export const lawIndex = (l: Pick<EnergyLoad, 'law' | 'via'>): number =>
  l.via ? 0 : { 'constant-power': 0, 'constant-current': 1, resistor: 2, filament: 3 }[l.law];

/** Amperes of a winch's motor at a share of its rated pull: straight from none to rated, as its sheet gives both. */
export function winchAmps(s: PowerSystem, share: number): number {
  if (!s.winch) return 0;
  const { spec, amps } = s.winch;
  return spec ? spec.noLoadA + (spec.ratedA - spec.noLoadA) * share : amps * share;
}

/** Output of the source at a speed and temperature, amperes. Above 25 °C it falls; cold does not raise it above the sheet. */
export const sourceAt = (s: PowerSystem, rpm: number, tempC: number): number =>
  s.source === null || rpm <= 0 ? 0 : sourceAmps(s.source, rpm) * warmShare(s, tempC);
const warmShare = (s: PowerSystem, tempC: number): number =>
  s.source === null ? 0 : Math.max(0, 1 - s.source.lossPerC * Math.max(0, tempC - 25));

export interface Compiled {
  segments: Segment[];
  charge: number[];
}

/** The cells at a temperature, with the guess in them. */
function cellsAt(cells: readonly Cell[], tempC: number, g: Guess): CellAt[] {
  return cells.map((c) =>
    cellAt(g.capacity === 1 && g.ohms === 1 ? c : { ...c, capacityAh: c.capacityAh * g.capacity, ohms: c.ohms * g.ohms }, tempC),
  );
}

/** Loads of a phase by what they are guessed with, one sum a bus: worked out once, weighed by each guess. */
interface Weighed {
  own: Loads[];
  added: Loads[];
  audio: Loads[];
  /** draws given as a band, at its low end, and what the high end adds */
  low: Loads[];
  span: Loads[];
  driveWh: number;
}

function weighed(s: PowerSystem, p: Phase): Weighed {
  const none = () => s.cells.map(() => noLoads((8 * s.systemV) / 12));
  const out: Weighed = { own: none(), added: none(), audio: none(), low: none(), span: none(), driveWh: 0 };
  for (const l of s.loads) {
    const duty = dutyIn(s, l, p);
    if (duty === 0) continue;
    const bus = Math.min(l.bus, s.cells.length - 1);
    if (l.band) {
      addLoad(out.low[bus]!, l, l.band[0] * duty);
      addLoad(out.span[bus]!, l, (l.band[1] - l.band[0]) * duty);
      continue;
    }
    const watts = wattsIn(s, l, p);
    if (watts) addLoad((l.own ? out.own : l.use === 'audio' ? out.audio : out.added)[bus]!, l, watts * duty);
  }
  if (s.drive) out.driveWh = s.drive.whPerKm * p.driveKm;
  return out;
}

function weigh(s: PowerSystem, w: Weighed, p: Phase, g: Guess): Loads[] {
  return s.cells.map((_, b): Loads => {
    const [own, added, audio, low, span] = [w.own[b]!, w.added[b]!, w.audio[b]!, w.low[b]!, w.span[b]!];
    const driveW = b === 0 && w.driveWh > 0 ? (w.driveWh * 60) / (p.minutes * g.minutes) : 0;
    return {
      power: own.power * g.own + added.power * g.added + audio.power * g.audio + low.power + span.power * g.band + driveW,
      amps: own.amps * g.own + added.amps * g.added + audio.amps * g.audio + low.amps + span.amps * g.band + (b === 0 ? s.parkedA : 0),
      siemens: own.siemens * g.own + added.siemens * g.added + audio.siemens * g.audio + low.siemens + span.siemens * g.band,
      filament: own.filament * g.own + added.filament * g.added + audio.filament * g.audio + low.filament + span.filament * g.band,
      burst: 0,
      leastV: own.leastV,
    };
  });
}

/** The steady loads of a phase, one sum a bus. A load whose watts nobody knows counts nothing: the verdict says so. */
export const loadsIn = (s: PowerSystem, p: Phase, g: Guess = NO_GUESS): Loads[] => weigh(s, weighed(s, p), p, g);

/**
 * A day as segments for the simulation: each phase, with its starts and its pulls as segments of their own.
 * @param parts segments that a plain phase is cut into; how many there are does not depend on the guess
 */
export const compile = (s: PowerSystem, day: Pick<OwnerDay, 'phases'>, g: Guess = NO_GUESS, parts = 1): Compiled =>
  compiler(s, day)(g, parts);

/** A phase of a day, worked out but for what is guessed. */
interface Ready {
  phase: Phase;
  index: number;
  of: Weighed;
  /** of the source at 25 °C and below, amperes */
  sourceA: number;
  fromWall: boolean;
  regulatedV: number;
  /** it begins with a start, as the engine stood before */
  cranks: boolean;
}

/** Prepares a day, so that many guesses of it are compiled without working its loads out anew. */
export function compiler(s: PowerSystem, day: Pick<OwnerDay, 'phases'>): (g: Guess, parts: number) => Compiled {
  let stood = true;
  const ready = day.phases.map((phase, index): Ready => {
    const fromWall = phase.wall && s.wall !== null;
    const cranks = phase.rpm > 0 && stood && s.starter !== null;
    stood = phase.rpm === 0;
    return {
      phase,
      index,
      of: weighed(s, phase),
      sourceA: fromWall ? s.wall!.amps : sourceAt(s, phase.rpm, 25),
      fromWall,
      regulatedV: fromWall ? s.wall!.volts : (s.source?.regulatedV ?? 0),
      cranks,
    };
  });
  return (g, parts) => compileGuess(s, ready, g, parts);
}

function compileGuess(s: PowerSystem, day: readonly Ready[], g: Guess, parts: number): Compiled {
  const segments: Segment[] = [];
  const known = new Map<number, CellAt[]>();
  for (const { phase: p, index: phase, of, sourceA: plainA, fromWall, regulatedV, cranks } of day) {
    const tempC = p.tempC + g.tempC;
    let cells = known.get(tempC);
    if (!cells) known.set(tempC, (cells = cellsAt(s.cells, tempC, g)));
    const sourceA = fromWall ? plainA : plainA * warmShare(s, tempC) * g.source;
    const loads = weigh(s, of, p, g);
    const hours = (p.minutes * g.minutes) / 60;
    if (cranks) {
      const amps = crankAmps(s.starter!, tempC) * g.crank;
      const starting = loads.map((_, i) => ({ ...noLoads((4 * s.systemV) / 12), burst: i === 0 ? amps : 0 }));
      segments.push({ phase, sourceA: 0, regulatedV, cells, loads: starting, hours: s.starter!.seconds / 3600, crank: true });
    }
    if (p.pulls && s.winch) {
      const amps = winchAmps(s, p.pulls.share);
      const pull = Math.min(p.pulls.seconds / 3600, hours / p.pulls.count / 2);
      const rest = hours / p.pulls.count - pull;
      const pulling = loads.map((l, i) => (i === 0 ? { ...l, burst: amps } : l));
      for (let k = 0; k < p.pulls.count; k++)
        segments.push(
          { phase, sourceA, regulatedV, cells, loads: pulling, hours: pull },
          { phase, sourceA, regulatedV, cells, loads, hours: rest },
        );
    } else {
      const part = { phase, sourceA, regulatedV, cells, loads, hours: hours / parts };
      for (let k = 0; k < parts; k++) segments.push(part);
    }
  }
  const soc = Math.min(1, Math.max(0.02, s.startSoc + g.startSoc));
  return { segments, charge: s.cells.map((c) => c.capacityAh * g.capacity * soc) };
}
