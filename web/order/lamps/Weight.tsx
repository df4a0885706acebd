import { chakra } from '@chakra-ui/react';
import { round } from '#core/sum';
import { sayInUnits, showQuantity } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { MarginBar } from '../../marks/MarginBar';
import { SumLines } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { ItemLine } from './ItemLine';

/** Kits' masses on the unit: its gross rating, its axles, and what it means for its class. */
export function Weight() {
  const { assessment } = useOrder();
  const { lamps: check } = assessment;
  const units = useUnits();
  const w = check.given.weight!;
  const mass = (kg: number) => showQuantity(kg, 'mass', units, 4);
  const items = check.packs.flatMap(({ pack, items: list }) =>
    list.filter((i) => i.verdict !== null && (i.rule?.kind === 'limit' || i.rule?.kind === 'weight')).map((i) => ({ pack, i })),
  );
  const verdict = w.leftKg === null ? 'unknown' : w.leftKg < 0 ? 'fails' : 'holds';
  return (
    <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr)" gap="24px">
      <div>
        <chakra.p fontSize="18px" fontWeight={700} display="flex" gap="10px" alignItems="center">
          <VerdictMark verdict={verdict} /> {sayInUnits(w.says, units)}.
        </chakra.p>
        <chakra.div mt="8px">
          <MarginBar
            margin={{ used: w.ladenKg, limit: check.unit.gvwrKg ?? null, unit: '' }}
            verdict={verdict}
            label="Laden mass of its gross rating"
            show={mass}
          />
        </chakra.div>
        <chakra.p mt="10px">The kits bring {mass(w.addedKg)}.</chakra.p>
        {w.rearAfter !== null && (
          <>
            <H3>Axles, empty</H3>
            <p>
              Rear {round(w.rearBefore! * 100)} % before, {round(w.rearAfter * 100)} % with the kits: {mass(w.emptyKg! * (1 - w.rearAfter))}{' '}
              in front, {mass(w.emptyKg! * w.rearAfter)} behind.
            </p>
            <chakra.div
              display="flex"
              height="18px"
              borderWidth="1px"
              borderColor="ink"
              mt="6px"
              role="img"
              aria-label={`Rear axle ${round(w.rearAfter * 100)} per cent`}
            >
              <chakra.div width={`${(1 - w.rearAfter) * 100}%`} bg="sunk" />
              <chakra.div width={`${w.rearAfter * 100}%`} bg="accent" />
            </chakra.div>
            <chakra.p fontSize="14px" color="quiet">
              Front left, rear right.
            </chakra.p>
          </>
        )}
        <H3>Class</H3>
        {!items.length && <p>No chosen pack sets a limit of mass, speed or length.</p>}
        {items.map(({ pack, i }) => (
          <ItemLine key={`${pack.id}/${i.id}`} item={i} pack={pack.name} />
        ))}
      </div>
      <div>
        <H3 mt={0}>The sum</H3>
        <SumLines lines={w.sum} />
      </div>
    </chakra.div>
  );
}
