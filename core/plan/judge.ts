import { READING_DIGITS } from '../quantity/reading-units';
import type { Verdict } from '#model/common';
import type { Expected } from '#model/reading';

/** How near a band's edge a reading may come before it is Tight, as a share of the band. Common practice, no source. */
const EDGE = 0.05;

/** A meter may show so much under nothing where nothing is. Common practice, no source. */
const LAST_DIGITS = 0.05;

const shown = (x: number) => Number(x.toPrecision(READING_DIGITS));

/** Judges a reading against what was expected of it. A yes-or-no reading is 1 for yes. A band may be open on one side. */
export function judgeReading(read: number, expected: Expected): Verdict {
  if (expected.unit === 'yes') return read === 1 ? 'holds' : 'fails';
  const value = shown(read);
  const low = expected.low === null ? null : shown(expected.low);
  const high = expected.high === null ? null : shown(expected.high);
  if ((low !== null && value < (low === 0 ? -LAST_DIGITS : low)) || (high !== null && value > high)) return 'fails';
  if (low === null || high === null) return 'holds';
  const edge = (high - low) * EDGE;
  return (low > 0 && value < low + edge) || value > high - edge ? 'tight' : 'holds';
}
