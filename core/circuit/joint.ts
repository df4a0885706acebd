import type { Joint } from '#model/kit';
import type { UnitModel } from '#model/unit-model';

/** Amperes above which a piercing tap is not to be trusted. Common practice, no source. */
export const PIERCING_MAX_A = 5;

export const JOINT_WORD: Record<Joint, string> = {
  'crimp-shrink': 'crimp, adhesive shrink',
  'crimp-solder': 'crimp and solder',
  'solder-sleeve': 'solder sleeve',
  'piercing-tap': 'piercing tap',
  'factory-plug': 'factory plug',
  ring: 'ring',
};

/** Why a joint will not last where it is put; null when it will. */
export function jointProblem(model: UnitModel, place: string | undefined, joint: Joint, amps: number | null): string | null {
  if (joint !== 'piercing-tap') return null;
  if (model.kind === 'boat' || model.places.some((p) => p.id === place && p.wet))
    return 'a piercing tap in a wet place corrodes: crimp and shrink instead';
  if (amps !== null && amps > PIERCING_MAX_A)
    return `a piercing tap is not for ${Number(amps.toPrecision(3))} A: at most ${PIERCING_MAX_A} A`;
  return null;
}
