import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import { Workbox } from 'workbox-window';
import { queries } from './api';
import { usePerson, useReachable } from './context';

/** A page is worked with first; what makes it open without a network is fetched after, ms. */
const AFTER_MS = 2500;
/** Orders that a device keeps of today's. */
const MOST = 20;
const DAY_MS = 24 * 3600_000;

/** The program itself, kept on this device, and whether a newer one waits. */
class Program {
  private waits: Workbox | null = null;
  private readonly listeners = new Set<() => void>();
  snapshot = (): boolean => this.waits !== null;
  subscribe = (l: () => void): (() => void) => {
    this.listeners.add(l);
    return () => void this.listeners.delete(l);
  };
  /** Keeps the program on this device; nothing where the browser allows that only over TLS. */
  keep(): void {
    if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
    const wb = new Workbox('/sw.js');
    wb.addEventListener('waiting', () => {
      this.waits = wb;
      this.listeners.forEach((l) => l());
    });
    setTimeout(() => void wb.register().catch(() => undefined), AFTER_MS);
  }
  /** Loads the newer one. */
  renew = (): void => {
    this.waits?.addEventListener('controlling', () => location.reload());
    this.waits?.messageSkipWaiting();
  };
}
export const program = new Program();
export const useNewer = (): boolean => useSyncExternalStore(program.subscribe, program.snapshot);

/** Keeps on this device what its person works on today: orders on their bench, and those promised within a day. */
export function useKeepToday(): void {
  const client = useQueryClient();
  const me = usePerson().id;
  const reachable = useReachable();
  const floor = useQuery(queries.floor).data?.orders;
  const today = (floor ?? [])
    .filter((o) => o.summary.assignee === me || Date.parse(o.promisedAt) - Date.now() < DAY_MS)
    .slice(0, MOST)
    .map((o) => o.id)
    .join(' ');
  useEffect(() => {
    if (!today || !reachable) return;
    let left = true;
    const timer = setTimeout(() => {
      void (async () => {
        await client.prefetchQuery(queries.people);
        await client.prefetchQuery(queries.sheets);
        for (const id of today.split(' ')) {
          if (!left) return;
          // what is open on this device is read anyway
          await client.prefetchQuery({ ...queries.order(id), staleTime: DAY_MS });
        }
      })();
    }, AFTER_MS);
    return () => {
      left = false;
      clearTimeout(timer);
    };
  }, [client, today, reachable]);
}
