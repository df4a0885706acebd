import type { Harness, HarnessWire } from '#model/harness';
import type { PowerPoint } from '#model/unit-model';
import { ownerName } from './schematic';

/** One terminal of a relay or a switch and what is joined there. */
export interface TerminalRow {
  terminal: string;
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

/** A plug's cavities as they are seen from the side that wires enter, and from its face, where left and right change over. */
export function pinTable(point: PowerPoint): { wireSide: PowerPoint['pins']; face: PowerPoint['pins'] } | null {
  return point.pins.length ? { wireSide: point.pins, face: [...point.pins].reverse() } : null;
}
