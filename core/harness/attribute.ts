import type { HarnessElement } from '#model/harness';
import type { CircuitChoice } from './build';
import type { Builder } from './builder';

/** Gives every wire and part the circuit whose feed reaches it, so that it is sized and guarded with it. */
export function attribute(b: Builder, choices: readonly CircuitChoice[], feedNode: (c: CircuitChoice) => string): void {
  const touch = new Map<string, HarnessElement[]>();
  for (const e of b.elements) for (const n of [e.from, e.to]) touch.set(n, [...(touch.get(n) ?? []), e]);
  const stop = (n: string) => n.startsWith('pp:') || n.startsWith('gnd:') || n.startsWith('wire:') || n === 'bat-' || n === 'bat+';
  // what is joined to others' wires first: its own part begins where it is joined
  for (const c of [...choices].sort((x, y) => Number(!!y.taps) - Number(!!x.taps))) {
    const starts = c.taps
      ? b.elements
          .filter((e) => ['wire', 'fuse', 'diode'].includes(e.kind) && e.to.startsWith(`${c.kit.id}/`))
          .filter((e) => c.taps!.some((t) => t.node === e.from))
          .flatMap((e) => ((e.circuit ??= c.id), [e.to]))
      : feedNode(c).startsWith('pp:')
        ? b.wires().flatMap((w) => (w.circuit === c.id && w.from === feedNode(c) ? [w.to] : []))
        : [feedNode(c)];
    // what it is joined to is another's
    const seen = new Set<string>([...starts, ...(c.taps ?? []).map((t) => t.node)]);
    const open = [...starts];
    while (open.length) {
      const here = open.pop()!;
      for (const e of touch.get(here) ?? []) {
        if (e.circuit !== null && e.circuit !== c.id) continue;
        const ends = e.kind === 'load' || e.kind === 'coil' || e.kind === 'supply';
        if (ends && e.from !== here) continue;
        e.circuit = c.id;
        if (ends) continue;
        for (const next of [e.from, e.to])
          if (!seen.has(next) && !stop(next)) {
            seen.add(next);
            open.push(next);
          }
      }
    }
  }
}

/**
 * Leads that no feed reaches through contacts, such as a module's ground, go with the circuit their device is on; what joins only
 * such leads goes with them.
 */
export function adopt(b: Builder, choices: readonly CircuitChoice[]): void {
  const ofDevice = (node: string): string | null => {
    const of = b.nodes.get(node)!.of;
    if (of === null || of === 'unit') return null;
    return (
      choices.find((c) => c.circuit.devices.some((d) => `${c.kit.id}/${d}` === of))?.id ??
      b.elements.find((e) => e.of === of && e.circuit !== null)?.circuit ??
      null
    );
  };
  const loose = () => b.wires().filter((w) => w.circuit === null);
  for (const w of loose()) w.circuit = ofDevice(w.from) ?? ofDevice(w.to);
  // a joint hands on what comes to it
  for (let more = true; more;) {
    more = false;
    for (const w of loose()) {
      const joints = [w.from, w.to].filter((n) => b.nodes.get(n)!.kind === 'splice');
      const near = b.wires().find((x) => x.circuit !== null && joints.some((n) => x.from === n || x.to === n));
      if (!near) continue;
      w.circuit = near.circuit;
      more = true;
    }
  }
}
