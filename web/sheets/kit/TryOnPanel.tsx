import { chakra } from '@chakra-ui/react';
import { sayInUnits } from '#core/quantity/quantity';
import { VERDICT_WORD } from '#core/verdict';
import { triedVerdict, type Tried, type TryOn } from '#core/sheets/try-on';
import type { UnitModel } from '#model/unit-model';
import { useUnits } from '../../app/context';
import { Choice, Labelled } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';

function Line({ of }: { of: Tried }) {
  const units = useUnits();
  return (
    <chakra.div display="grid" gridTemplateColumns="24px minmax(0, 1fr)" gap="6px" py="5px" borderTopWidth="1px" borderColor="rule">
      <VerdictMark verdict={of.verdict} size={20} />
      <chakra.div fontSize="14px" lineHeight="1.35">
        <b>{of.name}</b>
        <br />
        {sayInUnits(of.says, units)}
      </chakra.div>
    </chakra.div>
  );
}

/** The box tried on a unit, as it is by now. */
export function TryOnPanel({
  tried,
  models,
  on,
  onModel,
}: {
  tried: TryOn | null | undefined;
  models: readonly UnitModel[];
  on: string;
  onModel: (id: string) => void;
}) {
  const units = useUnits();
  const verdict = tried ? triedVerdict(tried) : null;
  return (
    <section aria-label="Tried on">
      <Labelled id="try-on" label="Tried on">
        <Choice id="try-on" value={on} onChange={(e) => onModel(e.target.value)}>
          {models.map((m) => (
            <option key={m.id} value={m.id}>
              {m.maker} {m.name}
            </option>
          ))}
        </Choice>
      </Labelled>
      {!tried ? (
        <chakra.p color="quiet" fontSize="15px" mt="8px">
          {tried === null ? 'The sheet does not hold together yet: what is wrong stands above.' : 'Trying it on …'}
        </chakra.p>
      ) : (
        <div aria-live="polite">
          <chakra.p display="flex" gap="8px" alignItems="center" my="8px" fontWeight={600} data-tried={verdict}>
            <VerdictMark verdict={verdict} size={26} />
            {VERDICT_WORD[verdict!]}, {Math.round(tried.plan.minutes)} min, {tried.plan.steps.length} steps
          </chakra.p>
          {[tried.fit, ...tried.wire, tried.power, ...tried.lamps].map((t) => (
            <Line key={t.name} of={t} />
          ))}
          {tried.plan.leftOut.map((l) => (
            <chakra.p key={l} fontSize="14px" py="5px" borderTopWidth="1px" borderColor="rule">
              Left out: {sayInUnits(l, units)}
            </chakra.p>
          ))}
          <details>
            <chakra.summary cursor="pointer" fontSize="15px" py="6px">
              Its work, step by step
            </chakra.summary>
            <chakra.ol p="0 0 0 22px" fontSize="14px">
              {tried.plan.steps.map((s, i) => (
                <li key={i}>
                  {sayInUnits(s.title, units)}, {Math.round(s.minutes)} min
                </li>
              ))}
            </chakra.ol>
          </details>
          {tried.needs.length > 0 && (
            <details>
              <chakra.summary cursor="pointer" fontSize="15px" py="6px">
                Off the shop’s shelf
              </chakra.summary>
              <chakra.ul p="0 0 0 18px" fontSize="14px">
                {tried.needs.map((n) => (
                  <li key={n.item}>
                    {n.quantity} {n.unit} {n.item}
                  </li>
                ))}
              </chakra.ul>
            </details>
          )}
        </div>
      )}
    </section>
  );
}
