const ONES =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  );
const TENS = '- - twenty thirty forty fifty sixty seventy eighty ninety'.split(' ');
const PARTS: Record<string, number> = { half: 2, halves: 2, quarter: 4, quarters: 4, eighth: 8, eighths: 8, sixteenth: 16, sixteenths: 16 };
const MINUS = new Set(['minus', 'negative']);
/** What dictation writes for a digit after the point. */
const DIGIT: Record<string, string> = { oh: '0', o: '0' };

const ones = (w: string) => (w === 'a' || w === 'an' ? -1 : ONES.indexOf(w));
const tens = (w: string) => TENS.indexOf(w);
const isWhole = (w: string) => w !== '' && (ones(w) >= 0 || tens(w) > 1 || w === 'hundred' || w === 'thousand');

/**
 * Spoken numbers as figures: `twelve point four volts` as `12.4 volts`, `minus one hundred and twenty` as `-120`,
 * `three eighths inch` as `3/8 inch`, `two and a half` as `2 1/2`. What is no number stays as it is.
 */
export function unsay(text: string): string {
  const words = text
    .trim()
    .replace(/(?<=[a-z])-(?=[a-z])/gi, ' ')
    .split(/\s+/);
  if (!words.some((w) => isWhole(w.toLowerCase()) || w.toLowerCase() in PARTS || MINUS.has(w.toLowerCase()))) return text;
  const out: string[] = [];
  let i = 0;
  const at = (n = i) => (words[n] ?? '').toLowerCase();
  let sign = '';
  while (i < words.length) {
    if (MINUS.has(at())) {
      sign = '-';
      i++;
      continue;
    }
    if (isWhole(at()) || (at() === 'point' && ones(at(i + 1)) >= 0)) {
      let total = 0;
      let group = 0;
      while (isWhole(at()) || (at() === 'and' && isWhole(at(i + 1)))) {
        if (at() === 'and') i++;
        const w = at();
        if (w === 'hundred') group = (group || 1) * 100;
        else if (w === 'thousand') {
          total += (group || 1) * 1000;
          group = 0;
        } else group += tens(w) > 1 ? tens(w) * 10 : ones(w);
        i++;
      }
      let figure = String(total + group);
      if (at() === 'point' || at() === 'decimal') {
        i++;
        figure += '.';
        while (ones(at()) >= 0 || at() in DIGIT || tens(at()) > 1 || /^\d$/.test(at())) {
          const w = at();
          figure +=
            w in DIGIT
              ? DIGIT[w]
              : /^\d$/.test(w)
                ? w
                : tens(w) > 1
                  ? ones(at(i + 1)) > 0
                    ? TENS.indexOf(w)
                    : `${TENS.indexOf(w)}0`
                  : ones(w);
          i++;
        }
      } else if (at() in PARTS) {
        figure += `/${PARTS[at()]}`;
        i++;
      } else if (at() === 'and' && ((at(i + 1) === 'a' && at(i + 2) in PARTS) || (ones(at(i + 1)) > 0 && at(i + 2) in PARTS))) {
        figure += ` ${Math.max(1, ones(at(i + 1)))}/${PARTS[at(i + 2)]}`;
        i += 3;
      }
      out.push(sign + figure);
      sign = '';
      continue;
    }
    if (at() in PARTS || ((at() === 'a' || at() === 'an') && at(i + 1) in PARTS)) {
      if (!(at() in PARTS)) i++;
      out.push(`${sign}1/${PARTS[at()]}`);
      sign = '';
      i++;
      // half an inch
      if (at() === 'a' || at() === 'an') i++;
      continue;
    }
    if (/^\d/.test(at()) && sign) {
      out.push(sign + at());
      sign = '';
    } else out.push(words[i]!);
    i++;
  }
  return out.join(' ');
}
