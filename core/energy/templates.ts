import type { UnitKind } from '#model/common';
import { Phase, type OwnerDay, type PhaseInput } from '#model/day';
import type { UnitModel } from '#model/unit-model';

type Make = (u: { idle: number; working: number; kind: UnitKind; winch: boolean }) => { name: string; phases: Omit<PhaseInput, 'id'>[] };
/** between idle and working speed */
const at = (u: { idle: number; working: number }, t: number) => Math.round((u.idle + (u.working - u.idle) * t) / 50) * 50;

/** Days as owners of each kind of unit describe them. Common practice, no source: a start that the owner corrects. */
const TEMPLATES: Record<string, { kinds: UnitKind[]; make: Make }> = {
  trail: {
    kinds: ['side-by-side'],
    make: (u) => ({
      name: 'Trail day with a lunch stop',
      phases: [
        { name: 'Warm up', minutes: 5, rpm: u.idle, tempC: 15 },
        { name: 'Out on the trail', minutes: 75, rpm: at(u, 0.9), tempC: 25 },
        { name: 'Slow and steep', minutes: 30, rpm: at(u, 0.35), tempC: 30 },
        ...(u.winch ? [{ name: 'Stuck once', minutes: 12, rpm: at(u, 0.1), tempC: 30, pulls: { count: 2, share: 0.5, seconds: 25 } }] : []),
        { name: 'Lunch, engine off', minutes: 45, rpm: 0, key: 'on', tempC: 20 },
        { name: 'Back', minutes: 60, rpm: at(u, 0.9), tempC: 25 },
        { name: 'Last light home', minutes: 25, rpm: at(u, 0.6), tempC: 15, dark: true },
        { name: 'Overnight', minutes: 14 * 60, rpm: 0, key: 'off', tempC: 10 },
      ],
    }),
  },
  patrol: {
    kinds: ['side-by-side'],
    make: (u) => ({
      name: 'Mail round, stop and go',
      phases: [
        { name: 'Loading, idling', minutes: 15, rpm: u.idle, tempC: 15 },
        { name: 'First half of the round', minutes: 80, rpm: at(u, 0.5), tempC: 20 },
        { name: 'Idling at stops', minutes: 35, rpm: u.idle, tempC: 20 },
        { name: 'Break, engine off', minutes: 20, rpm: 0, key: 'on', tempC: 20 },
        { name: 'Second half', minutes: 70, rpm: at(u, 0.5), tempC: 20 },
        { name: 'Overnight', minutes: 18 * 60, rpm: 0, key: 'off', tempC: 12 },
      ],
    }),
  },
  commute: {
    kinds: ['motorcycle'],
    make: (u) => ({
      name: 'Commute in town',
      phases: [
        { name: 'Warm up', minutes: 3, rpm: u.idle, tempC: 8 },
        { name: 'Ride in', minutes: 14, rpm: at(u, 0.55), tempC: 8, dark: true },
        { name: 'Lights and queues', minutes: 9, rpm: u.idle, tempC: 8, dark: true },
        { name: 'Parked at work', minutes: 8.5 * 60, rpm: 0, key: 'off', tempC: 12 },
        { name: 'Ride home', minutes: 14, rpm: at(u, 0.55), tempC: 8, dark: true },
        { name: 'Lights and queues', minutes: 9, rpm: u.idle, tempC: 8, dark: true },
        { name: 'Overnight', minutes: 14 * 60, rpm: 0, key: 'off', tempC: 5 },
      ],
    }),
  },
  tour: {
    kinds: ['motorcycle'],
    make: (u) => ({
      name: 'A day on the open road',
      phases: [
        { name: 'Out', minutes: 110, rpm: at(u, 1.2), tempC: 15 },
        { name: 'Coffee', minutes: 40, rpm: 0, key: 'off', tempC: 18 },
        { name: 'On', minutes: 120, rpm: at(u, 1.2), tempC: 20 },
        { name: 'Through town', minutes: 20, rpm: at(u, 0.2), tempC: 20 },
        { name: 'Home in the dark', minutes: 50, rpm: at(u, 1), tempC: 10, dark: true },
        { name: 'Overnight', minutes: 18 * 60, rpm: 0, key: 'off', tempC: 10 },
      ],
    }),
  },
  anchor: {
    kinds: ['boat'],
    make: (u) => ({
      name: 'Evening at anchor',
      phases: [
        { name: 'Out', minutes: 35, rpm: at(u, 1), tempC: 22 },
        { name: 'At anchor, still light', minutes: 90, rpm: 0, key: 'on', tempC: 22 },
        { name: 'At anchor, dark', minutes: 120, rpm: 0, key: 'on', tempC: 18, dark: true },
        { name: 'Home slowly', minutes: 30, rpm: at(u, 0.3), tempC: 18, dark: true },
        { name: 'Docking', minutes: 8, rpm: u.idle, tempC: 18, dark: true },
        { name: 'On its mooring', minutes: 18 * 60, rpm: 0, key: 'off', tempC: 15 },
      ],
    }),
  },
  ferry: {
    kinds: ['boat'],
    make: (u) => ({
      name: 'Host boat at the landing',
      phases: [
        { name: 'Out and about', minutes: 120, rpm: at(u, 0.6), tempC: 20 },
        { name: 'Alongside, music', minutes: 120, rpm: 0, key: 'on', tempC: 20 },
        { name: 'Idling between boats', minutes: 60, rpm: u.idle, tempC: 20 },
        { name: 'Evening round', minutes: 45, rpm: at(u, 0.3), tempC: 16, dark: true },
        { name: 'On its mooring', minutes: 17 * 60, rpm: 0, key: 'off', tempC: 15 },
      ],
    }),
  },
  shuttle: {
    kinds: ['golf-cart'],
    make: () => ({
      name: 'Campsite shuttle',
      phases: [
        { name: 'Morning rounds', minutes: 120, rpm: 0, driveKm: 9, tempC: 18 },
        { name: 'Standing, key off', minutes: 120, rpm: 0, key: 'off', tempC: 22 },
        { name: 'Afternoon rounds', minutes: 120, rpm: 0, driveKm: 9, tempC: 22 },
        { name: 'Evening rounds, lamps on', minutes: 90, rpm: 0, driveKm: 6, tempC: 15, dark: true },
        { name: 'On the charger', minutes: 10 * 60, rpm: 0, key: 'off', tempC: 12, wall: true },
      ],
    }),
  },
  mail: {
    kinds: ['golf-cart'],
    make: () => ({
      name: 'Mail round',
      phases: [
        { name: 'Before daylight', minutes: 60, rpm: 0, driveKm: 6, tempC: 10, dark: true },
        { name: 'The round', minutes: 150, rpm: 0, driveKm: 14, tempC: 15 },
        { name: 'Sorting, key off', minutes: 60, rpm: 0, key: 'off', tempC: 15 },
        { name: 'Second round', minutes: 75, rpm: 0, driveKm: 7, tempC: 18 },
        { name: 'On the charger', minutes: 12 * 60, rpm: 0, key: 'off', tempC: 12, wall: true },
      ],
    }),
  },
  winter: {
    kinds: ['snow-machine'],
    make: (u) => ({
      name: 'Winter ride',
      phases: [
        { name: 'Warm up', minutes: 6, rpm: u.idle, tempC: -12 },
        { name: 'Out', minutes: 70, rpm: at(u, 1), tempC: -10 },
        { name: 'Hut, engine off', minutes: 50, rpm: 0, key: 'off', tempC: -8 },
        { name: 'Back in the dark', minutes: 70, rpm: at(u, 0.9), tempC: -12, dark: true },
        { name: 'Two days in the shed', minutes: 2 * 24 * 60, rpm: 0, key: 'off', tempC: -10 },
      ],
    }),
  },
  parked: {
    kinds: ['side-by-side', 'motorcycle', 'quad', 'boat', 'snow-machine'],
    make: (u) => ({
      name: 'Two weeks parked',
      phases: [
        { name: 'Last ride', minutes: 60, rpm: at(u, 0.7), tempC: 15 },
        { name: 'Parked', minutes: 14 * 24 * 60, rpm: 0, key: 'off', tempC: 8 },
        { name: 'First start', minutes: 5, rpm: u.idle, tempC: 5 },
      ],
    }),
  },
  stored: {
    kinds: ['golf-cart'],
    make: () => ({
      name: 'Two weeks standing',
      phases: [
        { name: 'Last rounds', minutes: 60, rpm: 0, driveKm: 5, tempC: 15 },
        { name: 'Standing', minutes: 14 * 24 * 60, rpm: 0, key: 'off', tempC: 8 },
        { name: 'First rounds', minutes: 60, rpm: 0, driveKm: 5, tempC: 10 },
      ],
    }),
  },
};

/** The days that fit a kind of unit, the usual one first. */
export function daysFor(model: UnitModel, winch: boolean): OwnerDay[] {
  const { source } = model.electrical;
  const u = {
    kind: model.kind,
    winch,
    idle: source.kind === 'none' ? 0 : source.idleRpm,
    working: source.kind === 'none' ? 0 : source.workingRpm,
  };
  return Object.entries(TEMPLATES)
    .filter(([, t]) => t.kinds.includes(model.kind))
    .map(([id, t]) => {
      const { name, phases } = t.make(u);
      return { id, name, phases: phases.map((p, i) => Phase.parse({ ...p, id: `p${i + 1}` })) };
    });
}
