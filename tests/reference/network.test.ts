import { describe, expect, it } from 'vitest';
import { Network } from '#core/network/solve';
import { randomNetwork } from '../random-network';
import { ngspice } from './ngspice';

// Reference program: ngspice (Debian package), its operating point of the same network.
const COUNT = 150;
const seed = Number(process.env.KADRO_SEED ?? 20261125);

/** Compares node by node; returns how many networks the other program could solve. */
function compare(first: number, nonlinear: boolean, share: number): number {
  const networks = Array.from({ length: COUNT }, (_, i) => randomNetwork(first + i, { nonlinear }));
  let compared = 0;
  ngspice(networks).forEach((theirs, i) => {
    if (!theirs) return;
    compared++;
    const ours = new Network(networks[i]!.elements, networks[i]!.ground).solve();
    for (const [node, v] of theirs) {
      // what floats has no volts of its own
      if (/^x/.test(node)) continue;
      const off = Math.abs(ours.volts.get(node)! - v) / Math.max(1, Math.abs(v));
      expect(off, `seed ${first + i}, node ${node}: ${ours.volts.get(node)} V here, ${v} V there`).toBeLessThan(share);
    }
  });
  return compared;
}

describe(`operating points against ngspice, from seed ${seed}`, () => {
  it(`${COUNT} linear networks to 1e-6`, () => {
    expect(compare(seed, false, 1e-6)).toBe(COUNT);
  });

  it(`${COUNT} networks with diodes and constant power to 1e-3`, () => {
    expect(compare(seed + COUNT, true, 1e-3)).toBeGreaterThan(0.95 * COUNT);
  });
});
