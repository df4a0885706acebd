import { chakra } from '@chakra-ui/react';
import { Check, Undo2 } from 'lucide-react';
import type { By, Remedy, RemedySearch } from '#core/energy/remedies';
import { figure } from '#core/quantity/quantity';
import { changeKey } from '#model/power-change';
import { Act } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { clock } from './strip';

const BY: [By, string][] = [
  ['money', 'money'],
  ['minutes', 'minutes of work'],
  ['watts', 'watts given up'],
];

/** What a remedy costs, in the order of what a shop asks. */
function Cost({ r }: { r: Remedy }) {
  const { settings } = useOrder();
  return (
    <chakra.span fontFamily="mono" whiteSpace="nowrap">
      {r.money ? `${r.money} ${settings.currency}` : 'free'} · {clock(r.minutes)}
      {r.watts >= 1 ? ` · ${Math.round(r.watts)} W less` : ''}
    </chakra.span>
  );
}

export function useTake(): (r: Remedy) => Promise<void> {
  const { record, ask } = useOrder();
  return async (r) => {
    // a kit's sheet is the server's to look up
    for (const c of r.commands) if (!(c.type === 'kit.added' ? await ask(c) : record(c))) return;
  };
}

/** The cheapest remedy in one line, with its button. */
export function BestRemedy({ search, onAll }: { search: RemedySearch | null; onAll: () => void }) {
  const take = useTake();
  if (!search)
    return (
      <chakra.p color="quiet" mb="10px" minH="40px">
        Looking for what would make it hold …
      </chakra.p>
    );
  const best = search.found[0];
  return (
    <chakra.div display="flex" flexWrap="wrap" alignItems="center" gap="8px 12px" mb="10px" minH="40px">
      {best ? (
        <>
          <VerdictMark verdict={best.after.verdict} size={22} />
          <chakra.span flex="1 1 260px" minW={0}>
            <b>Make it {best.after.verdict === 'holds' ? 'hold' : 'tight'}:</b> {best.title}. <Cost r={best} />
          </chakra.span>
          <Act look="main" onClick={() => void take(best)}>
            Agree
          </Act>
          {search.found.length > 1 && <Act onClick={onAll}>{search.found.length - 1} more</Act>}
        </>
      ) : (
        <chakra.span color="quiet">
          No change that Kadro knows makes it hold: {search.tried} were tried. Fit less, or use it less.
        </chakra.span>
      )}
    </chakra.div>
  );
}

const volts = (x: number | null) => (x === null ? '–' : `${x.toFixed(1)} V`);

/** How an order stands before or after a remedy. */
function Figures({ x }: { x: Remedy['after'] }) {
  return (
    <chakra.p fontSize="15px" fontVariantNumeric="tabular-nums">
      {x.idleA !== null && `${x.idleA < 0 ? '−' : ''}${figure(Math.abs(x.idleA), 2)} A at idle · `}
      lowest {Math.round(x.leastSoc * 100)} % · {x.startV !== null && `start ${volts(x.startV)} · `}
      {x.says}
    </chakra.p>
  );
}

/** What was agreed, and all that would help, cheapest first, each with the order before and after. */
export function Remedies({ search, by, onBy, holds }: { search: RemedySearch | null; by: By; onBy: (by: By) => void; holds: boolean }) {
  const { order, record } = useOrder();
  const take = useTake();
  const open = order.status === 'open';
  return (
    <>
      {order.changes.length > 0 && (
        <>
          <H3 style={{ marginTop: 0 }}>Agreed</H3>
          <chakra.ul listStyleType="none">
            {order.changes.map((c) => (
              <chakra.li
                key={changeKey(c.change)}
                display="flex"
                alignItems="center"
                gap="10px"
                py="4px"
                borderTopWidth="1px"
                borderColor="rule"
              >
                <Check size={18} aria-hidden />
                <chakra.span flex="1">
                  {c.label} <chakra.span color="quiet">by {c.by}</chakra.span>
                </chakra.span>
                {open && (
                  <Act look="quiet" onClick={() => record({ type: 'power.restored', key: changeKey(c.change), label: c.label })}>
                    <Undo2 size={16} aria-hidden /> Undo
                  </Act>
                )}
              </chakra.li>
            ))}
          </chakra.ul>
        </>
      )}
      {holds ? (
        <chakra.p mt="12px">It holds as it stands.</chakra.p>
      ) : (
        <>
          <chakra.div display="flex" flexWrap="wrap" alignItems="center" gap="8px" mt="12px" mb="8px" role="group" aria-label="Cheapest in">
            <chakra.span color="quiet">Cheapest in</chakra.span>
            {BY.map(([k, word]) => (
              <Act key={k} on={by === k} aria-pressed={by === k} minHeight="36px" onClick={() => onBy(k)}>
                {word}
              </Act>
            ))}
            {search && (
              <chakra.span color="quiet" fontSize="14px" ml="auto">
                {search.tried} changes and combinations computed{search.complete ? '' : ', not all there are'}
              </chakra.span>
            )}
          </chakra.div>
          {!search && <chakra.p color="quiet">Looking …</chakra.p>}
          {search && !search.found.length && (
            <p>
              No single change and no two or three together make it better than it is. Fit less, use it less, or ask the maker for a
              stronger source.
            </p>
          )}
          {search && (
            <chakra.div display="flex" gap="12px" py="8px" borderTopWidth="1px" borderColor="rule">
              <VerdictMark verdict={search.before.verdict} size={24} />
              <div>
                <chakra.h4 fontSize="16px" fontWeight={700}>
                  As it stands
                </chakra.h4>
                <Figures x={search.before} />
              </div>
            </chakra.div>
          )}
          {search?.found.map((r) => (
            <chakra.article key={r.id} borderTopWidth="1px" borderColor="rule" py="10px">
              <chakra.div display="flex" gap="12px" alignItems="flex-start">
                <VerdictMark verdict={r.after.verdict} size={24} />
                <chakra.div flex="1" minW={0}>
                  <chakra.h4 fontSize="16px" fontWeight={700}>
                    {r.title}
                  </chakra.h4>
                  <chakra.p fontSize="15px">
                    <Cost r={r} />
                  </chakra.p>
                  <Figures x={r.after} />
                </chakra.div>
                {open && (
                  <Act look="main" onClick={() => void take(r)} aria-label={`Agree: ${r.title}`}>
                    Agree
                  </Act>
                )}
              </chakra.div>
            </chakra.article>
          ))}
          <chakra.p mt="14px" color="quiet" fontSize="14px">
            Prices are the shop’s settings and the sheets’ own; minutes where no sheet gives them are common practice, no source.
          </chakra.p>
        </>
      )}
    </>
  );
}
