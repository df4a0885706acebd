import type { UnitModel } from '#model/unit-model';
import type { Verdict } from '#model/common';
import { checkHin } from './hin';
import { checkVin } from './vin';

/** What a unit's number turned out to be, with a sentence for the screen. A number without check digits is `unknown`: accepted, not checked. */
export function checkIdentity(kind: UnitModel['identity'], typed: string): { verdict: Verdict; says: string; problems: string[] } {
  if (!typed.trim()) return { verdict: 'unknown', says: 'No number yet', problems: [] };
  if (kind === 'maker') return { verdict: 'unknown', says: 'Maker’s number: accepted, it carries nothing to check', problems: [] };
  const r = kind === 'vin' ? checkVin(typed) : checkHin(typed);
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
