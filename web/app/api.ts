import type { EarlierFinding } from '#core/order/earlier-findings';
import type { Outlier, Worked } from '#core/learn/learn';
import type { Pace } from '#core/learn/pace';
import type { ListedOrder } from '#core/order/summary';
import type { OrderEvent } from '#model/event';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Person } from '#model/person';
import type { RulePack } from '#model/rule-pack';
import type { Settings } from '#model/settings';
import type { SheetRef, Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';

/** What the server answered instead of doing it, with a sentence for the person. `status` 0: it could not be reached. */
export class Trouble extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: {
      fields?: { path: string; message: string }[];
      stale?: boolean;
      current?: Order;
      clashing?: Pick<OrderEvent, 'seq' | 'at' | 'by' | 'body'>[];
      problems?: { line: number; field: string; message: string }[];
    } = {},
  ) {
    super(message);
  }
  /** worth sending again as it is */
  get passing(): boolean {
    return this.status === 0 || this.status === 503 || this.status === 502 || this.status === 504;
  }
}

export async function call<T>(
  path: string,
  init: { method?: string; json?: unknown; text?: string; bytes?: Blob; headers?: Record<string, string>; signal?: AbortSignal } = {},
): Promise<T> {
  let res: Response;
  try {
    res = await fetch(path, {
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
    throw new Trouble(0, 'The server cannot be reached. What you typed is kept here.');
  }
  const text = await res.text();
  let body: unknown = null;
  try {
    body = text ? JSON.parse(text) : null;
  } catch {
    body = null;
  }
  if (!res.ok)
    throw new Trouble(
      res.status,
      (body as { detail?: string } | null)?.detail ?? `The server answered ${res.status}.`,
      (body ?? {}) as Trouble['body'],
    );
  return body as T;
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
  sheet: T;
}
export interface AllSheets {
  models: Listed<UnitModel>[];
  kits: Listed<Kit>[];
  packs: Listed<RulePack>[];
}

export const queries = {
  session: { queryKey: ['session'], queryFn: () => call<Person | null>('/api/session'), staleTime: Infinity },
  floor: { queryKey: ['floor'], queryFn: () => call<ListedOrder[]>('/api/floor') },
  sheets: { queryKey: ['sheets'], queryFn: () => call<AllSheets>('/api/sheets'), staleTime: 60_000 },
  people: { queryKey: ['people'], queryFn: () => call<Person[]>('/api/people'), staleTime: 60_000 },
  settings: { queryKey: ['settings'], queryFn: () => call<Settings>('/api/settings'), staleTime: 60_000 },
  order: (id: string) => ({ queryKey: ['order', id], queryFn: () => call<Dossier>(`/api/orders/${id}`) }),
  events: (id: string) => ({
    queryKey: ['events', id],
    queryFn: () => call<(OrderEvent & { says: string })[]>(`/api/orders/${id}/events`),
  }),
  quote: (id: string, what: string) => ({
    queryKey: ['quote', id, what],
    queryFn: () => call<{ id: string; amount: number; price: number; days: number }[]>(`/api/orders/${id}/quote`),
  }),
  worked: (id: string) => ({
    queryKey: ['worked', id],
    queryFn: () => call<{ jobs: Worked[]; slope: number; spread: number; outliers: Outlier[] }>(`/api/orders/${id}/worked`),
  }),
  search: (query: string) => ({ queryKey: ['orders', query], queryFn: () => call<ListedOrder[]>(`/api/orders?${query}`) }),
};
