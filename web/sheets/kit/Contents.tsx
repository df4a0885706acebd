import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { addContent, addStep, changeContent, type BoxPart } from '#core/sheets/edit-kit';
import { CONTENTS } from '#core/sheets/tables';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { Act, Entry, Labelled } from '../../app/ui';
import { TableIn } from '../TableIn';

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
          <TableIn
            label="A table of the contents"
            kind={CONTENTS}
            onDone={() => setPasting(false)}
            onLines={(lines) =>
              onChange(
                lines.reduce((k, l) => {
                  const next = addContent(k, l.item, l.count);
                  return l.torqueNm === undefined
                    ? next
                    : changeContent(next, next.contents.length - 1, {
                        fastener: { torqueNm: l.torqueNm, threadLocker: false, holdsPerson: false },
                      });
                }, kit),
              )
            }
          />
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
