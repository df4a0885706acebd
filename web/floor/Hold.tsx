import { useDraggable } from '@dnd-kit/core';
import type { CSSProperties } from 'react';
import type { ListedOrder } from '#core/order/summary';
import type { WeekPromise } from '#core/shop/week';
import type { UnitModel } from '#model/unit-model';
import { colourOf, fontOf, radiusOf } from '../app/theme';
import { Silhouette } from '../drawing/UnitDrawing';
import { VerdictMark } from '../marks/VerdictMark';

/** A share of the width as CSS has it. */
export const pct = (x: number) => `${(100 * x).toFixed(3)}%`;

/** What a unit is called in little room: its number and the last words of its name. */
export const shortName = (o: ListedOrder) => o.summary.unitName.split(' ').slice(1).join(' ') || o.summary.unitName;

// without a style sheet each, as the picture that they stand in
const BOX: CSSProperties = {
  position: 'absolute',
  top: 4,
  bottom: 4,
  display: 'flex',
  flexDirection: 'column',
  justifyContent: 'center',
  textAlign: 'left',
  lineHeight: 1.25,
  borderRadius: radiusOf('kadro'),
  overflow: 'hidden',
};
const HELD: CSSProperties = { zIndex: 3, opacity: 0.85 };
const TOP: CSSProperties = { display: 'flex', gap: 6, alignItems: 'center', minWidth: 0 };
const CUT: CSSProperties = { whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis' };
const WHO: CSSProperties = { color: colourOf('quiet'), fontSize: '0.9em', maxWidth: '100%' };

/** A unit in its bay for a while: touched, it tells more; dragged to another bay, it stands there. */
export function Hold({
  o,
  p,
  says,
  who,
  model,
  from,
  to,
  on,
  onPick,
  movable,
  large,
  low,
}: {
  o: ListedOrder;
  p: WeekPromise;
  says: string;
  who: string;
  model?: UnitModel;
  from: number;
  to: number;
  on: boolean;
  /** left out: it is only looked at */
  onPick?: () => void;
  movable: boolean;
  large: boolean;
  /** there is room for one line only */
  low: boolean;
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: o.id, disabled: !movable });
  const wide = to - from;
  const roomy = wide > (large ? 0.14 : 0.09);
  const short = wide > (large ? 0.06 : 0.05) ? (large ? shortName(o) : String(o.number)) : '';
  const drawn = wide > (large ? 0.3 : 0.23) && !low && model !== undefined;
  const As = onPick ? 'button' : 'div';
  const edge = `${on ? 2 : 1}px solid ${colourOf(on ? 'accent' : 'ink')}`;
  return (
    <As
      ref={setNodeRef}
      {...listeners}
      {...(onPick ? { type: 'button' as const, onClick: onPick, 'aria-pressed': on } : { role: 'img', 'aria-label': says })}
      // what is written is its name; this is told besides, and is the name where nothing has room
      title={`${says}, ${o.summary.owner}`}
      data-says={says}
      style={{
        ...BOX,
        left: `calc(${pct(from)} + 1px)`,
        width: `calc(${pct(to - from)} - 2px)`,
        padding: roomy ? '0 6px' : '0 2px',
        background: colourOf(on ? 'accentWash' : 'raised'),
        // side by side: what is set of all of them at a time would take the left one away when a unit is touched
        borderTop: edge,
        borderRight: edge,
        borderBottom: edge,
        borderLeft: roomy ? edge : `5px solid ${colourOf(p.verdict)}`,
        cursor: movable ? 'grab' : onPick ? 'pointer' : 'default',
        ...(transform && { transform: `translate3d(${transform.x}px, ${transform.y}px, 0)` }),
        ...(isDragging && HELD),
      }}
    >
      <span style={TOP}>
        {roomy && <VerdictMark verdict={p.verdict} size={large ? 26 : 18} />}
        {roomy ? (
          <b style={{ ...CUT, flex: '1', minWidth: 0 }}>{shortName(o)}</b>
        ) : (
          // what is too short for its number is told when it is touched
          short && (
            <b
              style={
                large
                  ? { fontSize: low ? 14 : wide > 0.1 ? 18 : 15, lineHeight: low ? 1.1 : 1.15 }
                  : { fontFamily: fontOf('mono'), fontSize: 12, lineHeight: 1.15, letterSpacing: '-0.04em' }
              }
            >
              {short}
            </b>
          )
        )}
        {drawn && <Silhouette model={model} width={large ? 96 : 64} height={large ? 40 : 30} />}
      </span>
      {roomy && !low && <span style={{ ...CUT, ...WHO, marginTop: drawn ? -8 : 0 }}>{who}</span>}
    </As>
  );
}
