import type { PurchaseLine, SupplierAnswer } from '#model/supply';

/** A line as the supplier is asked for it: for whom is not said. */
export type Asked = Omit<PurchaseLine, 'order'>;

/** Who the shop buys from. Days are as `2026-03-31`, by the shop’s calendar. */
export interface Supplier {
  /** what lines would cost, and when they would be here */
  quote(lines: readonly Asked[], today: string): Promise<SupplierAnswer[]>;
  /**
   * Orders under a name of the shop’s; the same name again is the same order, not another.
   * @throws OutOfReach
   */
  place(ref: string, lines: readonly Asked[], today: string): Promise<SupplierAnswer[]>;
  /**
   * What has become of an order; null where the supplier has none of that name.
   * @throws OutOfReach
   */
  ask(ref: string, today: string): Promise<SupplierAnswer[] | null>;
}
