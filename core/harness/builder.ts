import type { Harness, HarnessElement, HarnessNode, HarnessProblem, HarnessWire, When } from '#model/harness';
import type { Control } from '#model/parts';
import type { UnitModel } from '#model/unit-model';
import { hazardsAlong, lengthAlong, route } from '../circuit/route';
import { UNIT_CONTROLS } from './unit-controls';

/** Left at each end to make a neat joint, and for a bend that must still move. Common practice, no source. */
export const END_M = 0.15;
/** Left at a splice. Common practice, no source. */
const SPLICE_M = 0.05;
export const SLACK = 1.1;
/** Conductor temperature along hot parts and elsewhere, °C. Common practice, no source. */
const HOT_C = 60;
const PLAIN_C = 30;

/** What is built so far, and the ways to add to it. */
export class Builder {
  readonly nodes = new Map<string, HarnessNode>();
  readonly elements: HarnessElement[] = [];
  readonly controls = new Map<string, Harness['controls'][number]>();
  readonly problems: HarnessProblem[] = [];
  readonly fixedAwg = new Set<string>();
  private readonly ids = new Set<string>();
  private splices = 0;
  constructor(readonly model: UnitModel) {}

  node(id: string, label: string, kind: HarnessNode['kind'], place: string | null, of: string | null = null): string {
    if (!this.nodes.has(id))
      this.nodes.set(id, { id, label: label.slice(0, 160), kind, place: this.model.places.some((p) => p.id === place) ? place : null, of });
    return id;
  }
  /** A point within what its maker made: nobody joins anything there. */
  markReady(id: string): void {
    const n = this.nodes.get(id);
    if (n) this.nodes.set(id, { ...n, ready: true });
  }
  readonly circuitNames = new Map<string, string>();
  circuitName(id: string): string {
    return this.circuitNames.get(id) ?? id;
  }
  add(e: HarnessElement): void {
    if (e.from === e.to || this.ids.has(e.id)) return;
    this.ids.add(e.id);
    this.elements.push(e);
  }
  problem(text: string, where: Partial<HarnessProblem> = {}): void {
    if (!this.problems.some((p) => p.text === text))
      this.problems.push({ text: text.slice(0, 240), node: null, place: null, circuit: null, ...where });
  }
  /** The unit's own switch of that name, once something asks for it. */
  unitControl(id: string): string | null {
    const c = UNIT_CONTROLS.find((x) => x.id === id);
    if (!c) return null;
    if (!this.controls.has(`unit#${id}`)) this.controls.set(`unit#${id}`, { ...c, id: `unit#${id}`, of: 'unit', place: null });
    return `unit#${id}`;
  }
  conditions(list: readonly string[], device: { id: string; controls: readonly Control[] } | null, what: string): When[] | null {
    const out: When[] = [];
    for (const text of list) {
      if (text === 'beat') out.push({ beat: true });
      else if (/^!?@/.test(text)) out.push({ coil: `${device?.id ?? ''}@${text.replace(/^!?@/, '')}`, pulled: !text.startsWith('!') });
      else {
        const [name, positions] = text.split(':') as [string, string];
        const own = device?.controls.find((c) => c.id === name);
        const control = own ? `${device!.id}#${name}` : this.unitControl(name);
        if (!control || (own && !own.positions.length)) {
          this.problem(
            own ? `${what}: the switch “${own.name}” has no position` : `${what}: asks for a switch “${name}”, which is not there`,
            {
              node: null,
            },
          );
          return null;
        }
        out.push({ control, in: positions.split('|') });
      }
    }
    return out;
  }

  /** Wires from one point to several, along the runs, spliced where ways part. */
  join(
    from: string,
    targets: readonly string[],
    look: {
      colour: string;
      circuit: string | null;
      signal?: boolean;
      bothWays?: boolean;
      awg?: number;
      via?: string;
      unitColour?: string;
      ends?: readonly [string, string];
      shared?: string[];
    },
  ): void {
    const start = this.nodes.get(from)!;
    const group: { to: string; rest: string[] }[] = [];
    for (const to of targets) {
      const end = this.nodes.get(to)!;
      const r = start.place && end.place ? route(this.model, start.place, end.place, look.via) : null;
      if (r) group.push({ to, rest: r.places.slice(1) });
      else {
        this.wire(
          from,
          to,
          [start.place, end.place].filter((p) => p !== null),
          look,
          null,
        );
        if (start.place && end.place)
          this.problem(`no run leads from ${this.placeName(start.place)} to ${this.placeName(end.place)}: type the measured length`, {
            node: to,
            place: end.place,
            circuit: look.circuit,
          });
      }
    }
    if (group.length) this.grow(from, [start.place!], group, look);
  }
  private grow(from: string, way: string[], group: { to: string; rest: string[] }[], look: Parameters<Builder['join']>[2]): void {
    const here = way.at(-1)!;
    const stops = group.filter((g) => !g.rest.length);
    const nexts = new Map<string, typeof group>();
    for (const g of group)
      if (g.rest.length) nexts.set(g.rest[0]!, [...(nexts.get(g.rest[0]!) ?? []), { to: g.to, rest: g.rest.slice(1) }]);
    if (stops.length + nexts.size === 1) {
      if (stops.length) this.wire(from, stops[0]!.to, way, look);
      else for (const [next, g] of nexts) this.grow(from, [...way, next], g, look);
      return;
    }
    let hub = from;
    if (way.length > 1 || stops.length + nexts.size > 2) {
      hub = this.splice(look.circuit, here);
      this.wire(from, hub, way, look);
    }
    for (const s of stops) this.wire(hub, s.to, [here], look);
    for (const [next, g] of nexts) this.grow(hub, [here, next], g, look);
  }
  /** A joint of wires at a place. */
  splice(circuit: string | null, place: string): string {
    return this.node(`${circuit ?? 'unit'}#splice-${++this.splices}`, `splice at ${this.placeName(place)}`, 'splice', place);
  }
  /** One wire from point to point along places that runs join. */
  piece(from: string, to: string, places: string[], look: Parameters<Builder['join']>[2]): void {
    this.wire(from, to, places, look);
  }
  private wire(from: string, to: string, places: string[], look: Parameters<Builder['join']>[2], known: number | null = 0): void {
    const { lengthMm, slackMm } = lengthAlong(this.model, places);
    const endOf = (id: string) => (this.nodes.get(id)!.kind === 'splice' ? SPLICE_M : END_M);
    const hot = hazardsAlong(this.model, places).includes('heat');
    const word = (id: string, given: string | undefined, fallback: string) =>
      this.nodes.get(id)!.kind === 'splice' ? 'splice' : (given ?? this.endWord(id) ?? fallback);
    const id = `${from}>${to}`;
    if (look.awg !== undefined) this.fixedAwg.add(id);
    this.add({
      kind: 'wire',
      id,
      name: `${this.nodes.get(from)!.label} to ${this.nodes.get(to)!.label}`.slice(0, 160),
      from,
      to,
      of: null,
      circuit: look.circuit,
      ...(look.shared && { shared: look.shared }),
      awg: look.awg ?? (look.signal ? 18 : null),
      lengthM: known === null ? null : Number(((lengthMm * SLACK + slackMm) / 1000 + endOf(from) + endOf(to)).toFixed(3)),
      colour: look.colour,
      unitColour: look.unitColour ?? null,
      places,
      signal: look.signal ?? false,
      bothWays: look.bothWays ?? false,
      tempC: hot ? HOT_C : PLAIN_C,
      hot,
      bundled: 1,
      ends: [word(from, look.ends?.[0], 'crimp'), word(to, look.ends?.[1], 'crimp')],
    });
  }
  /** A piece of wire that comes ready out of a box, as long as its maker made it. */
  ready(
    w: Pick<HarnessWire, 'id' | 'from' | 'to' | 'places' | 'colour' | 'signal' | 'bothWays' | 'circuit' | 'ends' | 'insulationC'> & {
      lengthM: number;
      awg: number;
      box: NonNullable<HarnessWire['box']>;
    },
  ): void {
    const hot = hazardsAlong(this.model, w.places).includes('heat');
    this.fixedAwg.add(w.id);
    this.add({
      ...w,
      kind: 'wire',
      name: `${this.nodes.get(w.from)!.label} to ${this.nodes.get(w.to)!.label}`.slice(0, 160),
      of: null,
      unitColour: null,
      tempC: hot ? HOT_C : PLAIN_C,
      hot,
      bundled: 1,
    });
  }
  readonly endWords = new Map<string, string>();
  private endWord(id: string): string | undefined {
    const n = this.nodes.get(id)!;
    if (n.kind === 'ground' || n.kind === 'battery') return 'ring';
    if (n.kind === 'relay') return 'female blade';
    if (n.kind === 'fused' || n.kind === 'feed') return 'butt splice';
    if (n.kind === 'unit-wire') return 'butt splice';
    return this.endWords.get(id);
  }
  placeName(id: string): string {
    return this.model.places.find((p) => p.id === id)?.name ?? id;
  }
  wires(): HarnessWire[] {
    return this.elements.filter((e): e is HarnessWire => e.kind === 'wire');
  }
  done(keyed: string[]): Harness {
    return {
      unit: `${this.model.maker} ${this.model.name}`,
      nodes: [...this.nodes.values()],
      elements: this.elements,
      controls: [...this.controls.values()],
      keyed,
      problems: this.problems,
    };
  }
}
