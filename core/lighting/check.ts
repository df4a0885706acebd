import type { Flasher } from '#model/lamp';
import type { Order } from '#model/order';
import { isMeasured } from '#model/origin';
import type { Sheets } from '#model/sheet';
import type { Harness } from '#model/harness';
import type { Memo } from '../memo';
import { worst } from '../verdict';
import { packsOf, proposePacks, type Proposal } from './choose-packs';
import { forecastFlash, type FlashForecast } from './flash';
import type { Given, LampItem } from './item';
import { FLASH_FACT, judgePack, type LampCheck } from './judge';
import { lampsOf, unitOf, type Lamp, type LampUnit } from './lamp';
import { switchTable, type SwitchTable } from './switching';
import { checkWeight } from './weight';

/** The line that always stands under a pack's verdicts. */
export const LOCAL_CODE = 'The local code and a licensed or certified person decide. Kadro checks against the named edition only.';

/** Everything about an order's lamps: what is judged, against what, and what came out. */
export interface OrderLamps extends LampCheck {
  unit: LampUnit;
  lamps: Lamp[];
  given: Given;
  proposals: Proposal[];
  flasher: { flasher: Flasher; of: string; sideW: number; forecast: FlashForecast } | null;
}

/** Lamps of one side that flash together, watts: the heavier side counts. */
export function sideWatts(lamps: readonly Lamp[]): number {
  const side = (s: 1 | -1) =>
    lamps
      .filter((l) => (l.function === 'turn-front' || l.function === 'turn-rear') && (l.at?.y ?? 0) * s > 0)
      .reduce((w, l) => w + (l.watts ?? 0), 0);
  return Math.max(side(1), side(-1));
}

/** The flasher that works the signals: a kit's own before the unit's. */
export function flasherOf(sheets: Sheets): { flasher: Flasher; of: string } | null {
  for (const k of sheets.kits) for (const d of k.devices) if (d.flasher) return { flasher: d.flasher, of: `${d.name}, ${k.name}` };
  return sheets.model.flasher ? { flasher: sheets.model.flasher, of: sheets.model.name } : null;
}

/** What was counted: told at Lamps, else the newest count of a step at the bench. */
function measuredFlash(order: Order): Given['flash']['measured'] {
  const told = order.facts[FLASH_FACT.perMinute];
  const share = order.facts[FLASH_FACT.onSharePct];
  const onSharePct = typeof share === 'number' ? share : null;
  if (typeof told === 'number') {
    const basis = order.measured?.[FLASH_FACT.perMinute] ? 'measured' : 'told';
    return { perMinute: told, onSharePct, from: 'counted at Lamps', basis };
  }
  const read = Object.values(order.steps)
    .flatMap((s) => Object.values(s.readings))
    .filter((r) => r.expected.unit === 'perMin')
    .sort((a, b) => (a.at < b.at ? 1 : -1))[0];
  return read
    ? {
        perMinute: read.value,
        onSharePct,
        from: `counted at the bench by ${read.by}`,
        basis: isMeasured(read.origin) ? 'measured' : 'told',
      }
    : null;
}

/** Lamps in every state of the switches, kept while the wiring and the lamps' places stay as they are. */
function tableOf(harness: Harness, sheets: Sheets, all: readonly Lamp[], memo: Memo): SwitchTable {
  // only lamps that some rule of some pack asks about: the others' switches need not be tried
  const asked = new Set(
    sheets.packs.flatMap((p) =>
      p.items.flatMap((i) =>
        i.kind === 'logic' ? [...i.given, ...i.then].flatMap((c) => ('lit' in c ? c.lit : 'dark' in c ? c.dark : [])) : [],
      ),
    ),
  );
  const lamps = all.filter((l) => asked.has(l.function));
  const key = JSON.stringify([lamps.map((l) => [l.id, l.function, l.at && Math.sign(Math.round(l.at.y / 20))]), sheets.model.id]);
  return memo.once('switches', [harness, key], () => switchTable(harness, sheets.model, lamps));
}

const settled = (items: readonly LampItem[]) => items.flatMap((i) => (i.verdict === null ? [] : [i.verdict]));

/** Counts what is met of what applies, and the worst verdict. An item that was not judged is never counted as met. */
export function tally(packs: LampCheck['packs']): LampCheck {
  const verdicts = packs.flatMap((p) => settled(p.items));
  return { packs, met: verdicts.filter((v) => v === 'holds' || v === 'tight').length, required: verdicts.length, verdict: worst(verdicts) };
}

/**
 * The rule packs of an order against what its unit has, what its kits bring and how they are switched, item by item.
 * @param sheets as agreed for the order, with every pack there is
 */
export function checkLamps(order: Order, sheets: Sheets, harness: Harness | null, memo: Memo): OrderLamps {
  const measured = measuredFlash(order);
  // most of what happens to an order at the bench changes none of it
  const key = JSON.stringify([order.facts, order.measured, order.wishes, order.packs, order.fitted, order.lamps, measured]);
  return memo.once('lamps', [harness, sheets.model, sheets.kits, sheets.packs, key], () =>
    computeCheck(order, sheets, harness, measured, memo),
  );
}

function computeCheck(order: Order, sheets: Sheets, harness: Harness | null, measured: Given['flash']['measured'], memo: Memo): OrderLamps {
  const unit = unitOf(sheets.model, order.facts);
  const lamps = lampsOf(order, sheets);
  const proposals = proposePacks(sheets.packs, sheets.model.rulePacks, unit, order.facts, order.wishes, order.packs);
  const f = flasherOf(sheets);
  const sideW = sideWatts(lamps);
  const forecast = f ? forecastFlash(f.flasher, sideW) : null;
  const given: Given = {
    unit,
    lamps,
    facts: order.facts,
    measured: new Set(Object.keys(order.measured ?? {})),
    uses: order.wishes,
    table: harness ? tableOf(harness, sheets, lamps, memo) : null,
    flash: { measured, forecast },
    weight: checkWeight(unit, sheets),
  };
  const packs = packsOf(order, proposals).map((pack) => ({ pack, items: judgePack(pack, given) }));
  return { ...tally(packs), unit, lamps, given, proposals, flasher: f && forecast ? { ...f, sideW, forecast } : null };
}

/** The same check with lamps somewhere else, as while one is dragged. */
export function recheck(check: OrderLamps, lamps: readonly Lamp[]): LampCheck & { given: Given } {
  const given = { ...check.given, lamps };
  return { ...tally(check.packs.map(({ pack }) => ({ pack, items: judgePack(pack, given) }))), given };
}
