import type { UnitModel } from '#model/unit-model';

/** Where the lines of a hull run: its gunwale aft and at the bow, its keel, and the top of its console; millimetres above the water. */
export function hullLines(m: UnitModel) {
  const { heightMm: H, wheelMm: d, cab } = m.dims;
  const aft = 0.85 * d;
  const bow = 1.3 * d;
  const console_ = m.body === 'console';
  return {
    aft,
    bow,
    keel: -0.45 * d,
    /** the console stands amidships, or against the starboard side */
    amidships: console_,
    screen: aft + (console_ ? 0.95 : 0.75) * d,
    top: cab === 'none' ? null : H,
  };
}
