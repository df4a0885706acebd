import type { ScheduledTask } from '#core/shop/schedule';
import type { ScheduleProblem } from '#core/shop/schedule-problem';

/** Minutes of [from, to) in which all of these people are on shift, counted a shift at a time. */
function together(p: ScheduleProblem, who: readonly string[], from: number, to: number): number {
  const shifts = who.map((id) => p.people.find((x) => x.id === id)!.shifts);
  let sum = 0;
  for (const [a, b] of shifts[0]!)
    for (const [c, d] of shifts[1] ?? [[-1e12, 1e12] as const]) sum += Math.max(0, Math.min(b, d, to) - Math.max(a, c, from));
  return sum;
}

/** All that a schedule breaks of the rules, from the rules alone; and what it costs. */
export function checkWeek(p: ScheduleProblem, tasks: readonly ScheduledTask[]): { problems: string[]; cost: number } {
  const problems: string[] = [];
  const say = (bad: boolean, what: string) => bad && problems.push(what);
  let cost = 0;
  const at = new Map(tasks.map((t) => [`${t.job}/${t.task}`, t]));
  say(at.size !== tasks.length || tasks.length !== p.jobs.reduce((s, j) => s + j.tasks.length, 0), 'each task once');
  const holds: { bay: string; from: number; to: number; job: string }[] = [];
  for (const j of p.jobs) {
    let ready = Math.max(p.now, j.releaseMin);
    let bay: string | null = null;
    let [from, to] = [Infinity, -Infinity];
    for (const t of j.tasks) {
      const s = at.get(`${j.id}/${t.id}`);
      if (!s) continue;
      const name = `${j.id}/${t.id}`;
      say(s.start < ready - 1e-6, `${name} begins before it may`);
      say(s.people.length !== t.hands || new Set(s.people).size !== s.people.length, `${name} has ${s.people.length} people`);
      const main = p.people.find((x) => x.id === s.people[0]);
      say(!main || !t.skills.every((k) => main.skills.includes(k)), `${name}: ${s.people[0]} cannot do it`);
      say(Math.abs(together(p, s.people, s.start, s.end) - t.minutes) > 1e-6, `${name} has not its minutes of work`);
      if (t.minutes)
        say(
          together(p, s.people, s.start, s.start + 1e-3) < 0.9e-3 || together(p, s.people, s.end - 1e-3, s.end) < 0.9e-3,
          `${name} begins or ends off shift`,
        );
      if (t.needsBay) {
        say(!s.bay || !p.bays.find((b) => b.id === s.bay)?.kinds.includes(j.kind), `${name} stands in no bay that takes it`);
        say(bay !== null && s.bay !== bay, `${j.id} changes its bay`);
        bay = s.bay;
        from = Math.min(from, s.start);
        to = Math.max(to, s.end + t.waitAfterMin);
      }
      ready = s.end + t.waitAfterMin;
    }
    if (bay) holds.push({ bay, from, to, job: j.id });
    cost += j.weight * Math.max(0, ready - j.dueMin) + 0.001 * ready;
  }
  for (const a of holds)
    for (const b of holds)
      say(a.job < b.job && a.bay === b.bay && a.from < b.to - 1e-6 && b.from < a.to - 1e-6, `${a.job} and ${b.job} in ${a.bay}`);
  for (const a of tasks)
    for (const b of tasks)
      say(
        a !== b && a.start < b.end - 1e-6 && b.start < a.end - 1e-6 && a.people.some((x) => b.people.includes(x)) && a.start <= b.start,
        `${a.job}/${a.task} and ${b.job}/${b.task} by one person at once`,
      );
  return { problems, cost };
}

/**
 * The least cost of a shop small enough for that, by trying every order in which tasks may be begun, with every crew and bay,
 * each as soon as it then can be, minute by minute.
 */
export function leastOf(p: ScheduleProblem, horizon: number): number {
  const on = p.people.map((x) => {
    const m = new Uint8Array(horizon);
    for (const [a, b] of x.shifts) m.fill(1, Math.max(a, p.now), Math.min(b, horizon));
    return m;
  });
  let best = Infinity;
  const next = p.jobs.map(() => 0);
  const ready = p.jobs.map((j) => Math.max(p.now, j.releaseMin));
  const bayOf = p.jobs.map(() => -1);
  const free = p.people.map(() => p.now);
  const bayFree = p.bays.map(() => p.now);
  const run = (who: number[], from: number, minutes: number): [number, number] => {
    let t = from;
    const works = () => who.every((w) => on[w]![t]);
    while (t < horizon && !works()) t++;
    const start = t;
    let left = minutes;
    while (left && t < horizon) {
      if (works()) left--;
      t++;
    }
    return left || start >= horizon ? [Infinity, Infinity] : [start, minutes ? t : start];
  };
  const go = (cost: number) => {
    if (cost >= best) return;
    let any = false;
    p.jobs.forEach((j, n) => {
      const k = next[n]!;
      const t = j.tasks[k];
      if (!t) return;
      any = true;
      const first = j.tasks.findIndex((x) => x.needsBay);
      const last = j.tasks.findLastIndex((x) => x.needsBay);
      const bays = k === first ? p.bays.flatMap((b, i) => (b.kinds.includes(j.kind) && bayFree[i]! < Infinity ? [i] : [])) : [-1];
      p.people.forEach((person, a) => {
        if (!t.skills.every((s) => person.skills.includes(s))) return;
        for (const b of t.hands === 2 ? p.people.keys() : [-1]) {
          if (b === a) continue;
          const who = b < 0 ? [a] : [a, b];
          for (const bay of bays) {
            const from = Math.max(ready[n]!, ...who.map((w) => free[w]!), bay >= 0 ? bayFree[bay]! : 0);
            const [start, end] = run(who, from, t.minutes);
            if (end === Infinity) continue;
            const was = { ready: ready[n]!, free: free.slice(), bayFree: bayFree.slice(), bay: bayOf[n]! };
            for (const w of who) free[w] = end;
            ready[n] = end + t.waitAfterMin;
            next[n]!++;
            if (bay >= 0) bayOf[n] = bay;
            if (k >= first && k < last && bayOf[n]! >= 0) bayFree[bayOf[n]!] = Infinity;
            if (k === last) bayFree[bayOf[n]!] = ready[n]!;
            void start;
            go(cost + (next[n] === j.tasks.length ? j.weight * Math.max(0, ready[n]! - j.dueMin) + 0.001 * ready[n]! : 0));
            next[n]!--;
            ready[n] = was.ready;
            bayOf[n] = was.bay;
            was.free.forEach((x, i) => (free[i] = x));
            was.bayFree.forEach((x, i) => (bayFree[i] = x));
          }
        }
      });
    });
    if (!any) best = Math.min(best, cost);
  };
  go(0);
  return best;
}

/** Jobs of one schedule that others do in another one, or that stand in another bay there. */
export function movedJobs(a: readonly ScheduledTask[], b: readonly ScheduledTask[]): string[] {
  const whoDoes = (tasks: readonly ScheduledTask[]) => {
    const all = new Map<string, string>();
    for (const t of tasks) all.set(t.job, `${all.get(t.job) ?? ''}${t.task} ${t.people.join()} ${t.bay}; `);
    return all;
  };
  const now = whoDoes(b);
  return [...whoDoes(a)].flatMap(([job, who]) => (now.has(job) && now.get(job) !== who ? [job] : []));
}

/** Jobs of one schedule that begin more than an hour sooner or later in another one. */
export function shiftedJobs(a: readonly ScheduledTask[], b: readonly ScheduledTask[]): string[] {
  const begins = (tasks: readonly ScheduledTask[]) => {
    const all = new Map<string, number>();
    for (const t of tasks) all.set(t.job, Math.min(t.start, all.get(t.job) ?? Infinity));
    return all;
  };
  const now = begins(b);
  return [...begins(a)].flatMap(([job, at]) => (Math.abs((now.get(job) ?? at) - at) > 60 ? [job] : []));
}

/** Jobs that end after they are due. */
export function lateJobs(p: ScheduleProblem, tasks: readonly ScheduledTask[]): string[] {
  const wait = new Map(p.jobs.flatMap((j) => j.tasks.map((t) => [`${j.id}/${t.id}`, t.waitAfterMin] as const)));
  const due = new Map(p.jobs.map((j) => [j.id, j.dueMin]));
  return [...new Set(tasks.flatMap((t) => (t.end + wait.get(`${t.job}/${t.task}`)! > due.get(t.job)! ? [t.job] : [])))];
}
