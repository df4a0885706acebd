import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { freeId } from '#core/slug';
import { Job } from '#model/job';
import { useDraft } from '../../app/kept';
import { Act, Labelled, Lines, Sheet, TypedField } from '../../app/ui';
import { readWords } from '../arrive/fields';
import { H3 } from '../Station';
import { PlaceChoice } from '../PlaceChoice';
import { useOrder } from '../useOrder';

const USUAL_QUESTION = 'Works as it should, looked at twice';

/** Work that is no kit: a joint mended, a switch moved, a lamp set. What is here already, and one more. */
export function Jobs() {
  const { order, sheets, record } = useOrder();
  const jobs = order.jobs ?? [];
  const sealed = order.status !== 'open';
  const placeName = (id: string) => sheets.model.places.find((p) => p.id === id)?.name ?? id;
  if (sealed && !jobs.length) return null;
  return (
    <>
      <H3>Work that is no kit</H3>
      {jobs.length > 0 && (
        <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule" mb="8px">
          {jobs.map((j) => (
            <chakra.li key={j.id} display="flex" alignItems="center" gap="12px" py="8px" borderBottomWidth="1px" borderColor="rule">
              <chakra.span flex="1" minW={0}>
                <b>{j.title}</b>{' '}
                <chakra.span color="quiet">
                  {placeName(j.place)}, {j.minutes} min{j.powerOff ? ', battery off' : ''}. Proved by: {j.question}
                </chakra.span>
              </chakra.span>
              {!sealed && (
                <Act look="quiet" onClick={() => record({ type: 'job.removed', id: j.id })} aria-label={`Take off ${j.title}`}>
                  Take off
                </Act>
              )}
            </chakra.li>
          ))}
        </chakra.ul>
      )}
      {!sealed && (
        <chakra.details>
          <chakra.summary cursor="pointer" color="accent" py="8px">
            Add a job: mend a joint, move a switch, set a lamp
          </chakra.summary>
          <JobForm taken={jobs.map((j) => j.id)} onAdd={(job) => record({ type: 'job.added', job })} />
        </chakra.details>
      )}
    </>
  );
}

function JobForm({ taken, onAdd }: { taken: string[]; onAdd: (job: Job) => boolean | void }) {
  const { order } = useOrder();
  const key = `job.${order.id}`;
  const [title, setTitle] = useDraft(`${key}.title`);
  const [place, setPlace] = useDraft(`${key}.place`);
  const [minutes, setMinutes] = useDraft(`${key}.minutes`);
  const [text, setText] = useDraft(`${key}.text`);
  const [question, setQuestion] = useDraft(`${key}.question`);
  const [powerOff, setPowerOff] = useState(true);
  const [errors, setErrors] = useState<{ title?: string; place?: string; minutes?: string; text?: string; question?: string }>({});
  const add = () => {
    const found: typeof errors = {};
    const words = (field: keyof typeof errors, max: number, typed: string) => {
      try {
        return readWords(max)(typed);
      } catch (e) {
        found[field] = (e as Error).message;
        return '';
      }
    };
    const name = words('title', 120, title ?? '');
    const asks = words('question', 120, question ?? USUAL_QUESTION);
    const n = Number((minutes ?? '').trim().replace(/\s*min$/, ''));
    if (!Job.shape.minutes.safeParse(n).success) found.minutes = `minutes, from 1 to ${Job.shape.minutes.maxValue}`;
    if (!place) found.place = 'say where';
    if ((text ?? '').trim().length > 600) found.text = `${text!.trim().length} characters, at most 600`;
    setErrors(found);
    if (Object.keys(found).length) return;
    if (
      onAdd({ id: freeId(name, taken), title: name, place: place!, minutes: n, text: (text ?? '').trim(), powerOff, question: asks }) ===
      false
    )
      return;
    for (const drop of [setTitle, setPlace, setMinutes, setText, setQuestion]) drop(null);
  };
  return (
    <Sheet display="grid" gridTemplateColumns="2fr 1.4fr 110px" gap="12px" alignItems="start">
      <TypedField
        label="What"
        id="job-title"
        error={errors.title}
        value={title ?? ''}
        onValue={setTitle}
        placeholder="Mend the horn’s lead"
      />
      <PlaceChoice id="job-place" label="Where" error={errors.place} value={place} onPlace={setPlace} />
      <TypedField
        label="Minutes"
        id="job-minutes"
        error={errors.minutes}
        value={minutes ?? ''}
        onValue={setMinutes}
        inputMode="decimal"
        fontFamily="mono"
        textAlign="right"
      />
      <chakra.div gridColumn="1 / -1">
        <Labelled label="How, for who does it; may be left empty" id="job-text" error={errors.text}>
          <Lines id="job-text" value={text ?? ''} onChange={(e) => setText(e.target.value)} />
        </Labelled>
      </chakra.div>
      <chakra.div gridColumn="1 / 3">
        <TypedField
          label="Proved by a yes to"
          id="job-question"
          error={errors.question}
          value={question ?? USUAL_QUESTION}
          onValue={setQuestion}
        />
      </chakra.div>
      <chakra.label gridColumn="1 / 3" display="flex" gap="8px" alignItems="center" minH="40px">
        <input type="checkbox" checked={powerOff} onChange={(e) => setPowerOff(e.target.checked)} style={{ width: 20, height: 20 }} />
        The battery is off while it is done
      </chakra.label>
      <Act look="main" onClick={add}>
        <Plus size={18} aria-hidden /> Add
      </Act>
    </Sheet>
  );
}
