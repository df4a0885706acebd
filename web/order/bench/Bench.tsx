import { chakra } from '@chakra-ui/react';
import { ArrowLeft, Check, MessageSquarePlus, Pause, Play, RotateCcw, TriangleAlert, Undo2, UserRound, Users } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { readingVerdict, stepState } from '#core/order/assess';
import { findingsAt } from '#core/order/earlier-findings';
import { cardOf } from '#core/plan/cards';
import { heldUntil } from '#core/plan/waits';
import { localTime } from '#core/quantity/say-here';
import { ledger } from '#core/plan/fasteners';
import { BENCH_STAGES, type PlannedStep } from '#core/plan/planned';
import { usePerson, useUnits } from '../../app/context';
import { sayInUnits } from '#core/quantity/quantity';
import { capital } from '#core/words';
import { useKeys } from '../../app/keys';
import { Photo, TakePhoto } from '../../app/Photo';
import { Act, ReasonDialog } from '../../app/ui';
import { UnitDrawing } from '../../drawing/UnitDrawing';
import { EarlierFindings } from '../EarlierFindings';
import { Answer } from '../Station';
import { useOrder } from '../useOrder';
import { useUndo } from '../useUndo';
import { Clock } from './Clock';
import { TimeDialog } from './TimeDialog';
import { FaultFinder } from './FaultFinder';
import { Fasteners } from './Fasteners';
import { FindingDialog } from './FindingDialog';
import { GiveDialog } from './GiveDialog';
import { LotDialog } from './LotDialog';
import { Readings } from './Readings';
import { StepFaces } from './StepFaces';
import { Why } from './Why';

/** Whose a step is. */
const giver = (to: string | undefined, me: string) => (to === undefined ? 'Anyone' : to === me ? 'You' : to);

/** What now, and is it right: one step at a time, large. */
export function Bench() {
  const { order, sheets, assessment, record, findings, settings } = useOrder();
  const { steps } = assessment;
  const person = usePerson();
  const units = useUnits();
  const [search, setSearch] = useSearchParams();
  // beside the address, because a step must change in the same moment in which it is done
  const fromAddress = search.get('step');
  const [current, setCurrent] = useState(fromAddress);
  useEffect(() => setCurrent(fromAddress), [fromAddress]);
  const [skipping, setSkipping] = useState(false);
  const [finding, setFinding] = useState(false);
  const [timing, setTiming] = useState(false);
  const [giving, setGiving] = useState(false);
  const head = useRef<HTMLHeadingElement>(null);
  const undo = useUndo(useOrder());
  const todo = steps.filter((s) => stepState(order, s.id).status === 'todo');
  // what is given to another is theirs until nothing else is left
  const mine = (s: PlannedStep) => (order.given[s.id] ?? person.id) === person.id;
  const asked = steps.find((s) => s.id === current);
  const step =
    asked ?? steps.find((s) => s.id === order.clocks.find((c) => c.by === person.id)?.step) ?? todo.find(mine) ?? todo[0] ?? steps.at(-1);
  const index = step ? steps.indexOf(step) : -1;
  const stepId = step?.id;
  useEffect(() => {
    head.current?.scrollIntoView({ block: 'nearest' });
  }, [stepId]);
  const sealed = order.status !== 'open' || person.role === 'desk';
  const state = step ? stepState(order, step.id) : null;
  const running = order.clocks.find((c) => c.step === stepId && c.by === person.id) ?? null;
  const others = order.clocks.filter((c) => c.by !== person.id);
  const failing = step?.readings.some((r) => readingVerdict(order, step, r.id) === 'fails') ?? false;
  const goTo = (id: string | undefined) => {
    setCurrent(id ?? null);
    setSearch(id ? { step: id } : {}, { replace: true });
  };
  // the first that is left, not the next on the list: what comes before must be done before
  // what was settled here a moment ago may not be painted yet: it is not gone to again
  const settled = useRef(new Set<string>());
  const next = () => {
    if (stepId) settled.current.add(stepId);
    const left = todo.filter((s) => !settled.current.has(s.id));
    return left.find(mine) ?? left[0];
  };
  // a reading that holds finishes its step by itself, and the next one comes
  const before = useRef({ stepId, status: state?.status });
  useLayoutEffect(() => {
    const was = before.current;
    before.current = { stepId, status: state?.status };
    if (stepId && was.stepId === stepId && was.status === 'todo' && state?.status === 'done' && state.by === person.id) goTo(next()?.id);
  });
  // what comes out goes back: counted with one tap, where nobody counted otherwise
  const lines = step ? ledger(order, step) : [];
  const backUncounted = step?.stage === 'close' && lines.length > 0 && lines.every((l) => l.back === null);
  // where nothing but questions is open, one tap says yes to all of them
  const isTodo = (s: PlannedStep) => stepState(order, s.id).status === 'todo';
  // what belongs together is one card, and one answer; what fails stands alone
  const card = step && isTodo(step) && !failing ? cardOf(steps, step, (s) => mine(s) && isTodo(s)) : step ? [step] : [];
  const unreadOf = (s: PlannedStep) => (isTodo(s) ? s.readings.filter((r) => !r.optional && readingVerdict(order, s, r.id) === null) : []);
  const ofCard = card.flatMap(unreadOf);
  const questions = ofCard.every((r) => r.expected.unit === 'yes') ? ofCard : [];
  const done = () => {
    if (!step || sealed) return;
    if (state?.status !== 'todo') return goTo(next()?.id);
    for (const s of card) {
      const yes = unreadOf(s).flatMap((r) => (questions.includes(r) ? r.id : []));
      const taken = record({
        type: 'step.done',
        step: s.id,
        ...(backUncounted && { counts: lines.map((l) => l.out) }),
        ...(yes.length > 0 && { yes }),
      });
      if (!taken) return;
      settled.current.add(s.id);
    }
    goTo(next()?.id);
  };
  const takeBack = () => {
    if (!undo?.run() || !undo.step) return;
    settled.current.delete(undo.step);
    goTo(undo.step);
  };
  // where yes or no is asked, `n` is no; a digit is typed into the figure in hand
  const asksYes = ofCard[0]?.expected.unit === 'yes';
  const intoFigure = () => {
    const figure = document.getElementById('reading-in-hand');
    figure?.focus();
    return figure && 'type';
  };
  const clock = () => step && !sealed && (running ? record({ type: 'timer.stopped' }) : record({ type: 'step.started', step: step.id }));
  const back = () => index > 0 && goTo(steps[index - 1]!.id);
  useKeys({
    ...(!asksYes && {
      n: done,
      ...Object.fromEntries(['0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '-', '.'].map((k) => [k, intoFigure])),
    }),
    b: back,
    u: takeBack,
    space: () => void clock(),
    r: () => document.getElementById('reading-in-hand')?.focus(),
    x: () => !sealed && setFinding(true),
  });
  const sayDone = [
    ...(backUncounted ? [`All ${lines.reduce((n, l) => n + l.out, 0)} back`] : []),
    ...(questions.length ? [questions.length > 1 ? `yes to all ${questions.length}` : 'yes'] : []),
  ].join(', ');
  if (!step || !state)
    return (
      <Answer verdict={null} drawing={<UnitDrawing model={sheets.model} />}>
        Choose kits at Fit; their steps come here in order.
      </Answer>
    );
  const text = sayInUnits(step.text, units);
  const held = heldUntil(step, steps, (id) => (stepState(order, id).status === 'done' ? order.steps[id]?.at : undefined));
  const count = steps.length - todo.length;
  const pictures = order.photos.filter((p) => p.step === step.id);
  const known = findingsAt(findings, step.id, order.unit.build);
  // the bar keeps its place at the bottom; what lies between says what comes after, where there is room
  const upcoming =
    step.readings.some((r) => r.expected.unit !== 'yes') || step.readings.length > 1
      ? []
      : steps
          .slice(index + card.length)
          .filter((s) => stepState(order, s.id).status === 'todo')
          .slice(0, step.readings.length ? 1 : 4);
  return (
    <chakra.div data-step={step.id} fontSize="20px" maxW="960px" minH="calc(100% + 72px)" mb="-72px" display="flex" flexDirection="column">
      <chakra.div display="flex" gap="12px" alignItems="center" fontSize="16px" color="quiet" mb="4px">
        <chakra.span fontWeight={700} color="accent">
          {BENCH_STAGES[step.stage]}
        </chakra.span>
        <span>
          step {index + 1} of {steps.length}, {count} settled
        </span>
        {undo && !sealed ? (
          <Act
            look="quiet"
            minHeight="48px"
            flex="1"
            minW={0}
            justifyContent="flex-start"
            onClick={takeBack}
            title={`Take back: ${undo.says}`}
          >
            <Undo2 size={18} aria-hidden style={{ flex: 'none' }} />
            <chakra.span overflow="hidden" textOverflow="ellipsis" fontWeight={400}>
              Undo: {undo.says}
            </chakra.span>
          </Act>
        ) : (
          <chakra.span flex="1" />
        )}
        {state.status === 'todo' && !sealed && (
          <Act look="quiet" minHeight="48px" onClick={() => setGiving(true)} title="Give steps to one person, or to anyone">
            <UserRound size={18} aria-hidden /> {giver(order.given[step.id], person.id)}
          </Act>
        )}
        {sealed || running ? (
          <Clock seconds={state.seconds} since={running?.since ?? null} minutes={step.minutes} />
        ) : (
          <Act look="quiet" minHeight="48px" onClick={() => setTiming(true)} title="Put the time right">
            <Clock seconds={state.seconds} since={null} minutes={step.minutes} />
          </Act>
        )}
        <Act onClick={clock} disabled={sealed} minHeight="48px" aria-pressed={!!running}>
          {running ? <Pause size={20} aria-hidden /> : <Play size={20} aria-hidden />}
          {running ? 'Pause' : 'Clock'}
        </Act>
      </chakra.div>
      {others.length > 0 && (
        <chakra.p fontSize="16px" color="tightText" role="status">
          {others.map((c) => `${c.by} is at “${steps.find((s) => s.id === c.step)?.title ?? c.step}”`).join('; ')}
        </chakra.p>
      )}
      <chakra.div display="grid" gridTemplateColumns="minmax(0, 1.35fr) minmax(260px, 1fr)" gap="20px" mb="12px">
        <div>
          <chakra.h2 ref={head} fontSize="30px" mb="6px">
            {step.title}
          </chakra.h2>
          {/* what takes several sentences is a line each, smaller, so that a hand finds its place again */}
          {text.includes('\n') ? (
            text.split('\n').map((line) => (
              <chakra.p key={line} fontSize="17px" lineHeight="1.35" mb="4px">
                {line}
              </chakra.p>
            ))
          ) : (
            <p>{text}</p>
          )}
          <chakra.div display="flex" flexWrap="wrap" gap="4px 20px" mt="8px">
            {step.tool && (
              <span>
                <chakra.span color="quiet">Tool</chakra.span> <b>{step.tool}</b>
              </span>
            )}
            {step.hands === 2 && (
              <chakra.span fontWeight={700} display="inline-flex" gap="6px" alignItems="center">
                <Users size={20} aria-hidden /> two people
              </chakra.span>
            )}
            <Why step={step} />
          </chakra.div>
          {step.slideOnFirst.length > 0 && (
            <chakra.p mt="8px" p="8px 12px" bg="accentWash" borderRadius="kadro" fontWeight={600}>
              Slide on first: {step.slideOnFirst.join(', ')}
            </chakra.p>
          )}
          {step.waits && state.status === 'todo' && (
            <chakra.p mt="8px" p="8px 12px" bg="sunk" color="tightText" borderRadius="kadro" fontWeight={600} role="status">
              Waits for {sayInUnits(step.waits, units)}
            </chakra.p>
          )}
          {held && state.status === 'todo' && held.until.getTime() > Date.now() && (
            <chakra.p mt="8px" p="8px 12px" bg="sunk" color="tightText" borderRadius="kadro" fontWeight={600} role="status">
              Not before {localTime(held.until.toISOString(), settings.timeZone)}: {sayInUnits(held.for, units)}
            </chakra.p>
          )}
          {step.cautions.map((c) => (
            <chakra.p key={c} mt="8px" color="fails" fontWeight={600} display="flex" gap="8px">
              <TriangleAlert size={22} aria-hidden style={{ flex: 'none', marginTop: 2 }} /> {c}
            </chakra.p>
          ))}
        </div>
        <chakra.div>
          <UnitDrawing
            model={sheets.model}
            views={['side']}
            height={170}
            marks={
              step.place
                ? [{ place: step.place, tone: 'accent', on: true, title: sheets.model.places.find((p) => p.id === step.place)?.name ?? '' }]
                : []
            }
          />
          {/* beside what is read, where it takes no room from it */}
          {step.stage === 'mount' && step.kit && !sealed && <LotDialog step={step} />}
        </chakra.div>
      </chakra.div>
      {known.length > 0 && (
        <chakra.div mb="12px" p="8px 12px" bg="accentWash" borderRadius="kadro">
          <EarlierFindings findings={known} big />
        </chakra.div>
      )}
      <StepFaces step={step} />
      <Fasteners step={step} sealed={sealed || state.status !== 'todo'} />
      {step.readings.length > 0 && <Readings step={step} sealed={sealed || state.status === 'done'} />}
      {card.slice(1).map((s, i) => (
        <chakra.section key={s.id} aria-label={s.title} mt="14px" pt="10px" borderTopWidth="1px" borderColor="rule">
          <chakra.h3 fontSize="24px" fontWeight={700}>
            {s.title}
          </chakra.h3>
          <chakra.p fontSize="17px" mb="6px">
            {sayInUnits(s.text, units)}
          </chakra.p>
          {s.readings.length > 0 && <Readings step={s} sealed={sealed} later={card.slice(0, i + 1).some((x) => unreadOf(x).length > 0)} />}
        </chakra.section>
      ))}
      {(step.picture || pictures.length > 0) && (
        <chakra.div display="flex" flexWrap="wrap" gap="10px" mt="12px" role="group" aria-label="Pictures of this step">
          {step.picture && <Photo id={step.picture} note="from its sheet" />}
          {pictures.map((p) => (
            <Photo key={p.photo} id={p.photo} note={p.note || p.by} />
          ))}
        </chakra.div>
      )}
      {failing && !sealed && step.proof && <FaultFinder step={step} />}
      {state.status !== 'todo' && (
        <chakra.p mt="12px" fontWeight={600} color={state.status === 'done' ? 'holds' : 'tightText'}>
          {state.status === 'done' ? `Done by ${state.by}` : `Skipped by ${state.by}: ${state.reason}`}
        </chakra.p>
      )}
      {upcoming.length > 0 && (
        <chakra.ol listStyleType="none" p={0} mt="16px" fontSize="16px" aria-label="What comes after">
          {upcoming.map((u) => (
            <chakra.li key={u.id} display="flex" gap="12px" py="4px" borderTopWidth="1px" borderColor="rule" color="quiet">
              <chakra.span width="96px" flex="none">
                {BENCH_STAGES[u.stage]}
              </chakra.span>
              <chakra.span flex="1">{u.title}</chakra.span>
              <chakra.span fontFamily="mono">{u.minutes} min</chakra.span>
            </chakra.li>
          ))}
        </chakra.ol>
      )}
      <chakra.div flex="1" />
      <chakra.div
        position="sticky"
        bottom="-72px"
        display="flex"
        gap="10px"
        mt="16px"
        py="12px"
        bg="paper"
        borderTopWidth="1px"
        borderColor="rule"
        flexWrap="wrap"
      >
        {/* what a yes to all says yes to stands with it, wherever the questions themselves are scrolled to */}
        {questions.length > 0 && !sealed && (
          <chakra.p flex="1 0 100%" fontSize="16px" lineClamp={2} data-part="affirms">
            {questions.map((r) => sayInUnits(r.label, units)).join('; ')}
          </chakra.p>
        )}
        <Act big onClick={back} disabled={index === 0}>
          <ArrowLeft size={22} aria-hidden /> Back
        </Act>
        {state.status === 'todo' ? (
          <>
            {/* the second of a double tap would answer for the step that has just come */}
            <Act big look="main" onClick={(e) => e.detail < 2 && done()} disabled={sealed} flex="1" data-act="done">
              <Check size={24} aria-hidden /> {`${capital(sayDone || 'done')}, next`}
            </Act>
            <Act big onClick={() => setSkipping(true)} disabled={sealed}>
              Skip
            </Act>
          </>
        ) : (
          <>
            <Act big look="main" flex="1" onClick={done}>
              Next
            </Act>
            <Act
              big
              disabled={sealed}
              onClick={() => {
                settled.current.delete(step.id);
                record({ type: 'step.reopened', step: step.id });
              }}
            >
              <RotateCcw size={22} aria-hidden /> Reopen
            </Act>
          </>
        )}
        <TakePhoto
          big
          disabled={order.status !== 'open'}
          onPhoto={(photo) => record({ type: 'photo.taken', photo, step: step.id, note: '' })}
        >
          Picture
        </TakePhoto>
        <Act big disabled={order.status !== 'open'} onClick={() => setFinding(true)} aria-label="Write a finding">
          <MessageSquarePlus size={22} aria-hidden /> Finding
        </Act>
      </chakra.div>
      <ReasonDialog
        open={skipping}
        title={`Skip “${step.title}”`}
        action="Skip it"
        onClose={() => setSkipping(false)}
        onReason={(reason) => {
          setSkipping(false);
          if (record({ type: 'step.skipped', step: step.id, reason })) goTo(next()?.id);
        }}
      />
      <TimeDialog
        open={timing}
        title={`Time of “${step.title}”`}
        seconds={state.seconds}
        onClose={() => setTiming(false)}
        onTime={(seconds, reason) => {
          setTiming(false);
          record({ type: 'time.corrected', step: step.id, seconds, reason });
        }}
      />
      <FindingDialog
        open={finding}
        onClose={() => setFinding(false)}
        draftKey={`${order.id}.finding`}
        askAt={`/orders/${order.id}/price?see=extras&step=${encodeURIComponent(step.id)}`}
        onSave={(text, photo) => record({ type: 'finding.added', text, step: step.id, ...(photo && { photo }) })}
      />
      <GiveDialog open={giving} step={step} onClose={() => setGiving(false)} />
    </chakra.div>
  );
}
