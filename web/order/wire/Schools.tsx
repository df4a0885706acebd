import { chakra } from '@chakra-ui/react';
import { comparePlug, compareSchools, SCHOOL_WORD } from '#core/circuit/schools';
import type { PlannedCircuit } from '#core/circuit/wiring';
import { figure } from '#core/quantity/quantity';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';
import { Cell, Head, Table } from './Table';

/** The ways installers argue about, side by side: what each takes parked, uses up, and asks for. */
export function Schools({ c }: { c: PlannedCircuit }) {
  const { assessment } = useOrder();
  if (!c.candidates.length) return null;
  const plug = comparePlug(c);
  return (
    <>
      <chakra.h3 fontSize="16px" mt="14px" mb="4px">
        Ways to feed it
      </chakra.h3>
      <Table>
        <thead>
          <tr>
            <Head>Way</Head>
            <Head>Parked</Head>
            <Head>Room left</Head>
            <Head>Work</Head>
          </tr>
        </thead>
        <tbody>
          {compareSchools(c, assessment.wiring).map((r) => (
            <tr key={r.school}>
              <Cell>
                <chakra.span display="flex" gap="8px" alignItems="flex-start">
                  <VerdictMark
                    verdict={r.possible ? (r.school === 'plug' && c.circuit.switching === 'keyed' ? 'tight' : 'holds') : 'fails'}
                    size={18}
                  />
                  <span>
                    <chakra.span fontWeight={r.chosen ? 700 : 400}>
                      {SCHOOL_WORD[r.school]}
                      {r.chosen && ' ← as planned'}
                    </chakra.span>
                    <chakra.span display="block" color="quiet" fontSize="13px">
                      {r.point ? `${r.point.name}${r.possible ? '' : `: ${r.reason}`}` : r.reason}
                    </chakra.span>
                  </span>
                </chakra.span>
              </Cell>
              <Cell mono>{r.point ? `${figure(r.parkedMa, 2)} mA` : '–'}</Cell>
              <Cell mono>{!r.point ? '–' : r.freeA === null ? 'own fuse' : `${figure(Math.max(0, r.freeA), 3)} A`}</Cell>
              <Cell>
                {r.point ? `${r.minutes} min; ${r.parts.join(', ') || 'nothing more'}` : '–'}
                {r.ownA > 0 && r.point && `; coil ${figure(r.ownA * 1000, 2)} mA`}
              </Cell>
            </tr>
          ))}
          {plug?.map((p) => (
            <tr key={p.way}>
              <Cell>
                <chakra.span fontWeight={p.chosen ? 700 : 400}>
                  {p.way}
                  {p.chosen && ' ← as planned'}
                </chakra.span>
                <chakra.span display="block" color="quiet" fontSize="13px">
                  {p.says}
                </chakra.span>
              </Cell>
              <Cell>–</Cell>
              <Cell>–</Cell>
              <Cell>
                {p.minutes} min; {p.parts.join(', ') || 'nothing more'}
              </Cell>
            </tr>
          ))}
        </tbody>
      </Table>
      <chakra.p color="quiet" fontSize="13px" mt="2px">
        Minutes and parts: common practice, no source.
      </chakra.p>
    </>
  );
}
