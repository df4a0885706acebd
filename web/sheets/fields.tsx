import { chakra } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';
import { parseQuantity, showQuantity, type QuantityKind } from '#core/quantity/quantity';
import type { Axis } from '#core/sheets/edit-model';
import type { UnitModel } from '#model/unit-model';
import { useUnits } from '../app/context';
import { Act, Choice, Entry, Labelled, Lines } from '../app/ui';

/** What the coordinates of a unit’s frame are called. */
export const axesOf = (m: Pick<UnitModel, 'kind'>): [Axis, string][] => [
  ['x', m.kind === 'boat' ? 'Ahead of the stern' : 'Ahead of the rear axle'],
  ['y', 'Left of the middle'],
  ['z', m.kind === 'boat' ? 'Above the bottom of the hull' : 'Above the ground'],
];

/** A quantity that is typed in place, in either system of units; null where it was left empty. */
export function QuantityField({
  id,
  label,
  kind,
  value,
  note,
  placeholder,
  digits = 4,
  onTyped,
}: {
  id: string;
  label: string;
  kind: QuantityKind;
  value: number | null;
  note?: string | undefined;
  placeholder?: string;
  digits?: number;
  onTyped: (si: number | null) => void;
}) {
  const units = useUnits();
  const as = value === null ? '' : showQuantity(value, kind, units, digits);
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const commit = () => {
    if (text === null || text.trim() === as) return setText(null);
    try {
      const typed = text.trim();
      onTyped(typed ? parseQuantity(typed.replace(/^[-−]/, ''), kind, units) * (/^[-−]/.test(typed) ? -1 : 1) : null);
      setText(null);
      setWrong(null);
    } catch (e) {
      setWrong((e as Error).message);
    }
  };
  return (
    <Labelled id={id} label={label} error={wrong} note={note}>
      <Entry
        id={id}
        value={text ?? as}
        fontFamily="mono"
        autoComplete="off"
        placeholder={placeholder}
        aria-invalid={wrong ? true : undefined}
        onChange={(e) => (setText(e.target.value), setWrong(null))}
        onBlur={commit}
        onKeyDown={(e) => e.key === 'Enter' && commit()}
      />
    </Labelled>
  );
}

/** Words that are typed in place, put in when the field is left. */
export function WordsField({
  id,
  label,
  value,
  most,
  long = false,
  onTyped,
}: {
  id: string;
  label: string;
  value: string;
  most: number;
  long?: boolean;
  onTyped: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() !== value) onTyped(text.trim());
    setText(null);
  };
  const shared = {
    id,
    value: text ?? value,
    maxLength: most,
    autoComplete: 'off',
    onChange: (e: { target: { value: string } }) => setText(e.target.value),
    onBlur: commit,
  };
  return (
    <Labelled id={id} label={label}>
      {long ? <Lines {...shared} /> : <Entry {...shared} onKeyDown={(e) => e.key === 'Enter' && commit()} />}
    </Labelled>
  );
}

/** Things of which some are on, each pressed by itself. */
export function Toggles<T extends string>({
  label,
  options,
  on,
  onToggle,
}: {
  label: string;
  options: readonly { id: T; name: ReactNode }[];
  on: readonly T[];
  onToggle: (id: T, on: boolean) => void;
}) {
  return (
    <chakra.div role="group" aria-label={label}>
      <chakra.p fontSize="14px" color="quiet" mb="4px">
        {label}
      </chakra.p>
      <chakra.div display="flex" flexWrap="wrap" gap="4px">
        {options.map((o) => {
          const is = on.includes(o.id);
          return (
            <Act
              key={o.id}
              on={is}
              aria-pressed={is}
              minHeight="36px"
              px="8px"
              fontSize="14px"
              whiteSpace="normal"
              textAlign="left"
              onClick={() => onToggle(o.id, !is)}
            >
              {o.name}
            </Act>
          );
        })}
      </chakra.div>
    </chakra.div>
  );
}

/** One of several, picked from a list. */
export function Picking<T extends string>({
  id,
  label,
  value,
  options,
  onPick,
}: {
  id: string;
  label: string;
  value: T | '';
  options: readonly { id: T | ''; name: string }[];
  onPick: (v: T | '') => void;
}) {
  return (
    <Labelled id={id} label={label}>
      <Choice id={id} value={value} onChange={(e) => onPick(e.target.value as T | '')}>
        {options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.name}
          </option>
        ))}
      </Choice>
    </Labelled>
  );
}

/** Two fields side by side. */
export const Two = chakra('div', { base: { display: 'grid', gap: '8px', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)' } });
