import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import { stepFaces, type StudFace, type TemplateFace } from '#core/plan/step-faces';
import type { PlannedStep } from '#core/plan/planned';
import type { PlugTable, TerminalTable } from '#core/harness/terminals';
import { showUnit } from '#core/quantity/quantity';
import { awgName } from '#core/wire/resistance';
import { capital } from '#core/words';
import { useUnits } from '../../app/context';
import { TemplateMark } from '../../marks/TemplateMark';
import { wireFill, WireSwatch } from '../../marks/WireSwatch';
import { useOrder } from '../useOrder';

/** What the hand holds at a step, as it looks: plugs from the wire side, terminals with what goes where, studs, templates. */
export function StepFaces({ step }: { step: PlannedStep }) {
  const { assessment, order, sheets } = useOrder();
  const { wiring, ends } = assessment;
  const { plugs, tables, studs, templates } = useMemo(
    () => stepFaces(step, wiring, ends, order, sheets),
    [step, wiring, ends, order, sheets],
  );
  if (!plugs.length && !tables.length && !studs.length && !templates.length) return null;
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="16px 28px" mb="12px" role="group" aria-label="What it looks like">
      {plugs.map((p) => (
        <Plug key={p.id} plug={p} />
      ))}
      {studs.map((s) => (
        <Stud key={`${s.name}/${s.studMm}`} stud={s} />
      ))}
      {tables.map((t) => (
        <Terminals key={t.id} table={t} />
      ))}
      {templates.map((t) => (
        <Template key={t.sheet.device} face={t} />
      ))}
    </chakra.div>
  );
}

/** A stud from the side: the nut, what is put under it, and what it stands on. */
function Stud({ stud }: { stud: StudFace }) {
  const high = 42 + stud.rings.length * 16;
  return (
    <chakra.figure m={0} flex="1 1 380px" display="flex" gap="12px" alignItems="center">
      <chakra.svg width="96px" height={`${high}px`} viewBox={`14 0 96 ${high}`} aria-hidden flex="none" color="ink">
        <chakra.g stroke="currentColor" strokeWidth="1.6" fill="raised">
          <rect x="48" y="2" width="14" height={high - 10} />
          <path d="M34 7h42v14H34zM47 7v14M63 7v14" />
          <rect x="18" y={high - 10} width="74" height="8" />
        </chakra.g>
        {stud.rings.map((r, i) => (
          <g key={i} stroke="currentColor" strokeWidth="1.2">
            <rect x="32" y={26 + i * 16} width="46" height="8" rx="3" fill="#c9b37a" />
            <rect x="78" y={25 + i * 16} width="31" height="10" fill={wireFill(r.colour)} />
          </g>
        ))}
      </chakra.svg>
      <chakra.figcaption fontSize="16px" lineHeight="1.3">
        <b>{capital(stud.name)}</b>, M{stud.studMm}, {stud.wrench}
        {stud.rings.map((r, i) => (
          <chakra.span key={i} display="flex" gap="10px" alignItems="center">
            <WireSwatch colour={r.colour} /> {awgName(r.awg)} AWG, {r.end}
          </chakra.span>
        ))}
        {stud.rings.length > 1 && (
          <chakra.span display="block" fontSize="14px" color="quiet">
            The thickest lowest, flat side down
          </chakra.span>
        )}
      </chakra.figcaption>
    </chakra.figure>
  );
}

/** A template as it lies on the unit, seen from outside. */
function Template({ face: { sheet, names } }: { face: TemplateFace }) {
  const units = useUnits();
  const drilled = [...new Set(sheet.holes.map((h) => showUnit(h.mm, 'mm', units)))];
  return (
    <chakra.figure m={0} flex="0 1 300px" minW="220px">
      <chakra.figcaption fontSize="16px" mb="4px">
        <b>{names.join(', ')}</b>
        {sheet.mirrored ? ', mirrored' : ''}
      </chakra.figcaption>
      <TemplateMark sheet={sheet} height="190px" text={1.8} />
      <chakra.p fontSize="14px" color="quiet" mt="2px">
        Seen from outside, figures in millimetres.{sheet.cut ? ' Trace the solid line, cut inside it on the red dashes.' : ''}
        {drilled.length ? ` Drill ${drilled.join(', ')}.` : ''}
      </chakra.p>
    </chakra.figure>
  );
}

const CELL = 74;

/** A plug from the side that wires enter, cavity by cavity. */
function Plug({ plug }: { plug: PlugTable }) {
  return (
    <chakra.figure m={0}>
      <chakra.figcaption fontSize="16px" mb="4px">
        <b>{plug.name}</b>, {plug.plug}, wire side
      </chakra.figcaption>
      <chakra.div display="inline-flex" borderWidth="2px" borderColor="ink" borderRadius="8px" overflow="hidden" bg="raised">
        {plug.wireSide.map((c, i) => (
          <chakra.div
            key={c.pin}
            width={`${CELL}px`}
            minHeight="84px"
            p="6px"
            textAlign="center"
            borderLeftWidth={i ? '1px' : 0}
            borderColor="rule"
            display="grid"
            gap="3px"
            justifyItems="center"
            alignContent="start"
          >
            <chakra.span fontFamily="mono" fontWeight={700} fontSize="18px">
              {c.pin}
            </chakra.span>
            {c.colour && <WireSwatch colour={c.colour} width={28} />}
            <chakra.span fontSize="14px" lineHeight="1.15">
              {c.use}
            </chakra.span>
          </chakra.div>
        ))}
      </chakra.div>
    </chakra.figure>
  );
}

function Terminals({ table }: { table: TerminalTable }) {
  return (
    <chakra.figure m={0} flex="1 1 320px" minW={0}>
      <chakra.figcaption fontSize="16px" mb="4px">
        <b>{table.name}</b>
      </chakra.figcaption>
      <chakra.ul listStyleType="none" p={0} m={0} fontSize="16px">
        {table.rows.map((r) => (
          <chakra.li
            key={r.terminal}
            display="grid"
            gridTemplateColumns="92px 92px minmax(0, 1fr)"
            gap="10px"
            alignItems="center"
            py="3px"
            borderTopWidth="1px"
            borderColor="rule"
          >
            <chakra.span fontWeight={700} lineHeight="1.15">
              {r.terminal}
            </chakra.span>
            {r.wires[0] ? <WireSwatch colour={r.wires[0].colour} /> : <chakra.span color="quiet">nothing</chakra.span>}
            <span>{r.wires.map((w) => w.goes).join('; ')}</span>
          </chakra.li>
        ))}
      </chakra.ul>
    </chakra.figure>
  );
}
