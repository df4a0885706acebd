import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { parseQuantity, showQuantity } from '#core/quantity/quantity';
import { EquipmentFunction, LightColour } from '#model/common';
import { useUnits } from '../app/context';
import { Act, Choice, Entry, Labelled, Lines } from '../app/ui';

/** An item as it is being written: it may be wrong. */
export type Raw = Record<string, unknown>;

type Field =
  | { key: string; label: string; as: 'text' | 'functions' | 'colours' | 'bool' | 'json' }
  | { key: string; label: string; as: 'number' | 'mm'; optional?: boolean }
  | { key: string; label: string; as: 'band'; mm?: boolean; optional?: boolean }
  | { key: string; label: string; as: 'choice'; of: readonly string[] }
  | { key: string; label: string; as: 'arc' };

const of: Field = { key: 'of', label: 'Which', as: 'functions' };
const measure: Field = { key: 'measure', label: 'Measured between', as: 'choice', of: ['centres', 'edges'] };
const question: Field = { key: 'question', label: 'Question to the person who tries it', as: 'text' };

const FIELDS: Record<string, Field[]> = {
  equipment: [
    { key: 'anyOf', label: 'Any of', as: 'functions' },
    { key: 'count', label: 'How many', as: 'number', optional: true },
    { key: 'most', label: 'No more than', as: 'number', optional: true },
    { key: 'eachSide', label: 'One on each side', as: 'bool' },
    { key: 'colour', label: 'Colour, any of', as: 'colours' },
    { key: 'heightMm', label: 'Height of its centre', as: 'band', mm: true, optional: true },
  ],
  separation: [of, { key: 'apartMm', label: 'Apart', as: 'band', mm: true }, measure],
  clearance: [
    of,
    { key: 'from', label: 'Clear of', as: 'functions' },
    { key: 'leastMm', label: 'By at least', as: 'mm' },
    measure,
    { key: 'single', label: 'Only where there is a single one of those', as: 'bool' },
  ],
  edge: [of, { key: 'mostMm', label: 'In from the edge by at most', as: 'mm' }],
  symmetry: [of, { key: 'withinMm', label: 'Alike within', as: 'mm' }],
  above: [of, { key: 'over', label: 'Above', as: 'functions' }, { key: 'leastMm', label: 'By at least', as: 'mm' }],
  sector: [
    of,
    { key: 'arcDeg', label: 'Arc, degrees clockwise from dead ahead', as: 'arc' },
    { key: 'hiddenMostDeg', label: 'Hidden in one piece, at most (°)', as: 'number', optional: true },
  ],
  intensity: [
    of,
    { key: 'rangeNm', label: 'Seen at (sea miles)', as: 'number', optional: true },
    { key: 'candela', label: 'or at least (cd)', as: 'number', optional: true },
  ],
  flash: [
    { key: 'perMinute', label: 'Flashes a minute', as: 'band' },
    { key: 'onSharePct', label: 'Lit of each beat (%)', as: 'band', optional: true },
  ],
  logic: [
    question,
    { key: 'given', label: 'Wherever all of this is so (JSON)', as: 'json' },
    { key: 'then', label: 'all of this must be (JSON)', as: 'json' },
    { key: 'flashing', label: 'Lit means flashing', as: 'bool' },
  ],
  reading: [
    question,
    { key: 'unit', label: 'Read in', as: 'choice', of: ['m', 'mm', 'dB', 'N', 'count'] },
    { key: 'band', label: 'Within', as: 'band' },
  ],
  proof: [question],
  limit: [
    { key: 'of', label: 'Of', as: 'choice', of: ['gvwrKg', 'topSpeedKmh', 'lengthM'] },
    { key: 'above', label: 'Above', as: 'number', optional: true },
    { key: 'atMost', label: 'At most', as: 'number', optional: true },
    { key: 'below', label: 'Under', as: 'number', optional: true },
  ],
  weight: [{ key: 'atMostKg', label: 'At most, kg (empty: its gross rating)', as: 'number', optional: true }],
};
const COMMON: Field[] = [
  { key: 'title', label: 'Title', as: 'text' },
  { key: 'source', label: 'Source', as: 'text' },
];

/** The fields of one rule, by its kind, each checked as it is typed. */
export function RuleFields({ item, index, onChange }: { item: Raw; index: number; onChange: (item: Raw) => void }) {
  const put = (key: string, value: unknown) => {
    const { [key]: _, ...rest } = item;
    onChange(value === undefined ? rest : { ...rest, [key]: value });
  };
  const fields = [
    ...COMMON,
    ...(FIELDS[String(item.kind)] ?? []),
    { key: 'when', label: 'Only for some units (JSON; empty for all)', as: 'json' } as Field,
  ];
  return (
    <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="10px" p="8px 12px 14px" bg="raised" borderRadius="kadro">
      {!FIELDS[String(item.kind)] && (
        <chakra.p color="fails" gridColumn="1 / -1">
          “{String(item.kind)}” is no kind of rule: take this item off, or mend it in the file.
        </chakra.p>
      )}
      {fields.map((f) => (
        <One key={f.key} field={f} id={`item-${index}-${f.key}`} value={item[f.key]} put={(v) => put(f.key, v)} />
      ))}
    </chakra.div>
  );
}

function One({ field, id, value, put }: { field: Field; id: string; value: unknown; put: (v: unknown) => void }) {
  switch (field.as) {
    case 'text':
      return (
        <Labelled label={field.label} id={id}>
          <Entry id={id} value={typeof value === 'string' ? value : ''} maxLength={200} onChange={(e) => put(e.target.value)} />
        </Labelled>
      );
    case 'bool':
      return (
        <chakra.label display="inline-flex" gap="8px" alignItems="center" minHeight="40px">
          <input type="checkbox" checked={value === true} onChange={(e) => put(e.target.checked ? true : undefined)} />
          {field.label}
        </chakra.label>
      );
    case 'choice':
      return (
        <Labelled label={field.label} id={id}>
          <Choice id={id} value={String(value ?? '')} onChange={(e) => put(e.target.value)}>
            {field.of.map((o) => (
              <option key={o}>{o}</option>
            ))}
          </Choice>
        </Labelled>
      );
    case 'functions':
      return <Many label={field.label} id={id} options={EquipmentFunction.options} value={value} put={put} />;
    case 'colours':
      return <Many label={field.label} id={id} options={LightColour.options} value={value} put={put} optional />;
    case 'number':
    case 'mm':
      return <Figure label={field.label} id={id} mm={field.as === 'mm'} optional={field.optional} value={value} put={put} />;
    case 'band': {
      const b = (typeof value === 'object' && value !== null ? value : {}) as { min?: unknown; max?: unknown };
      const set = (key: 'min' | 'max', v: unknown) => {
        const next = { ...b, [key]: v };
        if (v === undefined) delete next[key];
        put(Object.keys(next).length ? next : field.optional ? undefined : {});
      };
      return (
        <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
          <Figure label={`${field.label}, from`} id={`${id}-min`} mm={field.mm} optional value={b.min} put={(v) => set('min', v)} />
          <Figure label="to" id={`${id}-max`} mm={field.mm} optional value={b.max} put={(v) => set('max', v)} />
        </chakra.div>
      );
    }
    case 'arc': {
      const a = Array.isArray(value) ? (value as unknown[]) : [];
      return (
        <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
          <Figure label={`${field.label}, from`} id={`${id}-from`} value={a[0]} put={(v) => put([v, a[1]])} />
          <Figure label="to" id={`${id}-to`} value={a[1]} put={(v) => put([a[0], v])} />
        </chakra.div>
      );
    }
    case 'json':
      return <Json label={field.label} id={id} value={value} put={put} />;
  }
}

function Figure({
  label,
  id,
  mm = false,
  optional = false,
  value,
  put,
}: {
  label: string;
  id: string;
  mm?: boolean;
  optional?: boolean;
  value: unknown;
  put: (v: unknown) => void;
}) {
  const units = useUnits();
  const shown = typeof value === 'number' ? (mm ? showQuantity(value, 'smallLength', units) : String(value)) : '';
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    if (!text.trim()) {
      if (optional) {
        put(undefined);
        setText(null);
        setError(null);
      } else setError('a figure is needed');
      return;
    }
    try {
      put(Number(parseQuantity(text, mm ? 'smallLength' : 'plain', units).toFixed(3)));
      setText(null);
      setError(null);
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <Labelled label={label} id={id} error={error}>
      <Entry
        id={id}
        value={text ?? shown}
        fontFamily="mono"
        aria-invalid={error ? true : undefined}
        autoComplete="off"
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
      />
    </Labelled>
  );
}

function Many({
  label,
  id,
  options,
  value,
  put,
  optional = false,
}: {
  label: string;
  id: string;
  options: readonly string[];
  value: unknown;
  put: (v: unknown) => void;
  optional?: boolean;
}) {
  const list = Array.isArray(value) ? (value as string[]) : [];
  const set = (next: string[]) => put(next.length || !optional ? next : undefined);
  return (
    <Labelled label={label} id={id}>
      <chakra.div display="flex" flexWrap="wrap" gap="4px">
        {list.map((v) => (
          <Act key={v} type="button" minHeight="32px" fontSize="14px" onClick={() => set(list.filter((x) => x !== v))} title="take off">
            {v.replaceAll('-', ' ')} ×
          </Act>
        ))}
        <Choice id={id} value="" onChange={(e) => e.target.value && set([...list, e.target.value])} width="auto" minHeight="32px">
          <option value="">add…</option>
          {options
            .filter((o) => !list.includes(o))
            .map((o) => (
              <option key={o} value={o}>
                {o.replaceAll('-', ' ')}
              </option>
            ))}
        </Choice>
      </chakra.div>
    </Labelled>
  );
}

function Json({ label, id, value, put }: { label: string; id: string; value: unknown; put: (v: unknown) => void }) {
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    try {
      put(text.trim() ? (JSON.parse(text) as unknown) : undefined);
      setText(null);
      setError(null);
    } catch {
      setError('this is not JSON yet');
    }
  };
  return (
    <Labelled label={label} id={id} error={error}>
      <Lines
        id={id}
        fontFamily="mono"
        fontSize="14px"
        value={text ?? (value === undefined ? '' : JSON.stringify(value))}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        aria-invalid={error ? true : undefined}
      />
    </Labelled>
  );
}
