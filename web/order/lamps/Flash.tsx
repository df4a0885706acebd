import { chakra } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { flashRate, forecastFlash, type FlashRate } from '#core/lighting/flash';
import { meterBeats } from '#core/lighting/flash-meter';
import { FLASH_FACT } from '#core/lighting/judge';
import { round } from '#core/sum';
import { figure, parseQuantity } from '#core/quantity/quantity';
import { Flasher } from '#model/lamp';
import type { Origin } from '#model/origin';
import { useAbout } from '../../app/context';
import { Act, Choice, Labelled } from '../../app/ui';
import { SumLines } from '../../marks/SumLines';
import { EditField } from '../EditField';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { ItemLine } from './ItemLine';

/** A pause longer than this begins a new count, seconds. */
const PAUSE_S = 4;
const METER_BEATS = 12;

interface Beats {
  onS: number[];
  offS: number[];
  from: string;
}
const NONE: Beats = { onS: [], offS: [], from: '' };

function tryRate(b: Beats): FlashRate | string | null {
  if (b.onS.length < 3) return null;
  try {
    return flashRate(b.onS, b.offS);
  } catch (e) {
    return (e as Error).message;
  }
}

/** The flasher's beat: tapped along with, or read from the simulated meter, and forecast before anything is fitted. */
export function Flash() {
  const { order, assessment, record } = useOrder();
  const simulated = useAbout().standIns && order.trial !== null;
  const { lamps: check } = assessment;
  const open = order.status === 'open';
  const items = check.packs.flatMap((p) => p.items).filter((i) => i.rule?.kind === 'flash' && i.verdict !== null);
  const rule = items[0]?.rule?.kind === 'flash' ? items[0].rule : null;
  const [beats, setBeats] = useState<Beats>(NONE);
  const [down, setDown] = useState(false);
  const [meter, setMeter] = useState(false);
  const start = useRef(0);
  const flasher = check.flasher?.flasher ?? Flasher.parse({ kind: 'load-sensing', ratedW: 42, leastW: 25 });
  const [kind, setKind] = useState<Flasher['kind']>(flasher.kind);
  const [sideW, setSideW] = useState(check.flasher?.sideW ?? 10);
  const forecast = forecastFlash({ ...flasher, kind }, sideW);
  const now = () => performance.now() / 1000;

  const tap = (isDown: boolean) => {
    setMeter(false);
    setDown(isDown);
    const t = now();
    setBeats((b) => {
      const last = b.onS.at(-1);
      if (isDown) {
        const fresh = last === undefined || b.from !== 'tapped' || t - start.current - last > PAUSE_S;
        if (fresh) start.current = t;
        return fresh ? { onS: [0], offS: [], from: 'tapped' } : { ...b, onS: [...b.onS, t - start.current] };
      }
      return b.from === 'tapped' && b.onS.length ? { ...b, offS: [...b.offS, t - start.current] } : b;
    });
  };
  const tapRef = useRef(tap);
  useEffect(() => {
    tapRef.current = tap;
  });
  useEffect(() => {
    const free = (e: KeyboardEvent) =>
      e.key === 'f' &&
      !e.repeat &&
      !e.ctrlKey &&
      !e.metaKey &&
      !e.altKey &&
      !(e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName));
    const onDown = (e: KeyboardEvent) => free(e) && tapRef.current(true);
    const onUp = (e: KeyboardEvent) => free(e) && tapRef.current(false);
    window.addEventListener('keydown', onDown);
    window.addEventListener('keyup', onUp);
    return () => {
      window.removeEventListener('keydown', onDown);
      window.removeEventListener('keyup', onUp);
    };
  }, []);
  // the simulated meter streams its beats as they come
  useEffect(() => {
    if (!meter) return;
    const rng = xoroshiro128plus(Date.now() & 0x7fffffff);
    const all = meterBeats(forecast, METER_BEATS, () => uniformFloat64(rng));
    const timers = all.onS.flatMap((t, i) => [
      setTimeout(() => {
        setDown(true);
        setBeats((b) => ({ ...b, onS: [...b.onS, t] }));
      }, t * 1000),
      setTimeout(() => {
        setDown(false);
        setBeats((b) => ({ ...b, offS: [...b.offS, all.offS[i]!] }));
      }, all.offS[i]! * 1000),
    ]);
    const last = setTimeout(() => setMeter(false), (all.offS.at(-1) ?? 0) * 1000 + 50);
    return () => {
      [...timers, last].forEach(clearTimeout);
      setDown(false);
    };
  }, [meter]); // eslint-disable-line react-hooks/exhaustive-deps

  const rate = tryRate(beats);
  const counted = rate && typeof rate === 'object' ? rate : null;
  const within = (x: number, b: { min?: number; max?: number } | undefined) =>
    !b || ((b.min === undefined || x >= b.min) && (b.max === undefined || x <= b.max));
  const keep = () => {
    if (!counted) return;
    const origin: Origin = beats.from === 'meter' ? { how: 'simulated', meter: 'simulated light meter' } : { how: 'typed' };
    const tell = (key: string, value: number, label: string) => record({ type: 'fact.told', key, value, label, origin });
    tell(FLASH_FACT.perMinute, Number(counted.perMinute.toFixed(1)), 'Flashes a minute');
    tell(FLASH_FACT.jitterPct, Number(counted.jitterPct.toFixed(2)), 'Flasher unsteady by, %');
    if (counted.onSharePct !== null) tell(FLASH_FACT.onSharePct, Number(counted.onSharePct.toFixed(1)), 'Lit share of each beat, %');
  };
  return (
    <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr)" gap="20px">
      <div>
        <H3 mt={0}>Count it</H3>
        <chakra.button
          type="button"
          width="100%"
          minHeight="150px"
          borderRadius="kadro"
          borderWidth="2px"
          borderColor="ink"
          bg={down ? '#F0A020' : 'raised'}
          color={down ? '#16262B' : 'ink'}
          fontSize="20px"
          fontWeight={700}
          touchAction="none"
          userSelect="none"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            tap(true);
          }}
          onPointerUp={() => tap(false)}
        >
          {beats.onS.length ? `${beats.onS.length} beats` : 'Press with the lamp, let go with it'}
          <chakra.span display="block" fontSize="15px" fontWeight={400}>
            {meter ? 'the simulated meter is reading' : 'here, or the f key; hold while it is lit'}
          </chakra.span>
        </chakra.button>
        <chakra.div display="flex" gap="8px" mt="8px" flexWrap="wrap">
          {simulated && (
            <Act
              onClick={() => {
                setBeats({ onS: [], offS: [], from: 'meter' });
                setMeter(true);
              }}
              disabled={meter || forecast.perMinute <= 0}
            >
              Read the simulated meter
            </Act>
          )}
          <Act onClick={() => (setMeter(false), setBeats(NONE))} disabled={!beats.onS.length}>
            Start over
          </Act>
          {open && (
            <Act look="main" onClick={keep} disabled={!counted || meter}>
              Record it
            </Act>
          )}
        </chakra.div>
        <chakra.div aria-live="polite" mt="10px">
          {typeof rate === 'string' && <chakra.p color="fails">{rate}</chakra.p>}
          {counted && (
            <>
              <chakra.p
                fontFamily="mono"
                fontSize="44px"
                lineHeight="1.1"
                color={within(counted.perMinute, rule?.perMinute) ? 'holds' : 'fails'}
              >
                {figure(counted.perMinute)}
                <chakra.span fontSize="18px"> a minute</chakra.span>
              </chakra.p>
              <p>
                lit {counted.onSharePct === null ? '?' : `${round(counted.onSharePct)} %`} of each beat, unsteady by{' '}
                {round(counted.jitterPct, 2)} %{rule && `; ${rule.perMinute.min} to ${rule.perMinute.max} a minute`}
                {rule?.onSharePct && `, lit ${rule.onSharePct.min} to ${rule.onSharePct.max} %`}
              </p>
            </>
          )}
        </chakra.div>
        {items.map((i) => (
          <ItemLine key={`${i.pack}/${i.id}`} item={i} />
        ))}
      </div>
      <div>
        <H3 mt={0}>Before it is fitted</H3>
        <chakra.p fontSize="15px" mb="8px">
          {check.flasher
            ? `${check.flasher.flasher.name} (${check.flasher.of}), with ${figure(check.flasher.sideW)} W on the heavier side.`
            : 'No sheet names the flasher: say which kind it is.'}
        </chakra.p>
        <chakra.div display="grid" gridTemplateColumns="1fr 1fr" gap="10px">
          <Labelled label="Kind of flasher" id="flasher-kind">
            <Choice id="flasher-kind" value={kind} onChange={(e) => setKind(e.target.value as Flasher['kind'])}>
              <option value="fixed">keeps its beat by a clock</option>
              <option value="load-sensing">feels its load</option>
              <option value="thermal">a strip that heats</option>
            </Choice>
          </Labelled>
          <EditField
            id="side-watts"
            draft={`${order.id}.side-watts`}
            label="Lamps of one side, W"
            value={String(sideW)}
            mono
            read={(t) => {
              const v = parseQuantity(t, 'watts', 'metric');
              if (v < 0 || v > 500) throw new Error('from 0 to 500 W');
              return v;
            }}
            save={(v) => {
              setSideW(v);
              return true;
            }}
          />
        </chakra.div>
        <chakra.p mt="10px" fontSize="18px" fontWeight={700} color={within(forecast.perMinute, rule?.perMinute) ? 'ink' : 'fails'}>
          {forecast.perMinute > 0 ? `About ${figure(forecast.perMinute)} a minute` : 'It will not flash'}: {forecast.says}.
        </chakra.p>
        {forecast.remedies.map((r) => (
          <chakra.p key={r.says}>· {r.says}</chakra.p>
        ))}
        <chakra.div mt="8px">
          <SumLines lines={forecast.sum} />
        </chakra.div>
      </div>
    </chakra.div>
  );
}
