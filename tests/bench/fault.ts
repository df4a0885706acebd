import { bench, hunt, prove, UNITS } from '../fault-hunt';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** Every form of every single fault that the model can plant on the demo units, hunted with three measurements. */
export async function benchFault(say: (line: string) => void): Promise<void> {
  let [all, seen, named] = [0, 0, 0];
  const [first, ms, took]: [number[], number[], number[]] = [[], [], []];
  for (const [model, kits] of UNITS) {
    const b = bench(model, kits);
    let opened = false;
    for (const cause of b.finder.causes)
      for (const { faults } of cause.variants) {
        all++;
        const evidence = prove(b, faults);
        if (!evidence) continue;
        seen++;
        const t = performance.now();
        b.finder.find(evidence);
        (opened ? ms : first).push(performance.now() - t);
        opened = true;
        const h = hunt(b, evidence, faults);
        took.push(h.n);
        if (h.named === cause.id) named++;
      }
  }
  say(
    `Fault finder: of ${all} single faults on ${UNITS.length} demo units the proofs show ${seen}; ${named} of them named within three measurements, ${((100 * named) / seen).toFixed(1)} % (90 asked); ${took.filter((n) => n <= 2).length} with two or fewer. First answer on a unit ${Math.max(...first).toFixed(0)} ms at most, later ones ${median(ms).toFixed(0)} ms at the median.`,
  );
}
