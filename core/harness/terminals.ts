import type { Harness, HarnessWire } from '#model/harness';
import type { PowerPoint } from '#model/unit-model';
import { ownerName } from './schematic';

/** One terminal of a relay or a switch and what is joined there. */
export interface TerminalRow {
  terminal: string;
  /** what is crimped on there, such as `sealed plug, 3` */
  end: string | null;
  wires: { colour: string; awg: number | null; goes: string }[];
}
export interface TerminalTable {
  id: string;
  name: string;
  kind: 'relay' | 'switch' | 'device';
  place: string | null;
  rows: TerminalRow[];
}

/** Terminal tables of every relay, switch and many-wired device of a harness. */
export function terminalTables(h: Harness): TerminalTable[] {
  const wires = h.elements.filter((e): e is HarnessWire => e.kind === 'wire');
  const label = new Map(h.nodes.map((n) => [n.id, n.label]));
  const owners = [
    ...new Set(h.nodes.flatMap((n) => (n.of !== null && n.of !== 'unit' && (n.kind === 'terminal' || n.kind === 'relay') ? [n.of] : []))),
  ];
  return owners.flatMap((of): TerminalTable[] => {
    const nodes = h.nodes.filter((n) => n.of === of && (n.kind === 'terminal' || n.kind === 'relay'));
    const relay = of.endsWith('#relay');
    const works = h.controls.some((c) => c.of === of);
    if (!relay && !works && nodes.length < 3) return [];
    const first = ownerName(h, of);
    return [
      {
        id: of,
        name: relay ? `${first}, relay` : first,
        kind: relay ? 'relay' : works ? 'switch' : 'device',
        place: nodes[0]!.place,
        rows: nodes.map((n) => ({
          terminal: relay ? n.id.split('#')[1]! : n.label.slice(first.length + 2),
          end:
            wires.flatMap((w) => (w.from === n.id ? [w.ends[0]] : w.to === n.id ? [w.ends[1]] : [])).find((e) => /, \d+$/.test(e)) ?? null,
          wires: [
            ...wires
              .filter((w) => w.from === n.id || w.to === n.id)
              .map((w) => ({ colour: w.colour, awg: w.awg, goes: label.get(w.from === n.id ? w.to : w.from)! })),
            ...h.elements
              .filter((e) => e.kind === 'fuse' && e.circuit !== null && e.to === n.id && e.of === null)
              .map((e) => ({ colour: 'RD', awg: null, goes: `${e.name}, from ${label.get(e.from)}` })),
          ],
        })),
      },
    ];
  });
}

/** A plug's cavities, in order as they are seen from the side that wires enter; from its face left and right change over. */
export interface PlugTable {
  id: string;
  name: string;
  plug: string;
  wireSide: { pin: string; colour?: string; use: string }[];
  face: PlugTable['wireSide'];
}

const plugOf = (id: string, name: string, plug: string, pins: PlugTable['wireSide']): PlugTable => ({
  id,
  name,
  plug,
  wireSide: pins,
  face: [...pins].reverse(),
});

/** The plug of a power point, pin by pin; null where it has none. */
export const pinTable = (point: PowerPoint): PlugTable | null =>
  point.pins.length ? plugOf(point.id, point.name, point.plug ?? 'plug', point.pins) : null;

/** Plugs of the kits' own devices: terminals whose ends are numbered cavities. */
export function kitPlugs(h: Harness): PlugTable[] {
  return terminalTables(h).flatMap((t) => {
    const pins = t.rows
      .flatMap((r) => {
        const m = r.end === null ? null : /^(.*plug), (\d+)$/.exec(r.end);
        return m ? [{ plug: m[1]!, pin: m[2]!, colour: r.wires[0]?.colour, use: r.terminal }] : [];
      })
      .sort((a, b) => Number(a.pin) - Number(b.pin));
    return pins.length > 1
      ? [
          plugOf(
            t.id,
            t.name,
            pins[0]!.plug,
            pins.map(({ pin, colour, use }) => ({ pin, colour, use })),
          ),
        ]
      : [];
  });
}
