import { followPlaces } from './follow';
import { Placer, type JobPlace } from './place-jobs';
import { endCost, type Compiled, type CompiledJob } from './schedule-problem';

/** A task of an earlier plan. */
export interface EarlierTask {
  job: string;
  people: readonly string[];
  bay: string | null;
  start: number;
  end: number;
}

/** A job that begins so much sooner or later than it did is done at another time, minutes; what that costs beside other people or another bay. */
const OTHER_TIME = { min: 60, share: 0.3 };

/** What an earlier plan says of a job: who does which of its tasks, in which bay, and when. */
interface Home {
  crew: Int16Array;
  bay: number;
  start: Float64Array;
  end: Float64Array;
  /** the job as only these people in that bay may do it */
  job: CompiledJob;
}

/**
 * What an earlier plan says of each job; null of one that has no place in it, or whose people or bay are no longer there for it. What was
 * done since is missing at the beginning of a job; what came to it is done by who begins it.
 */
function homesOf(c: Compiled, earlier: readonly EarlierTask[]): (Home | null)[] {
  const { people, bays, jobs } = c.problem;
  const person = new Map(people.map((p, i) => [p.id, i]));
  const bayAt = new Map(bays.map((b, i) => [b.id, i]));
  const of = new Map<string, EarlierTask[]>(jobs.map((j) => [j.id, []]));
  for (const t of [...earlier].sort((a, b) => a.start - b.start || a.end - b.end)) of.get(t.job)?.push(t);
  return jobs.map((job, n) => {
    const was = of.get(job.id)!;
    if (!was.length) return null;
    const { tasks, bays: takes, bayFrom } = c.jobs[n]!;
    const same = tasks.map((_, k) => was[Math.max(0, was.length - tasks.length + k)]!);
    const crew = same.map(({ people: ids }, k) => {
      const who = ids.map((id) => person.get(id));
      const { crews } = tasks[k]!;
      const all = crews.findIndex((x) => x.who.length === who.length && x.who.every((w) => who.includes(w)));
      return all >= 0 ? all : crews.findIndex((x) => x.who[0] === who[0]);
    });
    const bay = bayFrom < 0 ? -1 : takes.find((b) => same.some((t) => t.bay !== null && bayAt.get(t.bay) === b));
    if (crew.includes(-1) || bay === undefined) return null;
    return {
      crew: Int16Array.from(crew),
      bay,
      start: Float64Array.from(same, (t) => Math.max(c.now, t.start)),
      end: Float64Array.from(same, (t) => t.end),
      job: { ...c.jobs[n]!, bays: bay < 0 ? [] : [bay], tasks: tasks.map((t, k) => ({ ...t, crews: [t.crews[crew[k]!]!] })) },
    };
  });
}

/** What an earlier plan says of a shop’s jobs, and what it costs not to keep to it. */
export class Homes {
  private readonly of: readonly (Home | null)[];

  /** @param moving what it costs that a job is done by others, or stands in another bay */
  constructor(
    private readonly c: Compiled,
    earlier: readonly EarlierTask[],
    private readonly moving: number,
  ) {
    this.of = homesOf(c, earlier);
  }

  /** A shop of some of the jobs, in which each rather is where it was. */
  placer(part: Compiled, jobs: readonly number[]): Placer {
    return new HomingPlacer(
      part,
      jobs.map((n) => this.of[n]!),
      this.moving,
    );
  }

  /** What it costs that jobs are where they are, and not where they were. */
  moved(places: readonly JobPlace[]): number {
    return places.reduce((sum, p, n) => sum + movedCost(p, this.of[n]!, this.moving), 0);
  }

  /**
   * Keeps to the plan: who does what, in which bay and in which order stays, and everything begins as soon as what is before it is done.
   * What is new is put beside it, into this shop.
   * @returns what it costs; Infinity if that is not possible any more
   */
  asBefore(placer: Placer): number {
    const { c, of } = this;
    const places = of.map(
      (h): JobPlace | null => h && { crew: h.crew, bay: h.bay, start: h.start.slice(), end: h.end.slice(), cost: 0, done: 0 },
    );
    const done = followPlaces(c, places);
    placer.clear();
    for (const [n, p] of places.entries()) {
      if (!p) continue;
      p.done = done[n]!;
      p.cost = endCost(c.jobs[n]!, p.done) + movedCost(p, of[n]!, this.moving);
      if (p.done === Infinity || !placer.fits(n, p)) return Infinity;
      placer.putBack(n, p);
    }
    const out = [...of.keys()].filter((n) => !of[n]).sort((a, b) => c.jobs[a]!.due - c.jobs[b]!.due);
    for (const n of out) if (placer.put(n) === Infinity) return Infinity;
    return placer.kept().reduce((sum, p) => sum + p.cost, 0);
  }
}

function movedCost(p: JobPlace, home: Home | null, moving: number): number {
  if (!home) return 0;
  if (p.bay !== home.bay || p.crew.some((x, k) => x !== home.crew[k])) return moving;
  return Math.abs((p.start[0] ?? 0) - (home.start[0] ?? 0)) > OTHER_TIME.min ? OTHER_TIME.share * moving : 0;
}

/** A shop in which a job is done by who would do it, in the bay where it would stand, unless it costs less to move it. */
class HomingPlacer extends Placer {
  constructor(
    c: Compiled,
    private readonly homes: readonly (Home | null)[],
    private readonly moving: number,
  ) {
    super(c);
  }

  override put(n: number): number {
    // while the shop is made, nothing was anywhere yet
    const home = (this.homes as HomingPlacer['homes'] | undefined)?.[n];
    if (!home) return super.put(n);
    const away = this.soonestPlace(this.c.jobs[n]!);
    const there = this.soonestPlace(home.job);
    if (away) away.cost += movedCost(away, home, this.moving);
    if (there) {
      there.crew.set(home.crew);
      there.cost += movedCost(there, home, this.moving);
    }
    const p = there && (!away || there.cost <= away.cost) ? there : away;
    if (!p) return Infinity;
    this.putBack(n, p);
    return p.cost;
  }
}
