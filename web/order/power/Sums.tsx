import { chakra } from '@chakra-ui/react';
import { Sheet } from '../../app/ui';
import { MarginBar } from '../../marks/MarginBar';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';

/** Each question with its margin and its arithmetic: the rule of thumb beside the simulated days. */
export function Sums() {
  const { assessment, settings } = useOrder();
  const { power } = assessment;
  return (
    <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(300px, 1fr))" gap="12px">
      {power.days.map((d) => (
        <Sheet key={d.day.id}>
          <chakra.div display="flex" justifyContent="space-between" alignItems="center" mb="6px">
            <chakra.h3 fontSize="16px">Simulated: {d.day.name}</chakra.h3>
            <VerdictMark verdict={d.verdict} word />
          </chakra.div>
          <MarginBar
            margin={{
              used: Math.min(...d.leastSoc) * 100,
              limit: (power.system.starter ? settings.reserveSoc : settings.packReserveSoc) * 100,
              unit: '%',
            }}
            verdict={d.verdict}
            atLeast
            label={`Lowest charge on ${d.day.name}`}
          />
          <chakra.p mt="4px">{d.says}</chakra.p>
          <Sum lines={d.sum} />
        </Sheet>
      ))}
      {power.checks.map((c) => (
        <Sheet key={c.id}>
          <chakra.div display="flex" justifyContent="space-between" alignItems="center" mb="6px">
            <chakra.h3 fontSize="16px">{c.title}</chakra.h3>
            <VerdictMark verdict={c.verdict} word />
          </chakra.div>
          <MarginBar margin={c.margin} verdict={c.verdict} atLeast={c.atLeast} label={c.title} />
          <chakra.p mt="4px">{c.says}</chakra.p>
          <Sum lines={c.sum} />
        </Sheet>
      ))}
    </chakra.div>
  );
}
