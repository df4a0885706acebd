import type { z } from 'zod';
import { BoxHarness, BoxJoin, type WireEnd } from '#model/box';
import { Content, type Circuit, type Device, type Kit } from '#model/kit';
import { circuitLoad } from '../circuit/load';
import { freeId } from '../slug';
import { allowable } from '../wire-rules/allowable';
import { FUSE_SIZES, fuseFor } from '../wire/fuse';
import { feedsHarness, withLeads } from './add-part';
import { moduleNets, plainNets, sideOf, type Net } from './nets';

/** How a ready harness takes its power: by a relay from the battery, by a fused lead, or by a plug. */
export const HARNESS_STYLES = {
  relay: 'Relay harness from the battery',
  lead: 'Lead with fuse',
  plug: 'Plug-in harness',
} as const;
export type HarnessStyle = keyof typeof HARNESS_STYLES;

/** Legs are begun so long, millimetres, until a tape was held to them. Common practice, no source. */
const SHORT_MM = 300;
const LONG_MM = 1500;
const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2];
const SIGNAL_AWG = 18;

const RING: WireEnd = { kind: 'ring', studMm: 6 };
const TWO_WAY: WireEnd = { kind: 'connector', family: 'two-way sealed', gender: 'socket', cavities: 2, sealed: true };

const SUPPLY_PLUG: WireEnd = { kind: 'connector', family: 'two-pin sealed', gender: 'plug', cavities: 2, sealed: true };

/** What an end of a harness is at a device: the other half of its plug, blades at a switch, a small plug at what has two terminals. */
function endAt(d: Device, wires: number): WireEnd {
  if (d.plug)
    return {
      kind: 'connector',
      family: d.plug.family,
      gender: d.plug.gender === 'plug' ? 'socket' : 'plug',
      cavities: d.plug.cavities,
      sealed: d.plug.sealed,
    };
  if (d.controls.length) return { kind: 'blade', gender: 'female' };
  if (d.terminals.length > 2) return { kind: 'connector', family: `${wires}-way sealed`, gender: 'socket', cavities: wires, sealed: true };
  return wires === 2 ? TWO_WAY : { kind: 'bare' };
}

/** Nets with a relay in the line: its switch asks the coil, and the feed goes straight to what draws. */
function relayNets(kit: Kit, c: Circuit): (Net & { relay?: ('30' | '85' | '86' | '87')[]; trigger?: boolean })[] {
  const plain = plainNets(kit, c);
  const load = plain.find((n) => n.id === (c.switch ? 'switched' : 'feed'))!;
  const plus = load.terminals.filter((t) => t !== `${c.switch?.device}.${c.switch?.out}`);
  const ground = plain.find((n) => n.id === 'ground')!;
  const sw = c.switch;
  return [
    { id: 'feed', colour: c.colour, signal: false, terminals: [], outside: `feed:${c.id}`, relay: ['30'] },
    { id: 'load', colour: `${c.colour.split('/')[0]}/BK`, signal: false, terminals: plus, outside: null, relay: ['87'] },
    {
      id: 'keyed',
      colour: 'OG',
      signal: true,
      terminals: sw ? [`${sw.device}.${sw.in}`] : [],
      outside: null,
      trigger: true,
      ...(!sw && { relay: ['86' as const] }),
    },
    ...(sw
      ? [{ id: 'coil', colour: 'OG/WH', signal: true, terminals: [`${sw.device}.${sw.out}`], outside: null, relay: ['86' as const] }]
      : []),
    { ...ground, relay: ['85'] },
  ];
}

/** The fuse that a circuit’s load asks for, and the thinnest wire that it may guard. */
function sizes(kit: Kit, c: Circuit): { fuseA: number; awg: number } {
  const amps = circuitLoad({ facts: {} }, kit, c, c.volts).continuousA ?? 0;
  const asks = fuseFor(amps) ?? FUSE_SIZES.at(-1)!;
  const fuseA = Math.min(asks, c.fuseMaxA ?? Infinity);
  const awg = GAUGES.find((g) => g <= c.awgMin && allowable({ awg: g }) >= fuseA) ?? GAUGES.at(-1)!;
  return { fuseA, awg };
}

/**
 * A ready harness for a circuit of a box, joined to all of its devices: a leg from where its wires part to each, as such harnesses
 * commonly are. Its legs’ lengths are to be taped.
 * @returns the box with it; a harness that fed this circuit before is gone
 */
export function withHarness(kit: Kit, circuit: string, style: HarnessStyle): { kit: Kit; harness: string } {
  const bare = removeHarness(kit, feedsHarness(kit, circuit));
  const c = bare.circuits.find((x) => x.id === circuit)!;
  const nets: ReturnType<typeof relayNets> = moduleNets(bare, c) ?? (style === 'relay' ? relayNets(bare, c) : plainNets(bare, c));
  const relay = style === 'relay' && nets.some((n) => n.relay);
  const { fuseA, awg } = sizes(bare, c);
  const id = freeId(
    `${c.name} harness`,
    bare.harnesses.map((h) => h.id),
  );
  const hub = relay ? 'relay' : 'hub';
  const at = new Map<string, { wire: string; to: string }[]>();
  for (const n of nets)
    for (const t of n.terminals) {
      const d = t.split('.')[0]!;
      at.set(d, [...(at.get(d) ?? []), { wire: n.id, to: t }]);
    }
  const legs: z.input<typeof BoxHarness>['legs'] = [];
  const ends: z.input<typeof BoxHarness>['ends'] = [];
  const joins: z.input<typeof BoxJoin>[] = [];
  const outside = nets.filter((n) => n.outside);
  const end = (point: string, name: string, kind: WireEnd, wires: { wire: string; to: string }[], mm: number, side?: 'left' | 'right') => {
    legs.push({ id: point, name: `${name} leg`.slice(0, 60), from: hub, to: point, lengthMm: mm });
    ends.push({
      id: point,
      name: name.slice(0, 60),
      end: kind,
      wires: wires.map((w, i) => ({ wire: w.wire, ...(kind.kind === 'connector' && { cavity: i + 1 }) })),
      ...(side && { side }),
    });
    joins.push({ harness: id, end: point, to: Object.fromEntries(wires.map((w) => [w.wire, w.to])) });
  };
  if (style === 'plug')
    end(
      'plug',
      'supply plug',
      SUPPLY_PLUG,
      outside.map((n) => ({ wire: n.id, to: n.outside! })),
      SHORT_MM,
    );
  else
    for (const n of outside)
      end(
        n.outside === 'ground' ? 'to-ground' : 'to-feed',
        n.outside === 'ground' ? 'ground ring' : 'feed ring',
        RING,
        [{ wire: n.id, to: n.outside! }],
        SHORT_MM,
      );
  for (const n of nets.filter((x) => x.trigger))
    end('to-key', 'trigger lead', { kind: 'bare' }, [{ wire: n.id, to: `trigger:${c.id}` }], SHORT_MM * 2);
  for (const [d, wires] of at) {
    const device = bare.devices.find((x) => x.id === d)!;
    // a plug’s cavities say which wire is where
    const pins = device.plug ? Object.entries(device.plug.pins).sort(([a], [b]) => Number(a) - Number(b)) : null;
    const sorted = pins
      ? wires.sort((a, b) => pins.findIndex(([, t]) => a.to.endsWith(`.${t}`)) - pins.findIndex(([, t]) => b.to.endsWith(`.${t}`)))
      : wires;
    end(d, device.name, endAt(device, wires.length), sorted, LONG_MM, sideOf(device) ?? undefined);
  }
  const harness = BoxHarness.parse({
    id,
    name: `${c.name.toLowerCase()} harness`.slice(0, 80),
    wires: nets.map((n) => ({ id: n.id, colour: n.colour, awg: n.signal ? SIGNAL_AWG : awg, signal: n.signal })),
    legs,
    ends,
    inline: [
      {
        kind: 'fuse',
        leg: style === 'plug' ? 'plug' : 'to-feed',
        wire: nets.find((n) => n.outside && n.outside !== 'ground')!.id,
        ratingA: fuseA,
      },
    ],
    ...(relay && {
      relays: [
        {
          id: 'relay',
          name: `relay: ${c.name.toLowerCase()}`.slice(0, 60),
          at: hub,
          wires: Object.fromEntries(nets.flatMap((n) => (n.relay ?? []).map((r) => [r, n.id]))),
        },
      ],
    }),
  });
  const next: Kit = {
    ...bare,
    harnesses: [...bare.harnesses, harness],
    joins: [...bare.joins, ...joins.map((j) => BoxJoin.parse(j))],
    contents: [
      ...bare.contents,
      Content.parse({
        item: `${harness.name}${style === 'relay' ? ' with relay and fuse' : ' with fuse'}`.slice(0, 80),
        count: 1,
        of: [id],
      }),
    ],
    circuits: bare.circuits.map((x) =>
      x.id !== circuit
        ? x
        : {
            ...x,
            relay: relay ? ('required' as const) : x.relay === 'required' && !x.makes ? ('allowed' as const) : x.relay,
            ...(style === 'plug' && { only: ['accessory-port' as const], joint: 'factory-plug' as const, terminal: 'plug' }),
          },
    ),
  };
  return { kit: withLeads(next, [circuit]), harness: id };
}

/** A box without a harness, its joins and its line of the contents. */
export function removeHarness(kit: Kit, harness: string | null): Kit {
  if (harness === null) return kit;
  const fed = kit.joins
    .filter((j) => j.harness === harness)
    .flatMap((j) => Object.values(j.to).flat())
    .flatMap((t) => (t.startsWith('feed:') ? [t.slice(5)] : []));
  const left: Kit = {
    ...kit,
    harnesses: kit.harnesses.filter((h) => h.id !== harness),
    joins: kit.joins.filter((j) => j.harness !== harness),
    contents: kit.contents.flatMap((c) => {
      const of = c.of.filter((x) => x !== harness);
      return c.of.length && !of.length ? [] : [{ ...c, of }];
    }),
  };
  return withLeads(left, fed);
}
