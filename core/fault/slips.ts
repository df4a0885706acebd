import type { Harness } from '#model/harness';
import type { SwitchState } from '../harness/simulate';
import type { Evidence } from './sight';

/** What the engine's rpm are asked of: it may have stalled, or stood at idle. */
const ENGINE = 'unit#engine';

/** A switch that was not put where a reading asks for it: looked at first, as it takes no meter. */
export interface Slip {
  id: string;
  says: string;
  /** what to see to */
  look: string;
  /** the state as it then was */
  as(state: SwitchState): SwitchState;
}

/** Every switch that failing readings ask to be on, left as it was. */
export function slips(h: Harness, evidence: readonly Evidence[]): Slip[] {
  const asked = new Map<string, string>();
  for (const e of evidence) if (e.failing) for (const [c, p] of Object.entries(e.sight.state.controls)) asked.set(c, p);
  return h.controls.flatMap((c): Slip[] => {
    const at = asked.get(c.id);
    const position = c.positions.findIndex((p) => p.id === at);
    if (position < 1) return [];
    const wanted = `${c.name.toLowerCase()} ${c.positions[position]!.name}`;
    const kept = new WeakMap<SwitchState, SwitchState>();
    return [
      {
        id: `slip:${c.id}`,
        says: c.id === ENGINE ? 'The engine was not running so' : `Not switched on: ${wanted}`,
        look: `See that it is so: ${wanted}. Then read again.`,
        as: (state) => {
          let left = kept.get(state);
          if (!left) {
            const controls: Record<string, string> = { ...state.controls };
            delete controls[c.id];
            // without the key no engine runs
            if (c.id === 'unit#key') delete controls[ENGINE];
            kept.set(state, (left = { ...state, controls }));
          }
          return left;
        },
      },
    ];
  });
}
