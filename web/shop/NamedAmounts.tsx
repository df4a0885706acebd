import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { Act, Entry } from '../app/ui';

/** Rows of a name and an amount: each may be changed or taken off, and one more added. */
export function NamedAmounts({
  what,
  amount,
  rows,
  locked,
  mono = false,
  onRows,
}: {
  /** what a row is, such as `fee` */
  what: string;
  /** what its amount is, such as `Amount` */
  amount: string;
  rows: readonly { name: string; amount: string }[];
  locked: boolean;
  /** names are typed as the plan writes them */
  mono?: boolean;
  onRows: (rows: { name: string; amount: string }[]) => void;
}) {
  const put = (i: number, patch: { name?: string; amount?: string }) => onRows(rows.map((r, k) => (k === i ? { ...r, ...patch } : r)));
  return (
    <>
      {rows.map((r, i) => (
        <chakra.div key={i} display="grid" gridTemplateColumns="minmax(0, 1fr) 140px 44px" gap="8px" mb="6px">
          <Entry
            aria-label={`Name of ${what} ${i + 1}`}
            disabled={locked}
            value={r.name}
            fontFamily={mono ? 'mono' : undefined}
            onChange={(e) => put(i, { name: e.target.value })}
          />
          <Entry
            aria-label={`${amount} of ${what} ${i + 1}`}
            disabled={locked}
            value={r.amount}
            fontFamily="mono"
            textAlign="right"
            inputMode="decimal"
            onChange={(e) => put(i, { amount: e.target.value })}
          />
          {!locked && (
            <Act type="button" look="quiet" aria-label={`Without ${what} ${i + 1}`} onClick={() => onRows(rows.filter((_, k) => k !== i))}>
              <X size={18} aria-hidden />
            </Act>
          )}
        </chakra.div>
      ))}
      {!locked && (
        <Act type="button" onClick={() => onRows([...rows, { name: '', amount: '' }])}>
          <Plus size={18} aria-hidden /> A {what}
        </Act>
      )}
    </>
  );
}
