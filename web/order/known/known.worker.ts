import { expose } from 'comlink';
import { sayRenewed, whatChanges } from '#core/known/renewed';
import { study, type Study } from '#core/known/study';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';

const work = {
  study: (order: Order, given: Sheets, settings: Settings, off: string[]): Study => study(order, given, settings, new Set(off)),
  changes: (order: Order, now: Sheets, next: Sheets, settings: Settings): string[] =>
    whatChanges(order, now, next, settings).map(sayRenewed),
};
export type KnownWork = typeof work;
expose(work);
