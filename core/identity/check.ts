import type { UnitModel } from '#model/unit-model';
import type { Verdict } from '#model/common';
import { checkHin } from './hin';
import { checkVin } from './vin';

/** Characters of a number: 49 CFR 565 and ISO 3779; 33 CFR 181, with or without its country. */
const LENGTH = { vin: [17], hin: [12, 14] };
/** What asks for it later. Common practice, no source. */
const ASKED = {
  vin: 'Registering it for the road asks for a VIN.',
  hin: 'Registering the boat asks for a HIN.',
};

/** What a unit's number turned out to be, with a sentence for the screen. A number without check digits is `unknown`: accepted, not checked. */
export function checkIdentity(kind: UnitModel['identity'], typed: string): { verdict: Verdict; says: string; problems: string[] } {
  if (!typed.trim())
    return { verdict: 'unknown', says: kind === 'maker' ? 'No number yet' : `No number yet. ${ASKED[kind]}`, problems: [] };
  if (kind === 'maker') return { verdict: 'unknown', says: 'Maker’s number: accepted, it carries nothing to check', problems: [] };
  const r = kind === 'vin' ? checkVin(typed) : checkHin(typed);
  // of another length it is another number: a unit may carry its maker's alone
  if (!r.valid && !LENGTH[kind].includes(typed.replace(/[\s-]/g, '').length))
    return {
      verdict: 'unknown',
      says: `No ${kind.toUpperCase()} (${r.problems[0]}): kept as the number it carries, not checked. ${ASKED[kind]}`,
      problems: r.problems,
    };
  if (!r.valid) return { verdict: 'fails', says: `Not a valid ${kind.toUpperCase()}: ${r.problems[0]}`, problems: r.problems };
  if ('checked' in r && !r.checked)
    return {
      verdict: 'unknown',
      says: 'VIN from outside North America: accepted, not checked (ISO 3779 asks for no check character)',
      problems: [],
    };
  return {
    verdict: 'holds',
    says: kind === 'vin' ? 'VIN: check character agrees' : 'HIN: shape agrees (it carries no check digit)',
    problems: [],
  };
}
