import type { Element } from '#core/network/element';

/** A small generator of repeatable numbers (mulberry32), 0 to 1. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A network such as a harness makes: a battery, a tree of wires with some loops, loads at the ends, a second source. */
export function randomNetwork(seed: number, { nonlinear = false, nodes = 0 } = {}): { elements: Element[]; ground: string } {
  const next = seeded(seed);
  const n = nodes || 4 + Math.floor(next() * 20);
  const pick = () => `n${1 + Math.floor(next() * n)}`;
  const wire = () => 0.002 * 500 ** next();
  const elements: Element[] = [
    { id: 'battery', kind: 'V', from: 'n1', to: '0', volts: 11 + next() * 4, ohms: next() < 0.5 ? 0 : 0.005 + next() * 0.02 },
  ];
  for (let i = 2; i <= n; i++)
    elements.push({ id: `w${i}`, kind: 'R', from: `n${1 + Math.floor(next() * (i - 1))}`, to: `n${i}`, ohms: wire() });
  const more = 2 + Math.floor(next() * n);
  for (let i = 0; i < more; i++) {
    const kind = next();
    const [from, to] = [pick(), next() < 0.6 ? '0' : pick()];
    if (from === to) continue;
    if (nonlinear && kind < 0.3)
      elements.push({ id: `p${i}`, kind: 'load', law: 'constant-power', from, to: '0', watts: 1 + next() * 25, volts: 12, minVolts: 5 });
    else if (nonlinear && kind < 0.5) {
      // a diode with a load behind it, as in a lamp that must not light another
      elements.push({ id: `d${i}`, kind: 'diode', from, to: `k${i}`, volts: 0.3 + next() * 0.5 });
      elements.push({ id: `k${i}`, kind: 'R', from: `k${i}`, to: '0', ohms: 2 + next() * 50 });
    } else if (kind < 0.6) elements.push({ id: `i${i}`, kind: 'I', from, to, amps: next() * 3 });
    else if (kind < 0.7) elements.push({ id: `s${i}`, kind: 'switch', from, to: pick() === from ? '0' : `x${i}`, closed: false });
    else elements.push({ id: `r${i}`, kind: 'R', from, to, ohms: 0.5 + next() * 60 });
  }
  if (next() < 0.4) elements.push({ id: 'second', kind: 'V', from: pick(), to: '0', volts: 12 + next() * 2.5, ohms: 0.02 + next() * 0.1 });
  return { elements, ground: '0' };
}
