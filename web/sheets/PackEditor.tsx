import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { itemProblem, packFile } from '#core/lighting/pack';
import { KIND_WORD, sayRule } from '#core/lighting/say-rule';
import { showQuantity } from '#core/quantity/quantity';
import { UnitKind } from '#model/common';
import { RULE_KINDS, RuleItem, RulePackHead, type RuleKind, type RulePack } from '#model/rule-pack';
import { call, type ApiError } from '../app/api';
import { useUnits } from '../app/context';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { useDraft } from '../app/kept';
import { H3 } from '../order/Station';
import { RuleFields, type Raw } from './RuleFields';

interface Draft {
  head: { id: string; name: string; place: string; edition: string; kinds: string[]; caution: string };
  items: Raw[];
  open: number | null;
}
const slug = (t: string) =>
  t
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

/** What each kind begins with. */
const NEW: Record<RuleKind, Raw> = {
  equipment: { anyOf: ['headlamp'], count: 1 },
  separation: { of: ['turn-front'], apartMm: { min: 400 }, measure: 'centres' },
  clearance: { of: ['turn-front'], from: ['headlamp'], leastMm: 100, measure: 'edges' },
  edge: { of: ['tail'], mostMm: 400 },
  symmetry: { of: ['headlamp'], withinMm: 20 },
  above: { of: ['all-round'], over: ['sidelight-port', 'sidelight-starboard'], leastMm: 1000 },
  sector: { of: ['all-round'], arcDeg: [0, 360], hiddenMostDeg: 6 },
  intensity: { of: ['all-round'], rangeNm: 2 },
  flash: { perMinute: { min: 60, max: 120 } },
  logic: {
    given: [{ lit: ['headlamp'], which: 'any' }],
    then: [{ lit: ['tail'] }],
    question: 'Are the tail lamps lit whenever the headlamps are?',
  },
  reading: { question: 'From how far was it seen?', unit: 'm', band: { min: 100 } },
  proof: { question: 'Is it so?' },
  limit: { of: 'topSpeedKmh', atMost: 40 },
  weight: {},
};

/** A rule pack in the making: its place and edition, and its items with checked fields. Nothing is saved while an item is wrong. */
export function PackEditor({ pack, copy, ids, onClose }: { pack: RulePack; copy: boolean; ids: readonly string[]; onClose: () => void }) {
  const units = useUnits();
  const client = useQueryClient();
  const navigate = useNavigate();
  const begin: Draft = {
    head: {
      id: copy ? '' : pack.id,
      name: copy ? `${pack.name}, our place` : pack.name,
      place: copy ? '' : pack.place,
      edition: pack.edition,
      kinds: pack.kinds,
      caution: pack.caution,
    },
    items: (packFile(pack).items as Raw[]).map((i) => structuredClone(i)),
    open: null,
  };
  const [kept, setKept] = useDraft(`pack.${pack.id}.${copy ? 'copy' : 'edit'}`);
  const draft: Draft = kept === null ? begin : (JSON.parse(kept) as Draft);
  const set = (d: Draft) => setKept(JSON.stringify(d));
  const head = (h: Partial<Draft['head']>) => set({ ...draft, head: { ...draft.head, ...h } });
  const [said, setSaid] = useState<string | null>(null);
  const [kind, setKind] = useState<RuleKind>('equipment');
  const id = copy ? slug(draft.head.name) : draft.head.id;
  const items = draft.items;
  const wrong = items.map(itemProblem);
  const twice = items.findIndex((x, i) => items.findIndex((y) => y.id === x.id) !== i);
  const headRead = RulePackHead.safeParse({ ...draft.head, id, items: items.length ? items : [0] });
  const problem =
    (copy && ids.includes(id) && `There is a pack “${id}” already: give this one another name.`) ||
    (!headRead.success && `${headRead.error.issues[0]!.path.join('.')}: ${headRead.error.issues[0]!.message}`) ||
    (!items.length && 'A pack needs at least one item.') ||
    (twice >= 0 && `Item ${twice + 1}: an item “${String(items[twice]!.id)}” is there already.`) ||
    (wrong.some((w) => w) && `Item ${wrong.findIndex((w) => w) + 1}: ${wrong.find((w) => w)}.`) ||
    null;
  const save = async () => {
    if (problem) return setSaid(problem);
    setSaid(null);
    const sheet = { ...(pack.when && { when: pack.when }), ...draft.head, id, items };
    try {
      await call('/api/sheets', { text: JSON.stringify({ kadro: 'rules', format: 1, sheet }, null, 2) });
      await client.invalidateQueries({ queryKey: ['sheets'] });
      await client.invalidateQueries({ queryKey: ['order'] });
      setKept(null);
      onClose();
      navigate(`/sheets/rules/${id}`);
    } catch (e) {
      setSaid((e as ApiError).message);
    }
  };
  const move = (i: number, by: number) => {
    const next = [...items];
    const [x] = next.splice(i, 1);
    next.splice(i + by, 0, x!);
    set({ ...draft, items: next, open: null });
  };
  const add = () => {
    let n = items.length + 1;
    while (items.some((x) => x.id === `${kind}-${n}`)) n++;
    set({
      ...draft,
      items: [...items, { id: `${kind}-${n}`, kind, title: `New: ${KIND_WORD[kind]}`, source: '', ...NEW[kind] }],
      open: items.length,
    });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="12px">
        <Labelled label="Name" id="pack-name" note={copy && id ? `kept as ${id}` : undefined}>
          <Entry id="pack-name" value={draft.head.name} maxLength={120} onChange={(e) => head({ name: e.target.value })} />
        </Labelled>
        <Labelled label="Place it is for" id="pack-place">
          <Entry
            id="pack-place"
            value={draft.head.place}
            maxLength={120}
            placeholder="state, town, water"
            onChange={(e) => head({ place: e.target.value })}
          />
        </Labelled>
        <Labelled label="Edition: which text, of which date" id="pack-edition">
          <Entry id="pack-edition" value={draft.head.edition} maxLength={120} onChange={(e) => head({ edition: e.target.value })} />
        </Labelled>
        <Labelled label="Caution, always shown with it" id="pack-caution">
          <Entry id="pack-caution" value={draft.head.caution} maxLength={400} onChange={(e) => head({ caution: e.target.value })} />
        </Labelled>
      </chakra.div>
      <chakra.fieldset border="none" p={0} mt="8px" display="flex" gap="14px" flexWrap="wrap">
        <chakra.legend fontSize="14px" color="quiet">
          For
        </chakra.legend>
        {UnitKind.options.map((k) => (
          <chakra.label key={k} display="inline-flex" gap="6px" alignItems="center" minHeight="36px">
            <input
              type="checkbox"
              checked={draft.head.kinds.includes(k)}
              onChange={(e) => head({ kinds: e.target.checked ? [...draft.head.kinds, k] : draft.head.kinds.filter((x) => x !== k) })}
            />
            {k.replaceAll('-', ' ')}
          </chakra.label>
        ))}
      </chakra.fieldset>
      <H3>{items.length} items</H3>
      <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
        {items.map((item, i) => {
          const read = RuleItem.safeParse(item);
          const open = draft.open === i;
          return (
            <chakra.li key={i} borderBottomWidth="1px" borderColor="rule" py="6px">
              <chakra.div display="flex" gap="6px" alignItems="center">
                <Act
                  type="button"
                  look="quiet"
                  flex="1"
                  justifyContent="flex-start"
                  textAlign="left"
                  whiteSpace="normal"
                  aria-expanded={open}
                  onClick={() => set({ ...draft, open: open ? null : i })}
                >
                  <span>
                    {String(item.title ?? item.id ?? `item ${i + 1}`)}
                    <chakra.span display="block" fontSize="14px" fontWeight={400} color={wrong[i] ? 'fails' : 'quiet'}>
                      {wrong[i]
                        ? `cannot be judged: ${wrong[i]}`
                        : read.success
                          ? sayRule(read.data, (x) => showQuantity(x, 'smallLength', units))
                          : ''}
                    </chakra.span>
                  </span>
                </Act>
                <Act type="button" look="quiet" aria-label={`Up: item ${i + 1}`} disabled={i === 0} onClick={() => move(i, -1)}>
                  <ArrowUp size={18} aria-hidden />
                </Act>
                <Act
                  type="button"
                  look="quiet"
                  aria-label={`Down: item ${i + 1}`}
                  disabled={i === items.length - 1}
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown size={18} aria-hidden />
                </Act>
                <Act
                  type="button"
                  look="quiet"
                  aria-label={`Take off: item ${i + 1}`}
                  onClick={() => set({ ...draft, items: items.filter((_, k) => k !== i), open: null })}
                >
                  <Trash2 size={18} aria-hidden />
                </Act>
              </chakra.div>
              {open && (
                <RuleFields
                  item={item}
                  index={i}
                  onChange={(next) => set({ ...draft, items: items.map((x, k) => (k === i ? next : x)) })}
                />
              )}
            </chakra.li>
          );
        })}
      </chakra.ul>
      <chakra.div display="flex" gap="10px" alignItems="end" mt="10px">
        <Labelled label="Kind of rule" id="new-kind">
          <Choice id="new-kind" value={kind} onChange={(e) => setKind(e.target.value as RuleKind)} width="340px">
            {RULE_KINDS.map((k) => (
              <option key={k} value={k}>
                {KIND_WORD[k]}
              </option>
            ))}
          </Choice>
        </Labelled>
        <Act type="button" onClick={add}>
          <Plus size={18} aria-hidden /> Add an item
        </Act>
      </chakra.div>
      {said && (
        <chakra.p role="alert" color="fails" mt="10px">
          {said} What you typed is kept.
        </chakra.p>
      )}
      <chakra.div display="flex" gap="10px" mt="16px">
        <Act look="main" type="submit">
          {copy ? 'Keep the copy' : 'Save as the next revision'}
        </Act>
        <Act type="button" onClick={onClose}>
          Leave it, keep what I typed
        </Act>
        {kept !== null && (
          <Act
            type="button"
            look="quiet"
            onClick={() => {
              setKept(null);
              setSaid(null);
            }}
          >
            Begin again
          </Act>
        )}
      </chakra.div>
    </form>
  );
}
