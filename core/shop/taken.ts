import { firstWork, type Shifts } from './shifts';

/** Stretches that are taken, in order, apart from one another: what touches is one of them. */
export class Taken {
  readonly from: Float64Array;
  readonly to: Float64Array;
  count = 0;

  /** @param room stretches at most; @param shifts of whom: from the end of one to the beginning of the next is no time */
  constructor(
    room: number,
    private readonly shifts: Shifts | null = null,
  ) {
    this.from = new Float64Array(room);
    this.to = new Float64Array(room);
  }
  clear() {
    this.count = 0;
  }
  /** The first stretch that ends after t. */
  after(t: number): number {
    const { to } = this;
    let low = 0;
    let high = this.count;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (to[mid]! > t) high = mid;
      else low = mid + 1;
    }
    return low;
  }
  /** When what is in the way of [from, to) ends, −1 if nothing is; of no time at all, what has begun before it. */
  inTheWay(from: number, to: number): number {
    const k = this.after(from);
    return k < this.count && this.from[k]! < to ? this.to[k]! : -1;
  }
  /** The first time from t on from which so many minutes are free. */
  gap(t: number, minutes: number): number {
    let at = t;
    for (let k = this.after(t); k < this.count && this.from[k]! < at + minutes; k++) at = this.to[k]!;
    return at;
  }
  /** When the last of what is in the way of [from, to) begins; Infinity if nothing is. */
  inTheWayFrom(from: number, to: number): number {
    let k = this.after(from);
    if (k >= this.count || this.from[k]! >= to) return Infinity;
    while (k + 1 < this.count && this.from[k + 1]! < to) k++;
    return this.from[k]!;
  }
  /** Takes [from, to), of which nothing is taken yet. */
  add(from: number, to: number) {
    if (to <= from) return;
    const end = this.next(to);
    const k = this.after(from);
    const goesOn = k > 0 && this.to[k - 1] === from;
    const isGoneOn = k < this.count && this.from[k] === end;
    if (goesOn && isGoneOn) {
      this.to[k - 1] = this.to[k]!;
      this.close(k);
    } else if (goesOn) this.to[k - 1] = end;
    else if (isGoneOn) this.from[k] = from;
    else {
      this.open(k);
      this.from[k] = from;
      this.to[k] = end;
    }
  }
  /** Gives back [from, to), all of which was taken. */
  remove(from: number, to: number) {
    if (to <= from) return;
    const end = this.next(to);
    const k = this.after(from);
    const before = this.from[k]! < from;
    const behind = this.to[k]! > end;
    if (before && behind) {
      this.open(k + 1);
      this.from[k + 1] = end;
      this.to[k + 1] = this.to[k]!;
      this.to[k] = from;
    } else if (before) this.to[k] = from;
    else if (behind) this.from[k] = end;
    else this.close(k);
  }
  private next(t: number): number {
    return this.shifts ? firstWork(this.shifts, t) : t;
  }
  private open(k: number) {
    for (let i = this.count++; i > k; i--) {
      this.from[i] = this.from[i - 1]!;
      this.to[i] = this.to[i - 1]!;
    }
  }
  private close(k: number) {
    this.count--;
    for (let i = k; i < this.count; i++) {
      this.from[i] = this.from[i + 1]!;
      this.to[i] = this.to[i + 1]!;
    }
  }
}
