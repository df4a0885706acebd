import { useUnits } from '../../app/context';
import { chakra } from '@chakra-ui/react';
import { showUnit, type UnitSystem } from '#core/quantity/quantity';
import { useRef, useState } from 'react';
import type { DayResult } from '#core/energy/day';
import type { OwnerDay, Phase } from '#model/day';
import { clock, stripOf, withPhase } from './strip';

/** What a phase is, in a word or two for its block. */
export function phaseKind(p: Phase, idleRpm: number | null, units: UnitSystem): string {
  if (p.wall) return 'charging';
  if (p.driveKm > 0) return showUnit(p.driveKm, 'km', units, 3);
  if (p.rpm > 0) return idleRpm !== null && p.rpm <= idleRpm * 1.05 ? 'idle' : `${p.rpm} rpm`;
  return p.key === 'on' ? (idleRpm === null ? 'key on' : 'engine off') : 'key off';
}

/** The owner's day as a strip of phases: touch one to open it, drag an edge to make it longer or shorter. */
export function DayStrip({
  day,
  result,
  idleRpm,
  picked,
  onPick,
  onChange,
}: {
  day: OwnerDay;
  result: DayResult;
  idleRpm: number | null;
  picked: number | null;
  onPick: (i: number) => void;
  onChange: ((day: OwnerDay) => void) | null;
}) {
  const units = useUnits();

  const at = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ i: number; from: number; minutes: number } | null>(null);
  const shown = drag ? withPhase(day, drag.i, { minutes: drag.minutes }) : day;
  const strip = stripOf(shown.phases);
  const whole = stripOf(day.phases);
  const shareOf = (px: number) => px / at.current!.clientWidth;
  const finish = () => {
    if (drag && onChange && drag.minutes !== day.phases[drag.i]!.minutes) onChange(withPhase(day, drag.i, { minutes: drag.minutes }));
    setDrag(null);
  };
  return (
    <chakra.div ref={at} display="flex" pl="44px" pr="44px" role="group" aria-label={`Phases of ${day.name}`}>
      <chakra.div display="flex" flex="1" minW={0} position="relative" height="72px">
        {shown.phases.map((p, i) => {
          const phase = result.phases[i];
          const bad = result.starts.some((s) => s.phase === i && !s.ok) || (phase && phase.leastVolts < 1);
          const off = p.rpm === 0 && !p.wall && p.driveKm === 0;
          return (
            <chakra.div key={p.id} position="relative" flex="none" minW={0} style={{ width: `${strip.widths[i]! * 100}%` }}>
              <chakra.button
                type="button"
                aria-pressed={picked === i}
                title={`${p.name}: ${clock(p.minutes)}, ${phaseKind(p, idleRpm, units)}, ${showUnit(p.tempC, '°C', units)}${p.dark ? ', dark' : ''}`}
                onClick={() => onPick(i)}
                display="block"
                width="100%"
                height="100%"
                px="4px"
                textAlign="left"
                overflow="hidden"
                borderWidth="1px"
                borderRightWidth={i === shown.phases.length - 1 ? '1px' : 0}
                borderColor={picked === i ? 'accent' : 'rule'}
                borderTopWidth="5px"
                borderTopColor={bad ? 'fails' : picked === i ? 'accent' : p.dark ? 'ink' : 'rule'}
                bg={picked === i ? 'accentWash' : off ? 'sunk' : 'raised'}
                fontSize="13px"
                lineHeight="1.2"
                cursor="pointer"
              >
                {/* a short phase has its name over two lines before anything of it is cut */}
                <chakra.span lineClamp={2} overflowWrap="anywhere" fontWeight={600}>
                  {p.name}
                </chakra.span>
                <chakra.span display="block" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" color="quiet">
                  {clock(p.minutes)}
                </chakra.span>
                <chakra.span display="block" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" color="quiet">
                  {phaseKind(p, idleRpm, units)}
                </chakra.span>
              </chakra.button>
              {onChange && (
                <chakra.div
                  role="slider"
                  tabIndex={0}
                  aria-label={`Length of ${p.name}`}
                  aria-valuenow={p.minutes}
                  aria-valuemin={1}
                  aria-valuemax={90 * 1440}
                  aria-valuetext={clock(p.minutes)}
                  position="absolute"
                  right="-7px"
                  top={0}
                  bottom={0}
                  width="14px"
                  zIndex={1}
                  cursor="ew-resize"
                  touchAction="none"
                  _hover={{ bg: 'accent', opacity: 0.35 }}
                  onPointerDown={(e) => {
                    e.currentTarget.setPointerCapture(e.pointerId);
                    setDrag({ i, from: e.clientX, minutes: p.minutes });
                  }}
                  onPointerMove={(e) => {
                    if (drag?.i === i) setDrag({ ...drag, minutes: whole.dragged(i, shareOf(e.clientX - drag.from)) });
                  }}
                  onPointerUp={finish}
                  onPointerCancel={() => setDrag(null)}
                  onKeyDown={(e) => {
                    const by = { ArrowRight: 5, ArrowUp: 5, ArrowLeft: -5, ArrowDown: -5, PageUp: 60, PageDown: -60 }[e.key];
                    if (!by) return;
                    e.preventDefault();
                    onChange(withPhase(day, i, { minutes: Math.max(1, p.minutes + by) }));
                  }}
                />
              )}
            </chakra.div>
          );
        })}
        {drag && (
          <chakra.div
            position="absolute"
            top="-26px"
            px="6px"
            bg="ink"
            color="paper"
            borderRadius="kadro"
            fontSize="14px"
            style={{ left: `${(strip.lefts[drag.i]! + strip.widths[drag.i]!) * 100}%`, transform: 'translateX(-50%)' }}
          >
            {clock(drag.minutes)}
          </chakra.div>
        )}
      </chakra.div>
    </chakra.div>
  );
}
