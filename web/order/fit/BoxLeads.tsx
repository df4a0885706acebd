import { chakra } from '@chakra-ui/react';
import { sayInUnits } from '#core/quantity/quantity';
import type { KitFit } from '#core/order/fit';
import { toStow, type EndWork } from '#core/wiring/box-work';
import { placesFor } from '#core/wiring/chosen';
import { sayEnd } from '#core/wiring/ends';
import { useUnits } from '../../app/context';
import { MarginBar } from '../../marks/MarginBar';
import { WireSwatch } from '../../marks/WireSwatch';
import { Choice } from '../../app/ui';
import { useOrder } from '../useOrder';

const HOW: Record<EndWork['how'], string> = {
  plug: 'plugs into',
  screw: 'goes onto',
  push: 'is pushed onto',
  join: 'is joined to',
  extend: 'is led on to',
  cap: 'is capped',
  spare: 'is left for later, capped',
};

/** The ready harnesses of a box as they are unpacked: each end, what it goes into, and whether its leg reaches. */
export function BoxLeads({ f, sealed }: { f: KitFit; sealed: boolean }) {
  const { sheets } = useOrder();
  const units = useUnits();
  const place = (id: string | null) => sheets.model.places.find((p) => p.id === id)?.name ?? '';
  const harnesses = [...new Set(f.ends.map((e) => e.harness))];
  return (
    <>
      {harnesses.map((h) => (
        <chakra.div key={h} mt="6px">
          <chakra.h4 fontSize="15px" fontWeight={700}>
            {h.charAt(0).toUpperCase() + h.slice(1)}
          </chakra.h4>
          <chakra.ul listStyleType="none" p={0}>
            {f.ends
              .filter((e) => e.harness === h)
              .map((e, i, list) => {
                // a lead with two ends has one way: its bar stands once
                const leg = e.leg && list.findIndex((x) => x.leg?.id === e.leg!.id) === i ? e.leg : null;
                return (
                  <chakra.li
                    key={e.of.end}
                    display="grid"
                    gridTemplateColumns="minmax(0, 1fr) 190px"
                    gap="4px 16px"
                    alignItems="center"
                    py="5px"
                    borderTopWidth="1px"
                    borderColor="rule"
                    data-end={`${e.kit.id}/${e.of.harness}.${e.of.end}`}
                    data-how={e.how}
                  >
                    <chakra.span minW={0}>
                      <b>{e.name}</b> {HOW[e.how]} {e.into}
                      <chakra.span display="flex" flexWrap="wrap" gap="2px 10px" fontSize="14px" color="quiet">
                        <span>{sayEnd(e.end)}</span>
                        {e.wires.map((w) => (
                          <chakra.span key={w.colour + w.goes} display="inline-flex" alignItems="center" gap="4px">
                            {w.cavity !== null && <chakra.span fontFamily="mono">{w.cavity}</chakra.span>}
                            <WireSwatch colour={w.colour} width={22} />
                          </chakra.span>
                        ))}
                        {leg && e.place && toStow(e) && (
                          <span>{sayInUnits(`${e.overMm} mm to fold back at ${place(e.place)}`, units)}</span>
                        )}
                      </chakra.span>
                      {e.adapted && (
                        <chakra.span display="block" color="tightText">
                          {e.adapted.why}. Buy: {e.adapted.buy.join(', ')}.
                        </chakra.span>
                      )}
                      {e.how === 'extend' && e.leg && (
                        <chakra.span display="block" color="tightText">
                          {sayInUnits(
                            `${Math.round(e.leg.shortMm)} mm short: led on by a joint, or another place for what it goes to.`,
                            units,
                          )}
                        </chakra.span>
                      )}
                    </chakra.span>
                    {leg && (
                      <MarginBar
                        margin={{ used: leg.needMm, limit: leg.hasMm, unit: 'mm' }}
                        verdict={leg.shortMm > 0 ? 'tight' : 'holds'}
                        label={`Reach of the ${e.legName}`}
                      />
                    )}
                  </chakra.li>
                );
              })}
          </chakra.ul>
        </chakra.div>
      ))}
      <DevicePlaces f={f} sealed={sealed} />
    </>
  );
}

/** Where a device stands that may stand in several places. */
function DevicePlaces({ f, sealed }: { f: KitFit; sealed: boolean }) {
  const { order, given, sheets, record } = useOrder();
  const sheet = given.kits.find((k) => k.id === f.kit.id);
  return (sheet?.devices ?? [])
    .filter((d) => d.places.length)
    .map((d) => {
      const here = f.kit.devices.find((x) => x.id === d.id)?.place;
      const set = order.places?.[`${f.kit.id}/${d.id}`] ?? '';
      const options = placesFor(d, sheets.model);
      const name = (p: string | undefined) => sheets.model.places.find((x) => x.id === p)?.name ?? p;
      return (
        <chakra.label key={d.id} display="flex" flexWrap="wrap" alignItems="center" gap="8px" mt="10px">
          <b>{d.name} at</b>
          <Choice
            width="auto"
            minHeight="48px"
            value={set}
            disabled={sealed}
            onChange={(e) => record({ type: 'device.placed', kit: f.kit.id, device: d.id, place: e.target.value || null })}
          >
            <option value="">where its leads reach: {name(here)}</option>
            {options.map((p) => (
              <option key={p} value={p}>
                {name(p)}
              </option>
            ))}
          </Choice>
        </chakra.label>
      );
    });
}
