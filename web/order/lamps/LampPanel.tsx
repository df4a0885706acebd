import { chakra } from '@chakra-ui/react';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { LampItem } from '#core/lighting/item';
import type { Lamp } from '#core/lighting/lamp';
import type { PlaceBand, Placement } from '#core/lighting/placing';
import { parseQuantity, sayInUnits, showQuantity } from '#core/quantity/quantity';
import type { Point } from '#model/lamp';
import { useUnits } from '../../app/context';
import { Act } from '../../app/ui';
import { MarginBar } from '../../marks/MarginBar';
import { VERDICT_COLOUR, VerdictMark } from '../../marks/VerdictMark';
import { EditField } from '../EditField';
import { useOrder } from '../useOrder';
import { findPlace } from './useLampWork';

/** The lamp picked: its figures to type, how it stands to each limit, where else it could be. */
export function LampPanel({
  lamp,
  items,
  bands,
  other,
  together,
  onTogether,
  placement,
  onPlacement,
  onPut,
  onPutAll,
  onClose,
}: {
  lamp: Lamp;
  items: readonly LampItem[];
  bands: readonly PlaceBand[];
  other: Lamp | null;
  together: boolean;
  onTogether: (on: boolean) => void;
  placement: Placement | null;
  onPlacement: (p: Placement) => void;
  onPut: (at: Point) => void;
  onPutAll: (places: { lamp: string; at: Point }[]) => void;
  onClose: () => void;
}) {
  const { order, assessment, sheets, record } = useOrder();
  const { lamps: check } = assessment;
  const units = useUnits();
  const [searching, setSearching] = useState(false);
  const open = order.status === 'open';
  const small = (x: number) => showQuantity(x, 'smallLength', units);
  const at = lamp.at;
  const mine = items.filter((i) => i.lamps.some((f) => f.lamp.id === lamp.id) && i.verdict !== null);
  const bad = mine.some((i) => i.lamps.some((f) => f.lamp.id === lamp.id && f.verdict === 'fails'));
  const field = (axis: 'x' | 'y' | 'z', label: string) => (
    <EditField
      id={`lamp-${axis}`}
      draft={`${order.id}.lamp.${lamp.id}.${axis}`}
      label={label}
      mono
      disabled={!open}
      value={at ? small(axis === 'y' ? Math.abs(at.y) : at[axis]) : ''}
      placeholder="not measured"
      read={(t) => {
        const v = parseQuantity(t, 'smallLength', units);
        if (!Number.isFinite(v) || Math.abs(v) > 20000) throw new Error('more than any unit has');
        if (axis !== 'x' && v < 0) throw new Error('a distance is not below zero');
        return v;
      }}
      save={(v) => {
        const was = at ?? { x: 0, y: 0, z: 0 };
        const next = { ...was, [axis]: axis === 'y' ? v * (was.y < 0 ? -1 : 1) + 0 : v };
        if (next.x === was.x && next.y === was.y && next.z === was.z && at) return true;
        onPut(next);
        return true;
      }}
    />
  );
  const search = async () => {
    setSearching(true);
    try {
      onPlacement(await findPlace(check, lamp, sheets.model));
    } finally {
      setSearching(false);
    }
  };
  return (
    <chakra.section bg="raised" borderWidth="1px" borderColor="accent" borderRadius="kadro" p="10px 12px" aria-label={lamp.name}>
      <chakra.div display="flex" alignItems="center" gap="8px" mb="6px">
        <chakra.h3 fontSize="17px" flex="1">
          {lamp.name}
          <chakra.span color="quiet" fontWeight={400} fontSize="14px">
            {' '}
            {lamp.kit ?? (lamp.from === 'factory' ? 'from the factory' : lamp.from === 'fitted' ? 'fitted before' : 'added')}
            {lamp.moved && ', placed here'}
          </chakra.span>
        </chakra.h3>
        <Act look="quiet" minHeight="32px" onClick={onClose}>
          <X size={16} aria-hidden /> close
        </Act>
      </chakra.div>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(120px, 1fr))" gap="8px" alignItems="start">
        {field('z', 'Centre above ground')}
        {field('y', `From the centre line${at && Math.abs(at.y) > 0.5 ? (at.y > 0 ? ', left' : ', right') : ''}`)}
        {field('x', 'Ahead of the rear axle')}
      </chakra.div>
      {other && open && (
        <chakra.label display="inline-flex" alignItems="center" gap="8px" minHeight="36px" fontSize="15px">
          <input type="checkbox" checked={together} onChange={(e) => onTogether(e.target.checked)} />
          both sides together
        </chakra.label>
      )}
      <chakra.ul listStyleType="none" p={0} display="grid" gridTemplateColumns="repeat(auto-fill, minmax(270px, 1fr))" gap="2px 16px">
        {mine.map((i) => {
          const f = i.lamps.find((x) => x.lamp.id === lamp.id)!;
          return (
            <chakra.li
              key={`${i.pack}/${i.id}`}
              display="grid"
              gridTemplateColumns="24px minmax(0, 1fr)"
              alignItems="start"
              gap="6px"
              py="4px"
              fontSize="15px"
            >
              <VerdictMark verdict={f.verdict} size={20} />
              <div>
                {i.title}: <chakra.span color={VERDICT_COLOUR[f.verdict]}>{sayInUnits(f.says, units)}</chakra.span>
                {i.margin?.unit === 'mm' && f.value !== null && (
                  <MarginBar
                    margin={{ used: f.value, limit: i.margin.limit, unit: '' }}
                    atLeast={i.margin.atLeast}
                    verdict={f.verdict}
                    label={i.title}
                    show={small}
                  />
                )}
              </div>
            </chakra.li>
          );
        })}
        {!mine.length && <chakra.li color="quiet">No chosen rule asks for it.</chakra.li>}
      </chakra.ul>
      {open && (
        <chakra.div display="flex" gap="8px" flexWrap="wrap" mt="6px" alignItems="center">
          {at && (bands.length > 0 || bad) && (
            <Act look={bad ? 'main' : 'plain'} onClick={() => void search()} disabled={searching}>
              {searching ? 'Looking…' : 'Where could it be?'}
            </Act>
          )}
          {lamp.moved && lamp.from !== 'added' && (
            <Act
              onClick={() => {
                record({ type: 'lamp.freed', lamp: lamp.id, label: lamp.name });
                if (together && other?.moved) record({ type: 'lamp.freed', lamp: other.id, label: other.name });
              }}
            >
              Back to its sheet’s place
            </Act>
          )}
          {lamp.from === 'added' && (
            <Act
              onClick={() => {
                record({ type: 'lamp.dropped', id: lamp.id.slice(6), label: lamp.name });
                onClose();
              }}
            >
              Take it off again
            </Act>
          )}
        </chakra.div>
      )}
      {placement && (
        <chakra.div mt="8px" role="status" fontSize="15px">
          {placement.at ? (
            placement.movedMm < 1 ? (
              <p>It is legal where it is. Everywhere else that it may be is shaded.</p>
            ) : (
              <chakra.div display="flex" gap="10px" alignItems="center" flexWrap="wrap">
                <span>
                  Nearest legal place {small(placement.movedMm)} away: {small(Math.abs(placement.at[0]!.at.y))} from the centre line,{' '}
                  {small(placement.at[0]!.at.z)} up. Every place tried that keeps all limits ({placement.legal.length}) is shaded.
                </span>
                <Act look="main" onClick={() => onPutAll(placement.at!)}>
                  Put it there
                </Act>
              </chakra.div>
            )
          ) : (
            <div>
              <chakra.p fontWeight={700} color="fails">
                Nowhere on this body: {placement.tried} places tried.
              </chakra.p>
              {placement.against.map((a) => (
                <p key={a.item}>
                  {a.title}: {a.says}. A bracket that stands off the body could still reach it.
                </p>
              ))}
            </div>
          )}
        </chakra.div>
      )}
    </chakra.section>
  );
}
