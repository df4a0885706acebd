import { LRUCache } from 'lru-cache';
import { assess, type Assessment } from '#core/order/assess';
import { Memo } from '#core/memo';
import { Learned, type Worked } from '#core/learn/learn';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { RulePack } from '#model/rule-pack';
import type { Settings } from '#model/settings';
import type { SheetKind, SheetRef, Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';

/** An order with all that it is computed from, as it is handed to a thread. */
export interface OrderInput {
  /** whose: part of every key */
  shop: string;
  order: Order;
  /** sheets by key, as JSON with their defaults */
  bag: Record<string, string>;
  packs: SheetRef[];
  /** settings as JSON */
  settings: string;
}

/** Sheets as they are stored and as they are whole that a thread remembers, characters. */
const WHOLE_BYTES = 16 * 1024 * 1024;

/** A thread computes for so many times as many orders as one screen. */
const MANY = 4;

/** What one thread remembers of what it was handed: bounded, and by keys that name the shop or hold all that the answer is made of. */
export class WorkMemo {
  /** by what stands in them: the same sheet in many shops is read once, and whoever has not got its text gets nothing */
  private readonly sheets = new LRUCache<string, UnitModel | Kit | RulePack>({ max: 300 });
  private readonly whole = new LRUCache<string, string>({
    maxSize: WHOLE_BYTES,
    sizeCalculation: (json, text) => json.length + text.length,
  });
  private readonly settings = new LRUCache<string, Settings>({ max: 8 });
  private readonly assessed = new LRUCache<string, { sheets: Sheets; settings: Settings; assessment: Assessment }>({ max: 24 * MANY });

  private readonly core = new Memo(MANY);
  /** some hundred kilobytes each */
  private readonly learned = new LRUCache<string, Learned>({ max: 200 });

  /** What a shop has learned of its times, from its finished jobs as JSON. */
  learnedFrom(key: string, jobs: string): Learned {
    const known = this.learned.get(key);
    if (known) return known;
    const made = new Learned(JSON.parse(jobs) as Worked[]);
    this.learned.set(key, made);
    return made;
  }

  private sheet<T extends UnitModel | Kit | RulePack>(x: Pick<OrderInput, 'shop' | 'bag'>, kind: SheetKind, ref: SheetRef): T {
    const key = `${x.shop}/${kind}/${ref.id}/${ref.revision}`;
    const json = x.bag[key];
    if (json === undefined) throw new Error(`sheet ${key} was not handed over`);
    const known = this.sheets.get(json);
    if (known) return known as T;
    const made = JSON.parse(json) as T;
    this.sheets.set(json, made);
    return made;
  }

  /** A sheet with what its schema adds, by its text. */
  wholeFrom(text: string, make: () => string): string {
    const known = this.whole.get(text);
    if (known !== undefined) return known;
    const made = make();
    this.whole.set(text, made);
    return made;
  }

  kit(x: Pick<OrderInput, 'shop' | 'bag'>, ref: SheetRef): Kit {
    return this.sheet<Kit>(x, 'kit', ref);
  }

  model(x: Pick<OrderInput, 'shop' | 'bag'>, ref: SheetRef): UnitModel {
    return this.sheet<UnitModel>(x, 'model', ref);
  }

  pack(x: Pick<OrderInput, 'shop' | 'bag'>, ref: SheetRef): RulePack {
    return this.sheet<RulePack>(x, 'rules', ref);
  }

  /**
   * The order as computed: what one command ends with, the next begins with.
   * @param text the order as canonical JSON, which one that was read from such has as it is
   */
  computed(x: OrderInput, order = x.order, text = JSON.stringify(order)): { sheets: Sheets; settings: Settings; assessment: Assessment } {
    const refs = [order.unit.model, ...order.kits.map((k) => k.kit), ...x.packs].map((r) => `${r.id}/${r.revision}`);
    const key = [x.shop, refs.join(' '), x.settings, text].join('\n');
    const known = this.assessed.get(key);
    if (known) return known;
    const model = this.model(x, order.unit.model);
    const kits = order.kits.map((k) => this.kit(x, k.kit));
    const packs = x.packs.map((p) => this.pack(x, p));
    // the same lists from one command to the next: what was worked out from them stays
    const sheets = this.core.once('sheets', [model, ...kits, 'packs', ...packs], (): Sheets => ({ model, kits, packs }));
    const settings = this.settings.get(x.settings) ?? (JSON.parse(x.settings) as Settings);
    this.settings.set(x.settings, settings);
    const made = { sheets, settings, assessment: assess(order, sheets, settings, this.core) };
    this.assessed.set(key, made);
    return made;
  }
}
