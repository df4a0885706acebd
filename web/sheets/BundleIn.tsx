import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sayInUnits } from '#core/quantity/quantity';
import type { Standing } from '#core/sheets/bundle';
import type { SheetKind } from '#model/sheet';
import { call } from '../app/api';
import { useUnits } from '../app/context';
import { Act, ServerAct, Sheet } from '../app/ui';

/** A sheet of a bundle beside the one here, as the server compares them. */
interface Beside {
  kind: SheetKind;
  id: string;
  name: string;
  standing: Standing;
  revision: number;
  changes: string[];
  problems: string[];
  text?: string;
}
export interface Compared {
  from: string;
  at: string;
  sheets: Beside[];
}

const SAYS: Record<Standing, string> = {
  new: 'new here',
  same: 'the same here',
  'theirs newer': 'newer there',
  'ours newer': 'newer here',
  'both changed': 'changed there and here',
};
const ORDER: Standing[] = ['new', 'theirs newer', 'both changed', 'ours newer', 'same'];
const MOST_CHANGES = 6;
const keyOf = (b: Beside) => `${b.kind}/${b.id}`;

/** A bundle of another shop’s sheets: what is new or otherwise, each chosen by itself. What both shops changed is not chosen unasked. */
export function BundleIn({ compared, onDone }: { compared: Compared; onDone: (says: string) => void }) {
  const units = useUnits();
  const client = useQueryClient();
  const takeable = compared.sheets.filter((b) => b.text !== undefined);
  const [on, setOn] = useState(() => new Set(takeable.filter((b) => b.standing !== 'both changed').map(keyOf)));
  const take = useMutation({
    mutationFn: async () => {
      const chosen = takeable.filter((b) => on.has(keyOf(b)));
      for (const b of chosen)
        await call(`/api/sheets?${new URLSearchParams({ reason: `from ${compared.from}`, from: String(b.revision) }).toString()}`, {
          text: b.text!,
        });
      return chosen.length;
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['sheets'] }),
    onSuccess: (n) => onDone(`${n} ${n === 1 ? 'sheet is' : 'sheets are'} in, from ${compared.from}.`),
  });
  const sorted = [...compared.sheets].sort((a, b) => ORDER.indexOf(a.standing) - ORDER.indexOf(b.standing));
  const same = sorted.filter((b) => b.standing === 'same').length;
  return (
    <Sheet mb="16px" aria-label="Sheets of another shop">
      <chakra.h2 fontSize="18px" mb="6px">
        From {compared.from}: {compared.sheets.length} {compared.sheets.length === 1 ? 'sheet' : 'sheets'}
        {same ? `, ${same} the same here` : ''}
      </chakra.h2>
      {sorted
        .filter((b) => b.standing !== 'same')
        .map((b) => {
          const id = `take-${keyOf(b)}`;
          return (
            <chakra.div
              key={keyOf(b)}
              py="6px"
              borderTopWidth="1px"
              borderColor="rule"
              display="grid"
              gridTemplateColumns="22px minmax(0, 1fr)"
              columnGap="12px"
              alignItems="start"
            >
              <input
                type="checkbox"
                style={{ width: 22, height: 22 }}
                id={id}
                checked={on.has(keyOf(b))}
                disabled={b.text === undefined}
                onChange={(e) => {
                  const next = new Set(on);
                  if (e.target.checked) next.add(keyOf(b));
                  else next.delete(keyOf(b));
                  setOn(next);
                }}
              />
              <div>
                <label htmlFor={id}>
                  <b>{b.name}</b>, {SAYS[b.standing]}
                </label>
                {b.problems.map((p) => (
                  <chakra.p key={p} color="fails" fontSize="14px">
                    {p}
                  </chakra.p>
                ))}
                {b.changes.length > 0 && (
                  <chakra.ul p="0 0 0 18px" fontSize="14px" color="quiet">
                    {b.changes.slice(0, MOST_CHANGES).map((c) => (
                      <li key={c}>{sayInUnits(c, units)}</li>
                    ))}
                    {b.changes.length > MOST_CHANGES && <li>and {b.changes.length - MOST_CHANGES} more</li>}
                  </chakra.ul>
                )}
              </div>
            </chakra.div>
          );
        })}
      {take.error && (
        <chakra.p role="alert" color="fails">
          {take.error.message}
        </chakra.p>
      )}
      <chakra.div display="flex" gap="8px" mt="10px">
        <ServerAct look="main" disabled={!on.size || take.isPending} onClick={() => take.mutate()}>
          Take in {on.size} {on.size === 1 ? 'sheet' : 'sheets'}
        </ServerAct>
        <Act onClick={() => onDone('')}>Leave them</Act>
      </chakra.div>
    </Sheet>
  );
}
