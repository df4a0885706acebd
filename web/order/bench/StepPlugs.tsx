import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import { stepPlugs } from '#core/plan/step-plugs';
import type { PlannedStep } from '#core/plan/planned';
import type { PlugTable, TerminalTable } from '#core/harness/terminals';
import { WireSwatch } from '../../marks/WireSwatch';
import { useOrder } from '../useOrder';

/** Plug faces as the hand holds them, and terminals with what goes where, at a wiring step. */
export function StepPlugs({ step }: { step: PlannedStep }) {
  const { assessment } = useOrder();
  const { plugs, tables } = useMemo(() => stepPlugs(step, assessment.wiring), [step, assessment.wiring]);
  if (!plugs.length && !tables.length) return null;
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="16px 28px" mb="12px" role="group" aria-label="Plugs and terminals">
      {plugs.map((p) => (
        <Plug key={p.id} plug={p} />
      ))}
      {tables.map((t) => (
        <Terminals key={t.id} table={t} />
      ))}
    </chakra.div>
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
