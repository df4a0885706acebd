import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { judgePull } from '#core/winch/judge-pull';
import { recovery, winchCableOhms } from '#core/winch/recovery';
import { winchLayers } from '#core/winch/layers';
import { STUCK, SURFACES, winchPull, type Stuck, type Surface } from '#core/winch/pull';
import { figure, parseQuantity, showQuantity } from '#core/quantity/quantity';
import type { WinchSpec } from '#model/kit';
import { useUnits } from '../../app/context';
import { useDraft } from '../../app/kept';
import { Choice, Entry, Labelled } from '../../app/ui';
import { MarginBar } from '../../marks/MarginBar';
import { VerdictMark } from '../../marks/VerdictMark';
import { Table } from '../../sheets/Table';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { clock } from './strip';

const SURFACE_WORD: Record<Surface, string> = {
  hard: 'hard ground',
  grass: 'grass',
  wetSand: 'wet sand or gravel',
  softSand: 'soft sand',
  mud: 'shallow mud',
  bog: 'bog',
};
const STUCK_WORD: Record<Stuck, string> = { no: 'not stuck, rolls', wheel: 'to the wheels', fender: 'to the fenders', hood: 'to the hood' };

interface Asked {
  mass: string;
  slope: string;
  out: string;
  rest: string;
  surface: Surface;
  stuck: Stuck;
  sheaves: string;
}

/** A pull from slope, ground and how it is stuck: the line's load, the layer, the motor's amperes and volts, and how many the battery has. */
export function Winch({ spec }: { spec: WinchSpec }) {
  const { sheets, settings, assessment, order } = useOrder();
  const { system } = assessment.power;
  const cableOhms = winchCableOhms(system, assessment.wiring);
  const units = useUnits();
  const loaded = sheets.model.gvwrKg ?? sheets.model.massKg;
  const first: Asked = {
    mass: showQuantity(loaded, 'mass', units),
    slope: '20',
    out: showQuantity(8, 'length', units),
    rest: '3',
    surface: 'grass',
    stuck: 'no',
    sheaves: '0',
  };
  const [draft, setDraft] = useDraft(`${order.id}.winch`);
  const [asked, setAsked] = useState<Asked>(() => (draft ? { ...first, ...(JSON.parse(draft) as Partial<Asked>) } : first));
  const put = (patch: Partial<Asked>) => {
    const next = { ...asked, ...patch };
    setAsked(next);
    setDraft(JSON.stringify(next));
  };
  const answer = useMemo(() => {
    const errors: Partial<Record<keyof Asked, string>> = {};
    const read = (key: keyof Asked, kind: Parameters<typeof parseQuantity>[1], low: number, high: number, word: string) => {
      try {
        const v = parseQuantity(asked[key], kind, units);
        if (v < low || v > high) throw new Error(word);
        return v;
      } catch (e) {
        errors[key] = (e as Error).message;
        return NaN;
      }
    };
    const mass = read('mass', 'mass', 1, 20_000, 'from 1 to 20,000 kg');
    const slope = read('slope', 'plain', 0, 60, 'from 0 to 60 degrees');
    const out = read('out', 'length', 0, spec.ropeLengthM, `at most the rope’s ${showQuantity(spec.ropeLengthM, 'length', units)}`);
    const rest = read('rest', 'plain', 0, 60, 'from 0 to 60 minutes');
    if (Object.keys(errors).length) return { errors, pull: null, r: null, judged: null };
    const pull = winchPull(mass, slope, asked.surface, asked.stuck, Number(asked.sheaves));
    const r = recovery(
      system,
      spec,
      {
        lineN: pull.lineN,
        outM: out,
        pullM: Math.max(1, Math.min(5, out)),
        restMinutes: rest,
        rpm: system.source?.idleRpm ?? 0,
        cableOhms,
      },
      settings.reserveSoc,
    );
    return { errors, pull, r, judged: judgePull(spec, pull, r, rest) };
  }, [asked, spec, system, settings, units, cableOhms]);
  const force = (n: number) => showQuantity(n, 'force', units);
  const length = (m: number) => showQuantity(m, 'length', units);
  const field = (key: 'mass' | 'slope' | 'out' | 'rest', label: string) => (
    <Labelled key={key} id={`winch-${key}`} label={label} error={answer.errors[key]}>
      <Entry id={`winch-${key}`} fontFamily="mono" value={asked[key]} autoComplete="off" onChange={(e) => put({ [key]: e.target.value })} />
    </Labelled>
  );
  const { pull, r, judged } = answer;
  const verdict = judged?.verdict ?? 'unknown';
  return (
    <>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(150px, 1fr))" gap="10px" alignItems="start">
        {field('mass', 'Loaded')}
        {field('slope', 'Slope, degrees')}
        <Labelled id="winch-surface" label="On">
          <Choice id="winch-surface" value={asked.surface} onChange={(e) => put({ surface: e.target.value as Surface })}>
            {(Object.keys(SURFACES) as Surface[]).map((s) => (
              <option key={s} value={s}>
                {SURFACE_WORD[s]}
              </option>
            ))}
          </Choice>
        </Labelled>
        <Labelled id="winch-stuck" label="Stuck">
          <Choice id="winch-stuck" value={asked.stuck} onChange={(e) => put({ stuck: e.target.value as Stuck })}>
            {(Object.keys(STUCK) as Stuck[]).map((s) => (
              <option key={s} value={s}>
                {STUCK_WORD[s]}
              </option>
            ))}
          </Choice>
        </Labelled>
        <Labelled id="winch-sheaves" label="Sheaves">
          <Choice id="winch-sheaves" value={asked.sheaves} onChange={(e) => put({ sheaves: e.target.value })}>
            {['0', '1', '2', '3'].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </Choice>
        </Labelled>
        {field('out', 'Rope out')}
        {field('rest', 'Rest between, min')}
      </chakra.div>
      {pull && r && judged && (
        <>
          <chakra.h3 display="flex" alignItems="center" gap="10px" fontSize="18px" mt="14px" mb="6px">
            <VerdictMark verdict={verdict} size={26} />
            <span>
              {r.share > 1
                ? `The winch cannot: ${force(pull.lineN)} on the line, ${force(r.layerPullN)} on layer ${r.layer}. Add a sheave, or pay out more rope.`
                : `${force(pull.lineN)} on the line: ${Math.round(r.amps)} A, ${figure(r.volts, 3)} V at the motor, ${r.pulls === null ? 'more than 100 pulls' : `${r.pulls} ${r.pulls === 1 ? 'pull' : 'pulls'}`} before the reserve.`}
              {judged.under && ` Rated ${force(spec.ratedN)}, ${force(judged.wantedN)} to choose.`}
            </span>
          </chakra.h3>
          <MarginBar
            margin={{ used: pull.lineN, limit: r.layerPullN, unit: '' }}
            verdict={verdict}
            label="Line’s load of what this layer pulls"
            show={force}
          />
          <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(330px, 1fr))" gap="8px 32px" mt="8px">
            <Table
              heads={['the pull', '']}
              num={[1]}
              rows={[
                ['slope (mechanics)', force(pull.slopeN)],
                ['field rule for the slope, W/60 a degree', force(pull.fieldSlopeN)],
                ['ground', force(pull.surfaceN)],
                ['stuck (US Army FM 4-30.31, from memory)', force(pull.stuckN)],
                ['on the load', force(pull.pullN)],
                [`on the line, ${asked.sheaves} sheaves`, force(pull.lineN)],
                ...(pull.anchorN > 0 ? [['on the anchor of a sheave: strap, shackle, tree', force(pull.anchorN)]] : []),
                ['rated pull to choose: 1.5 × loaded, and the line on this layer', force(judged.wantedN)],
              ]}
            />
            <Table
              heads={['the unit', '']}
              num={[1]}
              rows={[
                ['line speed', `${length(r.metersPerMinute)} a minute`],
                ['time for this pull', `${Math.round(r.secondsPerPull)} s`],
                ['taken from the battery', `${figure(r.ahPerPull, 2)} Ah`],
                ['idling that puts it back', r.restMinutes === null ? 'it never does' : clock(r.restMinutes)],
                ['volts at the motor', `${figure(r.volts, 3)} V`],
                ['the motor cools for', `${clock(Math.max(1, r.coolMinutes))}${judged.hurried ? ': longer than the rest given' : ''}`],
              ]}
            />
          </chakra.div>
          <H3>Pull by layer of rope</H3>
          <Table
            heads={['layer', 'rope on the drum', 'pulls']}
            num={[0, 1, 2]}
            rows={winchLayers(spec).map((l) => [
              l.layer === r.layer ? `${l.layer}, now` : l.layer,
              `${length(l.ropeFromM)} to ${length(l.ropeToM)}`,
              force(l.pullN),
            ])}
          />
        </>
      )}
      <chakra.p mt="10px" color="quiet" fontSize="14px">
        Rated gear only, people out of the line’s way, gloves on, hand-saver strap on the hook, a damper on the line; never hook a line back
        on itself. The rated pull is on the first layer (SAE J706).
      </chakra.p>
    </>
  );
}
