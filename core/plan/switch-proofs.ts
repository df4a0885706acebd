import type { Kit } from '#model/kit';
import { circuitSight } from '../fault/sight';
import { onStates } from '../harness/on-states';
import type { Wiring } from '../wiring/planned';
import { step, yes, type PlannedStep } from './planned';

/** Positions of a kit's own switches that a proof of it has thrown: by what its sheet says, or where a circuit's volts are read. */
function thrown(kit: Kit, wiring: Wiring, running: boolean): Set<string> {
  const out = new Set<string>();
  for (const s of kit.steps)
    if (s.stage === 'prove')
      for (const w of s.readings.flatMap((r) => r.sees?.when ?? [])) {
        const [control, positions] = w.split(':') as [string, string];
        for (const p of positions.split('|')) out.add(`${kit.id}/${control}:${p}`);
      }
  for (const c of wiring.circuits)
    if (c.kit.id === kit.id)
      for (const [control, p] of Object.entries(circuitSight(wiring.harness, c, running)?.state.controls ?? {})) out.add(`${control}:${p}`);
  return out;
}

/**
 * A proof for every position of a kit's switches that no other throws and that gives something its volts: what it works, as
 * the wiring is planned. Positions that work nothing, such as a panel's spare ones, have none.
 */
export function switchProofs(kits: readonly Kit[], wiring: Wiring): PlannedStep[] {
  const { harness } = wiring;
  const running = harness.controls.some((c) => c.id === 'unit#engine');
  return kits.flatMap((kit) => {
    const done = thrown(kit, wiring, running);
    return kit.devices.flatMap((d) =>
      d.controls.flatMap((c) =>
        c.positions.slice(1).flatMap((p): PlannedStep[] => {
          const control = `${kit.id}/${d.id}#${c.id}`;
          if (done.has(`${control}:${p.id}`) || !harness.controls.some((x) => x.id === control)) return [];
          const works = onStates(harness, running).adds(control, p.id);
          if (!works.length) return [];
          const loads = harness.elements.filter((e) => works.includes(e.id));
          const names = [...new Set(loads.map((e) => e.name))];
          const lit = kit.devices.filter((x) => loads.some((e) => e.of === `${kit.id}/${x.id}`)).map((x) => x.id);
          return [
            step({
              id: `works/${kit.id}/${d.id}-${c.id}-${p.id}`,
              stage: 'prove',
              proof: true,
              kit: kit.id,
              place: d.place,
              minutes: 1,
              title: `${c.name} ${p.name}`,
              text: `Key on, everything else off. ${c.name} to ${p.name}: ${names.join(', ')}. Then back.`,
              readings: [
                {
                  ...yes('works', `${names.length > 1 ? 'All of them work' : `${names[0]!} works`}, and nothing else`),
                  ...(lit.length && { sees: { lit, dark: [], when: ['key:run', `${d.id}#${c.id}:${p.id}`] } }),
                },
              ],
            }),
          ];
        }),
      ),
    );
  });
}
