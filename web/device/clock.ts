/** How far the server's clock is ahead of this device's, as measured; a quick answer tells best. */
interface Sample {
  aheadMs: number;
  /** how long the answer took: it may be off by half of that */
  tookMs: number;
  at: number;
}

/** A measurement is good for this long: a device's clock may be set meanwhile. */
const GOOD_MS = 10 * 60_000;

/** The offset of this device's clock, measured at each answer of the server. */
export class DeviceClock {
  private best: Sample | null = null;

  /** Takes in an answer: the server's own time in it, and when it was asked for and came, both by this device. */
  measured(serverTime: string | null, askedAt: number, cameAt: number): void {
    const server = Date.parse(serverTime ?? '');
    const tookMs = cameAt - askedAt;
    if (Number.isNaN(server) || tookMs < 0) return;
    const now: Sample = { aheadMs: server - (askedAt + cameAt) / 2, tookMs, at: cameAt };
    const old = this.best;
    // one that differs by more than both can be off means that the clock was set
    const wasSet = old && Math.abs(old.aheadMs - now.aheadMs) > (old.tookMs + tookMs) / 2 + 50;
    if (!old || wasSet || tookMs <= old.tookMs || Math.abs(cameAt - old.at) > GOOD_MS) this.best = now;
  }

  /** Milliseconds to add to this device's time; null while nothing was measured. */
  get aheadMs(): number | null {
    return this.best && Math.round(this.best.aheadMs);
  }
}

export const deviceClock = new DeviceClock();
