import type { Applies } from '#model/rule-pack';
import { UNIT_FACT, type Facts, type Lamp, type LampUnit } from './lamp';
import type { Ask } from './item';

/** Whether a condition holds for a unit; where a fact is missing, what to ask. */
export type Answered = { applies: true } | { applies: false; why: string } | { applies: 'ask'; ask: Ask; why: string };

const FIGURES = {
  topSpeedKmh: { question: 'What is its top speed?', unit: 'km/h', word: 'top speed' },
  gvwrKg: { question: 'What is its gross rating?', unit: 'kg', word: 'gross rating' },
  lengthM: { question: 'How long is it?', unit: 'm', word: 'length' },
} as const;

/** The key under which an asked fact of a condition is kept. */
export const askKey = (key: string): string => `fact:${key}`;

/**
 * Judges a condition. Kinds and facts that are at hand are looked at first, so that nothing is asked that does not matter.
 * @param lamps left out, conditions on what the unit has are taken to hold
 */
export function judgeApplies(
  when: Applies | undefined,
  unit: LampUnit,
  facts: Facts,
  uses: readonly string[],
  lamps?: readonly Lamp[],
): Answered {
  if (!when) return { applies: true };
  const no = (why: string): Answered => ({ applies: false, why: when.because ?? why });
  if (when.kinds && !when.kinds.includes(unit.kind)) return no(`not for this kind of unit`);
  if (when.power && (when.power === 'electric') !== unit.electric)
    return no(unit.electric ? 'for units with an engine' : 'for electric units');
  if (lamps) {
    const has = (fns: readonly string[]) => lamps.some((l) => l.known && fns.includes(l.function));
    if (when.has && !has(when.has)) return no(`it has no ${when.has.join(' or ')}`);
    if (when.hasNot && has(when.hasNot)) return no(`it has ${when.hasNot.join(' or ')}`);
  }
  if (when.use && !when.use.some((u) => uses.includes(u))) return no('not what the owner wants of it');
  const figures = {
    topSpeedKmh: unit.topSpeedKmh,
    gvwrKg: unit.gvwrKg,
    lengthM: unit.lengthMm === undefined ? undefined : unit.lengthMm / 1000,
  };
  let ask: Answered | null = null;
  for (const key of ['topSpeedKmh', 'gvwrKg', 'lengthM'] as const) {
    const band = when[key];
    if (!band) continue;
    const x = figures[key];
    const { question, unit: u, word } = FIGURES[key];
    if (x === undefined) {
      ask ??= { applies: 'ask', ask: { key: UNIT_FACT[key], question, kind: 'number', unit: u }, why: `its ${word} is not on the sheet` };
      continue;
    }
    if (band.min !== undefined && x <= band.min) return no(`${word} not above ${band.min} ${u}`);
    if (band.max !== undefined && x > band.max) return no(`${word} above ${band.max} ${u}`);
  }
  if (when.ask) {
    const told = facts[askKey(when.ask.key)];
    if (told === false) return no('said not to be so');
    if (told === undefined)
      ask ??= { applies: 'ask', ask: { key: askKey(when.ask.key), question: when.ask.question, kind: 'boolean' }, why: 'not said yet' };
  }
  return ask ?? { applies: true };
}
