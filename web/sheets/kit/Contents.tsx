import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { addContent, addStep, changeContent, type BoxPart } from '#core/sheets/edit-kit';
import { guessColumns, readTable, tableLines, type Column } from '#core/sheets/read-table';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { useDraft } from '../../app/kept';
import { Act, Choice, Entry, Labelled, Lines, Sheet } from '../../app/ui';

const COLUMNS: Record<Column, string> = { item: 'what it is', count: 'how many', torqueNm: 'torque, N·m', nothing: 'leave it out' };
const Row = chakra('div', { base: { display: 'flex', gap: '6px', alignItems: 'end', flexWrap: 'wrap', mt: '8px' } });

/** Pasted or read rows, their columns matched by a person; how columns of such a table were matched is remembered. */
function Table({ kit, onChange, onDone }: { kit: Kit; onChange: (k: Kit) => void; onDone: () => void }) {
  const [text, setText] = useState('');
  const read = useMemo(() => {
    if (!text.trim()) return null;
    try {
      return { table: readTable(text), wrong: null };
    } catch (e) {
      return { table: null, wrong: (e as Error).message };
    }
  }, [text]);
  const table = read?.table ?? null;
  const [kept, keep] = useDraft(`columns.${table?.heads?.join('|').slice(0, 120) ?? `of ${table?.rows[0]?.length ?? 0}`}`);
  const [set, setSet] = useState<Column[] | null>(null);
  const columns = table ? (set ?? (kept ? (JSON.parse(kept) as Column[]) : guessColumns(table))) : [];
  const lines = useMemo(() => {
    try {
      return table ? { list: tableLines(table, columns), wrong: null } : null;
    } catch (e) {
      return { list: [], wrong: (e as Error).message };
    }
  }, [table, columns.join()]); // eslint-disable-line react-hooks/exhaustive-deps
  const good = lines?.list.flatMap((l) => ('item' in l ? [l] : [])) ?? [];
  const bad = lines?.list.flatMap((l) => ('says' in l ? [l.says] : [])) ?? [];
  return (
    <Sheet mt="8px" p="10px 14px" aria-label="A table of the contents">
      <Labelled id="table" label="Paste the table here, or choose a file of it" error={read?.wrong ?? lines?.wrong ?? null}>
        <Lines id="table" value={text} onChange={(e) => (setText(e.target.value), setSet(null))} fontFamily="mono" fontSize="14px" />
      </Labelled>
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/plain"
        aria-label="File of the table"
        onChange={(e) => {
          const f = e.target.files?.[0];
          if (f) void f.text().then((t) => (setText(t), setSet(null)));
        }}
      />
      {table && (
        <chakra.div overflowX="auto" mt="8px">
          <chakra.table fontSize="14px">
            <thead>
              <tr>
                {columns.map((c, i) => (
                  <chakra.th key={i} pr="8px" textAlign="left">
                    <Choice
                      aria-label={`Column ${i + 1}${table.heads ? `, ${table.heads[i]}` : ''}`}
                      value={c}
                      onChange={(e) =>
                        setSet(columns.map((x, j) => (j === i ? (e.target.value as Column) : x === e.target.value ? 'nothing' : x)))
                      }
                    >
                      {(Object.keys(COLUMNS) as Column[]).map((k) => (
                        <option key={k} value={k}>
                          {COLUMNS[k]}
                        </option>
                      ))}
                    </Choice>
                  </chakra.th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.slice(0, 6).map((r, i) => (
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
      {bad.map((b) => (
        <chakra.p key={b} color="fails" fontSize="14px">
          {b}: left out
        </chakra.p>
      ))}
      <Row>
        <Act
          look="main"
          disabled={!good.length}
          onClick={() => {
            keep(JSON.stringify(columns));
            onChange(
              good.reduce((k, l) => {
                const next = addContent(k, l.item, l.count);
                return l.torqueNm === undefined
                  ? next
                  : changeContent(next, next.contents.length - 1, {
                      fastener: { torqueNm: l.torqueNm, threadLocker: false, holdsPerson: false },
                    });
              }, kit),
            );
            onDone();
          }}
        >
          Take in {good.length} {good.length === 1 ? 'line' : 'lines'}
        </Act>
        <Act onClick={onDone}>Leave it</Act>
      </Row>
    </Sheet>
  );
}

/** What is in the box, and what its maker wants done with it. */
export function Contents({
  kit,
  model,
  picked,
  onChange,
  onPick,
}: {
  kit: Kit;
  model: UnitModel;
  picked: BoxPart | null;
  onChange: (k: Kit) => void;
  onPick: (p: BoxPart) => void;
}) {
  const [item, setItem] = useState('');
  const [count, setCount] = useState('1');
  const [title, setTitle] = useState('');
  const [pasting, setPasting] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const line = { display: 'block', width: '100%', textAlign: 'left', fontWeight: 400, minHeight: '36px', px: '6px' } as const;
  return (
    <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr)" gap="16px" mt="12px">
      <section aria-label="Contents">
        <chakra.h2 fontSize="16px">In the box</chakra.h2>
        {kit.contents.map((c, i) => (
          <Act
            key={i}
            look="quiet"
            {...line}
            bg={picked?.kind === 'content' && picked.at === i ? 'accentWash' : undefined}
            onClick={() => onPick({ kind: 'content', at: i })}
          >
            {c.count} × {c.item}
            {c.fastener?.torqueNm !== undefined ? `, ${c.fastener.torqueNm} N·m` : ''}
          </Act>
        ))}
        <chakra.form
          onSubmit={(e) => {
            e.preventDefault();
            try {
              onChange(addContent(kit, item, Number(count)));
              setItem('');
              setCount('1');
              setWrong(null);
            } catch (x) {
              setWrong((x as Error).message);
            }
          }}
        >
          <Labelled id="new-item" label="What else" error={wrong}>
            <chakra.div display="grid" gridTemplateColumns="64px minmax(0, 1fr) auto" gap="6px">
              <Entry aria-label="How many of it" value={count} inputMode="numeric" onChange={(e) => setCount(e.target.value)} />
              <Entry
                id="new-item"
                value={item}
                maxLength={80}
                autoComplete="off"
                onChange={(e) => (setItem(e.target.value), setWrong(null))}
              />
              <Act type="submit" disabled={!item.trim()}>
                Add
              </Act>
            </chakra.div>
          </Labelled>
        </chakra.form>
        {pasting ? (
          <Table kit={kit} onChange={onChange} onDone={() => setPasting(false)} />
        ) : (
          <Act look="quiet" onClick={() => setPasting(true)}>
            From a table…
          </Act>
        )}
      </section>
      <section aria-label="Steps of the box">
        <chakra.h2 fontSize="16px">Its maker’s steps</chakra.h2>
        {!kit.steps.length && (
          <chakra.p fontSize="14px" color="quiet">
            What mounts, lays, joins and proves it is planned without any. Add what only its maker knows.
          </chakra.p>
        )}
        {kit.steps.map((s) => (
          <Act
            key={s.id}
            look="quiet"
            {...line}
            bg={picked?.kind === 'step' && picked.id === s.id ? 'accentWash' : undefined}
            onClick={() => onPick({ kind: 'step', id: s.id })}
          >
            {s.title}, {s.minutes} min
          </Act>
        ))}
        <chakra.form
          onSubmit={(e) => {
            e.preventDefault();
            const made = addStep(kit, title, 'mount', kit.devices[0]?.place ?? model.places[0]!.id);
            onChange(made.kit);
            onPick({ kind: 'step', id: made.id });
            setTitle('');
          }}
        >
          <Labelled id="new-step" label="One more step">
            <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) auto" gap="6px">
              <Entry id="new-step" value={title} maxLength={120} autoComplete="off" onChange={(e) => setTitle(e.target.value)} />
              <Act type="submit" disabled={!title.trim()}>
                Add
              </Act>
            </chakra.div>
          </Labelled>
        </chakra.form>
      </section>
    </chakra.div>
  );
}
