import { chakra } from '@chakra-ui/react';
import { Check } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { evidenceOf } from '#core/fault/evidence';
import type { Diagnosis, Measurement, RankedCause } from '#core/fault/find';
import { sayState } from '#core/harness/scan';
import { hiddenPlaces, panelsOff } from '#core/plan/panels-off';
import type { PlannedStep } from '#core/plan/planned';
import { figure } from '#core/quantity/quantity';
import type { Harness } from '#model/harness';
import { Act, ReasonDialog } from '../../app/ui';
import { UnitDrawing } from '../../drawing/UnitDrawing';
import { useOrder } from '../useOrder';
import { TakeFigure } from './TakeFigure';
import { useDiagnosis } from './useDiagnosis';

const SHOWN = 4;
const LEAST_SHOWN = 0.01;
/** So likely, a fuse or a feed is looked at before the meter is taken up. */
const EASY_SHARE = 0.03;
/** So many that show the same are named; of more, the first. */
const ALIKE_NAMED = 3;
/** From here on the answer is the cause, not the next measurement. */
const SURE = 0.8;
const percent = (share: number) => `${share >= 0.995 ? 99 : Math.max(1, Math.round(share * 100))} %`;

/** What is likely wrong, by everything read so far, and what to measure next. */
export function FaultFinder({ step }: { step: PlannedStep }) {
  const { order, assessment, sheets, record } = useOrder();
  const { harness } = assessment.wiring;
  const evidence = useMemo(() => evidenceOf(order, assessment.steps, assessment.wiring), [order, assessment]);
  const hard = useMemo(() => {
    const hidden = hiddenPlaces(sheets.model, panelsOff(order, assessment.steps));
    return harness.nodes.flatMap((n) => (n.place && hidden.has(n.place) ? [n.id] : []));
  }, [order, assessment, sheets.model, harness]);
  const { diagnosis, busy } = useDiagnosis(harness, evidence, hard);
  const unread = step.readings.find((r) => !order.steps[step.id]?.readings[r.id]);
  const [other, setOther] = useState(false);
  const mend = (cause: string | null, says: string) => record({ type: 'fault.mended', step: step.id, cause, says });
  const told = diagnosis !== null && typeof diagnosis !== 'string' ? diagnosis : null;
  const sure = (told?.causes[0]?.share ?? 0) >= SURE;
  const likely = told && <Likely diagnosis={told} evidence={evidence} onMended={mend} onOther={() => setOther(true)} />;
  const last = order.mended.at(-1);
  if (last && !evidence.some((e) => e.failing))
    return (
      <chakra.p role="status" mt="12px" p="10px 16px" bg="accentWash" borderRadius="kadro">
        <b>Put right:</b> {last.says}. Read again what failed.
      </chakra.p>
    );
  return (
    <chakra.section aria-label="What is wrong" mt="12px" pt="12px" borderTopWidth="2px" borderColor="fails" aria-busy={busy}>
      <chakra.h3 fontSize="22px" fontWeight={700}>
        What is wrong
      </chakra.h3>
      {diagnosis === null ? (
        <chakra.p color="quiet">Trying every single fault in the live model…</chakra.p>
      ) : typeof diagnosis === 'string' ? (
        <chakra.p color="fails">The live model finds no answer: {diagnosis}</chakra.p>
      ) : (
        <chakra.div opacity={busy ? 0.6 : 1} display="grid" gap="12px">
          {told && !order.probes.length && <LookFirst diagnosis={told} sure={sure} onMended={mend} />}
          {sure
            ? likely
            : told && (
                <chakra.p fontSize="16px" color="quiet" lineClamp={2}>
                  Likeliest so far:{' '}
                  {linesOf(told)
                    .slice(0, 2)
                    .map((l) => `${l.says} (${percent(l.share)})`)
                    .join('; ')}
                </chakra.p>
              )}
          {unread ? (
            <chakra.p>First answer “{unread.label}”: what works tells as much as what does not.</chakra.p>
          ) : busy ? (
            <chakra.p color="quiet">Trying every single fault against what is read now…</chakra.p>
          ) : (
            <Next key={order.probes.length} diagnosis={diagnosis} harness={harness} step={step} />
          )}
          <Measured />
          {!sure && likely}
        </chakra.div>
      )}
      <ReasonDialog
        open={other}
        title="What was wrong, and is put right now"
        action="Put right"
        onClose={() => setOther(false)}
        onReason={(text) => {
          setOther(false);
          mend(null, text);
        }}
      />
    </chakra.section>
  );
}

/** Causes that no single measurement tells apart are one line: they are looked at one after the other. */
interface Line {
  cause: RankedCause;
  share: number;
  says: string;
}
function linesOf(d: Diagnosis): Line[] {
  const lines = new Map<string, RankedCause[]>();
  for (const c of d.causes) lines.set(c.alike, [...(lines.get(c.alike) ?? []), c]);
  return [...lines.values()]
    .map((all) => ({ cause: all[0]!, share: all.reduce((s, c) => s + c.share, 0), says: saysOf(all) }))
    .sort((a, b) => b.share - a.share);
}
const saysOf = (all: readonly RankedCause[]): string =>
  all.length > ALIKE_NAMED ? `${all[0]!.says}, or one of ${all.length - 1} that show the same` : all.map((c) => c.says).join('; or ');

/** What takes no meter: switches that were left off, then fuses, the battery and the unit's own feed. */
function LookFirst({
  diagnosis,
  sure,
  onMended,
}: {
  diagnosis: Diagnosis;
  /** the causes themselves stand under it already */
  sure: boolean;
  onMended: (cause: string, says: string) => void;
}) {
  const looks = [
    ...diagnosis.left,
    ...(sure ? [] : diagnosis.causes)
      .filter((c) => c.easy && c.share >= EASY_SHARE)
      .map((c) => ({ id: c.cause.id, says: c.says, look: c.cause.look })),
  ].slice(0, SHOWN);
  if (!looks.length) return null;
  return (
    <div>
      <chakra.p fontSize="16px" color="quiet">
        Look first
      </chakra.p>
      <chakra.ul listStyleType="none" p={0} m={0} aria-label="Look first">
        {looks.map((l) => (
          <chakra.li key={l.id} display="flex" gap="12px" alignItems="center" py="4px" borderTopWidth="1px" borderColor="rule">
            <chakra.div flex="1" minW={0}>
              <chakra.span fontWeight={600}>{l.says}.</chakra.span>{' '}
              <chakra.span fontSize="16px" color="quiet">
                {l.look}
              </chakra.span>
            </chakra.div>
            <Act minHeight="48px" flex="none" onClick={() => onMended(l.id, l.says)}>
              It was that
            </Act>
          </chakra.li>
        ))}
      </chakra.ul>
    </div>
  );
}

function Likely({
  diagnosis,
  evidence,
  onMended,
  onOther,
}: {
  diagnosis: Diagnosis;
  evidence: readonly { id: string; label: string }[];
  onMended: (cause: string, says: string) => void;
  onOther: () => void;
}) {
  const lines = linesOf(diagnosis);
  const top = lines.filter((l, i) => !i || l.share >= LEAST_SHOWN).slice(0, SHOWN);
  const rest = 1 - top.reduce((s, c) => s + c.share, 0);
  const against = (c: RankedCause) => c.against.map((id) => evidence.find((e) => e.id === id)?.label).filter(Boolean);
  return (
    <div>
      <chakra.ol listStyleType="none" p={0} m={0} aria-label="Likely causes">
        {top.map(({ cause: c, share, says }, i) => (
          <chakra.li key={c.cause.id} py="8px" borderTopWidth={i ? '1px' : 0} borderColor="rule" data-cause={c.cause.id}>
            <chakra.div display="flex" gap="12px" alignItems="flex-start">
              <chakra.span fontFamily="mono" fontWeight={700} minW="62px" fontSize={i ? '18px' : '24px'} lineHeight="1.3">
                {percent(share)}
              </chakra.span>
              <chakra.div flex="1" minW={0}>
                <chakra.p fontWeight={i ? 600 : 700}>{says}</chakra.p>
                <chakra.p fontSize="16px" color="quiet">
                  {c.cause.look}
                  {against(c).length > 0 && ` Does not explain: ${against(c).slice(0, 2).join('; ')}.`}
                </chakra.p>
              </chakra.div>
              <Act
                minHeight="48px"
                flex="none"
                onClick={() => onMended(c.cause.id, says.slice(0, 300))}
                title="This was it, and it is put right"
              >
                <Check size={20} aria-hidden /> Mended
              </Act>
            </chakra.div>
            <chakra.div height="4px" bg="sunk" borderRadius="2px" mt="4px" aria-hidden>
              <chakra.div height="100%" borderRadius="2px" bg="accent" style={{ width: `${share * 100}%` }} />
            </chakra.div>
          </chakra.li>
        ))}
      </chakra.ol>
      <chakra.div display="flex" gap="16px" alignItems="center" mt="4px">
        <chakra.p fontSize="16px" color="quiet" flex="1">
          {diagnosis.none > 0.005 && `${percent(diagnosis.none)}: none of these. `}
          {diagnosis.sound > 0.005 && `${percent(diagnosis.sound)}: the wiring is sound and a reading was wrong. `}
          {lines.length > top.length &&
            rest > 0.005 &&
            `${lines.length - top.length} more share ${percent(Math.max(0, rest - diagnosis.sound - diagnosis.none))}.`}
        </chakra.p>
        <Act minHeight="48px" flex="none" onClick={onOther}>
          Something else was wrong
        </Act>
      </chakra.div>
    </div>
  );
}

/** What a meter would show, in the words of its outcomes. */
function outcomeText(m: Measurement, low: number, high: number): string {
  const unit = m.sight.look.kind === 'volts' ? 'V' : 'Ω';
  const one = (x: number) => (!Number.isFinite(x) || x > 1e7 ? 'open' : `${figure(Math.abs(x) < 0.05 ? 0 : x, 3)} ${unit}`);
  return one(low) === one(high) ? one(low) : `${one(low)} to ${one(high)}`;
}

function Next({ diagnosis, harness, step }: { diagnosis: Diagnosis; harness: Harness; step: PlannedStep }) {
  const { order, sheets, record } = useOrder();
  const [picked, setPicked] = useState(0);
  const m = diagnosis.next[picked] ?? diagnosis.next[0];
  if (!m)
    return (
      <chakra.p>
        {diagnosis.causes.length > 1
          ? 'A meter cannot tell these apart: look at each, the likeliest first.'
          : 'Nothing is left to measure: look there.'}
      </chakra.p>
    );
  const { look, state } = m.sight;
  const node = (id: string) => harness.nodes.find((n) => n.id === id);
  const where = (id: string) => {
    const n = node(id);
    const place = n?.kind === 'battery' || n?.kind === 'ground' ? undefined : sheets.model.places.find((p) => p.id === n?.place);
    return place ? `, at ${place.name.toLowerCase()}` : '';
  };
  const names = new Map(diagnosis.causes.map((c) => [c.cause.id, c.says]));
  const places = [...new Set([look.plus, look.minus].flatMap((id) => node(id)?.place ?? []))];
  return (
    <chakra.div data-next-measurement borderWidth="1px" borderColor="accent" borderRadius="kadro" bg="raised" p="12px 16px">
      <TakeFigure
        key={JSON.stringify(m.sight)}
        id="probe-in-hand"
        draftKey={`${order.id}.${step.id}.probe`}
        label={look.kind === 'volts' ? 'Volts measured' : 'Ohms measured'}
        kind={look.kind}
        sight={m.sight}
        onTake={(value, origin) =>
          record({
            type: 'probe.taken',
            step: step.id,
            probe: { look, state: { controls: { ...state.controls }, beat: state.beat } },
            value,
            origin,
          })
        }
        aside={
          places.length > 0 && (
            <UnitDrawing
              model={sheets.model}
              views={['side']}
              height={120}
              marks={places.map((p) => ({
                place: p,
                tone: 'accent' as const,
                on: true,
                title: sheets.model.places.find((x) => x.id === p)?.name ?? '',
              }))}
            />
          )
        }
        judged={
          diagnosis.next.length > 1 && (
            <Act minHeight="48px" onClick={() => setPicked((picked + 1) % diagnosis.next.length)}>
              I cannot get there
            </Act>
          )
        }
        what={
          <>
            <chakra.p fontSize="16px" color="quiet">
              Measure next
            </chakra.p>
            <chakra.p fontWeight={700}>{look.kind === 'volts' ? 'Volts between' : 'Ohms between, battery off, fuse out'}</chakra.p>
            <ProbeLine colour="#c62f24" word="red">
              {node(look.plus)?.label}
              {where(look.plus)}
            </ProbeLine>
            <ProbeLine colour="#1c1c1c" word="black">
              {node(look.minus)?.label}
              {where(look.minus)}
            </ProbeLine>
            <chakra.p fontSize="16px">
              with <b>{sayState(harness, state)}</b>
            </chakra.p>
            <chakra.ul listStyleType="none" p={0} mt="6px" fontSize="16px" aria-label="What it would mean">
              {m.outcomes.slice(0, 3).map((o) => (
                <chakra.li key={`${o.low}/${o.high}`} display="flex" gap="10px" py="2px">
                  <chakra.span fontFamily="mono" fontWeight={600} minW="150px">
                    {outcomeText(m, o.low, o.high)}
                  </chakra.span>
                  <chakra.span color="quiet">
                    {o.causes.length ? (names.get(o.causes[0]!) ?? 'something less likely') : 'the wiring is sound'}
                    {o.causes.length > 1 && `, or ${o.causes.length - 1} more`}
                  </chakra.span>
                </chakra.li>
              ))}
            </chakra.ul>
          </>
        }
      />
    </chakra.div>
  );
}

const ProbeLine = ({ colour, word, children }: { colour: string; word: string; children: ReactNode }) => (
  <chakra.p display="grid" gridTemplateColumns="16px minmax(0, 1fr)" gap="8px" alignItems="baseline">
    <chakra.span
      width="14px"
      height="14px"
      borderRadius="50%"
      borderWidth="1px"
      borderColor="quiet"
      style={{ background: colour }}
      role="img"
      aria-label={`${word} probe`}
    />
    <span>{children}</span>
  </chakra.p>
);

/** What was measured beyond the plan since the wiring was last put right. */
function Measured() {
  const { order, assessment } = useOrder();
  const { harness } = assessment.wiring;
  const { probes } = order;
  if (!probes.length) return null;
  const say = (id: string) => harness.nodes.find((n) => n.id === id)?.label ?? id;
  return (
    <chakra.ul listStyleType="none" p={0} mt="10px" fontSize="16px" aria-label="Measured so far">
      {probes.map((p) => (
        <chakra.li key={p.at + p.probe.look.plus} display="flex" gap="12px" py="3px" borderTopWidth="1px" borderColor="rule">
          <chakra.span flex="1">
            {say(p.probe.look.plus)} to {say(p.probe.look.minus)}
          </chakra.span>
          <chakra.span fontFamily="mono" fontWeight={600}>
            {p.value === null ? 'open' : `${figure(p.value, 4)} ${p.probe.look.kind === 'volts' ? 'V' : 'Ω'}`}
          </chakra.span>
        </chakra.li>
      ))}
    </chakra.ul>
  );
}
