import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { LABOUR_WORDS } from '#core/money/price-lines';
import { Amount, type LabourKind, type OrderMoney } from '#model/money';
import { Photo, TakePhoto } from '../../app/Photo';
import { useDraft } from '../../app/kept';
import { Act, Choice, Entry, Labelled, Lines, Sheet, TypedField } from '../../app/ui';
import { PlaceChoice } from '../PlaceChoice';
import { useOrder } from '../useOrder';
import { promise } from '../words';
import { AgreeDialog } from './AgreeDialog';
import { PriceLines, Sum } from './PriceLines';

type Extra = OrderMoney['extras'][number];

/** What turned up while the work was done: asked for, answered, and only then done. */
export function ExtrasTab() {
  const { order, record } = useOrder();
  const extras = order.money?.extras ?? [];
  const open = order.status === 'open';
  const [asking, setAsking] = useState<{ extra: Extra; yes: boolean } | null>(null);
  return (
    <>
      {extras.map((e) => (
        <Sheet key={e.id} mb="10px" aria-label={e.title}>
          <chakra.div display="flex" gap="14px" alignItems="flex-start">
            {e.photo && <Photo id={e.photo} note="" />}
            <chakra.div flex="1" minW={0}>
              <chakra.h3 fontSize="17px">{e.title}</chakra.h3>
              <p>{e.why}</p>
              <chakra.p mt="4px" fontWeight={700} color={e.answer ? (e.answer.yes ? 'holds' : 'tightText') : 'unknown'}>
                {e.answer
                  ? `${e.answer.yes ? 'Agreed' : 'Declined'} by ${e.answer.name}, ${promise(e.answer.at)}${e.answer.reason ? `: ${e.answer.reason}` : ''}`
                  : 'Not answered: it is not done before it is agreed'}
              </chakra.p>
            </chakra.div>
            <Sum of={e.totals.gross} currency={e.currency} size="22px" />
          </chakra.div>
          <chakra.details mt="4px">
            <chakra.summary cursor="pointer" color="accent" minH="32px">
              {e.lines.length} {e.lines.length === 1 ? 'line' : 'lines'}
            </chakra.summary>
            <PriceLines lines={e.lines} taxes={e.taxes} totals={e.totals} currency={e.currency} />
          </chakra.details>
          {open && !e.answer?.yes && (
            <chakra.div display="flex" gap="8px" mt="8px">
              <Act onClick={() => setAsking({ extra: e, yes: true })}>They agree</Act>
              {!e.answer && <Act onClick={() => setAsking({ extra: e, yes: false })}>They decline</Act>}
              <Act look="quiet" onClick={() => record({ type: 'extra.withdrawn', id: e.id })}>
                Take it back
              </Act>
            </chakra.div>
          )}
        </Sheet>
      ))}
      {open && <ExtraForm />}
      {asking && (
        <AgreeDialog
          title={`${asking.extra.title}, ${asking.extra.totals.gross} ${asking.extra.currency}`}
          yes={asking.yes}
          owner={order.owner}
          onClose={() => setAsking(null)}
          onDone={(said) => {
            if (record({ type: 'extra.answered', id: asking.extra.id, yes: asking.yes, ...said })) setAsking(null);
          }}
        />
      )}
    </>
  );
}

const USUAL_QUESTION = 'Is as it should be, looked at twice';
interface Thing {
  name: string;
  quantity: string;
  price: string;
}

function ExtraForm() {
  const { order, settings, assessment, record } = useOrder();
  const key = `extra.${order.id}`;
  const [title, setTitle] = useDraft(`${key}.title`);
  const [why, setWhy] = useDraft(`${key}.why`);
  // at the bench it is asked from a step, and is there
  const step = useSearchParams()[0].get('step');
  const at = assessment.steps.find((s) => s.id === step)?.place ?? null;
  const [typedPlace, setPlace] = useDraft(`${key}.place`);
  const place = typedPlace ?? at;
  const [minutes, setMinutes] = useDraft(`${key}.minutes`);
  const [photo, setPhoto] = useDraft(`${key}.photo`);
  const [labour, setLabour] = useState<LabourKind>('mount');
  const [powerOff, setPowerOff] = useState(true);
  const [things, setThings] = useState<Thing[]>([]);
  const [errors, setErrors] = useState<{ title?: string; why?: string; place?: string; minutes?: string; things?: string }>({});
  const add = () => {
    const found: typeof errors = {};
    const n = Number((minutes ?? '').trim().replace(/\s*min$/, '') || '0');
    if (!title?.trim()) found.title = 'say what';
    if (!why?.trim()) found.why = 'say why: the owner decides by it';
    if (!place) found.place = 'say where';
    if (!(n >= 0 && n <= 600)) found.minutes = 'minutes, from 0 to 600';
    const bad = things.find((t) => !t.name.trim() || !/^[1-9]\d{0,2}$/.test(t.quantity.trim()) || !Amount.safeParse(t.price).success);
    if (bad) found.things = 'each part has a name, a whole number of pieces, and a price as 12.50';
    else if (n === 0 && !things.length) found.minutes = 'minutes, parts, or both';
    setErrors(found);
    if (Object.keys(found).length) return;
    const done = record({
      type: 'extra.asked',
      title: title!.trim(),
      why: why!.trim(),
      place: place!,
      minutes: n,
      labour,
      powerOff,
      question: USUAL_QUESTION,
      parts: things.map((t) => ({ name: t.name.trim(), quantity: Number(t.quantity), price: t.price.trim() })),
      photo,
      step: assessment.steps.some((s) => s.id === step) ? step : null,
    });
    if (!done) return;
    for (const drop of [setTitle, setWhy, setPlace, setMinutes, setPhoto]) drop(null);
    setThings([]);
  };
  const put = (i: number, t: Thing | null) => setThings(things.flatMap((x, k) => (k === i ? (t ?? []) : x)));
  return (
    <Sheet aria-label="Something turned up">
      <chakra.h3 fontSize="17px" mb="8px">
        Something turned up
      </chakra.h3>
      <chakra.div display="grid" gridTemplateColumns="2fr 1.3fr 1.3fr 100px" gap="12px" alignItems="start">
        <TypedField
          label="What is to be done"
          id="extra-title"
          error={errors.title}
          value={title ?? ''}
          onValue={setTitle}
          placeholder="Clean and protect the battery posts"
          maxLength={120}
        />
        <PlaceChoice id="extra-place" label="Where" error={errors.place} value={place} onPlace={setPlace} />
        <Labelled label="Kind of work" id="extra-labour">
          <Choice id="extra-labour" value={labour} onChange={(e) => setLabour(e.target.value as LabourKind)}>
            {Object.entries(LABOUR_WORDS).map(([k, w]) => (
              <option key={k} value={k}>
                {w}
              </option>
            ))}
          </Choice>
        </Labelled>
        <TypedField
          label="Minutes"
          id="extra-minutes"
          error={errors.minutes}
          value={minutes ?? ''}
          onValue={setMinutes}
          inputMode="decimal"
          fontFamily="mono"
          textAlign="right"
        />
        <chakra.div gridColumn="1 / -1">
          <Labelled label="Why, for the owner" id="extra-why" error={errors.why}>
            <Lines id="extra-why" minHeight="48px" value={why ?? ''} maxLength={400} onChange={(e) => setWhy(e.target.value || null)} />
          </Labelled>
        </chakra.div>
      </chakra.div>
      {things.map((t, i) => (
        <chakra.div key={i} display="grid" gridTemplateColumns="minmax(0, 1fr) 90px 130px 44px" gap="8px" mt="8px">
          <Entry aria-label={`Part ${i + 1}`} placeholder="part" value={t.name} onChange={(e) => put(i, { ...t, name: e.target.value })} />
          <Entry
            aria-label={`Pieces of part ${i + 1}`}
            inputMode="numeric"
            value={t.quantity}
            fontFamily="mono"
            textAlign="right"
            onChange={(e) => put(i, { ...t, quantity: e.target.value })}
          />
          <Entry
            aria-label={`Price of part ${i + 1}`}
            placeholder={`each, ${settings.currency}`}
            inputMode="decimal"
            value={t.price}
            fontFamily="mono"
            textAlign="right"
            onChange={(e) => put(i, { ...t, price: e.target.value })}
          />
          <Act look="quiet" aria-label={`Without part ${i + 1}`} onClick={() => put(i, null)}>
            <X size={18} aria-hidden />
          </Act>
        </chakra.div>
      ))}
      {errors.things && (
        <chakra.p role="alert" color="fails" fontSize="14px">
          {errors.things}
        </chakra.p>
      )}
      <chakra.div display="flex" flexWrap="wrap" gap="10px" alignItems="center" mt="10px">
        <Act onClick={() => setThings([...things, { name: '', quantity: '1', price: '' }])}>
          <Plus size={18} aria-hidden /> A part
        </Act>
        <TakePhoto onPhoto={setPhoto}>{photo ? 'Another picture' : 'A picture of it'}</TakePhoto>
        {photo && <Photo id={photo} held />}
        <chakra.label display="flex" gap="8px" alignItems="center" minH="40px" flex="1">
          <input type="checkbox" checked={powerOff} onChange={(e) => setPowerOff(e.target.checked)} style={{ width: 20, height: 20 }} />
          Battery off while it is done
        </chakra.label>
        <Act look="main" onClick={add}>
          Ask the owner
        </Act>
      </chakra.div>
    </Sheet>
  );
}
