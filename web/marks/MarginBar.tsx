import { useId } from 'react';
import { besideLimit, showUnit } from '#core/quantity/quantity';
import type { Margin, Verdict } from '#model/common';
import { useUnits } from '../app/context';
import { colourOf } from '../app/theme';

const [SUNK, INK] = [colourOf('sunk'), colourOf('ink')];

/**
 * What is used of a limit: a track with a tick at the limit and a fill for what is used, hatched past the tick. With
 * `atLeast` the figure must reach the tick, and what is lacking is hatched.
 */
export function MarginBar({
  margin,
  verdict,
  atLeast = false,
  label,
  width = '100%',
  show,
}: {
  margin: Margin;
  verdict: Verdict;
  atLeast?: boolean;
  label: string;
  width?: string;
  show?: (x: number) => string;
}) {
  const hatch = useId();
  const { used, limit, unit } = margin;
  const colour = verdict === 'holds' ? 'holds' : verdict === 'tight' ? 'tight' : verdict === 'fails' ? 'fails' : 'unknown';
  const units = useUnits();
  const whole = (x: number, digits = 3) => (show ? `${show(x)}${unit ? ` ${unit}` : ''}` : showUnit(x, unit ?? '', units, digits));
  const beside = (x: number, of: number) => whole(besideLimit(x, of), 4);
  // where both have the same unit it is said once
  const tailOf = (t: string) => t.replace(/^[-\d.,]+/, '');
  const bare = (t: string, other: string) => (tailOf(t) === tailOf(other) ? t.slice(0, t.length - tailOf(t).length) : t);
  const text =
    used === null
      ? `? of ${limit === null ? '?' : whole(limit)}`
      : limit === null
        ? whole(used)
        : atLeast
          ? `${beside(used, limit)}, ${whole(limit)} wanted`
          : `${bare(beside(used, limit), whole(limit))} of ${whole(limit)}`;
  const top = Math.max(used ?? 0, limit ?? 0, 1e-9) * 1.12;
  const [u, l] = [used === null ? 0 : (Math.max(0, used) / top) * 100, limit === null ? null : (Math.max(0, limit) / top) * 100];
  const plain = l === null ? u : Math.min(u, l);
  const over = l === null ? 0 : atLeast ? Math.max(0, l - u) : Math.max(0, u - l);
  const overFrom = atLeast ? u : (l ?? 0);
  return (
    <div className="margin-bar" style={{ width }} role="img" aria-label={`${label}: ${text}`}>
      <svg viewBox="0 0 100 14" preserveAspectRatio="none" width="100%" height="14" style={{ color: colourOf(colour) }}>
        <defs>
          <pattern id={hatch} width="1.6" height="14" patternUnits="userSpaceOnUse" patternTransform="skewX(-20)">
            <rect width="0.8" height="14" fill="currentColor" />
          </pattern>
        </defs>
        <rect x="0" y="3" width="100" height="8" fill={SUNK} />
        <rect x="0" y="3" width={plain} height="8" fill="currentColor" />
        {over > 0 && <rect x={overFrom} y="3" width={over} height="8" fill={`url(#${hatch})`} />}
        {l !== null && <path d={`M${l} 0V14`} stroke={INK} strokeWidth="2px" vectorEffect="non-scaling-stroke" />}
      </svg>
      <span>{text}</span>
    </div>
  );
}
