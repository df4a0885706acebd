import { VERDICT_WORD } from '#core/verdict';
import type { Verdict } from '#model/common';
import { colourOf } from '../app/theme';

/** What each means, in a sentence. */
export const MEANS: Record<Verdict, string> = {
  holds: 'Holds: within its limits, with room.',
  tight: 'Tight: within its limits, but near the edge. Look at the sum.',
  fails: 'Fails: past a limit. What is past it, and what would put it right, stands beside it.',
  unknown: 'Not known: a figure is missing, and it is named. Nothing is guessed.',
};
export const VERDICT_COLOUR: Record<Verdict, string> = { holds: 'holds', tight: 'tightText', fails: 'fails', unknown: 'unknown' };

// a full square, one with a cut corner, a broken one, a dashed one
const OUTLINE: Record<Verdict, string> = {
  holds: 'M2 2H22V22H2Z',
  tight: 'M2 2H15L22 9V22H2Z',
  fails: 'M10 2H2V22H9M14 2H22V22H13',
  unknown: 'M2 2H22V22H2Z',
};
const LETTER: Record<Verdict, string> = { holds: 'H', tight: 'T', fails: 'F', unknown: '?' };

const WHITE = colourOf('raised');

/** A verdict as its first letter in a shape of its own, so that colour is never alone. */
export function VerdictMark({ verdict, size = 22, word = false }: { verdict: Verdict | null; size?: number; word?: boolean }) {
  if (!verdict)
    return (
      <svg viewBox="0 0 24 24" width={size} height={size} className="verdict none" aria-label="nothing judged yet" role="img">
        <path d="M5 12H19" stroke="currentColor" strokeWidth="2" />
      </svg>
    );
  const mark = (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      className={`verdict of-${verdict}`}
      role="img"
      aria-label={word ? undefined : VERDICT_WORD[verdict]}
      aria-hidden={word || undefined}
    >
      <path
        d={OUTLINE[verdict]}
        fill={verdict === 'holds' ? 'currentColor' : 'none'}
        stroke="currentColor"
        strokeWidth="2.4"
        strokeDasharray={verdict === 'unknown' ? '4 3' : undefined}
      />
      <text x="12" y="17.4" textAnchor="middle" fill={verdict === 'holds' ? WHITE : 'currentColor'}>
        {LETTER[verdict]}
      </text>
    </svg>
  );
  if (!word) return mark;
  return (
    <span className={`verdict-word of-${verdict}`}>
      {mark}
      {VERDICT_WORD[verdict]}
    </span>
  );
}
