import { useQuery } from '@tanstack/react-query';
import { createContext, useContext, useSyncExternalStore } from 'react';
import type { UnitSystem } from '#core/quantity/quantity';
import type { Person } from '#model/person';
import { queries } from './api';
import { reach } from './reach';
import type { Notice, Outbox, Pending } from '../device/outbox';

export const OutboxContext = createContext<Outbox | null>(null);
export const PersonContext = createContext<Person | null>(null);

export const useOutbox = (): Outbox => useContext(OutboxContext)!;
export const usePending = (): Pending[] => {
  const box = useOutbox();
  return useSyncExternalStore(box.subscribe, box.snapshot);
};
/** Whether the server answered last. */
export const useReachable = (): boolean => useSyncExternalStore(reach.subscribe, reach.snapshot);
/** Whether something recorded here could not be sent at the last try. */
export const useStuck = (): boolean => {
  const box = useOutbox();
  return useSyncExternalStore(box.subscribe, box.stuckSnapshot);
};
export const useNotices = (): Notice[] => {
  const box = useOutbox();
  return useSyncExternalStore(box.subscribe, box.noticeSnapshot);
};

/** Whether this device keeps what is recorded. */
export const useRoom = (): boolean => {
  const box = useOutbox();
  return useSyncExternalStore(box.subscribe, box.roomSnapshot);
};
/** Whether stand-ins answer here, and whether this is the demo. */
export const useAbout = (): { standIns: boolean; demo: boolean; shop?: string } =>
  useQuery(queries.about).data ?? { standIns: false, demo: false };

/** Who is signed in; the frame shows nothing else until somebody is. */
export const usePerson = (): Person => useContext(PersonContext)!;

export const useUnits = (): UnitSystem => useQuery(queries.settings).data?.settings.units ?? 'imperial';
