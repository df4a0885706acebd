import { chakra } from '@chakra-ui/react';
import { useUnits } from '../../app/context';
import { sayInUnits } from '#core/quantity/quantity';
import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { GripVertical, Undo2, Users } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { stepState } from '#core/order/assess';
import type { Place } from '#core/plan/moves';
import { BENCH_STAGES, type PlannedStep } from '#core/plan/planned';
import { zoneName } from '#core/plan/zones';
import { Act } from '../../app/ui';
import { useOrder } from '../useOrder';
import { usePlaces } from './usePlaces';

const gapId = (after: string | null, before: string | null) => `${after ?? ''}>${before ?? ''}`;
const minutes = (m: number) => `${Number(m.toFixed(1))} min`;

/** A place between two steps: lit where the step in hand may stand, with what that costs; dark with the reason where not. */
function Gap({ place, waiting }: { place: Place | undefined; waiting: boolean }) {
  const { setNodeRef, isOver } = useDroppable({
    id: place ? gapId(place.after, place.before) : 'none',
    disabled: !place || place.more === null,
  });
  if (waiting) return <chakra.li height="10px" bg="sunk" />;
  if (!place) return null;
  const ok = place.more !== null;
  return (
    <chakra.li
      ref={setNodeRef}
      minH="28px"
      px="12px"
      fontSize="14px"
      lineHeight="28px"
      bg={isOver ? 'accent' : ok ? 'accentWash' : 'sunk'}
      color={isOver ? 'onAccent' : ok ? 'ink' : 'quiet'}
      borderBottomWidth="1px"
      borderColor="rule"
      data-gap={ok ? 'allowed' : 'refused'}
    >
      {ok ? (place.more! > 0 ? `here: ${minutes(place.more!)} more` : 'here: no more minutes') : `not here: ${place.why}`}
    </chakra.li>
  );
}

function Row({ step, movable, lifted }: { step: PlannedStep; movable: boolean; lifted: boolean }) {
  const { order, assessment, sheets, record } = useOrder();
  const units = useUnits();
  const work = assessment.work!;
  const { attributes, listeners, setNodeRef } = useDraggable({ id: step.id, disabled: !movable });
  const st = stepState(order, step.id);
  const idle = work.idle.find((x) => x.before === step.id);
  const pinned = order.plan.pins.some((p) => p.step === step.id);
  return (
    <chakra.li
      ref={setNodeRef}
      display="grid"
      gridTemplateColumns="44px 52px 84px minmax(0, 1fr) 150px 64px"
      gap="8px"
      alignItems="center"
      minH="44px"
      borderBottomWidth="1px"
      borderColor="rule"
      opacity={lifted ? 0.4 : 1}
      data-step={step.id}
    >
      {movable ? (
        <chakra.button
          type="button"
          {...attributes}
          {...listeners}
          aria-label={`Move ${step.title}`}
          minH="44px"
          cursor="grab"
          display="grid"
          placeItems="center"
          color="quiet"
          touchAction="none"
        >
          <GripVertical size={20} aria-hidden />
        </chakra.button>
      ) : (
        <span />
      )}
      <chakra.span fontFamily="mono" fontSize="14px" color="quiet" textAlign="right">
        {Math.round(work.at.get(step.id)!)}
      </chakra.span>
      <chakra.span fontSize="14px" color={st.status === 'todo' ? 'quiet' : 'holds'}>
        {st.status === 'todo' ? BENCH_STAGES[step.stage] : st.status}
      </chakra.span>
      <chakra.span py="8px">
        <Link to={`/orders/${order.id}/bench?step=${encodeURIComponent(step.id)}`}>
          <chakra.span _hover={{ textDecoration: 'underline' }}>{step.title}</chakra.span>
        </Link>{' '}
        {step.hands === 2 && <Users size={14} aria-label="two people" style={{ display: 'inline' }} />}
        {(step.waits || idle) && (
          <chakra.span color="tightText" fontSize="14px">
            {step.waits && ` waits for ${sayInUnits(step.waits, units)}`}
            {idle && ` after ${Math.round(idle.minutes)} minutes of waiting: ${sayInUnits(idle.for, units)}`}
          </chakra.span>
        )}
        {pinned && (
          <Act look="quiet" minHeight="32px" onClick={() => record({ type: 'plan.freed', step: step.id })}>
            <Undo2 size={16} aria-hidden /> put here by hand
          </Act>
        )}
      </chakra.span>
      <chakra.span color="quiet" fontSize="14px" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" title={step.tool ?? ''}>
        {step.tool ?? ''}
      </chakra.span>
      <chakra.span fontFamily="mono" textAlign="right" title={`at ${zoneName(work.zone.get(step.id)!, sheets.model.kind)}`}>
        {minutes(step.minutes)}
      </chakra.span>
    </chakra.li>
  );
}

/** The work in its order. A step still to do is dragged, by finger, mouse or keys, to where it may stand. */
export function StepList() {
  const { order, assessment, record } = useOrder();
  const work = assessment.work!;
  const [held, setHeld] = useState<string | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }), useSensor(KeyboardSensor));
  const isTask = new Set(work.problem.tasks.map((t) => t.id));
  const ahead = work.steps.filter((s) => isTask.has(s.id) && stepState(order, s.id).status === 'todo').map((s) => s.id);
  const places = usePlaces(work, order.plan.pins, ahead, held);
  // the gap over a step is the one that stands before it
  const gapBefore = (id: string) => places?.find((p) => p.before === id);
  const open = order.status === 'open';
  const drop = ({ active, over }: DragEndEvent) => {
    const place = places?.find((p) => gapId(p.after, p.before) === over?.id);
    setHeld(null);
    if (place && place.more !== null)
      record({ type: 'plan.pinned', pin: { step: String(active.id), after: place.after, before: place.before } });
  };
  const title = work.steps.find((s) => s.id === held)?.title;
  return (
    <DndContext sensors={sensors} onDragStart={(e) => setHeld(String(e.active.id))} onDragEnd={drop} onDragCancel={() => setHeld(null)}>
      <chakra.ol listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule" aria-label="The work in its order">
        {work.steps.flatMap((s) => [
          ...(held && isTask.has(s.id) && s.id !== held && ahead.includes(s.id)
            ? [<Gap key={`gap/${s.id}`} place={gapBefore(s.id)} waiting={!places} />]
            : []),
          <Row key={s.id} step={s} movable={open && ahead.includes(s.id)} lifted={s.id === held} />,
        ])}
        {held && <Gap place={places?.find((p) => p.before === null)} waiting={!places} />}
      </chakra.ol>
      <DragOverlay>
        {held && (
          <chakra.div px="12px" py="10px" bg="raised" borderWidth="2px" borderColor="accent" borderRadius="kadro" fontWeight={600}>
            {title}
          </chakra.div>
        )}
      </DragOverlay>
    </DndContext>
  );
}
