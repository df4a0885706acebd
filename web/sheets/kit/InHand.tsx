import type { UnitModel } from '#model/unit-model';
import { type BoxPart } from '#core/sheets/edit-kit';

import type { Props } from './hand';
import { DeviceHand } from './DeviceHand';
import { CircuitHand } from './CircuitHand';
import { HarnessHand } from './HarnessHand';
import { ContentHand } from './ContentHand';
import { StepHand } from './StepHand';
import { BoxHand } from './BoxHand';

/** What of a box is in hand, with all that is known of it. */
export function InHand({ part, models, ...p }: Props & { part: BoxPart; models: readonly UnitModel[] }) {
  const { shown: kit } = p;
  if (part.kind === 'device' && kit.devices.some((d) => d.id === part.id)) return <DeviceHand key={part.id} {...p} id={part.id} />;
  if (part.kind === 'circuit' && kit.circuits.some((c) => c.id === part.id)) return <CircuitHand key={part.id} {...p} id={part.id} />;
  if (part.kind === 'harness' && kit.harnesses.some((h) => h.id === part.id)) return <HarnessHand key={part.id} {...p} id={part.id} />;
  if (part.kind === 'content' && kit.contents[part.at]) return <ContentHand key={part.at} {...p} at={part.at} />;
  if (part.kind === 'step' && kit.steps.some((s) => s.id === part.id)) return <StepHand key={part.id} {...p} id={part.id} />;
  return <BoxHand {...p} models={models} />;
}
