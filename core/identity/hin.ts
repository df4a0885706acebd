// Source: 33 CFR 181, from memory: to be confirmed against a copy.

/** What follows the serial in the two shapes from before August 1984: M, model year and month letter; month and year. */
const OLD = [/^M\d\d[A-L]$/, /^(0[1-9]|1[0-2])\d\d$/];

const isLetter = (c: string | undefined) => c !== undefined && /[A-Z]/.test(c);
const isDigit = (c: string | undefined) => c !== undefined && /[0-9]/.test(c);

/**
 * Checks a hull identification number as typed: three-letter maker, five of serial, month letter A–L, year digit,
 * two-digit model year. Before August 1984 two more were made: serial, then M, the model year and a month letter
 * (ABC12345M78D), or serial, then month and year of certification (ABC123450374). A country prefix with a dash and spaces are taken off. It has no check digit, so only the
 * shape can be checked. Never throws.
 */
export function checkHin(typed: string): { valid: boolean; problems: string[] } {
  const hin = typed
    .trim()
    .toUpperCase()
    .replace(/^[A-Z]{2}-(?=[A-Z]{3})/, '')
    .replace(/[\s-]/g, '');
  const problems: string[] = [];
  if (hin.length !== 12) problems.push(`${hin.length} of 12 characters`);
  const wrong = (i: number, want: string) => problems.push(`“${hin[i]}” in position ${i + 1} should be ${want}`);
  const old = hin.length === 12 && OLD.some((shape) => shape.test(hin.slice(8)));
  for (let i = 0; i < Math.min(12, hin.length); i++) {
    const c = hin[i];
    if (i < 3 && !isLetter(c)) wrong(i, 'a letter of the maker’s code');
    if (i >= 3 && i < 8 && (!(isLetter(c) || isDigit(c)) || c === 'I' || c === 'O' || c === 'Q'))
      wrong(i, 'a digit, or a letter other than I, O and Q');
    if (old && i > 7) continue;
    if (i === 8 && !/[A-L]/.test(c!)) wrong(i, 'a month letter from A (January) to L (December)');
    if (i > 8 && !isDigit(c)) wrong(i, i === 9 ? 'the last digit of the year of certification' : 'a digit of the model year');
  }
  return { valid: problems.length === 0, problems };
}
