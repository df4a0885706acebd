import type { ClientRateLimitInfo, Options, Store as RateStore } from 'express-rate-limit';
import { row, run, type Directory } from './db';

/** Keeps the rate limit's counts in the database, so that every server sees the same. */
export class HitStore implements RateStore {
  private windowMs = 60_000;
  constructor(
    private readonly directory: Directory,
    readonly prefix: string,
  ) {}
  init(options: Options): void {
    this.windowMs = options.windowMs;
  }
  async increment(key: string): Promise<ClientRateLimitInfo> {
    const now = new Date();
    await run(
      this.directory,
      `INSERT INTO ${this.directory.at}.hits (who, hits, reset_at) VALUES (?, 1, ?) ON DUPLICATE KEY UPDATE hits = IF(reset_at < ?, 1, hits + 1), reset_at = IF(reset_at < ?, VALUES(reset_at), reset_at)`,
      [this.prefix + key, new Date(now.getTime() + this.windowMs), now, now],
    );
    const r = await row<{ hits: number; reset_at: Date }>(
      this.directory,
      `SELECT hits, reset_at FROM ${this.directory.at}.hits WHERE who = ?`,
      [this.prefix + key],
    );
    return { totalHits: r?.hits ?? 1, resetTime: r?.reset_at ?? now };
  }
  async decrement(key: string): Promise<void> {
    await run(this.directory, `UPDATE ${this.directory.at}.hits SET hits = GREATEST(0, hits - 1) WHERE who = ?`, [this.prefix + key]);
  }
  async resetKey(key: string): Promise<void> {
    await run(this.directory, `DELETE FROM ${this.directory.at}.hits WHERE who = ?`, [this.prefix + key]);
  }
}

/** Drops counts whose time is over. */
export const forgetHits = (d: Directory) => run(d, `DELETE FROM ${d.at}.hits WHERE reset_at < ?`, [new Date()]);
