import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import { boxScheme, type Pin, type SchemeBlock } from '#core/sheets/box-scheme';
import type { BoxPart } from '#core/sheets/edit-kit';
import { showQuantity } from '#core/quantity/quantity';
import type { Kit } from '#model/kit';
import { useUnits } from '../../app/context';
import { wireFill } from '../../marks/WireSwatch';

/** A wire’s end that is in hand, to be joined to what is touched next. */
export type Held = NonNullable<Pin['wire']>;

const samePart = (a: BoxPart, b: BoxPart | null): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A box as it is joined: touch a wire’s end, then where it goes; touch a block to have it in hand. */
export function BoxDrawing({
  kit,
  picked,
  held,
  onPick,
  onHold,
  onJoin,
}: {
  kit: Kit;
  picked: BoxPart | null;
  held: Held | null;
  onPick: (p: BoxPart) => void;
  onHold: (h: Held | null) => void;
  onJoin: (target: string) => void;
}) {
  const units = useUnits();
  const scheme = useMemo(() => boxScheme(kit), [kit]);
  const touch = (pin: Pin, block: SchemeBlock) => {
    if (pin.wire) onHold(held && JSON.stringify(held) === JSON.stringify(pin.wire) ? null : pin.wire);
    else if (held && pin.target) onJoin(pin.target);
    else onPick(block.part);
  };
  return (
    <svg
      viewBox={`-6 -6 ${scheme.width + 12} ${scheme.height + 12}`}
      width="100%"
      style={{ display: 'block' }}
      data-scheme
      aria-label="The box as it is joined"
      role="group"
    >
      {scheme.links.map((l) => {
        const [[x1, y1], [x2, y2]] = [l.from, l.to];
        // between two devices it bows out to the left, clear of them
        const mid = x1 === x2 ? x1 - 46 : (x1 + x2) / 2;
        const d = `M${x1} ${y1}C${mid} ${y1} ${mid} ${y2} ${x2} ${y2}`;
        return (
          <g key={l.key}>
            {l.colour && <chakra.path d={d} fill="none" stroke="ink" strokeWidth="4.4" opacity={0.55} />}
            <chakra.path
              d={d}
              fill="none"
              stroke={l.colour ? wireFill(l.colour) : 'quiet'}
              strokeWidth={l.kind === 'leg' ? 6 : 3}
              strokeDasharray={l.kind === 'lead' ? '9 5' : undefined}
              opacity={l.kind === 'leg' ? 0.35 : 1}
            />
          </g>
        );
      })}
      {scheme.blocks.map((b) => {
        const on = samePart(b.part, picked);
        return (
          <chakra.g key={b.key} color={on ? 'accent' : 'ink'}>
            <chakra.g
              role="button"
              tabIndex={0}
              aria-label={b.title ? undefined : 'where its wires part'}
              data-block={b.key}
              cursor="pointer"
              onClick={() => onPick(b.part)}
              onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onPick(b.part))}
            >
              <chakra.rect
                x={b.x}
                y={b.y}
                width={b.w}
                height={b.h}
                rx={4}
                fill={on ? 'accentWash' : 'raised'}
                stroke="currentColor"
                strokeWidth={on ? 2 : 1}
              />
              <text x={b.x + 7} y={b.y + 17} fontSize={14} fontWeight={600} fill="currentColor">
                {b.w < 40 ? '' : short(b.title, b.w)}
                <title>{b.title}</title>
              </text>
            </chakra.g>
            {b.pins.map((p) => {
              const isHeld = !!p.wire && !!held && JSON.stringify(p.wire) === JSON.stringify(held);
              const inward = p.x > b.x;
              return (
                <g key={`${p.label} ${p.y}`}>
                  {p.label && (
                    <text
                      x={inward ? p.x - 14 : p.x + 14}
                      y={p.y + 4}
                      fontSize={13}
                      textAnchor={inward ? 'end' : 'start'}
                      fill="currentColor"
                      opacity={0.85}
                    >
                      {short(p.label, b.w - 8)}
                    </text>
                  )}
                  <chakra.circle
                    cx={p.x}
                    cy={p.y}
                    r={isHeld ? 9 : 6}
                    fill={isHeld ? 'accent' : 'paper'}
                    stroke="currentColor"
                    strokeWidth={2}
                    role="button"
                    tabIndex={0}
                    cursor="pointer"
                    aria-label={p.wire ? `wire ${p.label} at ${b.title}` : `${b.title}${p.label ? `, ${p.label}` : ''}`}
                    aria-pressed={p.wire ? isHeld : undefined}
                    data-pin={p.wire ? `${p.wire.end} ${p.wire.wire}` : p.target}
                    onClick={() => touch(p, b)}
                    onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), touch(p, b))}
                  />
                </g>
              );
            })}
          </chakra.g>
        );
      })}
      {/* lengths stand on their legs, above all else */}
      {scheme.lengths.map(({ key, lengthMm, label }) => (
        <chakra.text
          key={key}
          x={label.x}
          y={label.y}
          fontSize={12}
          textAnchor={label.anchor}
          fill="currentColor"
          stroke="paper"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {showQuantity(lengthMm, 'smallLength', units, 3)}
        </chakra.text>
      ))}
    </svg>
  );
}
/** About so wide is a letter of these sizes. */
const LETTER = 7.4;
/** As much of a name as a block has room for; the whole is told by its title. */
const short = (s: string, width: number): string => {
  const room = Math.floor((width - 12) / LETTER);
  return s.length > room ? `${s.slice(0, room - 1)}…` : s;
};
