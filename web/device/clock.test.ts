import { describe, expect, it } from 'vitest';
import { DeviceClock } from './clock';

const iso = (ms: number) => new Date(ms).toISOString();
const T = Date.UTC(2026, 10, 27, 8);

describe('the clock of a device', () => {
  it('is measured by an answer, half way between asking and hearing', () => {
    const c = new DeviceClock();
    expect(c.aheadMs).toBeNull();
    // the device is an hour behind; the answer took 200 ms
    c.measured(iso(T + 3600_000 + 100), T, T + 200);
    expect(c.aheadMs).toBe(3600_000);
  });
  it('a quick answer tells better than a slow one, whichever came first', () => {
    const c = new DeviceClock();
    c.measured(iso(T + 900), T, T + 1000);
    c.measured(iso(T + 2010), T + 2000, T + 2020);
    expect(c.aheadMs).toBe(0);
    c.measured(iso(T + 3900), T + 3000, T + 4000);
    expect(c.aheadMs).toBe(0);
  });
  it('a clock that was set meanwhile is measured anew at once, and what is no time changes nothing', () => {
    const c = new DeviceClock();
    c.measured(iso(T), T, T + 10);
    c.measured(iso(T + 7200_000), T + 1000, T + 1300);
    expect(c.aheadMs).toBe(7200_000 - 1150);
    c.measured(null, T, T);
    c.measured('nonsense', T, T);
    expect(c.aheadMs).toBe(7200_000 - 1150);
  });
});
