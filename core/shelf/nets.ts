import { terminalsOf, type Circuit, type Device, type Kit } from '#model/kit';

/** Terminals that one wire joins, and what outside of the box it goes to. */
export interface Net {
  id: string;
  colour: string;
  signal: boolean;
  /** as DEVICE.TERMINAL */
  terminals: string[];
  /** the circuit’s feed, a wire of the unit, or ground */
  outside: `feed:${string}` | `wire:${string}` | 'ground' | null;
}

/** Terminals that carry a question from a switch to a module. */
const ASKS = ['ask-left', 'ask-right', 'ask-hazard'];
const isModule = (d: Device) => ['left', 'right', 'power'].every((t) => d.terminals.some((x) => x.id === t));
const asks = (d: Device) => d.terminals.some((t) => ASKS.includes(t.id)) && !isModule(d);
/** The side that a device is for, by its id. */
export const sideOf = (d: Pick<Device, 'id'>): 'left' | 'right' | null =>
  (/(^|-)(left|right)($|-)/.exec(d.id)?.[2] as 'left' | 'right') ?? null;

const first = (kit: Kit, d: Device, ids: readonly string[]): string[] => {
  const t = ids.find((x) => terminalsOf(kit, d).includes(x));
  return t === undefined ? [] : [`${d.id}.${t}`];
};

/** Nets of a circuit without a module: what it is fed by, through its switch, to every plus; every minus to ground. */
export function plainNets(kit: Kit, c: Circuit): Net[] {
  const of = (id: string) => kit.devices.find((d) => d.id === id) ?? [];
  const devices = c.devices.flatMap(of);
  const sw = c.switch;
  const plus = devices.flatMap((d) => first(kit, d, ['plus', 'power', 'in', 'a']));
  const minus = [...devices, ...(sw ? [of(sw.device)].flat() : [])].flatMap((d) => first(kit, d, ['minus', 'ground', 'b']));
  const outside = c.taps?.[0] === undefined ? (`feed:${c.id}` as const) : (`wire:${c.taps[0]}` as const);
  return [
    { id: 'feed', colour: c.colour, signal: false, terminals: sw ? [`${sw.device}.${sw.in}`] : plus, outside },
    ...(sw
      ? [
          {
            id: 'switched',
            colour: `${c.colour.split('/')[0]}/BK`,
            signal: false,
            terminals: [`${sw.device}.${sw.out}`, ...plus],
            outside: null,
          },
        ]
      : []),
    { id: 'ground', colour: 'BK', signal: false, terminals: minus, outside: 'ground' as const },
  ];
}

/** Who is joined to whom on a circuit; null where its feed goes to every plus and every minus to ground without being told. */
export function circuitNets(kit: Kit, c: Circuit): Net[] | null {
  if (c.makes) return null;
  const usual = c.devices.every((id) => {
    const d = kit.devices.find((x) => x.id === id);
    return d && terminalsOf(kit, d).includes('plus');
  });
  return moduleNets(kit, c) ?? (c.taps || !usual ? plainNets(kit, c) : null);
}

/**
 * Who is joined to whom on a circuit whose lamps are lit by a module that a switch asks; null for one that has no such module.
 */
export function moduleNets(kit: Pick<Kit, 'devices'>, c: Circuit): Net[] | null {
  const own = c.devices.flatMap((id) => kit.devices.find((d) => d.id === id) ?? []);
  const module = own.find(isModule);
  if (!module) return null;
  const lamps = own.filter((d) => d !== module);
  const switches = kit.devices.filter(asks);
  const on = (side: 'left' | 'right') => [`${module.id}.${side}`, ...lamps.filter((d) => sideOf(d) === side).map((d) => `${d.id}.plus`)];
  const colourOf = (terminal: string) => module.terminals.find((t) => t.id === terminal)?.colour ?? 'WH';
  return [
    {
      id: 'power',
      colour: colourOf('power'),
      signal: false,
      terminals: [`${module.id}.power`, ...switches.map((d) => `${d.id}.common`)],
      outside: `feed:${c.id}` as const,
    },
    ...(['left', 'right'] as const).map((s) => ({ id: s, colour: colourOf(s), signal: false, terminals: on(s), outside: null })),
    ...ASKS.map((a) => ({
      id: a,
      colour: colourOf(a),
      signal: true,
      terminals: [...switches.filter((d) => d.terminals.some((t) => t.id === a)).map((d) => `${d.id}.${a}`), `${module.id}.${a}`],
      outside: null,
    })),
    {
      id: 'ground',
      colour: 'BK',
      signal: false,
      terminals: [`${module.id}.ground`, ...lamps.map((d) => `${d.id}.minus`)],
      outside: 'ground' as const,
    },
  ].filter((n) => n.terminals.length > (n.outside ? 0 : 1));
}
