import type { Harness, HarnessElement, HarnessFuse, When } from '#model/harness';
import { ImpossibleInput } from '../errors';
import type { Element } from '../network/element';
import { Network, NoOperatingPoint } from '../network/solve';
import { fuseFamily, fuseOhms, fuseOpens } from '../wire/fuse-time';
import { wireOhms } from '../wire/wire-ohms';

/** Where every switch stands, and whether the flasher is on its beat. A switch left out is at rest. */
export interface SwitchState {
  controls: Readonly<Record<string, string>>;
  beat: boolean;
}
/** What is wrong with it, put in to see what happens. */
export interface Faults {
  /** fuses taken out or blown, by element */
  blown: readonly string[];
  /** joints and leads that are open, lamps and coils burnt out, supplies dead, by element */
  open: readonly string[];
  /** ohms added to wires and grounds by corrosion, by element */
  corroded: Readonly<Record<string, number>>;
  /** pairs of leads whose far ends are changed over */
  swapped: readonly (readonly [string, string])[];
  /** contacts that never open, by element */
  stuck: readonly string[];
  /** points chafed through to the battery's negative, by node */
  shorted: readonly string[];
  /** points that touch the battery's positive, by node */
  fed?: readonly string[];
  /** diodes that pass current both ways, by element */
  leaky?: readonly string[];
  /** fuses of another rating than planned, amperes by element */
  fuses?: Readonly<Record<string, number>>;
  /** sources that give only this share of their amperes, and batteries that stand at this share of their volts, by element */
  weak?: Readonly<Record<string, number>>;
}
export const NO_FAULTS: Faults = { blown: [], open: [], corroded: {}, swapped: [], stuck: [], shorted: [] };
export const AT_REST: SwitchState = { controls: {}, beat: true };

/** Where the two probes of a meter touch, and what it is set to. */
export interface Meter {
  mode: 'volts' | 'amps' | 'ohms';
  plus: string;
  minus: string;
}

export interface BlownFuse {
  id: string;
  amps: number;
  /** no sooner and no later than, seconds */
  soonestS: number;
  latestS: number;
}
export type SupplyState = 'awake' | 'asleep' | 'cut off' | 'at its limit';

/** How everything stands in one state of the switches. */
export interface Shown {
  volts: ReadonlyMap<string, number>;
  amps: ReadonlyMap<string, number>;
  /** coils that are pulled in */
  pulled: ReadonlySet<string>;
  blown: BlownFuse[];
  /** coils that pull in and let go without end */
  chatter: string[];
  supplies: ReadonlyMap<string, SupplyState>;
  /** what the meter shows; null without one, Infinity for ohms of an open way */
  meter: number | null;
  /** largest sum of amperes at a point that should be zero */
  residualA: number;
  rounds: number;
}

/** An open contact, a pulled fuse, a broken joint. */
const OPEN_OHMS = 1e13;
/** Damp and dust: every point to the battery's negative, so that a point joined to nothing reads 0 V as it does on a meter. */
const LEAK_OHMS = 5e8;
/** A wire chafed through to metal. Common practice, no source. */
const SHORT_OHMS = 0.02;
/** A diode that is open passes nothing under these; one that is shorted is little more than a joint. */
const OPEN_DIODE_V = 1e6;
const LEAKY_OHMS = 0.01;
/** A failing battery's resistance beside a sound one's. Common practice, no source. */
const WEAK_TIMES = 4;
const METER_OHMS = 1e7;
/** An ammeter's own resistance, ohms. From memory of instruments: common practice, no source. */
const AMMETER_OHMS = 0.01;
/** What a reducer that is not awake leaks through, ohms: a meter sees its volts, anything that draws pulls them down to nothing. Common practice, no source. */
const ASLEEP_OHMS = 50_000;
/** What an ohmmeter drives, amperes, and the most it can show. */
const TEST_A = 1e-4;
const MOST_OHMS = 2e7;
const MOST_ROUNDS = 300;
const LEAK = 'leak:';

interface Live {
  e: HarnessElement;
  element: Element;
}

/**
 * A harness as a network of fixed shape, switched by changing figures. One instance serves any number of states;
 * relays keep their memory from state to state unless `reset`.
 */
export class Simulator {
  private readonly net: Network;
  private readonly byId = new Map<string, Live>();
  private readonly contacts: Extract<HarnessElement, { kind: 'contact' }>[];
  private readonly coils: Extract<HarnessElement, { kind: 'coil' }>[];
  private readonly supplies: Extract<HarnessElement, { kind: 'supply' }>[];
  private readonly chargers: Extract<HarnessElement, { kind: 'charger' }>[];
  private readonly fuses: HarnessFuse[];
  private readonly batteries: Extract<HarnessElement, { kind: 'battery' }>[];
  private readonly rest = new Map<string, string>();
  /** ohms of everything as it should be */
  private readonly whole = new Map<string, number>();
  private pulled = new Set<string>();
  private metered: Meter | null;

  /**
   * @param meter a meter's place is part of the network's shape; a new one asks for a new simulator
   * @throws ImpossibleInput for figures that cannot be
   */
  constructor(
    readonly harness: Harness,
    private faults: Faults = NO_FAULTS,
    meter: Meter | null = null,
  ) {
    const of = <K extends HarnessElement['kind']>(kind: K) =>
      harness.elements.filter((e): e is Extract<HarnessElement, { kind: K }> => e.kind === kind);
    this.contacts = of('contact');
    this.coils = of('coil');
    this.supplies = of('supply');
    this.chargers = of('charger');
    this.fuses = of('fuse');
    this.batteries = of('battery');
    this.metered = meter && meter.plus !== meter.minus ? meter : null;
    harness.controls.forEach((c) => this.rest.set(c.id, c.positions[0]!.id));
    const to = new Map(harness.elements.map((e) => [e.id, e.to]));
    for (const [a, b] of faults.swapped) {
      const [ta, tb] = [to.get(a), to.get(b)];
      if (ta === undefined || tb === undefined)
        throw new ImpossibleInput(`leads “${a}” and “${b}” cannot be changed over: one is not here`, 'swapped');
      to.set(a, tb);
      to.set(b, ta);
    }
    const elements: Element[] = [];
    for (const e of harness.elements) {
      const end = to.get(e.id)!;
      if (e.from === end) continue;
      for (const x of partsOf({ ...e, to: end } as HarnessElement)) elements.push(x);
    }
    const nodes = new Set(['bat-', ...harness.nodes.map((n) => n.id)]);
    for (const n of nodes) if (n !== 'bat-') elements.push({ kind: 'R', id: `${LEAK}${n}`, from: n, to: 'bat-', ohms: LEAK_OHMS });
    for (const n of faults.shorted) {
      if (!nodes.has(n)) throw new ImpossibleInput(`point “${n}” cannot be shorted: it is not here`, 'shorted');
      if (n !== 'bat-') elements.push({ kind: 'R', id: `short:${n}`, from: n, to: 'bat-', ohms: SHORT_OHMS });
    }
    for (const n of faults.fed ?? []) {
      if (!nodes.has(n)) throw new ImpossibleInput(`point “${n}” cannot touch plus: it is not here`, 'fed');
      if (n !== 'bat+') elements.push({ kind: 'R', id: `fed:${n}`, from: n, to: 'bat+', ohms: SHORT_OHMS });
    }
    if (this.metered) {
      elements.push({ kind: 'R', id: 'meter', from: this.metered.plus, to: this.metered.minus, ohms: METER_OHMS });
      elements.push({ kind: 'I', id: 'meter:test', from: this.metered.minus, to: this.metered.plus, amps: 0 });
    }
    this.net = new Network(elements, 'bat-');
    harness.elements.forEach((e) => {
      if (e.from !== to.get(e.id)) this.byId.set(e.id, { e, element: this.net.element(mainPart(e)) });
    });
    for (const [id, { element }] of this.byId) if (element.kind === 'R') this.whole.set(id, element.ohms);
    this.put();
  }

  /**
   * Changes what is wrong, all relays let go. Leads changed over and shorts are part of the network’s shape: those must stay
   * as they were.
   * @throws ImpossibleInput for others than at first
   */
  plant(faults: Faults): void {
    if (shapeOf(faults) !== shapeOf(this.faults))
      throw new ImpossibleInput('leads changed over and shorts ask for a simulator of their own', 'faults');
    this.faults = faults;
    this.put();
    this.reset();
  }
  private put(): void {
    const { open, blown, corroded, leaky = [], weak = {} } = this.faults;
    for (const [id, { e, element }] of this.byId) {
      const broken = open.includes(id) || (e.kind === 'fuse' && blown.includes(id));
      if (element.kind === 'R') element.ohms = broken ? OPEN_OHMS : this.whole.get(id)! + (corroded[id] ?? 0);
      if (element.kind === 'load' && e.kind === 'load') element.watts = broken ? 0 : (e.watts ?? 0);
      if (element.kind === 'diode' && e.kind === 'diode') {
        element.volts = broken ? OPEN_DIODE_V : e.volts;
        this.setOhms(`${id}:through`, leaky.includes(id) ? LEAKY_OHMS : OPEN_OHMS);
      }
      if (element.kind === 'V' && e.kind === 'battery') element.volts = e.volts * (weak[id] ?? 1);
    }
  }

  /** Lets all relays go. */
  reset(): void {
    this.pulled = new Set();
  }

  private position(state: SwitchState, control: string): string | undefined {
    return state.controls[control] ?? this.rest.get(control);
  }
  private closed(state: SwitchState, when: readonly When[]): boolean {
    return when.every((w) =>
      'beat' in w ? state.beat : 'coil' in w ? this.pulled.has(w.coil) === w.pulled : w.in.includes(this.position(state, w.control) ?? ''),
    );
  }
  private setOhms(id: string, ohms: number): boolean {
    const x = this.net.element(id) as Extract<Element, { kind: 'R' }>;
    if (x.ohms === ohms) return false;
    x.ohms = ohms;
    return true;
  }

  /**
   * Throws the switches and answers how everything stands once relays, supplies and fuses have settled.
   * @throws NoOperatingPoint when the volts settle nowhere, with the point that stands in the way
   */
  show(state: SwitchState): Shown {
    const settled = this.settle(state);
    const s = this.net.answer();
    const volts = new Map<string, number>();
    const amps = new Map<string, number>();
    for (const n of this.harness.nodes) volts.set(n.id, s.volts.get(n.id) ?? 0);
    for (const e of this.harness.elements) {
      if (!this.byId.has(e.id)) continue;
      const i = s.amps.get(mainPart(e))!;
      amps.set(e.id, e.kind === 'charger' ? i + (s.amps.get(`${e.id}:limit`) ?? 0) : i);
      if (e.kind === 'supply') amps.set(`${e.id}:out`, (s.amps.get(`${e.id}:give`) ?? 0) * -1);
    }
    return { ...settled, volts, amps, pulled: new Set(this.pulled), meter: this.read(s), residualA: s.residualA };
  }

  /** Reads a point's volts as they stand: for many states of the switches, of which a few figures are looked at. */
  voltsReader = (node: string): (() => number) => this.net.voltsReader(node);
  /** The same of an element's amperes; null for one that a fault has left out. */
  ampsReader(id: string): (() => number) | null {
    const live = this.byId.get(id);
    if (!live) return null;
    const main = this.net.ampsReader(mainPart(live.e));
    if (live.e.kind !== 'charger') return main;
    const limit = this.net.ampsReader(`${id}:limit`);
    return () => main() + limit();
  }

  /**
   * Throws the switches as `show` does, and leaves everything to be read where it stands.
   * @throws NoOperatingPoint as `show` does
   */
  settle(state: SwitchState): Pick<Shown, 'blown' | 'chatter' | 'supplies' | 'rounds'> {
    const ohmmeter = this.metered?.mode === 'ohms';
    const blown: BlownFuse[] = [];
    const out = new Set<string>();
    const chatter: string[] = [];
    const flips = new Map<string, number>();
    const supplies = new Map<string, SupplyState>();
    const engine = this.position(state, 'unit#engine');
    const running = engine === 'idle' || engine === 'working';
    let rounds = 0;
    if (this.metered) {
      this.setOhms('meter', this.metered.mode === 'amps' ? AMMETER_OHMS : METER_OHMS);
      (this.net.element('meter:test') as Extract<Element, { kind: 'I' }>).amps = ohmmeter ? TEST_A : 0;
    }
    for (const f of this.fuses)
      if (this.byId.has(f.id) && !this.faults.blown.includes(f.id) && !this.faults.open.includes(f.id))
        this.setOhms(f.id, fuseOhms(this.rating(f)));
    for (const e of this.harness.elements) if (ohmmeter) this.dead(e);
    if (!ohmmeter) {
      for (const s of this.supplies) this.feedSupply(s, 'asleep', 0);
      for (const c of this.chargers) this.charge(c, running ? 'holding' : 'off', 0);
    }
    for (; ; rounds++) {
      for (const c of this.contacts)
        if (this.byId.has(c.id) && !this.faults.open.includes(c.id))
          this.setOhms(
            c.id,
            this.faults.stuck.includes(c.id) || this.closed(state, c.when) ? c.ohms + (this.faults.corroded[c.id] ?? 0) || 1e-4 : OPEN_OHMS,
          );
      this.net.find();
      if (rounds > MOST_ROUNDS) throw new NoOperatingPoint('relays and supplies do not come to rest: no steady state was found');
      if (ohmmeter) break;
      if (this.settleRelays(flips, chatter)) continue;
      if (this.settleSupplies(supplies)) continue;
      if (running && this.settleChargers(engine!)) continue;
      if (this.settleBatteries()) continue;
      const next = this.worstFuse(out);
      if (!next) break;
      out.add(next.id);
      blown.push(next);
      this.setOhms(next.id, OPEN_OHMS);
      flips.clear();
    }
    return { blown, chatter, supplies, rounds };
  }

  private read(s: { volts: ReadonlyMap<string, number>; amps: ReadonlyMap<string, number> }): number | null {
    const m = this.metered;
    if (!m) return null;
    const v = s.volts.get(m.plus)! - s.volts.get(m.minus)!;
    if (m.mode === 'volts') return v;
    if (m.mode === 'amps') return s.amps.get('meter')!;
    const through = TEST_A - v / METER_OHMS;
    const ohms = through > 0 ? v / through : Infinity;
    return ohms > MOST_OHMS ? Infinity : Math.max(0, ohms);
  }

  /** With the battery's cables off, as for ohms: sources gone, electronics show nothing, coils and heaters their copper. */
  private dead(e: HarnessElement): void {
    if (e.kind === 'battery') (this.net.element(e.id) as Extract<Element, { kind: 'V' }>).volts = 0;
    if (e.kind === 'battery') (this.net.element(e.id) as Extract<Element, { kind: 'V' }>).ohms = OPEN_OHMS;
    if (e.kind === 'charger') this.charge(e, 'off', 0);
    if (e.kind === 'supply') {
      const give = this.net.element(`${e.id}:give`) as Extract<Element, { kind: 'V' }>;
      give.volts = 0;
      give.ohms = OPEN_OHMS;
      (this.net.element(`${e.id}:take`) as Extract<Element, { kind: 'load' }>).watts = 0;
    }
    if (e.kind === 'load' && !this.faults.open.includes(e.id)) {
      const x = this.net.element(e.id) as Extract<Element, { kind: 'load' }>;
      if (e.law === 'constant-power' || e.own) x.watts = 0;
      else if (e.law === 'filament') {
        // a cold filament has about a tenth of its hot resistance; from memory
        x.law = 'resistor';
        x.watts = (e.watts ?? 0) * 10;
      } else x.law = 'resistor';
    }
  }

  private rating = (f: HarnessFuse): number => this.faults.fuses?.[f.id] ?? f.ratingA;
  private at = (node: string): number => this.net.voltsAt(node);

  private settleRelays(flips: Map<string, number>, chatter: string[]): boolean {
    let moved = false;
    for (const c of this.coils) {
      if (!this.byId.has(c.id) || chatter.includes(c.id)) continue;
      const v = Math.abs(this.at(c.from) - this.at(this.byId.get(c.id)!.element.to));
      const on = this.pulled.has(c.id);
      if (!on && v >= c.pullInV) this.pulled.add(c.id);
      else if (on && v <= c.dropOutV) this.pulled.delete(c.id);
      else continue;
      moved = true;
      const n = (flips.get(c.id) ?? 0) + 1;
      flips.set(c.id, n);
      if (n > 6) chatter.push(c.id);
    }
    return moved;
  }

  private feedSupply(e: Extract<HarnessElement, { kind: 'supply' }>, as: SupplyState, inputW: number, volts = e.volts): boolean {
    const give = this.net.element(`${e.id}:give`) as Extract<Element, { kind: 'V' }>;
    const take = this.net.element(`${e.id}:take`) as Extract<Element, { kind: 'load' }>;
    const [v, ohms] =
      as === 'asleep' ? [e.asleepV, e.asleepV > 0 ? ASLEEP_OHMS : OPEN_OHMS] : as === 'cut off' ? [0, OPEN_OHMS] : [volts, e.ohms];
    const changed = give.volts !== v || give.ohms !== ohms || Math.abs(take.watts - inputW) > 1e-6 * Math.max(1, inputW);
    give.volts = v;
    give.ohms = ohms;
    take.watts = inputW;
    return changed;
  }

  private settleSupplies(states: Map<string, SupplyState>): boolean {
    let moved = false;
    for (const e of this.supplies) {
      if (!this.byId.has(e.id)) continue;
      const inV = this.at(e.from) - this.at(e.to);
      const trigger = e.trigger === null ? inV : this.at(e.trigger) - this.at(e.to);
      const was = states.get(e.id) ?? 'asleep';
      let now: SupplyState;
      if (this.faults.open.includes(e.id) || inV < (e.cutoffV ?? e.volts * 0.5) * (was === 'cut off' ? 1.05 : 1)) now = 'cut off';
      else if (trigger < inV / 2) now = 'asleep';
      else now = was === 'at its limit' ? 'at its limit' : 'awake';
      const give = this.net.element(`${e.id}:give`) as Extract<Element, { kind: 'V' }>;
      const outA = -this.net.ampsOf(`${e.id}:give`);
      let volts = give.volts;
      if (now === 'awake' && was !== 'awake') volts = e.volts;
      else if ((now === 'awake' || now === 'at its limit') && outA > e.limitA * 1.0005) {
        // it folds its volts back until the load takes no more than the limit
        volts = Math.max(0.1, give.volts * Math.max(0.6, e.limitA / outA));
        now = 'at its limit';
      } else if (now === 'at its limit' && outA < e.limitA * 0.98) {
        volts = Math.min(e.volts, give.volts * 1.02);
        if (volts >= e.volts) now = 'awake';
      }
      states.set(e.id, now);
      const outW = Math.max(0, outA) * Math.max(0, this.at(e.out) - this.at(e.to));
      const inputW = now === 'awake' || now === 'at its limit' ? outW / e.efficiency : 0;
      if (this.feedSupply(e, now, inputW, volts)) moved = true;
    }
    return moved;
  }

  private charge(e: Extract<HarnessElement, { kind: 'charger' }>, as: 'off' | 'holding' | 'limited', limitA: number): boolean {
    const v = this.net.element(e.id) as Extract<Element, { kind: 'V' }>;
    const i = this.net.element(`${e.id}:limit`) as Extract<Element, { kind: 'I' }>;
    const [ohms, amps] = as === 'holding' ? [e.ohms, 0] : as === 'limited' ? [OPEN_OHMS, -limitA] : [OPEN_OHMS, 0];
    const changed = v.ohms !== ohms || i.amps !== amps;
    v.ohms = ohms;
    i.amps = amps;
    return changed;
  }
  private settleChargers(engine: string): boolean {
    let moved = false;
    for (const c of this.chargers) {
      const limit = (engine === 'idle' ? c.idleA : c.workingA) * (this.faults.weak?.[c.id] ?? 1);
      const v = this.net.element(c.id) as Extract<Element, { kind: 'V' }>;
      const limited = v.ohms === OPEN_OHMS;
      if (!limited && -this.net.ampsOf(c.id) > limit) moved = this.charge(c, 'limited', limit) || moved;
      else if (limited && this.at(c.from) - this.at(c.to) > c.volts + 1e-6) moved = this.charge(c, 'holding', limit) || moved;
      // a source never takes current back
      else if (!limited && this.net.ampsOf(c.id) > 1e-6) moved = this.charge(c, 'off', 0) || moved;
    }
    return moved;
  }

  /** A battery that is charged gives way more than one that gives. */
  private settleBatteries(): boolean {
    let moved = false;
    for (const e of this.batteries) {
      const v = this.net.element(e.id) as Extract<Element, { kind: 'V' }>;
      // a flat or failing battery gives way more
      const ohms = (this.net.ampsOf(e.id) > 1e-6 ? e.chargeOhms : e.ohms) * (this.faults.weak?.[e.id] === undefined ? 1 : WEAK_TIMES);
      if (v.ohms !== ohms) {
        v.ohms = ohms;
        moved = true;
      }
    }
    return moved;
  }

  /** The fuse that opens first among those that must open. */
  private worstFuse(out: ReadonlySet<string>): BlownFuse | null {
    let worst: BlownFuse | null = null;
    let most = 0;
    for (const f of this.fuses) {
      if (out.has(f.id) || !this.byId.has(f.id) || this.faults.blown.includes(f.id)) continue;
      const amps = Math.abs(this.net.ampsOf(f.id));
      const rating = this.rating(f);
      const t = fuseOpens(fuseFamily(rating), rating, amps);
      const opens = f.burstS === null ? Number.isFinite(t.latestS) : t.soonestS < f.burstS;
      const times = amps / rating;
      if (!opens || (worst && (t.soonestS > worst.soonestS || (t.soonestS === worst.soonestS && times <= most)))) continue;
      worst = { id: f.id, amps, ...t };
      most = times;
    }
    return worst;
  }
}

/** What of the faults is a part of the network's shape. */
export const shapeOf = (f: Faults): string => JSON.stringify([f.swapped, f.shorted, f.fed ?? []]);

const mainPart = (e: HarnessElement): string => (e.kind === 'supply' ? `${e.id}:take` : e.id);

function partsOf(e: HarnessElement): Element[] {
  const ends = { id: e.id, from: e.from, to: e.to };
  switch (e.kind) {
    case 'wire':
      // a wire whose length nobody knows is simulated as a metre
      return [{ ...ends, kind: 'R', ohms: Math.max(1e-5, wireOhms(e)) }];
    case 'fuse':
      return [{ ...ends, kind: 'R', ohms: fuseOhms(e.ratingA) }];
    case 'contact':
      return [{ ...ends, kind: 'R', ohms: OPEN_OHMS }];
    case 'coil':
      return [{ ...ends, kind: 'R', ohms: e.ohms }];
    case 'resistor':
      return [{ ...ends, kind: 'R', ohms: Math.max(e.ohms, 1e-5) }];
    case 'load':
      return [
        {
          ...ends,
          kind: 'load',
          law: e.law,
          watts: e.watts ?? 0,
          volts: e.volts,
          minVolts: e.minVolts,
          oneWay: e.law === 'constant-power',
        },
      ];
    case 'diode':
      return [
        { ...ends, kind: 'diode', volts: e.volts },
        { kind: 'R', id: `${e.id}:through`, from: e.from, to: e.to, ohms: OPEN_OHMS },
      ];
    case 'battery':
      return [{ ...ends, kind: 'V', volts: e.volts, ohms: e.ohms }];
    case 'charger':
      return [
        { ...ends, kind: 'V', volts: e.volts, ohms: OPEN_OHMS },
        { kind: 'I', id: `${e.id}:limit`, from: e.from, to: e.to, amps: 0 },
      ];
    case 'supply':
      return [
        {
          kind: 'load',
          id: `${e.id}:take`,
          from: e.from,
          to: e.to,
          law: 'constant-power',
          watts: 0,
          volts: Math.max(12, e.volts),
          minVolts: 6,
          oneWay: true,
        },
        { kind: 'V', id: `${e.id}:give`, from: e.out, to: e.to, volts: 0, ohms: OPEN_OHMS },
        ...(e.trigger === null ? [] : [{ kind: 'R' as const, id: `${e.id}:trigger`, from: e.trigger, to: e.to, ohms: 47_000 }]),
      ];
  }
}
