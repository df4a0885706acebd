import { useUnits } from '../../app/context';
import { chakra } from '@chakra-ui/react';
import { ArrowLeft, ArrowRight, Copy, Trash2 } from 'lucide-react';
import { parseQuantity, celsius, showUnit } from '#core/quantity/quantity';
import { dutyIn, usualDuty, wattsIn } from '#core/energy/phases';
import type { PhaseResult } from '#core/energy/day';
import type { EnergyLoad, PowerSystem } from '#core/energy/system';
import { Phase, type OwnerDay } from '#model/day';
import { Act } from '../../app/ui';
import { EditField } from '../EditField';
import { withPhase } from './strip';

/** `2 h 30`, `45`, `45 min`, `3 days` as minutes. */
function readMinutes(text: string): number {
  const m = /^\s*(?:(\d+(?:[.,]\d+)?)\s*(d|days?|h|hours?|min|minutes?)?)\s*(?:(\d+)\s*(?:min|m)?)?\s*$/i.exec(text);
  if (!m) throw new Error('type minutes, or 2 h 30, or 3 days');
  const n = Number(m[1]!.replace(',', '.'));
  const unit = (m[2] ?? 'min')[0]!.toLowerCase();
  return n * (unit === 'd' ? 1440 : unit === 'h' ? 60 : 1) + Number(m[3] ?? 0);
}

/** Reads a figure for a field of a phase; the phase's own rules say what is wrong with it. */
function checked<K extends keyof Phase>(phase: Phase, key: K, value: Phase[K]): Phase[K] {
  const r = Phase.safeParse({ ...phase, [key]: value });
  if (!r.success) throw new Error(r.error.issues[0]!.message);
  return r.data[key];
}

/** One phase of the day: how long, how fast, how cold, what is on. Every change is recorded as it is made. */
export function PhaseEditor({
  day,
  at,
  system,
  result,
  draft,
  onChange,
  onPick,
}: {
  day: OwnerDay;
  at: number;
  system: PowerSystem;
  result: PhaseResult | undefined;
  draft: string;
  onChange: ((day: OwnerDay) => boolean) | null;
  onPick: (i: number | null) => void;
}) {
  const units = useUnits();

  const p = day.phases[at]!;
  const put = (patch: Partial<Phase>) => onChange?.(withPhase(day, at, patch)) ?? false;
  const number = <K extends 'minutes' | 'rpm' | 'tempC' | 'driveKm'>(key: K, label: string, read: (t: string) => number, shown: string) => (
    <EditField
      id={`phase-${key}`}
      draft={`${draft}.${p.id}.${key}`}
      label={label}
      value={shown}
      mono
      disabled={!onChange}
      read={(t) => checked(p, key, read(t) as Phase[K]) as number}
      save={(v) => put({ [key]: v })}
    />
  );
  const plain = (t: string) => parseQuantity(t.replace(/\s*rpm\s*$/i, ''), 'plain', 'metric');
  const imperial = units === 'imperial';
  /** Degrees as the shop has them, or with their letter. */
  const degrees = (t: string) => {
    const m = /^(.*?)\s*°?\s*([CF])?\s*$/i.exec(t)!;
    const x = parseQuantity(m[1]!, 'plain', 'metric');
    const f = m[2] ? m[2].toUpperCase() === 'F' : imperial;
    return Number((f ? celsius(x) : x).toFixed(1));
  };
  const driven = (t: string) => Number(parseQuantity(t, 'distance', units).toFixed(3));
  const move = (by: number) => {
    const phases = [...day.phases];
    const [x] = phases.splice(at, 1);
    phases.splice(at + by, 0, x!);
    if (onChange?.({ ...day, phases })) onPick(at + by);
  };
  const fresh = () => {
    let n = day.phases.length + 1;
    while (day.phases.some((q) => q.id === `p${n}`)) n++;
    return `p${n}`;
  };
  const engine = system.source !== null;
  const running = engine ? p.rpm > 0 : p.key === 'on' && !p.wall;
  const loads = system.loads.filter((l) => !l.own && l.kind !== 'burst');
  const toggle = (name: string, on: boolean, patch: Partial<Phase>) => (
    <Act aria-pressed={on} on={on} minHeight="40px" disabled={!onChange} onClick={() => put(patch)}>
      {name}
    </Act>
  );
  return (
    <chakra.section aria-label={`Phase ${p.name}`} borderTopWidth="1px" borderColor="rule" pt="10px" mt="8px">
      <chakra.div display="grid" gridTemplateColumns="minmax(150px, 1.6fr) repeat(3, minmax(90px, 1fr)) auto" gap="10px" alignItems="end">
        <EditField
          id="phase-name"
          draft={`${draft}.${p.id}.name`}
          label="Phase"
          value={p.name}
          disabled={!onChange}
          read={(t) => checked(p, 'name', t)}
          save={(v) => put({ name: v })}
        />
        {number('minutes', 'Lasts', readMinutes, `${p.minutes} min`)}
        {engine
          ? number('rpm', 'Engine, rpm; 0 is off', plain, String(p.rpm))
          : number('driveKm', 'Driven', driven, showUnit(p.driveKm, 'km', units))}
        {number('tempC', 'Temperature', degrees, showUnit(p.tempC, '°C', units))}
        <chakra.div display="flex" gap="2px">
          <Act look="quiet" disabled={!onChange || at === 0} aria-label="Earlier" title="Earlier" onClick={() => move(-1)}>
            <ArrowLeft size={18} aria-hidden />
          </Act>
          <Act look="quiet" disabled={!onChange || at === day.phases.length - 1} aria-label="Later" title="Later" onClick={() => move(1)}>
            <ArrowRight size={18} aria-hidden />
          </Act>
          <Act
            look="quiet"
            disabled={!onChange || day.phases.length >= 24}
            aria-label="Once more"
            title="Once more after this one"
            onClick={() => {
              const phases = [...day.phases];
              phases.splice(at + 1, 0, { ...p, id: fresh() });
              if (onChange?.({ ...day, phases })) onPick(at + 1);
            }}
          >
            <Copy size={18} aria-hidden />
          </Act>
          <Act
            look="quiet"
            disabled={!onChange || day.phases.length === 1}
            aria-label="Take this phase out"
            title="Take this phase out"
            onClick={() => {
              if (onChange?.({ ...day, phases: day.phases.filter((_, i) => i !== at) })) onPick(null);
            }}
          >
            <Trash2 size={18} aria-hidden />
          </Act>
        </chakra.div>
      </chakra.div>
      <chakra.div display="flex" flexWrap="wrap" gap="8px" mt="10px" alignItems="center">
        {engine && system.source && (
          <>
            {toggle('Engine off', p.rpm === 0, { rpm: 0 })}
            {toggle('Idle', p.rpm === system.source.idleRpm, { rpm: system.source.idleRpm })}
            {toggle('Working', p.rpm === system.source.workingRpm, { rpm: system.source.workingRpm })}
          </>
        )}
        {p.rpm === 0 && toggle(p.key === 'on' ? 'Key on' : 'Key off', p.key === 'on', { key: p.key === 'on' ? 'off' : 'on' })}
        {toggle('Dark', p.dark, { dark: !p.dark })}
        {system.wall && toggle('On the charger', p.wall, p.wall ? { wall: false } : { wall: true, key: 'off', driveKm: 0 })}
        {system.winch && running && (
          <>
            {toggle(p.pulls ? `Winch, ${p.pulls.count} pulls` : 'Winch', p.pulls !== undefined, {
              pulls: p.pulls ? undefined : { count: 2, share: 0.5, seconds: 25 },
            })}
            {p.pulls && (
              <chakra.span display="inline-flex" gap="4px" alignItems="center">
                {(['count', 'share', 'seconds'] as const).map((k) => (
                  <Stepper
                    key={k}
                    label={{ count: 'pulls', share: 'of the rated pull', seconds: 's each' }[k]}
                    shown={k === 'share' ? `${Math.round(p.pulls!.share * 100)} %` : String(p.pulls![k])}
                    disabled={!onChange}
                    onStep={(by) => {
                      const step = { count: 1, share: 0.1, seconds: 5 }[k];
                      const next = { ...p.pulls!, [k]: Number((p.pulls![k] + by * step).toFixed(2)) };
                      if (Phase.safeParse({ ...p, pulls: next }).success) put({ pulls: next });
                    }}
                  />
                ))}
              </chakra.span>
            )}
          </>
        )}
        {result && (
          <chakra.span ml="auto" fontSize="15px" fontFamily="mono" whiteSpace="nowrap">
            {result.sourceA > 0 ? `${result.sourceA.toFixed(1)} − ` : '− '}
            {result.loadA.toFixed(1)} = {result.marginA.toFixed(1)} A
          </chakra.span>
        )}
      </chakra.div>
      {loads.length > 0 && (
        <chakra.div display="flex" flexWrap="wrap" gap="6px" mt="10px" role="group" aria-label={`What is on in ${p.name}`}>
          {loads.map((l) => (
            <LoadSwitch
              key={l.id}
              load={l}
              phase={p}
              system={system}
              disabled={!onChange}
              onDuty={(d) => {
                const duty = { ...p.duty };
                if (d === null) delete duty[l.id];
                else duty[l.id] = d;
                put({ duty });
              }}
            />
          ))}
        </chakra.div>
      )}
    </chakra.section>
  );
}

function Stepper({ label, shown, disabled, onStep }: { label: string; shown: string; disabled: boolean; onStep: (by: 1 | -1) => void }) {
  return (
    <chakra.span display="inline-flex" alignItems="center" borderWidth="1px" borderColor="rule" borderRadius="kadro">
      <Act look="quiet" disabled={disabled} minHeight="38px" aria-label={`Less: ${label}`} onClick={() => onStep(-1)}>
        −
      </Act>
      <chakra.span fontSize="14px" whiteSpace="nowrap">
        <b>{shown}</b> {label}
      </chakra.span>
      <Act look="quiet" disabled={disabled} minHeight="38px" aria-label={`More: ${label}`} onClick={() => onStep(1)}>
        +
      </Act>
    </chakra.span>
  );
}

/** One load in a phase: on or off, how much, and whether that is what is usual. */
function LoadSwitch({
  load,
  phase,
  system,
  disabled,
  onDuty,
}: {
  load: EnergyLoad;
  phase: Phase;
  system: PowerSystem;
  disabled: boolean;
  onDuty: (duty: number | null) => void;
}) {
  const duty = dutyIn(system, load, phase);
  const usual = usualDuty(system, load, phase);
  const said = phase.duty[load.id];
  const watts = wattsIn(system, load, phase);
  const on = duty > 0;
  const dead = load.keyed && phase.rpm === 0 && phase.key === 'off';
  return (
    <chakra.span display="inline-flex" alignItems="stretch">
      <Act
        aria-pressed={on}
        on={on}
        disabled={disabled || dead}
        minHeight="40px"
        px="10px"
        fontWeight={on ? 600 : 400}
        title={dead ? 'No power with the key off' : said === undefined ? 'As is usual here' : 'As the owner said'}
        onClick={() => onDuty(on ? (usual === 0 ? null : 0) : usual > 0 ? null : 1)}
      >
        {load.name}{' '}
        <chakra.span fontFamily="mono" fontSize="14px" fontWeight={400} color="quiet">
          {watts === null ? '? W' : on ? `${Math.round(watts * duty * 10) / 10} W` : 'off'}
        </chakra.span>
        {said !== undefined && <chakra.span aria-label="as the owner said">•</chakra.span>}
      </Act>
      {on && said !== undefined && (
        <chakra.select
          aria-label={`How much of the time: ${load.name}`}
          value={String(Math.round(said * 100))}
          disabled={disabled}
          onChange={(e) => onDuty(Number(e.target.value) / 100)}
          fontSize="14px"
          borderWidth="1px"
          borderColor="accent"
          borderRadius="kadro"
          bg="raised"
          ml="-1px"
        >
          {[...new Set([5, 10, 25, 50, 75, 100, Math.round(said * 100)])]
            .sort((a, b) => a - b)
            .map((v) => (
              <option key={v} value={v}>
                {v} %
              </option>
            ))}
        </chakra.select>
      )}
    </chakra.span>
  );
}
