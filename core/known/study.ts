import type { Verdict } from '#model/common';
import type { Order, Station } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { consider, type Considered } from '../order/assess';
import { Memo } from '../memo';
import { hiddenPlaces } from '../plan/panels-off';
import { behind, panelsOver } from '../plan/problem';
import { seeded } from '../random';
import { drawModel, drawValue } from './draw';
import { isOpen, passShares, ranked, type Draw } from './settle';
import { openValues, valued, type OpenValue } from './values';

/** Something that is judged by figures, some of which are only assumed. */
export interface Question {
  id: string;
  station: Station;
  /** as in “Load at idle” or “the wire of the roof bar as planned” */
  name: string;
  /** as it comes out with what is assumed */
  verdict: Verdict;
  /** of all that the unit may be, so many pass; 1: whatever it is, it passes */
  share: number;
  open: boolean;
}

/** What to take next, and what it would settle. */
export interface Measure extends OpenValue {
  /** with what hides it taken off first, as the unit stands now */
  minutesNow: number;
  /** what must come off for it, by name */
  off: string[];
  gain: number;
}

export interface Study {
  questions: Question[];
  /** at most three, the most telling for a minute first */
  next: Measure[];
  /** how many values are only assumed */
  assumed: number;
  draws: number;
}

/** Draws of the unit that a study rests on. */
export const DRAWS = 128;
const SEED = 20260302;
export const AT_MOST = 3;

export interface Outcome {
  id: string;
  station: Station;
  name: string;
  verdict: Verdict;
  /** what must come out the same beside the verdict, such as the wire that is cut */
  as: string;
}

/** Every question of an order as it comes out on one unit. */
export function outcomes({ power, wiring, lamps }: Considered): Outcome[] {
  return [
    ...power.checks.map((c): Outcome => ({ id: `power/${c.id}`, station: 'power', name: c.title, verdict: c.verdict, as: '' })),
    ...wiring.circuits.map((c): Outcome => ({
      id: `wire/${c.id}`,
      station: 'wire',
      name: `${c.circuit.name}, its wire and fuse`,
      verdict: c.verdict,
      as: JSON.stringify([c.feed?.id, c.mode, c.awg, c.fuseA]),
    })),
    ...lamps.packs.flatMap((p) =>
      p.items.flatMap((i): Outcome[] =>
        i.verdict === null ? [] : [{ id: `lamps/${i.pack}/${i.id}`, station: 'lamps', name: i.title, verdict: i.verdict, as: '' }],
      ),
    ),
  ];
}

const passes = (o: Outcome | undefined, as: string): boolean => !!o && (o.verdict === 'holds' || o.verdict === 'tight') && o.as === as;

/** How much hangs on a question: what may not be handed over weighs most. Common practice, no source. */
const WEIGHT: Partial<Record<Station, number>> = { power: 3, wire: 2, lamps: 2 };

/** What must come off before a value can be taken, as the unit stands now. */
function toTakeOff(model: UnitModel, v: OpenValue, off: ReadonlySet<string>): UnitModel['panels'] {
  if (!v.place || !hiddenPlaces(model, off).has(v.place)) return [];
  const needed = behind(model, panelsOver(model, [v.place]));
  return model.panels.filter((p) => needed.has(p.id) && !off.has(p.id));
}

/** The stages of a study, so that it can be stopped between draws: `next` draws once and answers how many are done. */
export class Studying {
  private readonly model: UnitModel;
  private readonly values: OpenValue[];
  private readonly random = seeded(SEED);
  private readonly base: Outcome[];
  private readonly draws: Draw[] = [];

  /** @param off panels that are off as the unit stands */
  constructor(
    private readonly order: Order,
    private readonly given: Sheets,
    private readonly settings: Settings,
    private readonly off: ReadonlySet<string>,
  ) {
    this.model = valued(given.model, order.unit.build, order.values);
    this.values = openValues(this.model);
    this.base = outcomes(this.on(this.model));
  }

  private on(model: UnitModel): Considered {
    // what was read on the unit is in the model already
    return consider({ ...this.order, values: undefined }, { ...this.given, model }, this.settings, new Memo());
  }

  /** Judges the order on one more unit as this may be. */
  next(): number {
    const drawn = this.values.map((v) => drawValue(v, this.random));
    const seen = new Map(outcomes(this.on(drawModel(this.model, this.values, drawn))).map((o) => [o.id, o]));
    this.draws.push({ values: drawn, passes: this.base.map((b) => passes(seen.get(b.id), b.as)) });
    return this.draws.length;
  }

  /** What can be said after the draws so far. */
  result(): Study {
    const shares = passShares(this.draws);
    const questions = this.base.map(({ id, station, name, verdict }, i): Question => {
      const share = shares[i] ?? (verdict === 'fails' ? 0 : 1);
      return { id, station, name, verdict, share, open: isOpen(share) };
    });
    const weights = this.base.map((b) => WEIGHT[b.station] ?? 1);
    const taken = this.values.map((v) => {
      const first = toTakeOff(this.model, v, this.off);
      return { ...v, minutesNow: v.minutes + first.reduce((s, p) => s + p.offMinutes + p.onMinutes, 0), off: first.map((p) => p.name) };
    });
    const next = ranked(
      this.draws,
      taken.map((t) => ({ minutes: t.minutesNow })),
      weights,
    )
      .slice(0, AT_MOST)
      .map(({ value, gain }) => ({ ...taken[value]!, gain }));
    return { questions, next, assumed: this.values.length, draws: this.draws.length };
  }
}

/** The whole study at once. */
export function study(order: Order, given: Sheets, settings: Settings, off: ReadonlySet<string> = new Set(), draws = DRAWS): Study {
  const s = new Studying(order, given, settings, off);
  for (let i = 0; i < draws; i++) s.next();
  return s.result();
}
