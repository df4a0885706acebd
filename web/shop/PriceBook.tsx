import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { LABOUR_WORDS } from '#core/money/price-lines';
import { LABOUR, PART_KINDS, PriceBook as Book } from '#model/money';
import { offered, queries } from '../app/api';
import { Entry } from '../app/ui';
import { H3 } from '../order/Station';
import { Kept } from './Kept';
import { NamedAmounts } from './NamedAmounts';
import { useSetting, type SettingOf } from './useSetting';

const KIND_WORDS: Record<(typeof PART_KINDS)[number], string> = {
  wire: 'Wire, a metre',
  fuse: 'Fuses with holders',
  relay: 'Relays',
  end: 'Terminals and ends',
  part: 'Things agreed at Power',
  buy: 'Things bought besides',
};
/** Kinds of which any one may have a usual cost. */
const USUAL = ['wire', 'fuse', 'relay', 'end'] as const;

/** What is typed: text until it is kept. */
interface Typed {
  labour: Record<string, string>;
  kits: Record<string, string>;
  parts: { id: string; cost: string }[];
  markUp: Record<string, string>;
}
const typedOf = (b: Book): Typed => ({
  labour: { ...b.labour },
  kits: Object.fromEntries(b.kits.map((k) => [k.kit, k.price])),
  parts: b.parts.filter((p) => !(USUAL as readonly string[]).includes(p.id)),
  markUp: {
    ...b.markUp,
    ...Object.fromEntries(b.parts.filter((p) => (USUAL as readonly string[]).includes(p.id)).map((p) => [`cost ${p.id}`, p.cost])),
  },
});
const filled = (list: Record<string, string>) => Object.entries(list).filter(([, v]) => v.trim());
const bookOf = (t: Typed): unknown => ({
  labour: Object.fromEntries(filled(t.labour)),
  kits: filled(t.kits).map(([kit, price]) => ({ kit, price })),
  parts: [
    ...filled(t.markUp)
      .filter(([k]) => k.startsWith('cost '))
      .map(([k, cost]) => ({ id: k.slice('cost '.length), cost })),
    ...t.parts,
  ],
  markUp: Object.fromEntries(filled(t.markUp).filter(([k]) => !k.startsWith('cost '))),
});

/** What the shop sells its work and things for. */
export function PriceBook({ locked }: { locked: boolean }) {
  const kept = useSetting('priceBook');
  return kept.value ? <Form key={JSON.stringify(kept.value)} book={kept.value} kept={kept} locked={locked} /> : null;
}

function Form({ book, kept, locked }: { book: Book; kept: SettingOf<'priceBook'>; locked: boolean }) {
  const { save, saved, error } = kept;
  const kits = offered(useQuery(queries.sheets).data?.kits);
  const [t, setT] = useState<Typed>(() => typedOf(book));
  const read = Book.safeParse(bookOf(t));
  const wrong = read.success ? null : read.error.issues[0]!;
  const field = (label: string, list: 'labour' | 'kits' | 'markUp', key: string, placeholder = '') => (
    <Entry
      aria-label={label}
      disabled={locked}
      fontFamily="mono"
      textAlign="right"
      inputMode="decimal"
      placeholder={placeholder}
      value={t[list][key] ?? ''}
      onChange={(e) => setT({ ...t, [list]: { ...t[list], [key]: e.target.value } })}
    />
  );
  const dirty = JSON.stringify(bookOf(t)) !== JSON.stringify(bookOf(typedOf(book)));
  return (
    <chakra.form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (read.success) save(read.data);
      }}
    >
      <H3>An hour of work</H3>
      <chakra.p color="quiet" mb="6px">
        Where a kind of work has a price of its own; empty, it is that of any work.
      </chakra.p>
      <chakra.div display="grid" gridTemplateColumns="repeat(2, minmax(0, 1fr) 120px)" gap="8px 14px" alignItems="center">
        {LABOUR.map((k) => (
          <Pair key={k} label={LABOUR_WORDS[k]}>
            {field(`An hour: ${LABOUR_WORDS[k]}`, 'labour', k)}
          </Pair>
        ))}
      </chakra.div>
      <H3>Kits</H3>
      <chakra.div display="grid" gridTemplateColumns="repeat(2, minmax(0, 1fr) 120px)" gap="8px 14px" alignItems="center">
        {kits.map((k) => (
          <Pair key={k.ref.id} label={k.sheet.name}>
            {field(`Price of ${k.sheet.name}`, 'kits', k.ref.id)}
          </Pair>
        ))}
      </chakra.div>
      <H3>Parts off the shelf</H3>
      <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) 140px 140px" gap="8px 14px" alignItems="center">
        <span />
        <chakra.span color="quiet" fontSize="14px">
          costs the shop, each
        </chakra.span>
        <chakra.span color="quiet" fontSize="14px">
          mark-up
        </chakra.span>
        {PART_KINDS.map((k) => (
          <chakra.div key={k} display="contents">
            <span>{KIND_WORDS[k]}</span>
            {(USUAL as readonly string[]).includes(k) ? field(`Cost: ${KIND_WORDS[k]}`, 'markUp', `cost ${k}`) : <span />}
            {field(`Mark-up: ${KIND_WORDS[k]}`, 'markUp', k, '40 %')}
          </chakra.div>
        ))}
      </chakra.div>
      <chakra.p color="quiet" mt="12px" mb="6px">
        Parts with a cost of their own, by the name that the plan and the shelf give them, such as fuse-blade-15 or wire-6.
      </chakra.p>
      <NamedAmounts
        what="part"
        amount="Cost"
        mono
        locked={locked}
        rows={t.parts.map((p) => ({ name: p.id, amount: p.cost }))}
        onRows={(rows) => setT({ ...t, parts: rows.map((r) => ({ id: r.name, cost: r.amount })) })}
      />
      <Kept
        locked={locked}
        dirty={dirty}
        saved={saved}
        action="Save the price book"
        error={error ?? (dirty && wrong ? `${sayWhere(wrong.path, t, kits)}${wrong.message}` : null)}
        ready={read.success}
      />
    </chakra.form>
  );
}

const Pair = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <>
    <chakra.span minW={0} overflowWrap="anywhere">
      {label}
    </chakra.span>
    {children}
  </>
);

/** Which line an error speaks of, by what it is called. */
function sayWhere(path: readonly PropertyKey[], t: Typed, kits: readonly { ref: { id: string }; sheet: { name: string } }[]): string {
  const [list, at] = path;
  if (list === 'kits' && typeof at === 'number') {
    const id = filled(t.kits)[at]?.[0];
    return `${kits.find((k) => k.ref.id === id)?.sheet.name ?? id}: `;
  }
  if (list === 'labour') return `An hour of ${LABOUR_WORDS[at as keyof typeof LABOUR_WORDS]}: `;
  if (list === 'markUp') return `Mark-up of ${KIND_WORDS[at as keyof typeof KIND_WORDS]}: `;
  return list === 'parts' ? 'Parts: ' : '';
}
