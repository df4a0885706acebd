// Sources: 49 CFR 565 (check character, model year, tail) and ISO 3779 (who need not carry a check character), from memory: to be confirmed against a copy.
const WEIGHTS = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2];
const CHECK_AT = 8;
const VALUES: Record<string, number> = Object.fromEntries([
  ...'0123456789'.split('').map((d) => [d, Number(d)]),
  ...'ABCDEFGH'.split('').map((c, i) => [c, i + 1]),
  ...'JKLMN'.split('').map((c, i) => [c, i + 1]),
  ['P', 7],
  ['R', 9],
  ...'STUVWXYZ'.split('').map((c, i) => [c, i + 2]),
]);

/** Where numbers begin that must carry a check character: North America. Source: ISO 3779, ISO 3780. */
const NORTH_AMERICA = /^[1-5]/;
const YEAR_AT = 9;
/** Never a model year. */
const NO_YEAR = ['0', 'U', 'Z'];
/** From here on a number of North America has digits only. */
const TAIL_AT = 13;

export interface VinCheck {
  valid: boolean;
  /** the check character was looked at and agrees; outside North America none is required, and one that differs says nothing */
  checked: boolean;
  /** the check character the other sixteen call for; null while it cannot be worked out */
  expected: string | null;
  /** the character found in position 9 */
  found: string | null;
  problems: string[];
}

/** Checks a vehicle identification number as typed: length, letters, check character. Never throws: what is wrong is listed. */
export function checkVin(typed: string): VinCheck {
  const vin = typed.trim().toUpperCase();
  const problems: string[] = [];
  if (vin.length !== WEIGHTS.length) problems.push(`${vin.length} of 17 characters`);
  [...vin].forEach((c, i) => {
    if (c === 'I' || c === 'O' || c === 'Q')
      problems.push(`“${c}” in position ${i + 1} is never used in a VIN: is it ${c === 'I' ? '1' : '0'}?`);
    else if (!(c in VALUES)) problems.push(`“${c}” in position ${i + 1} is not a letter or digit of a VIN`);
  });
  const found = vin[CHECK_AT] ?? null;
  if (problems.length) return { valid: false, checked: false, expected: null, found, problems };
  const total = [...vin].reduce((s, c, i) => s + VALUES[c]! * WEIGHTS[i]!, 0);
  const rest = total % 11;
  const expected = rest === 10 ? 'X' : String(rest);
  const required = NORTH_AMERICA.test(vin);
  if (required && NO_YEAR.includes(vin[YEAR_AT]!)) problems.push(`“${vin[YEAR_AT]}” in position 10 is no model year`);
  if (required && /\D/.test(vin.slice(TAIL_AT))) problems.push(`the last four are digits: “${vin.slice(TAIL_AT)}” are not`);
  if (required && expected !== found)
    problems.push(`check character in position 9 is ${found}, the others call for ${expected}: one character is probably misread`);
  return { valid: problems.length === 0, checked: expected === found, expected, found, problems };
}
