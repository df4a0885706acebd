import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { howWell } from '#core/system/well';
import { worst } from '#core/verdict';
import { queries } from '../app/api';
import { Act } from '../app/ui';
import { MarginBar } from '../marks/MarginBar';
import { VerdictMark } from '../marks/VerdictMark';

/** How the shop’s machines do, in words, what needs a hand first. */
export function System() {
  const asked = useQuery(queries.system);
  if (asked.isPending) return <chakra.p color="quiet">Asking …</chakra.p>;
  if (asked.isError)
    return (
      <>
        <chakra.p mb="12px">It cannot be asked just now: {asked.error.message}</chakra.p>
        <Act onClick={() => void asked.refetch()}>Ask again</Act>
      </>
    );
  const lines = howWell(asked.data, new Date(asked.dataUpdatedAt));
  const open = lines.filter((l) => l.verdict !== 'holds').length;
  const node = asked.data.database.node;
  return (
    <>
      <chakra.div
        display="flex"
        alignItems="center"
        gap="14px"
        bg="raised"
        borderWidth="1px"
        borderColor="rule"
        borderRadius="kadro"
        p="14px 18px"
        mb="14px"
      >
        <VerdictMark verdict={worst(lines.map((l) => l.verdict))} size={34} />
        <chakra.p fontSize="20px" fontWeight={600}>
          {open ? `${open === 1 ? 'One thing wants' : `${open} things want`} a look; the rest is well.` : 'All is well.'}
        </chakra.p>
      </chakra.div>
      <chakra.ul listStyleType="none">
        {lines.map((l) => (
          <chakra.li
            key={l.what}
            data-well={l.what}
            display="grid"
            gridTemplateColumns="34px 120px minmax(0, 1fr) 200px"
            gap="16px"
            py="12px"
            borderBottomWidth="1px"
            borderColor="rule"
            alignItems="start"
          >
            <VerdictMark verdict={l.verdict} size={26} />
            <chakra.b>{l.what}</chakra.b>
            <div>
              <p>{l.says}</p>
              {l.todo && <chakra.p fontWeight={600}>{l.todo}</chakra.p>}
            </div>
            {l.margin && <MarginBar margin={l.margin} verdict={l.verdict} label={l.what} />}
          </chakra.li>
        ))}
      </chakra.ul>
      <chakra.p color="quiet" fontSize="14px" mt="14px">
        Version {asked.data.server.version}, running since {format(new Date(asked.data.server.since), 'd MMM yyyy HH:mm')}
        {node && `, asking ${node}`}. The same in figures, for a program that watches: /api/metrics.
      </chakra.p>
    </>
  );
}
