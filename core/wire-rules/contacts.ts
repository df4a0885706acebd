import type { ContactRating } from '#model/parts';
import { round } from '../sum';

/** Something that makes and breaks a circuit: what it may carry and break, and how it is driven. */
export interface Contactor {
  /** as the shelf names it */
  id: string;
  name: string;
  rated: ContactRating;
  /** of its coil on 12 V; on other volts by the square */
  coilOhms: number;
  source: string;
}

/**
 * What switches an added circuit from a trigger, the smallest first. On 12 V the sealed relay; above its amperes a contactor
 * for continuous duty; above its volts only a contactor made for direct current of those volts: an arc that a 12 V gap puts out
 * stands at 48 V. Sources: ISO 7588 and makers' sheets, from memory; to be confirmed against the part in hand.
 */
export const CONTACTORS: readonly Contactor[] = [
  {
    id: 'relay-12',
    name: 'relay, sealed, with its socket',
    rated: { amps: 40, volts: 16 },
    coilOhms: 90,
    source: 'makers’ sheets, from memory: 30 to 40 A at 14 V on 87',
  },
  {
    id: 'contactor-12',
    name: 'contactor, continuous duty, 12 V',
    rated: { amps: 100, volts: 16 },
    coilOhms: 15,
    source: 'makers’ sheets, from memory',
  },
  {
    id: 'contactor-dc-72',
    name: 'contactor for direct current up to 72 V',
    rated: { amps: 100, volts: 72 },
    coilOhms: 12,
    source: 'makers’ sheets, from memory',
  },
];

/** Coils that a 12 V one stands: up to these volts. */
const COIL_12_V = 16;
/** A contactor as the shelf names it, with the volts of its coil where they are not 12. */
export const contactorPart = (c: Contactor, coilV: number): { id: string; name: string } =>
  coilV <= COIL_12_V
    ? { id: c.id, name: c.name }
    : { id: `${c.id}-coil-${Math.round(coilV)}`, name: `${c.name}, its coil for ${round(coilV)} V` };

/** The contactor that the shelf names so; null where it names something else. */
export function contactorOf(id: string): { id: string; name: string } | null {
  const [, base, coilV] = /^(.*?)(?:-coil-(\d+))?$/.exec(id)!;
  const c = CONTACTORS.find((x) => x.id === base);
  return c ? contactorPart(c, coilV ? Number(coilV) : 0) : null;
}

/** A 12 V accessory switch whose maker gives no rating. Common practice, no source. */
export const PLAIN_SWITCH: ContactRating = { amps: 20, volts: 16 };

/** Volts lost across a sound closed contact at its rating. Source: makers' sheets, from memory. */
const CONTACT_DROP_V = 0.08;
/** What a contact inside a kit's own device is taken to be sized for, where its maker says nothing. Common practice, no source. */
const UNSAID_A = 100;
/** Resistance of a sound closed contact, ohms: the more it is made for, the less. */
export const contactOhms = (rated?: ContactRating): number => CONTACT_DROP_V / (rated?.amps ?? UNSAID_A);

/** The smallest of what switches such amperes at such volts; null: nothing here does, and the circuit must be split. */
export const contactorFor = (amps: number, highestV: number): Contactor | null =>
  CONTACTORS.find((c) => c.rated.amps >= amps - 1e-9 && c.rated.volts >= highestV - 1e-9) ?? null;

/** What is wrong with a contact where it makes and breaks such amperes at such volts, in words; null: nothing. */
export function contactProblem(name: string, rated: ContactRating, amps: number | null, volts: number): string | null {
  if (volts > rated.volts + 1e-9)
    return `${name} is made for ${round(rated.volts)} V, ${round(volts)} V stand across it as it opens: the arc may not go out`;
  if (amps !== null && amps > rated.amps + 1e-9)
    return `${name} is made for ${round(rated.amps)} A, ${round(amps)} A go through it: a contactor, or two circuits`;
  return null;
}
