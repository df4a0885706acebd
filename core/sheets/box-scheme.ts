import { targetsOf } from '#model/box';
import { terminalsOf, type Kit } from '#model/kit';
import type { BoxPart } from './edit-kit';
import { drawBranches, type DrawnLeg } from './harness-branches';

/** Somewhere a wire ends on the drawing. */
export interface Pin {
  /** a terminal as DEVICE.TERMINAL, or a target outside of the box, such as ground */
  target?: string;
  /** a wire at an end of a harness */
  wire?: { harness: string; end: string; wire: string };
  label: string;
  x: number;
  y: number;
}
export interface SchemeBlock {
  key: string;
  part: BoxPart;
  title: string;
  x: number;
  y: number;
  w: number;
  h: number;
  pins: Pin[];
}
export interface SchemeLink {
  key: string;
  /** a leg of a harness, a joined end, or a loose lead */
  kind: 'leg' | 'join' | 'lead';
  from: readonly [number, number];
  to: readonly [number, number];
  colour: string | null;
}
/** How long a leg is, and where that stands. */
export interface LegLength extends Pick<DrawnLeg, 'lengthMm' | 'label'> {
  key: string;
}
export interface Scheme {
  width: number;
  height: number;
  blocks: SchemeBlock[];
  links: SchemeLink[];
  lengths: LegLength[];
}

const PIN = 20;
const HEAD = 26;
const GAP = 12;
/** Left edges of the columns: what is outside, ends towards it, ends at devices, devices; and how wide each is. */
const AT = { outside: 0, near: 158, far: 492, device: 606 } as const;
const WIDE = { outside: 132, near: 112, hub: 22, far: 94, device: 150 } as const;
/** Room beside an end for how long its leg is. */
const LENGTH = 56;
/** The middles of the first and the last branch of a harness that parts more than once. */
const BRANCHES = [AT.near + WIDE.near + LENGTH + WIDE.hub / 2, AT.far - LENGTH - WIDE.hub / 2] as const;
const BRANCH_TALL = 32;
const WIDTH = AT.device + WIDE.device;

/** What a target outside of a box is called. */
function outsideName(kit: Kit, target: string): string {
  const [what, which] = target.split(':') as [string, string | undefined];
  const circuit = kit.circuits.find((c) => c.id === which)?.name ?? which;
  if (what === 'feed') return `feed of ${circuit}`;
  if (what === 'trigger') return `key wire, ${circuit}`;
  if (what === 'wire') return `the unit’s ${which} wire`;
  return what;
}

/** Every target that a wire of a box may be joined to, with its name: outside, and terminal by terminal. */
export function joinTargets(kit: Kit): { target: string; name: string }[] {
  return [
    ...kit.circuits.flatMap((c) =>
      c.taps
        ? c.taps.map((w) => ({ target: `wire:${w}`, name: outsideName(kit, `wire:${w}`) }))
        : [
            { target: `feed:${c.id}`, name: outsideName(kit, `feed:${c.id}`) },
            { target: `trigger:${c.id}`, name: outsideName(kit, `trigger:${c.id}`) },
          ],
    ),
    { target: 'ground', name: 'ground' },
    ...kit.devices.flatMap((d) =>
      terminalsOf(kit, d).map((t) => ({
        target: `${d.id}.${t}`,
        name: `${d.name}, ${d.terminals.find((x) => x.id === t)?.name ?? t}`,
      })),
    ),
    { target: 'capped', name: 'capped' },
    { target: 'spare', name: 'spare' },
  ];
}

/** A box as it is joined: what is outside on the left, its harnesses between, its devices on the right. */
export function boxScheme(kit: Kit): Scheme {
  const blocks: SchemeBlock[] = [];
  const links: SchemeLink[] = [];
  const lengths: LegLength[] = [];
  const pinAt = new Map<string, readonly [number, number]>();
  const deviceY = new Map<string, number>();
  let down = 0;
  for (const d of kit.devices) {
    const terminals = kit.circuits.some((c) => c.devices.includes(d.id)) || d.terminals.length ? terminalsOf(kit, d) : [];
    const h = HEAD + Math.max(1, terminals.length) * PIN;
    const pins = terminals.map((t, i): Pin => {
      const y = down + HEAD + (i + 0.5) * PIN;
      pinAt.set(`${d.id}.${t}`, [AT.device, y]);
      return { target: `${d.id}.${t}`, label: d.terminals.find((x) => x.id === t)?.name ?? t, x: AT.device, y };
    });
    blocks.push({
      key: `device ${d.id}`,
      part: { kind: 'device', id: d.id },
      title: d.name,
      x: AT.device,
      y: down,
      w: WIDE.device,
      h,
      pins,
    });
    deviceY.set(d.id, down);
    down += h + GAP;
  }
  let right = down;
  // ends of harnesses: those at devices beside them, the others on the left; each as near to its height as there is room
  let left = 0;
  let far = 0;
  const outside = new Map<string, { y: number; target: string }[]>();
  for (const h of kit.harnesses) {
    const of = (end: string) => kit.joins.find((j) => j.harness === h.id && j.end === end) ?? { to: {} };
    const ends = h.ends.map((e) => {
      const targets = e.wires.flatMap((w) => targetsOf(of(e.id), w.wire));
      const device = targets.find((t) => t.includes('.'))?.split('.')[0];
      return { e, device };
    });
    const near = ends.filter((x) => x.device === undefined);
    const away = ends.filter((x) => x.device !== undefined).sort((a, b) => (deviceY.get(a.device!) ?? 0) - (deviceY.get(b.device!) ?? 0));
    const top = Math.max(left, far);
    const met = new Map<string, { at: readonly [number, number]; side: 'near' | 'far' }>();
    const place = (x: (typeof ends)[number], column: 'near' | 'far', y: number): number => {
      const height = HEAD + x.e.wires.length * PIN;
      const side = column === 'near' ? AT.near : AT.far + WIDE.far;
      const pins = x.e.wires.map((w, i): Pin => {
        const py = y + HEAD + (i + 0.5) * PIN;
        pinAt.set(`${h.id} ${x.e.id} ${w.wire}`, [side, py]);
        return { wire: { harness: h.id, end: x.e.id, wire: w.wire }, label: w.wire, x: side, y: py };
      });
      const bx = column === 'near' ? AT.near : AT.far;
      blocks.push({
        key: `end ${h.id} ${x.e.id}`,
        part: { kind: 'harness', id: h.id },
        title: column === 'near' ? x.e.name : '',
        x: bx,
        y,
        w: WIDE[column],
        h: height,
        pins,
      });
      met.set(x.e.id, { at: [column === 'near' ? AT.near + WIDE.near : AT.far, y + height / 2], side: column });
      return y + height + GAP;
    };
    left = top;
    far = top;
    for (const x of near) left = place(x, 'near', left);
    for (const x of away) far = place(x, 'far', Math.max(far, deviceY.get(x.device!) ?? 0));
    const { branches, legs } = drawBranches(h, met, BRANCHES, WIDE.hub);
    for (const l of legs) {
      links.push({ key: `leg ${h.id} ${l.id}`, kind: 'leg', from: l.from, to: l.to, colour: null });
      lengths.push({ key: `${h.id} ${l.id}`, lengthMm: l.lengthMm, label: l.label });
    }
    for (const b of branches)
      blocks.push({
        key: `hub ${h.id} ${b.id}`,
        part: { kind: 'harness', id: h.id },
        title: h.relays.some((x) => x.at === b.id) ? 'relay' : '',
        x: b.x - WIDE.hub / 2,
        y: b.y - BRANCH_TALL / 2,
        w: WIDE.hub,
        h: BRANCH_TALL,
        pins: [],
      });
    for (const x of ends)
      for (const w of x.e.wires)
        for (const t of targetsOf(of(x.e.id), w.wire))
          if (!t.includes('.')) outside.set(t, [...(outside.get(t) ?? []), { y: pinAt.get(`${h.id} ${x.e.id} ${w.wire}`)![1], target: t }]);
  }
  right = Math.max(right, left, far);
  // circuits without a harness: loose wire, from outside straight to the devices
  const leads: { from: string; to: string; colour: string }[] = [...kit.leads];
  const joined = new Set([...kit.joins.flatMap((j) => Object.values(j.to).flat()), ...kit.leads.flatMap((l) => [l.from, l.to])]);
  for (const c of kit.circuits) {
    if (c.taps || joined.has(`feed:${c.id}`)) continue;
    const plus = c.devices.flatMap((d) => [`${d}.plus`, `${d}.in`].find((t) => pinAt.has(t)) ?? []);
    if (c.switch) {
      leads.push({ from: `feed:${c.id}`, to: `${c.switch.device}.${c.switch.in}`, colour: c.colour });
      for (const p of plus) leads.push({ from: `${c.switch.device}.${c.switch.out}`, to: p, colour: c.colour });
    } else for (const p of plus) leads.push({ from: `feed:${c.id}`, to: p, colour: c.colour });
    for (const d of c.devices) if (pinAt.has(`${d}.minus`)) leads.push({ from: `${d}.minus`, to: 'ground', colour: 'BK' });
  }
  for (const l of leads)
    for (const [end, other] of [
      [l.from, l.to],
      [l.to, l.from],
    ] as const)
      if (!end.includes('.')) outside.set(end, [...(outside.get(end) ?? []), { y: pinAt.get(other)?.[1] ?? 0, target: end }]);
  // what is outside stands at the height of what is joined to it; ground last, since all else is above it
  const sorted = [...outside].sort(
    ([a, x], [b, y]) =>
      Number(a === 'ground') - Number(b === 'ground') ||
      x.reduce((s, v) => s + v.y, 0) / x.length - y.reduce((s, v) => s + v.y, 0) / y.length,
  );
  let at = 0;
  for (const [target, list] of sorted) {
    const wanted = list.reduce((s, v) => s + v.y, 0) / list.length - HEAD / 2;
    const y = Math.max(at, Math.min(wanted, Math.max(0, right - HEAD)));
    const circuit = /^(?:feed|trigger):(.*)$/.exec(target)?.[1];
    blocks.push({
      key: `outside ${target}`,
      part: circuit === undefined ? { kind: 'box' } : { kind: 'circuit', id: circuit },
      title: outsideName(kit, target),
      x: AT.outside,
      y,
      w: WIDE.outside,
      h: HEAD,
      pins: [{ target, label: '', x: AT.outside + WIDE.outside, y: y + HEAD / 2 }],
    });
    pinAt.set(target, [AT.outside + WIDE.outside, y + HEAD / 2]);
    at = y + HEAD + GAP;
  }
  for (const j of kit.joins)
    for (const wire of Object.keys(j.to))
      for (const t of targetsOf(j, wire)) {
        const [from, to] = [pinAt.get(`${j.harness} ${j.end} ${wire}`), pinAt.get(t)];
        if (!from || !to) continue;
        const colour = kit.harnesses.find((h) => h.id === j.harness)?.wires.find((w) => w.id === wire)?.colour ?? null;
        links.push({ key: `join ${j.harness} ${j.end} ${wire} ${t}`, kind: 'join', from, to, colour });
      }
  leads.forEach((l, i) => {
    const [from, to] = [pinAt.get(l.from), pinAt.get(l.to)];
    if (from && to) links.push({ key: `lead ${i}`, kind: 'lead', from, to, colour: l.colour });
  });
  return { width: WIDTH, height: Math.max(right, at, 80), blocks, links, lengths };
}
