import { chakra } from '@chakra-ui/react';
import { type Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { type BoxPart, type Choices } from '#core/sheets/edit-kit';

export type Change = (kit: Kit) => void;
export interface Props {
  kit: Kit;
  /** the box as its variants are chosen: what is there of several things of one id */
  shown: Kit;
  chosen: Choices;
  model: UnitModel;
  onChange: Change;
  onPick: (p: BoxPart | null) => void;
}

export const words = (id: string) => id.replace(/-/g, ' ');

export const Fields = chakra('div', { base: { display: 'grid', gap: '8px' } });
export const Name = chakra('h2', { base: { fontSize: '18px', mb: '8px' } });

/** Places by their names on the unit that the box is tried on; a place that it lacks is said to be lacking. */
export const placesOf = (model: UnitModel, now: string) => [
  ...(model.places.some((p) => p.id === now) ? [] : [{ id: now, name: `${words(now)}: not on this unit` }]),
  ...model.places.map((p) => ({ id: p.id, name: p.name })),
];
