import { chakra } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';
import type { Settings } from '#model/settings';
import { Choice, Entry } from '../app/ui';
import { readAs, usual, writtenAs, type FigureField } from './subjects';
import { useSetting } from './useSetting';

/** A setting in its line: what it is, its field, what it does; and that it is kept, or why not. */
function Line({
  id,
  label,
  does,
  saved,
  error,
  children,
}: {
  id: string;
  label: string;
  does: ReactNode;
  saved: boolean;
  error: string | null;
  children: ReactNode;
}) {
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns="150px 170px minmax(0, 1fr)"
      gap="14px"
      alignItems="center"
      py="6px"
      borderTopWidth="1px"
      borderColor="rule"
    >
      <chakra.label htmlFor={id} fontWeight={600}>
        {label}
      </chakra.label>
      {children}
      <chakra.div fontSize="15px">
        <chakra.span color="quiet">{does}</chakra.span>
        {error ? (
          <chakra.span role="alert" display="block" color="fails">
            {error}
          </chakra.span>
        ) : (
          saved && (
            <chakra.span role="status" color="holds" ml="8px">
              Saved
            </chakra.span>
          )
        )}
      </chakra.div>
    </chakra.div>
  );
}

/** A figure: kept when it is left, or on Enter. */
export function FigureSetting({ of, locked }: { of: FigureField; locked: boolean }) {
  const { ready, value, save, saved, error } = useSetting(of.field);
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const shown = value === undefined ? '' : writtenAs(of, value);
  const commit = () => {
    if (text === null) return;
    try {
      setWrong(null);
      if (text.trim() !== shown) save(readAs(of, text), { onSuccess: () => setText(null) });
      else setText(null);
    } catch (e) {
      setWrong((e as Error).message);
    }
  };
  return (
    <Line
      id={of.field}
      label={of.label}
      does={`${of.does}. Usually ${usual(of)}${of.unit ? ` ${of.unit}` : ''}.`}
      saved={saved && text === null}
      error={wrong ?? error}
    >
      <chakra.span display="flex" gap="8px" alignItems="center">
        <Entry
          id={of.field}
          value={text ?? shown}
          inputMode="decimal"
          fontFamily="mono"
          textAlign="right"
          disabled={locked || !ready}
          aria-invalid={wrong || error ? true : undefined}
          onChange={(e) => setText(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => e.key === 'Enter' && commit()}
        />
        <chakra.span minW="36px" color="quiet">
          {of.unit}
        </chakra.span>
      </chakra.span>
    </Line>
  );
}

/** Words: kept when they are left, or on Enter. */
export function WordSetting({
  field,
  label,
  does,
  locked,
}: {
  field: 'shop' | 'currency' | 'publicAddress';
  label: string;
  does: string;
  locked: boolean;
}) {
  const { ready, value, save, saved, error } = useSetting(field);
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    if (text.trim() === value) return setText(null);
    save(text.trim(), { onSuccess: () => setText(null) });
  };
  return (
    <Line id={field} label={label} does={does} saved={saved && text === null} error={error}>
      <Entry
        id={field}
        value={text ?? value ?? ''}
        disabled={locked || !ready}
        aria-invalid={error ? true : undefined}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === 'Enter' && commit()}
      />
    </Line>
  );
}

/** One of several: kept as soon as it is chosen. */
export function ChoiceSetting<K extends keyof Settings>({
  field,
  label,
  does,
  options,
  locked,
}: {
  field: K;
  label: string;
  does: string;
  options: readonly (readonly [Settings[K], string])[];
  locked: boolean;
}) {
  const { ready, value, save, saved, error } = useSetting(field);
  return (
    <Line id={field} label={label} does={does} saved={saved} error={error}>
      <Choice
        id={field}
        value={options.findIndex(([v]) => v === value)}
        disabled={locked || !ready}
        onChange={(e) => save(options[Number(e.target.value)]![0])}
      >
        {options.map(([v, word], i) => (
          <option key={String(v)} value={i}>
            {word}
          </option>
        ))}
      </Choice>
    </Line>
  );
}
