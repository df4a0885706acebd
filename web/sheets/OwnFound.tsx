import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { may } from '#core/people/permissions';
import { showQuantity } from '#core/quantity/quantity';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { call, queries } from '../app/api';
import { usePerson, useUnits } from '../app/context';
import { Act, ServerAct, Sheet } from '../app/ui';
import { H3 } from '../order/Station';
import { useBegunKits } from './kit/begun-kits';
import { LeaveOut } from './LeaveOut';

/** What orders on a model have that no sheet says: places and ways for its sheet, parts that a box may be made of. */
export function OwnFoundList({ model }: { model: UnitModel }) {
  const units = useUnits();
  const client = useQueryClient();
  const navigate = useNavigate();
  const begun = useBegunKits();
  const kits = useQuery(queries.sheets).data?.kits ?? [];
  const offered = useQuery(queries.ownFound(model.id)).data;
  const take = useMutation({
    mutationFn: (json: { order: string; pointer: string }) => call(`/api/sheets/model/${model.id}/own/taken`, { json }),
    onSettled: async () => {
      await client.invalidateQueries({ queryKey: ['proposals', model.id] });
      await client.invalidateQueries({ queryKey: ['sheets'] });
    },
  });
  if (!offered || (!offered.found.length && !offered.boxes.length)) return null;
  const unpack = (own: Kit) => {
    const made = begun.copy(
      { ...own, fits: [{ fits: true, models: [model.id] }] },
      own.name,
      model.id,
      kits.map((k) => k.ref.id),
    );
    navigate(`/sheets/kit/${made.id}/edit`);
  };
  return (
    <>
      <H3>Put in on one order</H3>
      {offered.found.map((f) => (
        <Offer key={`${f.order} ${f.pointer}`} model={model} order={f.order} number={f.number} pointer={f.pointer}>
          <chakra.span flex="1" minW="220px">
            <b>{f.name}</b>, {f.lengthMm === null ? 'a place' : `a way of ${showQuantity(f.lengthMm, 'smallLength', units, 3)}`}
          </chakra.span>
          <ServerAct disabled={take.isPending} onClick={() => take.mutate({ order: f.order, pointer: f.pointer })}>
            Take it into the sheet
          </ServerAct>
        </Offer>
      ))}
      {offered.boxes.map((b) => (
        <Offer key={b.order} model={model} order={b.order} number={b.number} pointer="/own">
          <chakra.span flex="1" minW="220px">
            <b>{b.own.name}</b>: parts of one order
          </chakra.span>
          <Act onClick={() => unpack(b.own)}>Make a box of it…</Act>
        </Offer>
      ))}
      {take.error && (
        <chakra.p role="alert" color="fails">
          {take.error.message}
        </chakra.p>
      )}
    </>
  );
}

/** One thing that an order offers; a lead takes it, or leaves it out and says why. */
function Offer({
  model,
  order,
  number,
  pointer,
  children,
}: {
  model: UnitModel;
  order: string;
  number: number;
  pointer: string;
  children: [what: ReactNode, take: ReactNode];
}) {
  const client = useQueryClient();
  const lead = may(usePerson().role, 'sheets.import');
  const [declining, setDeclining] = useState(false);
  const decline = useMutation({
    mutationFn: (reason: string) => call(`/api/sheets/model/${model.id}/own/declined`, { json: { order, pointer, reason } }),
    onSettled: () => client.invalidateQueries({ queryKey: ['proposals', model.id] }),
  });
  const [what, take] = children;
  return (
    <Sheet mb="8px" p="8px 14px" data-own={pointer}>
      <chakra.div display="flex" gap="12px" alignItems="center" flexWrap="wrap">
        {what}
        <Link to={`/orders/${order}/log`}>
          <chakra.span textDecoration="underline">Order {number}</chakra.span>
        </Link>
        {lead && take}
        {lead && (
          <ServerAct look="quiet" minHeight="36px" onClick={() => setDeclining(!declining)}>
            Leave it out
          </ServerAct>
        )}
      </chakra.div>
      {declining && (
        <LeaveOut
          label={`Why what order ${number} has is left out`}
          busy={decline.isPending}
          onReason={(reason) => decline.mutate(reason)}
        />
      )}
      {decline.error && (
        <chakra.p role="alert" color="fails">
          {decline.error.message}
        </chakra.p>
      )}
    </Sheet>
  );
}
