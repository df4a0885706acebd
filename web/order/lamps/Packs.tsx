import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Act } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { tally } from '#core/lighting/check';
import { useOrder } from '../useOrder';
import { Answered } from './Answered';
import { useEveryPack } from './useLampWork';

/** Which rule packs count for this order: proposed by the unit and its use, or chosen by hand. */
export function Packs() {
  const { order, assessment, sheets, record } = useOrder();
  const { lamps: check, wiring } = assessment;
  const open = order.status === 'open';
  const every = useEveryPack(check, wiring.harness, sheets.model);
  const fits = check.proposals.filter((p) => p.pack.kinds.includes(check.unit.kind));
  const chosen = fits.filter((p) => p.chosen).map((p) => p.pack);
  const choose = (ids: string[] | null) =>
    record({
      type: 'packs.chosen',
      packs: ids,
      label:
        ids === null
          ? 'as proposed'
          : ids.length
            ? ids
                .map((id) => check.proposals.find((p) => p.pack.id === id)?.pack.name ?? id)
                .join(', ')
                .slice(0, 200)
            : 'none',
    });
  return (
    <>
      <chakra.p mb="8px">
        {order.packs
          ? 'Chosen by hand for this order.'
          : 'Proposed from the unit’s kind, length, speed, weight and what the owner wants of it.'}{' '}
        {open && order.packs && (
          <Act look="quiet" minHeight="36px" onClick={() => choose(null)}>
            Back to what Kadro proposes
          </Act>
        )}
      </chakra.p>
      <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
        {fits.map((p) => {
          const items = every?.find((x) => x.pack.id === p.pack.id);
          const t = items ? tally([items]) : null;
          return (
            <chakra.li
              key={p.pack.id}
              display="grid"
              gridTemplateColumns="30px minmax(0, 1fr) 130px 130px"
              gap="12px"
              py="9px"
              borderBottomWidth="1px"
              borderColor="rule"
              alignItems="start"
            >
              <VerdictMark verdict={t?.verdict ?? null} />
              <div>
                <p>
                  <b>{p.pack.name}</b>, {p.pack.place}
                </p>
                <chakra.p fontSize="14px" color="quiet">
                  {p.pack.edition}. {p.proposed ? 'Proposed' : 'Not proposed'}: {p.why}.{' '}
                  <Link to={`/sheets/rules/${p.pack.id}`}>
                    <chakra.span color="accent" textDecoration="underline">
                      read or copy it
                    </chakra.span>
                  </Link>
                </chakra.p>
                {p.pack.bad?.map((b) => (
                  <chakra.p key={b.index} color="fails" fontSize="15px">
                    Item {b.index + 1}, “{b.id}”, cannot be judged: {b.message}.
                  </chakra.p>
                ))}
                {p.asks && !p.chosen && (
                  <chakra.div mt="6px">
                    {p.asks.kind === 'boolean' && <chakra.p mb="4px">{p.asks.question}</chakra.p>}
                    <Answered item={{ asks: p.asks, title: p.asks.question, rule: null }} />
                  </chakra.div>
                )}
              </div>
              <chakra.span fontFamily="mono">{t ? `${t.met} of ${t.required} met` : '…'}</chakra.span>
              {open && (
                <Act
                  minHeight="36px"
                  on={p.chosen}
                  aria-pressed={p.chosen}
                  onClick={() =>
                    choose(p.chosen ? chosen.filter((x) => x !== p.pack).map((x) => x.id) : [...chosen.map((x) => x.id), p.pack.id])
                  }
                >
                  {p.chosen ? 'Counts' : 'Let it count'}
                </Act>
              )}
            </chakra.li>
          );
        })}
      </chakra.ul>
      {!fits.length && <p>No pack in the sheets is for this kind of unit. A lead can copy one under Sheets and edit it.</p>}
    </>
  );
}
