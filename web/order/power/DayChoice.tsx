import { chakra } from '@chakra-ui/react';
import { daysFor } from '#core/energy/templates';
import { Act, Choice } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';

/** The owner's days: which one is shown, and others to describe. */
export function DayChoice({ dayId, onPick }: { dayId: string; onPick: (id: string) => void }) {
  const { order, assessment, sheets, record } = useOrder();
  const { power } = assessment;
  const open = order.status === 'open';
  const templates = daysFor(sheets.model, power.system.winch !== null).filter((d) => !order.days.some((x) => x.id === d.id));
  const shown = power.days.find((d) => d.day.id === dayId)!;
  const add = (id: string) => {
    const day = templates.find((d) => d.id === id);
    if (day && record({ type: 'day.described', day })) onPick(day.id);
  };
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="6px" alignItems="center" mb="8px" pl="44px" pr="44px">
      {power.days.map((d) => (
        <Act
          key={d.day.id}
          on={d.day.id === dayId}
          aria-pressed={d.day.id === dayId}
          minHeight="36px"
          px="8px"
          onClick={() => onPick(d.day.id)}
        >
          <VerdictMark verdict={d.verdict} size={18} />
          {d.day.name}
        </Act>
      ))}
      {open && (
        <Choice
          aria-label="Describe another day"
          width="auto"
          flex="0 1 150px"
          minHeight="36px"
          fontSize="15px"
          value=""
          onChange={(e) => add(e.target.value)}
        >
          <option value="">{power.dayAssumed ? 'another day' : 'one more day'}</option>
          {templates
            .filter((t) => t.id !== dayId || !power.dayAssumed)
            .map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
        </Choice>
      )}
      {open && !power.dayAssumed && (
        <Act look="quiet" minHeight="36px" onClick={() => record({ type: 'day.dropped', id: dayId })}>
          Take off
        </Act>
      )}
      <chakra.p flex="1 0 100%" fontSize="14px" color="quiet">
        {power.dayAssumed && 'The usual day for this kind of unit: touch a phase to make it the owner’s. '}
        {!power.says.includes(shown.says) && `${shown.says.charAt(0).toUpperCase()}${shown.says.slice(1)}.`}
      </chakra.p>
    </chakra.div>
  );
}
