import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { parse, printParseErrorCode, type ParseError } from 'jsonc-parser';
import { useState } from 'react';
import { z } from 'zod';
import type { Calculation } from '#core/calc/calculation';
import { runCalculation } from '#core/calc/registry';
import { ImpossibleInput } from '#core/errors';
import { figure, parseQuantity, type QuantityKind } from '#core/quantity/quantity';
import type { SumLine } from '#model/common';
import { queries } from '../app/api';
import { useOutbox, usePerson, useUnits } from '../app/context';
import { useDraft } from '../app/kept';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { SumLines } from '../marks/SumLines';

interface FieldInfo {
  key: string;
  title: string;
  unit?: string;
  /** `numbers`: written with commas between; `data`: a list or an object as JSON */
  kind: 'number' | 'boolean' | 'choice' | 'text' | 'numbers' | 'data';
  options?: string[];
  /** data that may be a plain word instead, such as a name */
  words: boolean;
  fallback?: unknown;
  needed: boolean;
  /** a choice among numbers */
  numeric: boolean;
}

const TYPED: Record<string, QuantityKind> = { m: 'length', V: 'volts', A: 'amps' };

/** What a page needs to know of each input, read from the calculation's own schema. */
function fieldsOf(calc: Calculation): FieldInfo[] {
  const schema = z.toJSONSchema(calc.input, { io: 'input' }) as {
    properties: Record<
      string,
      {
        type?: string;
        enum?: (string | number)[];
        title?: string;
        unit?: string;
        default?: unknown;
        items?: { type?: string };
        anyOf?: { type?: string }[];
      }
    >;
    required?: string[];
  };
  return Object.entries(schema.properties).map(([key, p]) => ({
    key,
    title: p.title ?? key,
    unit: p.unit,
    kind: p.enum
      ? 'choice'
      : p.type === 'boolean'
        ? 'boolean'
        : p.type === 'string'
          ? 'text'
          : p.type === 'array'
            ? p.items?.type === 'number'
              ? 'numbers'
              : 'data'
            : p.type === 'object' || p.anyOf
              ? 'data'
              : 'number',
    options: p.enum?.map(String),
    numeric: p.type === 'number',
    words: p.anyOf?.some((o) => o.type === 'string') ?? false,
    fallback: p.default,
    needed: schema.required?.includes(key) ?? false,
  }));
}

/** A list typed as JSON; an error names what is wrong in it. */
function readData(text: string): unknown {
  const problems: ParseError[] = [];
  const data: unknown = parse(text, problems, { allowTrailingComma: true });
  if (problems.length) {
    const before = text.slice(0, problems[0]!.offset);
    throw new Error(`not readable as JSON, near line ${before.split('\n').length}: ${printParseErrorCode(problems[0]!.error)}`);
  }
  return data;
}

const DataEntry = chakra('textarea', {
  base: {
    width: '100%',
    fontFamily: 'mono',
    fontSize: '14px',
    p: '8px 10px',
    borderWidth: '1px',
    borderColor: 'rule',
    borderRadius: 'kadro',
    bg: 'raised',
    whiteSpace: 'pre',
    overflowX: 'auto',
  },
});

export function CalcPage({ calc }: { calc: Calculation }) {
  const units = useUnits();
  const fields = fieldsOf(calc);
  const [draft, setDraft] = useDraft(`tool.${calc.name}`);
  const texts: Record<string, string> = draft ? (JSON.parse(draft) as Record<string, string>) : {};
  const text = (f: FieldInfo) => {
    const set = texts[f.key];
    if (set !== undefined) return set;
    const v = calc.example[f.key] ?? f.fallback;
    if (Array.isArray(v)) return f.kind === 'numbers' ? v.join(', ') : `[\n${v.map((x) => `  ${JSON.stringify(x)}`).join(',\n')}\n]`;
    if (typeof v === 'object' && v !== null)
      return `{\n${Object.entries(v)
        .map(([k, x]) => `  ${JSON.stringify(k)}: ${JSON.stringify(x)}`)
        .join(',\n')}\n}`;
    return v === undefined ? '' : f.unit === 'm' && typeof v === 'number' ? `${v} m` : String(v);
  };
  const put = (key: string, v: string) => setDraft(JSON.stringify({ ...texts, [key]: v }));

  const input: Record<string, unknown> = {};
  const errors: Record<string, string> = {};
  for (const f of fields) {
    const t = text(f).trim();
    if (!t && !f.needed) continue;
    try {
      if (f.kind === 'number') {
        const awg = f.unit === 'AWG' && /^([1-4])\/0$/.exec(t);
        input[f.key] = awg ? 1 - Number(awg[1]) : parseQuantity(t, TYPED[f.unit ?? ''] ?? 'plain', units);
      } else if (f.kind === 'numbers')
        input[f.key] = t
          .split(/[,;\s]+/)
          .filter(Boolean)
          .map((x) => parseQuantity(x, 'plain', units));
      else if (f.kind === 'data') input[f.key] = f.words && !/^[{[]/.test(t) ? t : readData(t);
      else input[f.key] = f.kind === 'boolean' ? t === 'true' : f.numeric ? Number(t) : t;
    } catch (e) {
      errors[f.key] = (e as Error).message;
    }
  }
  let result: Record<string, unknown> | null = null;
  let trouble: string | null = null;
  if (!Object.keys(errors).length)
    try {
      result = runCalculation(calc.name, input);
    } catch (e) {
      if (!(e instanceof ImpossibleInput)) throw e;
      if (e.path && fields.some((f) => f.key === e.path)) errors[e.path] = e.message.replace(`${e.path}: `, '');
      else trouble = e.message;
    }
  const lines = (result?.sum as SumLine[] | undefined) ?? [];
  const answer = lines
    .filter((l) => l.kind === 'result')
    .map((l) => `${l.label} ${typeof l.value === 'number' ? figure(l.value, 4) : l.value}${l.unit ? ` ${l.unit}` : ''}`)
    .join('; ');
  const rest = Object.entries(result ?? {}).filter(([k]) => k !== 'sum');
  return (
    <chakra.div maxW="880px">
      <chakra.h1 fontSize="24px">{calc.title}</chakra.h1>
      <chakra.p color="quiet" mb="14px">
        {calc.description}
      </chakra.p>
      <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) minmax(0, 1.3fr)" gap="32px">
        <chakra.div display="grid" gap="12px" alignContent="start">
          {fields.map((f) => (
            <Labelled
              key={f.key}
              id={f.key}
              label={`${f.title}${f.unit ? `, ${f.unit}` : ''}${f.needed ? '' : f.fallback === undefined ? ', may be empty' : ''}`}
              error={errors[f.key]}
            >
              {f.kind === 'boolean' || f.kind === 'choice' ? (
                <Choice id={f.key} value={text(f)} onChange={(e) => put(f.key, e.target.value)}>
                  {(f.options ?? ['false', 'true']).map((o) => (
                    <option key={o} value={o}>
                      {o === 'true' ? 'yes' : o === 'false' ? 'no' : o}
                    </option>
                  ))}
                </Choice>
              ) : f.kind === 'data' ? (
                <DataEntry
                  id={f.key}
                  rows={Math.min(14, text(f).split('\n').length + 1)}
                  value={text(f)}
                  onChange={(e) => put(f.key, e.target.value)}
                  aria-invalid={errors[f.key] ? true : undefined}
                  spellCheck={false}
                />
              ) : (
                <Entry
                  id={f.key}
                  fontFamily="mono"
                  value={text(f)}
                  onChange={(e) => put(f.key, e.target.value)}
                  aria-invalid={errors[f.key] ? true : undefined}
                  autoComplete="off"
                />
              )}
            </Labelled>
          ))}
          {draft && (
            <Act justifySelf="start" look="quiet" onClick={() => setDraft(null)}>
              Back to the example
            </Act>
          )}
        </chakra.div>
        <chakra.div aria-live="polite">
          {trouble && (
            <chakra.p role="alert" color="fails" fontSize="18px">
              {trouble}
            </chakra.p>
          )}
          {result && (
            <>
              <chakra.p fontSize="26px" fontWeight={700} mb="10px">
                {answer}
              </chakra.p>
              <SumLines lines={lines} />
              <chakra.details mt="10px">
                <chakra.summary cursor="pointer" color="accent" py="6px">
                  As data
                </chakra.summary>
                <chakra.pre fontFamily="mono" fontSize="14px" overflowX="auto">
                  {JSON.stringify(Object.fromEntries(rest), null, 2)}
                </chakra.pre>
              </chakra.details>
              <KeepInOrder name={calc.name} input={input} answer={answer} />
            </>
          )}
        </chakra.div>
      </chakra.div>
    </chakra.div>
  );
}

/** Puts a calculation's answer into an open order's log. */
function KeepInOrder({ name, input, answer }: { name: string; input: Record<string, unknown>; answer: string }) {
  const floor = useQuery(queries.floor).data?.orders ?? [];
  const outbox = useOutbox();
  const person = usePerson();
  const [order, setOrder] = useState('');
  const keep = () => {
    const o = floor.find((x) => x.id === order);
    if (!o) return;
    void outbox.add({
      order,
      command: { type: 'calc.kept', name, input, answer: answer.slice(0, 300) },
      onVersion: o.version,
      by: person.id,
    });
    outbox.tell(`Kept in order ${o.number}.`, 'quiet');
  };
  return (
    <chakra.div display="flex" gap="8px" mt="14px" alignItems="flex-end">
      <chakra.div flex="1">
        <Labelled label="Keep this in an order" id="keep-in">
          <Choice id="keep-in" value={order} onChange={(e) => setOrder(e.target.value)}>
            <option value="">choose an order</option>
            {floor.map((o) => (
              <option key={o.id} value={o.id}>
                {o.number} {o.summary.unitName}, {o.summary.owner}
              </option>
            ))}
          </Choice>
        </Labelled>
      </chakra.div>
      <Act disabled={!order} onClick={keep}>
        Keep
      </Act>
    </chakra.div>
  );
}
