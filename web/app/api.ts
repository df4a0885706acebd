import type { OwnOffered } from '#core/known/own-found';
import type { Proposal } from '#core/known/proposals';
import { deviceClock } from '../device/clock';
import { deviceStore } from '../device/store';
import { inShop } from './place';
import { reach } from './reach';
import { readKept, writeKept } from './storage';
import type { EarlierFinding } from '#core/order/earlier-findings';
import type { Outlier, Worked } from '#core/learn/learn';
import type { Pace } from '#core/learn/pace';
import type { ListedOrder } from '#core/order/summary';
import type { Month, ShopFigures } from '#core/shop/month';
import type { Week } from '#core/shop/week';
import type { Supply } from '#core/supply/allocate';
import type { OwnerMessage } from '#model/message';
import type { Purchase, ShelfMove, SupplierAnswer } from '#model/supply';
import type { OpenSession, SystemState } from '#model/system';
import type { OrderEvent } from '#core/events/record';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { AsksSecond, Passkey, Person, PersonInShop, ShopOfMine } from '#model/person';
import type { RulePack } from '#model/rule-pack';
import { DEFAULT_SETTINGS, type Settings } from '#model/settings';
import type { SheetRef, Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';

/** What the server answered instead of doing it, with a sentence for the person. `status` 0: it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: {
      fields?: { path: string; message: string }[];
      stale?: boolean;
      current?: Order;
      clashing?: Pick<OrderEvent, 'seq' | 'doneAt' | 'by' | 'body'>[];
      /** the rules refused it: the same again is refused again */
      refused?: boolean;
      problems?: { line: number; field: string; message: string }[];
    } = {},
  ) {
    super(message);
  }
  /** nothing answered, or only what stands before the record */
  get unreached(): boolean {
    return this.status === 0 || this.status === 503 || this.status === 502 || this.status === 504;
  }
  /** worth sending again as it is */
  get passing(): boolean {
    return this.unreached || this.status === 408 || this.status === 429 || this.status === 500;
  }
}

export async function call<T>(
  path: string,
  init: {
    method?: string;
    json?: unknown;
    text?: string;
    bytes?: Blob;
    headers?: Record<string, string>;
    signal?: AbortSignal;
    /** asked of the shop at the address itself, whichever this page is of */
    first?: boolean;
  } = {},
): Promise<T> {
  let res: Response;
  const askedAt = Date.now();
  try {
    res = await fetch(init.first ? path : inShop(path), {
      method: init.method ?? (init.json !== undefined || init.text !== undefined ? 'POST' : 'GET'),
      headers: {
        ...(init.json !== undefined
          ? { 'Content-Type': 'application/json' }
          : init.text !== undefined
            ? { 'Content-Type': 'text/plain' }
            : init.bytes
              ? { 'Content-Type': init.bytes.type || 'application/octet-stream' }
              : {}),
        ...init.headers,
      },
      body: init.json !== undefined ? JSON.stringify(init.json) : (init.text ?? init.bytes),
      signal: init.signal,
    });
  } catch (e) {
    if (init.signal?.aborted) throw e;
    reach.heard(false);
    throw new ApiError(0, 'The server cannot be reached. What you typed is kept here.');
  }
  reach.heard(![502, 503, 504].includes(res.status));
  deviceClock.measured(res.headers.get('Server-Time'), askedAt, Date.now());
  const text = await res.text().catch(() => {
    throw new ApiError(0, 'The answer was cut off. What you typed is kept here.');
  });
  let body: unknown = null;
  try {
    body = text ? JSON.parse(text) : null;
  } catch {
    body = null;
  }
  if (!res.ok)
    throw new ApiError(
      res.status,
      (body as { detail?: string } | null)?.detail ?? `The server answered ${res.status}.`,
      (body ?? {}) as ApiError['body'],
    );
  return body as T;
}

/** An address of an owner’s page. */
export interface OwnerLink {
  id: string;
  by: string;
  at: string;
  expires: string;
  seen: string | null;
}

export interface Dossier {
  order: Order;
  sheets: Sheets;
  settings: Settings;
  findings: EarlierFinding[];
  /** what the bench read of the source on other units of this model */
  /** how this shop’s times stand to the sheets’, by kit; under the empty name the unit’s own work */
  paces: Record<string, Pace>;
  measured: { number: number; at: string; what: 'volts' | 'amps'; value: number }[];
}
export interface Listed<T> {
  ref: SheetRef;
  at: string;
  by: string;
  /** why this revision was made */
  reason: string | null;
  /** it is not offered any more */
  retired?: true;
  sheet: T;
}
/** What a period came to in every shop of a group. */
export interface GroupFigures {
  name: string;
  rows: ShopFigures[];
}
/** The sheets that are offered for new work. */
export const offered = <T>(list: readonly Listed<T>[] | undefined): Listed<T>[] => (list ?? []).filter((x) => !x.retired);
export interface AllSheets {
  models: Listed<UnitModel>[];
  kits: Listed<Kit>[];
  packs: Listed<RulePack>[];
}

/** A server that is slower than this counts as out of reach where the device has an answer of before, ms. */
const PATIENCE_MS = 6000;
/** A week is planned for seconds, on a slow machine for some more. */
const PLANNING_MS = 20_000;

/**
 * What the server answers; where it cannot be reached, what it answered last, as this device kept it. Nobody else's: answers
 * are dropped when somebody signs out.
 * @param whole puts in what an older program’s answer does not have
 * @param patience how long an answer is waited for, ms
 */
async function kept<T>(path: string, whole: (answer: T) => T = (a) => a, patience = PATIENCE_MS): Promise<T> {
  const had = await deviceStore.answer(path).catch(() => undefined);
  const signal = had && AbortSignal.timeout(patience);
  try {
    const answer = await call<T>(path, signal && { signal });
    // a session that is over takes what was kept for it along
    void (path === SESSION && answer === null ? deviceStore.dropAnswers() : deviceStore.putAnswer(path, answer)).catch(() => undefined);
    return answer;
  } catch (e) {
    if (!had || !(signal!.aborted || (e instanceof ApiError && e.unreached))) throw e;
    reach.heard(false);
    return whole(had.answer as T);
  }
}

/** Settings that came since an answer was kept, as they come. */
const withDefaults = <T extends { settings: Settings }>(answer: T): T => ({
  ...answer,
  settings: { ...DEFAULT_SETTINGS, ...answer.settings },
});

const WEEK = '/api/week';
const HOUR_MS = 3_600_000;
const wholeWeek = (w: Week): Week => ({ ...w, parts: w.parts ?? [] });

const SESSION = '/api/session';
const SIGNED_OUT = 'signed-out';
/** Where the service worker keeps pictures that were seen. */
const PICTURES = 'kadro-pictures';
/** Who signed out here stays so, whether the server heard of it or not: it is told as soon as it can be. */
async function readSession(): Promise<Person | null> {
  if (readKept(SIGNED_OUT, false)) {
    try {
      await call('/api/session', { method: 'DELETE' });
    } catch {
      return null;
    }
    writeKept(SIGNED_OUT, null);
  }
  const before = await deviceStore.answer(SESSION).catch(() => undefined);
  const now = await kept<Person | null>(SESSION);
  // somebody else has signed in meanwhile, at another shop of this address: what was kept here is not theirs to see
  const was = (before?.answer as Person | null | undefined)?.id;
  if (was && now && was !== now.id) await deviceStore.dropAnswers().then(() => deviceStore.putAnswer(SESSION, now));
  return now;
}
/** Ends the session on this device at once, and at the server as soon as it hears. */
export async function signOut(): Promise<void> {
  writeKept(SIGNED_OUT, true);
  await dropKept();
  await readSession().catch(() => null);
}
/** Nothing that was kept for somebody is there for the next. */
async function dropKept(): Promise<void> {
  await deviceStore.dropAnswers().catch(() => undefined);
  await globalThis.caches?.delete(PICTURES).catch(() => undefined);
}
/** At a bench that people share: another signs in here, and who leaves is not signed out. */
export async function leaveBench(): Promise<void> {
  await call('/api/bench/leave', { json: {} });
  await dropKept();
}
/** Somebody signs in: what was left to say of the last session is over. */
export async function signIn(path: string, json: object): Promise<Person | AsksSecond> {
  const person = await call<Person | AsksSecond>(path, { json });
  if ('asks' in person) return person;
  writeKept(SIGNED_OUT, null);
  // what was kept for somebody else is gone, and this device opens for who is here now
  await deviceStore
    .dropAnswers()
    .then(() => deviceStore.putAnswer(SESSION, person))
    .catch(() => undefined);
  return person;
}

export const queries = {
  session: { queryKey: ['session'], queryFn: readSession, staleTime: Infinity },
  /** groups of shops that who is signed in owns */
  groups: { queryKey: ['groups'], queryFn: () => kept<{ id: string; name: string; shops: string[] }[]>('/api/groups'), staleTime: 60_000 },
  group: (id: string, from: string, to: string) => ({
    queryKey: ['group', id, from, to],
    queryFn: () => call<GroupFigures>(`/api/groups/${id}?from=${from}&to=${to}`),
  }),
  /** whether this device is a bench that people share, and who is signed in at it */
  bench: {
    queryKey: ['session-bench'],
    queryFn: () => call<{ shared: boolean; people: { id: string; name: string; code: boolean }[] }>('/api/bench'),
  },
  passkeys: { queryKey: ['passkeys'], queryFn: () => call<Passkey[]>('/api/session/passkeys') },
  benchCode: { queryKey: ['bench-code'], queryFn: () => call<{ on: boolean }>('/api/session/bench-code') },
  /** where who is signed in works */
  shops: { queryKey: ['session-shops'], queryFn: () => call<ShopOfMine[]>('/api/session/shops', { first: true }), staleTime: 60_000 },
  floor: { queryKey: ['floor'], queryFn: () => kept<{ orders: ListedOrder[]; more: number }>('/api/floor') },
  /** as it was last planned, where the server cannot be reached */
  week: {
    queryKey: ['week'],
    queryFn: () => kept<Week>(WEEK, wholeWeek, PLANNING_MS),
    staleTime: 30_000,
    refetchInterval: 300_000,
  },
  /** as this device saw it last, while it is planned anew: a picture that begins hours ago is none */
  weekBefore: {
    queryKey: ['week-before'],
    queryFn: async () => {
      const had = await deviceStore.answer(WEEK).catch(() => undefined);
      const week = had && wholeWeek(had.answer as Week);
      return week && Date.now() - week.now < HOUR_MS ? week : null;
    },
    staleTime: Infinity,
  },
  calendars: { queryKey: ['calendars'], queryFn: () => call<{ id: string; whose: string; by: string; at: string }[]>('/api/calendars') },
  month: (from: string, to: string) => ({ queryKey: ['month', from, to], queryFn: () => call<Month>(`/api/month?from=${from}&to=${to}`) }),
  sheets: { queryKey: ['sheets'], queryFn: () => kept<AllSheets>('/api/sheets'), staleTime: 60_000 },
  ownFound: (model: string) => ({
    queryKey: ['proposals', model, 'own'],
    queryFn: () => call<OwnOffered>(`/api/sheets/model/${model}/own`),
  }),
  proposals: (model: string) => ({
    queryKey: ['proposals', model],
    queryFn: () => call<Proposal[]>(`/api/sheets/model/${model}/proposals`),
  }),
  people: { queryKey: ['people'], queryFn: () => kept<PersonInShop[]>('/api/people'), staleTime: 60_000 },
  settings: {
    queryKey: ['settings'],
    queryFn: () => kept<{ settings: Settings; versions: Record<string, number> }>('/api/settings', withDefaults),
    staleTime: 60_000,
  },
  about: {
    queryKey: ['about'],
    queryFn: () => kept<{ standIns: boolean; demo: boolean; shop?: string }>('/api/about'),
    staleTime: Infinity,
  },
  ownerLinks: (order: string) => ({ queryKey: ['owner-links', order], queryFn: () => call<OwnerLink[]>(`/api/orders/${order}/links`) }),
  system: { queryKey: ['system'], queryFn: () => call<SystemState>('/api/system'), refetchInterval: 15_000 },
  sessions: { queryKey: ['sessions'], queryFn: () => call<OpenSession[]>('/api/session/all') },
  secondFactor: { queryKey: ['second-factor'], queryFn: () => call<{ on: boolean }>('/api/session/second') },
  rights: { queryKey: ['rights'], queryFn: () => call<{ at: string; by: string; person: string; says: string }[]>('/api/rights') },
  order: (id: string) => ({ queryKey: ['order', id], queryFn: () => kept<Dossier>(`/api/orders/${id}`, withDefaults) }),
  events: (id: string) => ({
    queryKey: ['events', id],
    queryFn: () => kept<(OrderEvent & { says: string })[]>(`/api/orders/${id}/events`),
  }),
  quote: (id: string, what: string) => ({
    queryKey: ['quote', id, what],
    queryFn: () => call<SupplierAnswer[]>(`/api/orders/${id}/quote`),
  }),
  supply: { queryKey: ['supply'], queryFn: () => kept<Supply>('/api/supply') },
  moves: (item: string) => ({
    queryKey: ['moves', item],
    queryFn: () => call<ShelfMove[]>(`/api/stock-moves${item ? `?item=${encodeURIComponent(item)}` : ''}`),
  }),
  purchases: { queryKey: ['purchases'], queryFn: () => kept<Purchase[]>('/api/purchases') },
  messages: (id: string) => ({ queryKey: ['messages', id], queryFn: () => call<OwnerMessage[]>(`/api/orders/${id}/messages`) }),
  worked: (id: string) => ({
    queryKey: ['worked', id],
    queryFn: () => call<{ jobs: Worked[]; slope: number; spread: number; outliers: Outlier[] }>(`/api/orders/${id}/worked`),
  }),
  search: (query: string) => ({ queryKey: ['orders', query], queryFn: () => call<ListedOrder[]>(`/api/orders?${query}`) }),
};
