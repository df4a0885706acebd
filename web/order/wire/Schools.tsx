import { chakra } from '@chakra-ui/react';
import { comparePlug, compareSchools, SCHOOL_WORD } from '#core/circuit/schools';
import type { PlannedCircuit } from '#core/wiring/planned';
import { figure } from '#core/quantity/quantity';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';
import { Table } from '../../sheets/Table';

const work = (minutes: number, parts: readonly string[]) => `${minutes} min; ${parts.join(', ') || 'nothing more'}`;

function Way({ name, chosen, says }: { name: string; chosen: boolean; says: string }) {
  return (
    <span>
      <chakra.span fontWeight={chosen ? 700 : 400}>
        {name}
        {chosen && ' ← as planned'}
      </chakra.span>
      <chakra.span display="block" color="quiet" fontSize="13px">
        {says}
      </chakra.span>
    </span>
  );
}

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
      <Table
        heads={['Way', 'Parked', 'Room left', 'Work']}
        rows={[
          ...compareSchools(c, assessment.wiring).map((r) => [
            <chakra.span key="way" display="flex" gap="8px" alignItems="flex-start">
              <VerdictMark
                verdict={r.possible ? (r.school === 'plug' && c.circuit.switching === 'keyed' ? 'tight' : 'holds') : 'fails'}
                size={18}
              />
              <Way
                name={SCHOOL_WORD[r.school]}
                chosen={r.chosen}
                says={r.point ? `${r.point.name}${r.possible ? '' : `: ${r.reason}`}` : r.reason}
              />
            </chakra.span>,
            r.point ? `${figure(r.parkedMa, 2)} mA` : '–',
            !r.point ? '–' : r.freeA === null ? 'own fuse' : `${figure(Math.max(0, r.freeA), 3)} A`,
            r.point ? `${work(r.minutes, r.parts)}${r.ownA > 0 ? `; coil ${figure(r.ownA * 1000, 2)} mA` : ''}` : '–',
          ]),
          ...(plug ?? []).map((p) => [<Way key="way" name={p.way} chosen={p.chosen} says={p.says} />, '–', '–', work(p.minutes, p.parts)]),
        ]}
      />
      <chakra.p color="quiet" fontSize="13px" mt="2px">
        Minutes and parts: common practice, no source.
      </chakra.p>
    </>
  );
}
