import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import {
  guessColumns,
  isBad,
  NO_COLUMN,
  readTable,
  tableLines,
  type BadRow,
  type Columns,
  type TableColumn,
  type TableKind,
} from '#core/sheets/read-table';
import { useDraft } from '../app/kept';
import { Act, Choice, Labelled, Lines, Sheet } from '../app/ui';

const SHOWN_ROWS = 6;

/**
 * Pasted or read rows, their columns matched by a person; how columns of such a table were matched is remembered.
 * `onLines` may throw for what cannot be put in together: then it is said, and nothing is.
 */
export function TableIn<C extends string, L>({
  label,
  kind,
  onLines,
  onDone,
}: {
  label: string;
  kind: TableKind<C, L>;
  onLines: (lines: L[]) => void;
  onDone: () => void;
}) {
  const [text, setText] = useState('');
  const [refused, setRefused] = useState<string | null>(null);
  const read = useMemo(() => {
    if (!text.trim()) return null;
    try {
      return { table: readTable(text, kind), wrong: null };
    } catch (e) {
      return { table: null, wrong: (e as Error).message };
    }
  }, [text, kind]);
  const table = read?.table ?? null;
  const names = Object.keys(kind.columns) as C[];
  const [kept, keep] = useDraft(
    `columns.${names.join('.')}.${table?.heads?.join('|').slice(0, 120) ?? `of ${table?.rows[0]?.length ?? 0}`}`,
  );
  const [set, setSet] = useState<Columns<C> | null>(null);
  const columns = table ? (set ?? (kept ? (JSON.parse(kept) as Columns<C>) : guessColumns(table, kind))) : [];
  const lines = useMemo(() => {
    try {
      return table ? { list: tableLines(table, kind, columns), wrong: null } : null;
    } catch (e) {
      return { list: [], wrong: (e as Error).message };
    }
  }, [table, kind, columns.join()]); // eslint-disable-line react-hooks/exhaustive-deps
  const good = (lines?.list ?? []).filter((l): l is L => !isBad(l));
  const bad = (lines?.list ?? []).filter((l): l is BadRow => isBad(l));
  const put = (t: string) => {
    setText(t);
    setSet(null);
    setRefused(null);
  };
  return (
    <Sheet mt="8px" mb="8px" p="10px 14px" aria-label={label}>
      <Labelled id="table" label="Paste the table here, or choose a file of it" error={read?.wrong ?? lines?.wrong ?? refused}>
        <Lines id="table" value={text} onChange={(e) => put(e.target.value)} fontFamily="mono" fontSize="14px" />
      </Labelled>
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/plain"
        aria-label="File of the table"
        onChange={(e) => {
          const f = e.target.files?.[0];
          if (f) void f.text().then(put);
        }}
      />
      {table && (
        <chakra.div overflowX="auto" mt="8px">
          <chakra.table fontSize="14px">
            <thead>
              <tr>
                {columns.map((c, i) => (
                  <chakra.th key={i} pr="8px" textAlign="left" minW="110px">
                    {table.heads && (
                      <chakra.span display="block" fontWeight={400} color="quiet">
                        {table.heads[i]}
                      </chakra.span>
                    )}
                    <Choice
                      aria-label={`Column ${i + 1}${table.heads ? `, ${table.heads[i]}` : ''}`}
                      value={c}
                      onChange={(e) => {
                        const to = e.target.value as C | typeof NO_COLUMN;
                        setSet(columns.map((x, j) => (j === i ? to : x === to ? NO_COLUMN : x)));
                      }}
                    >
                      {names.map((k) => (
                        <option key={k} value={k}>
                          {(kind.columns[k] as TableColumn).name}
                        </option>
                      ))}
                      <option value={NO_COLUMN}>leave it out</option>
                    </Choice>
                  </chakra.th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.slice(0, SHOWN_ROWS).map((r, i) => (
                <chakra.tr key={i} borderTopWidth="1px" borderColor="rule">
                  {columns.map((_, j) => (
                    <chakra.td key={j} py="3px" pr="8px">
                      {r[j]}
                    </chakra.td>
                  ))}
                </chakra.tr>
              ))}
            </tbody>
          </chakra.table>
        </chakra.div>
      )}
      {table && table.rows.length > SHOWN_ROWS && (
        <chakra.p fontSize="14px" color="quiet">
          and {table.rows.length - SHOWN_ROWS} rows more
        </chakra.p>
      )}
      {bad.map((b) => (
        <chakra.p key={b.row} color="fails" fontSize="14px">
          {b.says}: left out
        </chakra.p>
      ))}
      <chakra.div display="flex" gap="6px" alignItems="end" flexWrap="wrap" mt="8px">
        <Act
          look="main"
          disabled={!good.length}
          onClick={() => {
            try {
              onLines(good);
              keep(JSON.stringify(columns));
              onDone();
            } catch (e) {
              setRefused((e as Error).message);
            }
          }}
        >
          Take in {good.length} {good.length === 1 ? 'line' : 'lines'}
        </Act>
        <Act onClick={onDone}>Leave it</Act>
      </chakra.div>
    </Sheet>
  );
}
