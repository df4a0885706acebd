import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import { burstsOf } from '#core/energy/bursts';
import { standing } from '#core/energy/standing';
import type { PowerSystem } from '#core/energy/system';
import { audioLevel, MUSIC } from '#core/audio/audio';
import { figure, showUnit } from '#core/quantity/quantity';
import { Table } from '../../sheets/Table';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';

const hours = (h: number | null) => (h === null ? 'beyond 200 days' : h >= 72 ? `${Math.round(h / 24)} days` : `${figure(h, 2)} h`);

/** How long the unit stands with the engine off: music, lamps, all of it, and parked. */
export function EngineOff({ system }: { system: PowerSystem }) {
  const { settings, sheets } = useOrder();
  const { units } = settings;
  const uses = useMemo(() => {
    const off = system.loads.filter((l) => !l.own && l.engineOff && l.kind === 'continuous' && l.watts !== null);
    const lamps = off.filter((l) => l.use === 'lamp');
    const audio = off.filter((l) => l.use === 'audio');
    const list: [string, typeof off, number][] = [
      ...(audio.length ? [['Music', audio, 20] as [string, typeof off, number]] : []),
      ...(lamps.length ? [['Lamps', lamps, 15] as [string, typeof off, number]] : []),
      ...(audio.length && off.length > audio.length ? [['All of it', off, 15] as [string, typeof off, number]] : []),
      ['Parked, mild', [], 20],
      ['Parked, freezing', [], -10],
    ];
    return list.map(([name, loads, tempC]) => ({
      name,
      tempC,
      of: loads.map((l) => l.name).join(', ') || 'what is drawn day and night',
      s: standing(
        system,
        loads.map((l) => l.id),
        tempC,
        settings.reserveSoc,
      ),
    }));
  }, [system, settings]);
  const bursts = useMemo(() => burstsOf(system), [system]);
  const speakers = sheets.kits.flatMap((k) =>
    k.devices.filter((d) => d.audio?.sensitivityDb !== undefined).map((d) => ({ d, audio: d.audio! })),
  );
  return (
    <>
      <Table
        heads={['with the engine off', 'draws', 'to the reserve', 'until no start', 'until flat']}
        num={[1, 2, 3, 4]}
        rows={uses.map((u) => [
          <>
            <b>{u.name}</b>, {showUnit(u.tempC, '°C', units)}
            <chakra.span display="block" fontSize="14px" color="quiet">
              {u.of}
            </chakra.span>
          </>,
          u.s.amps < 0.5 ? `${figure(u.s.amps * 1000)} mA` : `${figure(u.s.amps)} A`,
          hours(u.s.reserveHours),
          system.starter ? hours(u.s.noStartHours) : '–',
          hours(u.s.flatHours),
        ])}
      />
      <chakra.p mt="8px" color="quiet" fontSize="14px">
        Simulated from {Math.round(system.startSoc * 100)} % {system.socMeasured ? 'as read' : '(assumed)'}, down to the reserve of{' '}
        {Math.round(settings.reserveSoc * 100)} %.{' '}
        {system.starter &&
          `A start needs ${system.starter.leastVolts} V while the starter takes ${Math.round(system.starter.amps)} A${system.starter.guessed ? ', guessed from the battery' : ''}.`}
      </chakra.p>
      {bursts.length > 0 && (
        <>
          <H3>Bursts: horn, signals, a winch or a compressor</H3>
          <Table
            heads={['what', 'draws', 'for', 'takes', 'bus, engine off', 'bus, at idle']}
            num={[1, 2, 3, 4, 5]}
            rows={bursts.map((b) => [
              b.name,
              `${figure(b.amps)} A`,
              `${b.seconds} s`,
              `${figure(b.takesAh * 1000)} mAh`,
              `${b.offVolts.toFixed(2)} V`,
              b.idleVolts === null ? '–' : `${b.idleVolts.toFixed(2)} V`,
            ])}
          />
        </>
      )}
      {speakers.length > 0 && (
        <>
          <H3>How loud that is</H3>
          <Table
            heads={['amplifier', 'watts into each speaker', `at ${showUnit(1, 'm', units)}`, `at ${showUnit(3, 'm', units)}`]}
            num={[1, 2, 3]}
            rows={speakers.flatMap(({ d, audio }) =>
              [MUSIC.usual, MUSIC.loud].map((f) => {
                const w = (audio.ratedW * f) / 2;
                return [
                  `${d.name}, ${f === MUSIC.usual ? 'music at 1/8 of rated power' : 'loud, at 1/3'}`,
                  `${figure(w)} W`,
                  `${Math.round(audioLevel(audio.sensitivityDb!, w, 1))} dB`,
                  `${Math.round(audioLevel(audio.sensitivityDb!, w, 3))} dB`,
                ];
              }),
            )}
          />
          <chakra.p mt="6px" color="quiet" fontSize="14px">
            One of two speakers, in the open; 1/8 after IEC 60065 from memory, 1/3 common practice, no source. Long listening above 85 dB
            harms hearing.
          </chakra.p>
        </>
      )}
    </>
  );
}
