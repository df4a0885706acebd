import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { stepState } from '#core/order/assess';
import type { PlannedStep } from '#core/plan/planned';
import { queries } from '../../app/api';
import { Act, FormDialog } from '../../app/ui';
import { useOrder } from '../useOrder';

type Scope = 'step' | 'kit' | 'rest';

/** Who does a step: one person of two, with the rest of its kit or all that is still to do, or anyone. */
export function GiveDialog({ open, step, onClose }: { open: boolean; step: PlannedStep; onClose: () => void }) {
  const { order, assessment, record } = useOrder();
  const people = (useQuery(queries.people).data ?? []).filter((p) => p.role !== 'desk' && !p.ended);
  const [scope, setScope] = useState<Scope>('step');
  /** `undefined`: not said yet */
  const [to, setTo] = useState<string | null | undefined>(undefined);
  const kit = assessment.sheets.kits.find((k) => k.id === step.kit);
  const todo = assessment.steps.filter((s) => stepState(order, s.id).status === 'todo');
  const chosen =
    scope === 'step'
      ? [step]
      : scope === 'kit'
        ? todo.filter((s) => s.kit === step.kit)
        : todo.slice(todo.findIndex((s) => s.id === step.id));
  const minutes = Math.round(chosen.reduce((s, x) => s + x.minutes, 0));
  const give = () => {
    for (const s of chosen) if ((order.given[s.id] ?? null) !== to && !record({ type: 'step.given', step: s.id, to: to ?? null })) return;
    onClose();
  };
  const scopes: [Scope, string][] = [
    ['step', 'this step'],
    ...(kit ? ([['kit', `all of ${kit.name}`]] as [Scope, string][]) : []),
    ['rest', 'everything from here on'],
  ];
  return (
    <FormDialog open={open} title="Who does it" action="Give it" ready={to !== undefined} onClose={onClose} onDone={give}>
      <chakra.div display="grid" gap="8px" role="group" aria-label="How much">
        {scopes.map(([id, word]) => (
          <Act
            key={id}
            type="button"
            on={scope === id}
            aria-pressed={scope === id}
            minHeight="48px"
            justifyContent="flex-start"
            onClick={() => setScope(id)}
          >
            {word}
          </Act>
        ))}
      </chakra.div>
      <chakra.p mt="12px" mb="8px" color="quiet">
        {chosen.length} {chosen.length === 1 ? 'step' : 'steps'}, {minutes} min as planned. For whom?
      </chakra.p>
      <chakra.div display="flex" flexWrap="wrap" gap="8px">
        {[...people.map((p) => ({ id: p.id as string | null, name: p.name })), { id: null, name: 'Anyone' }].map((p) => (
          <Act
            key={p.name}
            type="button"
            minHeight="56px"
            px="20px"
            on={to === p.id}
            aria-pressed={to === p.id}
            onClick={() => setTo(p.id)}
          >
            {p.name}
          </Act>
        ))}
      </chakra.div>
    </FormDialog>
  );
}
