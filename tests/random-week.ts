import type { ScheduleProblem } from '#core/shop/schedule-problem';

/** Numbers from 0 to 1 that are the same in every run. */
export function draws(seed: number): () => number {
  let s = (seed * 2654435761) >>> 0 || 1;
  return () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return (s >>> 0) / 4294967296;
  };
}

const SKILLS = ['electrical', 'mechanical', 'boats', 'audio'];
const KINDS = ['side-by-side', 'golf-cart', 'motorcycle', 'boat'];

/**
 * A shop's week at random, minutes in whole `step`s: people with skills and shifts by day, some days off, bays that take some
 * kinds, and jobs of several tasks, some of which want two people, wait, or need no bay.
 */
export function randomWeek(
  seed: number,
  size: { jobs: number; people: number; bays: number; tasks: number; step?: number; days?: number; loose?: number },
): ScheduleProblem {
  const random = draws(seed);
  const int = (a: number, b: number) => a + Math.floor(random() * (b - a + 1));
  const { step = 5, days = 14, loose = 1 } = size;
  const day = 1440;
  const people = Array.from({ length: size.people }, (_, i) => ({
    id: `p${i}`,
    skills: SKILLS.filter((_, k) => random() < (k < 2 ? 0.7 : 0.4) || k % size.people === i),
    shifts: Array.from({ length: days }, (_, d): [number, number][] => {
      const from = d * day + 480 + int(-2, 2) * 30;
      if (d && random() < 0.1) return [];
      return [
        [from, from + 240],
        [from + 285, from + 510],
      ];
    }).flat(),
  }));
  const bays = Array.from({ length: size.bays }, (_, i) => {
    const kinds = KINDS.filter((_, k) => random() < 0.6 || k % size.bays === i);
    // a bay that takes nothing is none
    return { id: `b${i}`, kinds: kinds.length ? kinds : [KINDS[i % KINDS.length]!] };
  });
  let left = size.tasks;
  const jobs = Array.from({ length: size.jobs }, (_, i) => {
    const others = size.jobs - 1 - i;
    const count = others ? Math.max(1, Math.min(left - others, int(1, Math.ceil((2 * size.tasks) / size.jobs) - 1))) : left;
    left -= count;
    const release = random() < 0.5 ? 0 : int(0, (3 * day) / step) * step;
    return {
      id: `j${i}`,
      kind: KINDS[int(0, KINDS.length - 1)]!,
      releaseMin: release,
      dueMin: release + Math.round(int(0, 4) * loose) * day + int(120, 204) * 5,
      weight: int(1, 5),
      tasks: Array.from({ length: count }, (_, k) => ({
        id: `t${k}`,
        minutes: Math.round(int(10, 110) / step) * step,
        skills: random() < 0.6 ? [SKILLS[int(0, SKILLS.length - 1)]!] : [],
        hands: (size.people > 1 && random() < 0.15 ? 2 : 1) as 1 | 2,
        waitAfterMin: random() < 0.12 ? Math.round(int(30, 240) / step) * step : 0,
        needsBay: random() < 0.85,
      })),
    };
  });
  return { now: 0, people, bays, jobs };
}

/** Three small jobs for two or three people whose shifts are short and hardly meet: what one pauses, another could go on with. */
export function staggeredWeek(seed: number): ScheduleProblem {
  const random = draws(seed * 7 + 3);
  const half = (a: number, b: number) => 30 * (a + Math.floor(random() * (b - a + 1)));
  const people = Array.from({ length: half(2, 3) / 30 }, (_, i) => {
    let t = half(0, 3);
    const shifts = Array.from({ length: 12 }, (): [number, number] => {
      const from = t;
      const to = from + half(1, 4);
      t = to + half(1, 3);
      return [from, to];
    });
    return { id: `p${i}`, skills: i === 0 || random() < 0.6 ? ['electrical'] : [], shifts };
  });
  const jobs = Array.from({ length: 3 }, (_, i) => ({
    id: `j${i}`,
    kind: 'boat',
    releaseMin: half(0, 3),
    dueMin: half(0, 12),
    weight: half(1, 5) / 30,
    tasks: Array.from({ length: half(1, 2) / 30 }, (_, k) => ({
      id: `t${k}`,
      minutes: half(1, 4),
      skills: random() < 0.4 ? ['electrical'] : [],
      hands: (random() < 0.2 ? 2 : 1) as 1 | 2,
      waitAfterMin: random() < 0.2 ? 30 : 0,
      needsBay: random() < 0.5,
    })),
  }));
  return { now: 0, people, bays: [{ id: 'slip', kinds: ['boat'] }], jobs };
}

/** A week that a model over slots of time can say: one person a task, bays that take everything, two days in half hours. */
export function plainWeek(seed: number, jobs: number, tasks: number): ScheduleProblem {
  const p = randomWeek(seed, { jobs, people: 3, bays: 2, tasks, step: 30, days: 3, loose: 0 });
  const kinds = p.jobs.map((j) => j.kind);
  return {
    ...p,
    bays: p.bays.map((b) => ({ ...b, kinds })),
    people: p.people.map((x) => ({
      ...x,
      shifts: x.shifts.map(([a, b]): [number, number] => [Math.ceil(a / 30) * 30, Math.floor(b / 30) * 30]).filter(([a, b]) => b > a),
    })),
    jobs: p.jobs.map((j) => ({
      ...j,
      releaseMin: Math.min(j.releaseMin, 1440),
      tasks: j.tasks.map((t) => ({ ...t, hands: 1 as const, minutes: Math.max(30, Math.min(t.minutes, 90)) })),
    })),
  };
}
