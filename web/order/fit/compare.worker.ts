import { expose } from 'comlink';
import { compareOptions, type OptionRow } from '#core/order/options';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';

const work = {
  options: (order: Order, given: Sheets, settings: Settings, kit: string, variant: string): OptionRow[] =>
    compareOptions(order, given, settings, kit, variant),
};
export type CompareWork = typeof work;
expose(work);
