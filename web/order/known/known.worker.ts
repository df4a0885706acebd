import { expose } from 'comlink';
import { study, type Study } from '#core/known/study';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';

const work = {
  study: (order: Order, given: Sheets, settings: Settings, off: string[]): Study => study(order, given, settings, new Set(off)),
};
export type KnownWork = typeof work;
expose(work);
