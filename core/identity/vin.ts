// Source: 49 CFR 565, from memory: to be confirmed against a copy.
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

export interface VinCheck {
  valid: boolean;
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
  if (problems.length) return { valid: false, expected: null, found, problems };
  const total = [...vin].reduce((s, c, i) => s + VALUES[c]! * WEIGHTS[i]!, 0);
  const rest = total % 11;
  const expected = rest === 10 ? 'X' : String(rest);
  if (expected !== found)
    problems.push(`check character in position 9 is ${found}, the others call for ${expected}: one character is probably misread`);
  return { valid: problems.length === 0, expected, found, problems };
}
