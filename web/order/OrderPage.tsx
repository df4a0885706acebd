import { chakra, VisuallyHidden } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { Pause, PanelRightClose, PanelRightOpen, ReceiptText, ScrollText, Undo2 } from 'lucide-react';
import { memo, useDeferredValue, useLayoutEffect, useRef, useState } from 'react';
import { NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import type { Verdict } from '#model/common';
import { STATIONS } from '#model/order';
import { owedAnswers } from '#core/order/owed-answers';
import { queries } from '../app/api';
import { usePerson, useReachable } from '../app/context';
import { useKeys } from '../app/keys';
import { readKept, writeKept } from '../app/storage';
import { Act, Choice } from '../app/ui';
import { useNameOf } from '../app/useNameOf';
import { Silhouette } from '../drawing/UnitDrawing';
import { VerdictMark } from '../marks/VerdictMark';
import { SumColumn } from './SumColumn';
import { promise, STATION_WORD } from './words';
import { OrderContext, useOpenOrder, useWaiting, type OpenOrder } from './useOrder';
import { useUndo } from './useUndo';

const StationLink = chakra(NavLink, {
  base: {
    display: 'flex',
    alignItems: 'center',
    gap: '8px',
    px: '10px',
    minHeight: '48px',
    borderBottomWidth: '3px',
    borderColor: 'transparent',
    color: 'ink',
    minWidth: 0,
    flex: '1 1 auto',
    '&.active': { borderColor: 'accent', bg: 'raised', fontWeight: 700 },
    _hover: { bg: 'raised' },
  },
});

/** Words for which there is room on a desk, beside an icon that says it on a tablet. */
const Wide = chakra('span', { base: { '@media (max-width: 1199px)': { display: 'none' } } });

/** One order. What changed is painted as soon as it can be without holding up the page. */
export function OrderPage() {
  const { id } = useParams();
  const { open, error } = useOpenOrder(id!);
  const reachable = useReachable();
  const shown = useDeferredValue(open);
  if (error)
    return (
      <chakra.main p="32px">
        <chakra.h1 fontSize="22px" mb="8px">
          {error.status === 404 ? 'There is no such order' : 'This order cannot be read now'}
        </chakra.h1>
        <chakra.p color="quiet">{error.message}</chakra.p>
      </chakra.main>
    );
  // another order than the one painted last has nothing to show yet
  if (!open || !shown || shown.order.id !== open.order.id)
    return (
      <chakra.p p="32px" color="quiet">
        {reachable
          ? 'Reading the order …'
          : 'The server cannot be reached, and this device has not kept this order. It opens as soon as it can.'}
      </chakra.p>
    );
  return <OrderFrame open={shown} id={id!} />;
}

/** Its plate, the strip of stations, the station itself, and the sum column that stays. */
const OrderFrame = memo(function OrderFrame({ open, id }: { open: OpenOrder; id: string }) {
  const station = useLocation().pathname.split('/').at(-1);
  const navigate = useNavigate();
  // schematic, day and elevations want the width, and say what the sums say: there these are folded unless they were opened there
  const wide = station === 'wire' || station === 'power' || station === 'lamps';
  const foldKey = wide ? `sum-folded-${station}` : 'sum-folded';
  const [, setFolds] = useState(0);
  const folded = readKept(foldKey, wide || window.innerWidth < 1200);
  const page = useRef<HTMLElement>(null);
  // every station begins with its answer
  useLayoutEffect(() => {
    if (page.current) page.current.scrollTop = 0;
  }, [station]);
  const undo = useUndo(open);
  useKeys({
    // at the bench a digit is a reading
    ...(station !== 'bench' && Object.fromEntries(STATIONS.map((s, i) => [String(i + 1), () => void navigate(`/orders/${id}/${s}`)]))),
    // there the step that is taken back is gone to as well
    ...(station !== 'bench' && { u: undo?.run }),
    e: () => document.querySelector<HTMLElement>('main input:not([disabled]), main select:not([disabled])')?.focus(),
  });
  const fold = () => {
    writeKept(foldKey, !folded);
    setFolds((n) => n + 1);
  };
  return (
    <OrderContext value={open}>
      <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr)" gridTemplateRows="auto auto minmax(0, 1fr)" height="100%">
        <Plate open={open} atBench={station === 'bench'} />
        <chakra.nav aria-label="Stations" display="flex" borderBottomWidth="1px" borderColor="rule" overflowX="auto">
          {STATIONS.map((s) => (
            <StationLink key={s} to={`/orders/${id}/${s}`}>
              <StationWords word={STATION_WORD[s]} verdict={open.assessment.stations[s].verdict} owed={open.assessment.stations[s].owed} />
            </StationLink>
          ))}
        </chakra.nav>
        <chakra.div display="grid" gridTemplateColumns={`minmax(0, 1fr) ${folded ? '40px' : '300px'}`} minH={0}>
          <chakra.main ref={page} data-station={station} overflowY="auto" p="16px" pb="72px" minW={0} tabIndex={0}>
            <Outlet />
          </chakra.main>
          <chakra.aside borderLeftWidth="1px" borderColor="rule" overflowY="auto" aria-label="Sums">
            <Act
              look="quiet"
              onClick={fold}
              minHeight="40px"
              width={folded ? '100%' : 'auto'}
              px={folded ? 0 : '14px'}
              aria-label={folded ? 'Unfold the sums' : 'Fold the sums'}
              aria-expanded={!folded}
            >
              {folded ? <PanelRightOpen size={18} aria-hidden /> : <PanelRightClose size={18} aria-hidden />}
            </Act>
            {!folded && <SumColumn />}
          </chakra.aside>
        </chakra.div>
      </chakra.div>
    </OrderContext>
  );
});

/** A station by its name, how it stands and what it still wants. */
const StationWords = memo(function StationWords({ word, verdict, owed }: { word: string; verdict: Verdict | null; owed: string }) {
  return (
    <>
      <VerdictMark verdict={verdict} size={20} />
      <chakra.span minW={0}>
        <chakra.span display="block" lineHeight="1.15" whiteSpace="nowrap">
          {word}
        </chakra.span>
        <chakra.span
          display="block"
          fontSize="13px"
          fontWeight={400}
          color="quiet"
          lineHeight="1.15"
          overflow="hidden"
          textOverflow="ellipsis"
          whiteSpace="nowrap"
          title={owed || undefined}
        >
          {owed || (verdict ? ' ' : 'not yet')}
        </chakra.span>
      </chakra.span>
    </>
  );
});

/** `atBench`: what can be taken back stands there beside the step. */
const Plate = memo(function Plate({ open, atBench }: { open: OpenOrder; atBench: boolean }) {
  const { order, sheets } = open;
  const waiting = useWaiting(order.id);
  const people = useQuery(queries.people).data ?? [];
  const nameOf = useNameOf();
  const person = usePerson();
  const build = sheets.model.builds.find((b) => b.id === order.unit.build);
  const undo = useUndo(open);
  const answers = owedAnswers(order);
  const owed = answers.extras + answers.questions;
  const about = [
    order.unit.identity || 'no number',
    String(order.unit.year),
    build?.name ?? order.unit.build,
    `${sheets.model.electrical.systemV} V`,
  ];
  const late = order.status === 'open' && Date.parse(order.promisedAt) < Date.now();
  return (
    <chakra.header
      data-part="plate"
      display="flex"
      alignItems="center"
      gap="16px"
      px="16px"
      py="8px"
      borderBottomWidth="2px"
      borderColor="ink"
      fontVariantNumeric="tabular-nums"
    >
      <Silhouette model={sheets.model} />
      <chakra.div minW={0} flex="1">
        <chakra.h1
          fontSize="20px"
          overflow="hidden"
          textOverflow="ellipsis"
          whiteSpace="nowrap"
          title={`${sheets.model.maker} ${sheets.model.name}`}
        >
          {sheets.model.maker} {sheets.model.name}
        </chakra.h1>
        <chakra.p fontSize="14px" color="quiet" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" title={about.join(' · ')}>
          {/* what tells it from another of its kind is never cut */}
          <chakra.span fontFamily="mono" fontSize="13px">
            {about[0]}
          </chakra.span>
          {` · ${about.slice(1).join(' · ')}`}
        </chakra.p>
      </chakra.div>
      <chakra.div flex="none">
        <chakra.p fontSize="14px" color="quiet">
          Order{' '}
          <chakra.b color="ink" fontFamily="mono">
            {order.number}
          </chakra.b>
          {order.trial && (
            <chakra.b color="tightText" ml="8px" title="No customer’s unit: readings here may be simulated, and paper says so.">
              {order.trial === 'demo' ? 'Demo' : 'Practice'}
            </chakra.b>
          )}
        </chakra.p>
        <chakra.p maxW="180px" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" title={order.owner}>
          {order.owner}
        </chakra.p>
      </chakra.div>
      <chakra.div flex="none">
        <chakra.p fontSize="14px" color="quiet">
          {order.status === 'sealed' ? 'Handed over' : order.status === 'cancelled' ? 'Cancelled' : 'Promised'}
        </chakra.p>
        <chakra.p color={late ? 'fails' : 'ink'} fontWeight={late ? 700 : 400}>
          {promise(order.sealedAt ?? order.cancelled?.at ?? order.promisedAt)}
          {late && ', late'}
        </chakra.p>
      </chakra.div>
      <chakra.div flex="none" width="130px">
        <chakra.label htmlFor="assignee" fontSize="14px" color="quiet" display="block">
          On the bench of
        </chakra.label>
        {order.status !== 'open' ? (
          <p>{order.assignee ? nameOf(order.assignee) : 'nobody'}</p>
        ) : (
          <Choice
            id="assignee"
            minHeight="32px"
            value={order.assignee ?? ''}
            onChange={(e) => open.record({ type: 'bench.assigned', to: e.target.value || null })}
          >
            <option value="">nobody</option>
            {people
              .filter((p) => !p.ended || p.id === order.assignee)
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
          </Choice>
        )}
      </chakra.div>
      {waiting > 0 && (
        <chakra.span flex="none" fontSize="14px" color="tightText" role="status">
          {waiting} waiting
        </chakra.span>
      )}
      {order.clocks.some((c) => c.by === person.id) && (
        <Act flex="none" onClick={() => open.record({ type: 'timer.stopped' })} aria-label="Stop the clock" title="Stop the clock">
          <Pause size={18} aria-hidden /> <Wide>Clock</Wide>
        </Act>
      )}
      {undo && !atBench && (
        <Act look="quiet" flex="none" onClick={undo.run} title={`Take back: ${undo.says}`} aria-label={`Undo: ${undo.says}`}>
          <Undo2 size={18} aria-hidden /> <Wide>Undo</Wide>
        </Act>
      )}
      {order.status === 'cancelled' && (
        <Act flex="none" onClick={() => open.record({ type: 'order.reopened' })}>
          Reopen
        </Act>
      )}
      <NavLink to={`/orders/${order.id}/price`} title="Quote, agreement, bill">
        <chakra.span display="flex" alignItems="center" gap="6px" color="accent" fontWeight={600} minH="40px">
          <ReceiptText size={18} aria-hidden /> Price
          {owed > 0 && (
            <chakra.span bg="tight" color="raised" borderRadius="9px" px="6px" fontSize="13px">
              {owed}
              <VisuallyHidden> {owed === 1 ? 'answer is' : 'answers are'} owed</VisuallyHidden>
            </chakra.span>
          )}
        </chakra.span>
      </NavLink>
      <NavLink to={`/orders/${order.id}/log`} aria-label="Log of this order">
        <chakra.span display="flex" alignItems="center" gap="6px" color="accent" fontWeight={600} minH="40px">
          <ScrollText size={18} aria-hidden /> Log
        </chakra.span>
      </NavLink>
    </chakra.header>
  );
});
