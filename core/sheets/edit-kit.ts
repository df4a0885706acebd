import { BoxLeg, targetsOf, type BoxHarness } from '#model/box';
import { Content, isThere, Kit, KitStep, type Circuit, type Device, type Fit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { ImpossibleInput } from '../errors';
import { freeId } from '../slug';
import { fieldChanges, listChanges } from './say-changes';

/** What of a box is in hand, or what something is said of. */
export type BoxPart =
  | { kind: 'device'; id: string }
  | { kind: 'circuit'; id: string }
  | { kind: 'harness'; id: string }
  | { kind: 'content'; at: number }
  | { kind: 'step'; id: string }
  | { kind: 'box' };

/** A sheet for a box that is just unpacked. @throws ImpossibleInput for a name that is empty */
export function newKit(maker: string, name: string, taken: readonly string[], model: UnitModel | null): Kit {
  if (!maker.trim()) throw new ImpossibleInput('say who made it', 'maker');
  if (!name.trim()) throw new ImpossibleInput('say what it is called', 'name');
  const id = freeId(name.trim(), taken);
  return {
    id,
    maker: maker.trim().slice(0, 60),
    name: name.trim().slice(0, 80),
    summary: name.trim().slice(0, 80),
    wishes: [],
    fits: model ? [{ models: [model.id], fits: true }] : [],
    needs: [],
    contents: [],
    besides: [],
    variants: [],
    harnesses: [],
    joins: [],
    provides: [],
    takesOff: [],
    cuts: [],
    devices: [],
    circuits: [],
    leads: [],
    steps: [],
    cautions: [],
    owner: [],
  };
}

/** A copy of a box’s sheet under a name of its own. */
export const copiedKit = (kit: Kit, name: string, taken: readonly string[]): Kit => ({
  ...kit,
  name: name.trim().slice(0, 80),
  id: freeId(name.trim(), taken),
});

/** The option of each variant under which a box is looked at; of several things of one id, what is there under it is meant. */
export type Choices = Readonly<Record<string, string>>;
const meant = (kit: Kit, x: { id: string; when?: string | undefined }, id: string, chosen: Choices): boolean =>
  x.id === id && isThere(x, kit.variants, chosen);
const swap = <T extends { id: string; when?: string | undefined }>(
  kit: Kit,
  list: readonly T[],
  id: string,
  chosen: Choices,
  change: (x: T) => T,
): T[] => list.map((x) => (meant(kit, x, id, chosen) ? change(x) : x));

export const changeDevice = (kit: Kit, id: string, change: Partial<Device>, chosen: Choices = {}): Kit => ({
  ...kit,
  devices: swap(kit, kit.devices, id, chosen, (d) => ({ ...d, ...change })),
});
export const changeCircuit = (kit: Kit, id: string, change: Partial<Circuit>, chosen: Choices = {}): Kit => ({
  ...kit,
  circuits: swap(kit, kit.circuits, id, chosen, (c) => ({ ...c, ...change })),
});
export const changeStep = (kit: Kit, id: string, change: Partial<KitStep>, chosen: Choices = {}): Kit => ({
  ...kit,
  steps: swap(kit, kit.steps, id, chosen, (s) => ({ ...s, ...change })),
});
export const changeContent = (kit: Kit, at: number, change: Partial<Content>): Kit => ({
  ...kit,
  contents: kit.contents.map((c, i) => (i === at ? { ...c, ...change } : c)),
});
const changeHarness = (kit: Kit, id: string, change: (h: BoxHarness) => BoxHarness): Kit => ({
  ...kit,
  harnesses: kit.harnesses.map((h) => (h.id === id ? change(h) : h)),
});

/** A leg as long as it was taped, millimetres. */
export const changeLeg = (kit: Kit, harness: string, leg: string, lengthMm: number): Kit =>
  changeHarness(kit, harness, (h) => ({ ...h, legs: h.legs.map((l) => (l.id === leg ? { ...l, lengthMm: Math.round(lengthMm) } : l)) }));

/** A wire in another colour or gauge. */
export const changeWire = (kit: Kit, harness: string, wire: string, change: { colour?: string; awg?: number }): Kit =>
  changeHarness(kit, harness, (h) => ({ ...h, wires: h.wires.map((w) => (w.id === wire ? { ...w, ...change } : w)) }));

/** The maker’s fuse on a wire, amperes. */
export const changeFuse = (kit: Kit, harness: string, at: number, ratingA: number): Kit =>
  changeHarness(kit, harness, (h) => ({ ...h, inline: h.inline.map((x, i) => (i === at && x.kind === 'fuse' ? { ...x, ratingA } : x)) }));

/**
 * A wire of a harness’ end joined to something else: a terminal, a feed, ground, a wire of the unit, or nothing, capped.
 * @param to as a join’s target; null takes the join away
 */
export function joinWire(kit: Kit, harness: string, end: string, wire: string, to: string | null, chosen: Choices = {}): Kit {
  const is = (j: Kit['joins'][number]) => j.harness === harness && j.end === end && isThere(j, kit.variants, chosen);
  const old = kit.joins.find(is);
  const { [wire]: _, ...others } = old?.to ?? {};
  const next = to === null ? others : { ...others, [wire]: to };
  const joins = kit.joins.filter((j) => !is(j));
  return { ...kit, joins: Object.keys(next).length ? [...joins, { harness, end, to: next, ...(old?.when && { when: old.when }) }] : joins };
}

/** One more leg with an end, from where the wires of a harness part: it carries the wires named. */
export function addLeg(kit: Kit, harness: string, name: string, wires: readonly string[]): Kit {
  if (!name.trim()) throw new ImpossibleInput('it needs a name', 'name');
  if (!wires.length) throw new ImpossibleInput('say which wires end there', 'wires');
  return changeHarness(kit, harness, (h) => {
    // where most of its legs meet
    const count = (p: string) => h.legs.filter((l) => l.from === p || l.to === p).length;
    const points = [...new Set(h.legs.flatMap((l) => [l.from, l.to]))];
    const hub = points.reduce((best, p) => (count(p) > count(best) ? p : best), points[0]!);
    const id = freeId(name.trim(), [...points, ...h.legs.map((l) => l.id)]);
    return {
      ...h,
      legs: [...h.legs, BoxLeg.parse({ id, name: `${name.trim()} leg`.slice(0, 60), from: hub, to: id, lengthMm: 500 })],
      ends: [...h.ends, { id, name: name.trim().slice(0, 60), end: { kind: 'bare' }, wires: wires.map((wire) => ({ wire })) }],
    };
  });
}

/** A box without a device: its terminals, its place on circuits, its joins and its line of the contents go with it. */
export function removeDevice(kit: Kit, id: string): Kit {
  const gone = (t: string) => t.startsWith(`${id}.`);
  const circuits = kit.circuits.flatMap((c) => {
    const devices = c.devices.filter((d) => d !== id);
    if (!devices.length) return [];
    const { switch: sw, ...rest } = c;
    return [{ ...rest, devices, ...(sw && sw.device !== id && { switch: sw }) }];
  });
  const lost = new Set(kit.circuits.filter((c) => !circuits.some((x) => x.id === c.id)).map((c) => c.id));
  const joins = kit.joins.flatMap((j) => {
    const to = Object.fromEntries(
      Object.keys(j.to).flatMap((w) => {
        const left = targetsOf(j, w).filter((t) => !gone(t) && !lost.has(/^(?:feed|trigger):(.*)$/.exec(t)?.[1] ?? ''));
        return left.length ? [[w, left.length === 1 ? left[0]! : left]] : [];
      }),
    );
    return Object.keys(to).length ? [{ ...j, to }] : [];
  });
  return {
    ...kit,
    devices: kit.devices.filter((d) => d.id !== id),
    circuits,
    joins,
    leads: kit.leads.filter((l) => !gone(l.from) && !gone(l.to) && !lost.has(l.from.slice(5))),
    contents: kit.contents.flatMap((c) => {
      const of = c.of.filter((x) => x !== id);
      return c.of.length && !of.length ? [] : [{ ...c, of, count: Math.max(1, c.count - (c.of.length - of.length)) }];
    }),
    provides: kit.provides.filter((p) => !gone(p.at)),
    steps: kit.steps.map((s) => ({
      ...s,
      mounts: s.mounts.filter((m) => m !== id),
      readings: s.readings.map((r) =>
        r.sees ? { ...r, sees: { ...r.sees, lit: r.sees.lit.filter((x) => x !== id), dark: r.sees.dark.filter((x) => x !== id) } } : r,
      ),
    })),
  };
}

/** One more line of the contents: bolts, a plate, a sheet of paper. @throws ImpossibleInput for one without a name or a count */
export function addContent(kit: Kit, item: string, count: number): Kit {
  if (!item.trim()) throw new ImpossibleInput('say what it is', 'item');
  if (!Number.isInteger(count) || count < 1 || count > 999) throw new ImpossibleInput('a count is a whole number from 1 to 999', 'count');
  return { ...kit, contents: [...kit.contents, Content.parse({ item: item.trim().slice(0, 80), count })] };
}

export const removeContent = (kit: Kit, at: number): Kit => {
  const piece = kit.contents[at]?.id;
  return {
    ...kit,
    contents: kit.contents.filter((_, i) => i !== at),
    steps: piece ? kit.steps.map((s) => ({ ...s, uses: s.uses.filter((u) => u !== piece) })) : kit.steps,
  };
};

/** A piece of the box by an id, so that a step may use it; given one where it has none. */
export function namedContent(kit: Kit, at: number): { kit: Kit; id: string } {
  const c = kit.contents[at]!;
  if (c.id) return { kit, id: c.id };
  const id = freeId(
    c.item,
    kit.contents.flatMap((x) => x.id ?? []),
  );
  return { kit: changeContent(kit, at, { id }), id };
}

/** Minutes that a new step is begun with. Common practice, no source. */
const STEP_MINUTES = 5;

/** One more step of the maker’s. @throws ImpossibleInput for one without a title */
export function addStep(kit: Kit, title: string, stage: KitStep['stage'], place: string): { kit: Kit; id: string } {
  if (!title.trim()) throw new ImpossibleInput('say what is done', 'title');
  const id = freeId(
    title,
    kit.steps.map((s) => s.id),
  );
  const step = KitStep.parse({
    id,
    stage,
    title: title.trim().slice(0, 120),
    text: title.trim().slice(0, 120),
    place,
    minutes: STEP_MINUTES,
  });
  return { id, kit: { ...kit, steps: [...kit.steps, step] } };
}
export const removeStep = (kit: Kit, id: string): Kit => ({ ...kit, steps: kit.steps.filter((s) => s.id !== id) });

/** A step earlier or later among its box’s. */
export function moveStep(kit: Kit, id: string, by: -1 | 1): Kit {
  const at = kit.steps.findIndex((s) => s.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= kit.steps.length) return kit;
  const steps = [...kit.steps];
  [steps[at], steps[to]] = [steps[to]!, steps[at]!];
  return { ...kit, steps };
}

/** The box put on one more model, or taken off it; or on every unit of a kind. */
export function fitsModel(kit: Kit, model: string, fits: boolean): Kit {
  const others = kit.fits.flatMap((f): Fit[] => {
    if (!f.models?.includes(model)) return [f];
    const models = f.models.filter((m) => m !== model);
    return models.length ? [{ ...f, models }] : [];
  });
  return { ...kit, fits: fits ? [{ models: [model], fits: true }, ...others] : others };
}

/** What is wrong with a box’s sheet or lacks in it, and what it is of. */
export interface BoxProblem {
  part: BoxPart;
  says: string;
  /** it cannot be published so */
  stops: boolean;
}

const NAMED = { devices: 'device', circuits: 'circuit', harnesses: 'harness', steps: 'step' } as const;

/** All that is wrong or lacking, the worst first. */
export function boxProblems(kit: Kit): BoxProblem[] {
  const read = Kit.safeParse(kit);
  const out: BoxProblem[] = read.success
    ? []
    : read.error.issues.map((i): BoxProblem => {
        const [list, at] = i.path as [keyof typeof NAMED, number];
        const of = list in NAMED ? kit[list][at] : undefined;
        const part: BoxPart =
          of && list in NAMED
            ? { kind: NAMED[list], id: of.id }
            : (list as string) === 'joins'
              ? { kind: 'harness', id: kit.joins[at]?.harness ?? '' }
              : (list as string) === 'contents' && at !== undefined
                ? { kind: 'content', at }
                : { kind: 'box' };
        const name = of && ('title' in of ? of.title : of.name);
        return { part, says: `${name ? `${name}: ` : ''}${i.message}`, stops: true };
      });
  for (const h of kit.harnesses)
    for (const e of h.ends)
      for (const w of e.wires)
        if (!targetsOf(kit.joins.find((j) => j.harness === h.id && j.end === e.id) ?? { to: {} }, w.wire).length)
          out.push({ part: { kind: 'harness', id: h.id }, says: `${e.name} of ${h.name}: wire ${w.wire} goes nowhere`, stops: false });
  const driven = new Set(kit.circuits.flatMap((c) => c.devices));
  for (const d of kit.devices) {
    if (d.load?.watts === null && driven.has(d.id))
      out.push({ part: { kind: 'device', id: d.id }, says: `${d.name}: watts not known`, stops: false });
    // what is there under one choice only is part of another piece
    if (!kit.contents.some((c) => c.of.includes(d.id)) && !d.uses && !d.when)
      out.push({ part: { kind: 'device', id: d.id }, says: `${d.name} is no piece of the contents`, stops: false });
    const works = d.controls.length > 0 && d.terminals.length > 0;
    const used =
      kit.circuits.some((c) => c.switch?.device === d.id || c.devices.includes(d.id)) ||
      [...kit.leads.flatMap((l) => [l.from, l.to]), ...kit.joins.flatMap((j) => Object.values(j.to).flat())].some((t) =>
        t.startsWith(`${d.id}.`),
      );
    if (works && !used) out.push({ part: { kind: 'device', id: d.id }, says: `${d.name} works nothing`, stops: false });
  }
  return out.sort((a, b) => Number(b.stops) - Number(a.stops));
}

/** Lists of a box whose things are told one by one, and the words for them. */
const LISTS = [
  ['devices', 'Device'],
  ['circuits', 'Circuit'],
  ['harnesses', 'Harness'],
  ['steps', 'Step'],
] as const;

/** What is otherwise in an edited box, a line each. */
export function boxChanges(before: Kit | null, after: Kit): string[] {
  if (!before)
    return [`New: ${after.contents.reduce((n, c) => n + c.count, 0)} pieces, ${after.devices.length} devices, ${after.steps.length} steps`];
  const same = (key: keyof Kit) => JSON.stringify(before[key]) === JSON.stringify(after[key]);
  const own = ({ maker, name, summary }: Kit) => ({ maker, name, summary });
  const itself = fieldChanges(own(before), own(after));
  return [
    ...LISTS.flatMap(([list, word]) => listChanges(word, before[list], after[list])),
    ...(same('contents') ? [] : ['Contents']),
    ...(same('joins') && same('leads') ? [] : ['What its ends are joined to']),
    ...(same('fits') ? [] : ['What it fits']),
    ...(same('wishes') && same('owner') && same('cautions') ? [] : ['What the owner is told']),
    ...(itself ? [itself] : []),
  ];
}
