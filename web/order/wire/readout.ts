import type { Meter } from '#core/harness/simulate';
import { figure } from '#core/quantity/quantity';

/** What a meter's display shows. */
export function readout(mode: Meter['mode'], x: number): string {
  if (mode === 'volts') return `${x < -0.005 ? '−' : ''}${Math.abs(x).toFixed(2)} V`;
  if (mode === 'amps') return Math.abs(x) < 0.995 ? `${(x * 1000).toFixed(Math.abs(x) < 0.01 ? 2 : 1)} mA` : `${figure(x, 4)} A`;
  if (!Number.isFinite(x)) return 'OL, open';
  return x < 1000 ? `${x < 10 ? x.toFixed(2) : figure(x, 4)} Ω` : `${figure(x / 1000, 4)} kΩ`;
}
