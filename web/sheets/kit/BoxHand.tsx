import { chakra } from '@chakra-ui/react';
import { UnitKind } from '#model/common';
import type { UnitModel } from '#model/unit-model';
import { WISHES, type WishId } from '#model/wish';
import { fitsModel } from '#core/sheets/edit-kit';
import { Toggles, WordsField } from '../fields';

import { Fields, Name, words, type Props } from './hand';

/** The box itself: who made it, what it is for, and what it fits. */
export function BoxHand({ kit, model, models, onChange }: Props & { models: readonly UnitModel[] }) {
  return (
    <Fields>
      <Name>The box itself</Name>
      <WordsField id="kit-maker" label="Maker" value={kit.maker} most={60} onTyped={(maker) => maker && onChange({ ...kit, maker })} />
      <WordsField id="kit-name" label="Name" value={kit.name} most={80} onTyped={(name) => name && onChange({ ...kit, name })} />
      <WordsField
        id="kit-summary"
        label="In a sentence"
        value={kit.summary}
        most={300}
        long
        onTyped={(summary) => summary && onChange({ ...kit, summary })}
      />
      <Toggles
        label="Made for, model by model"
        options={models.map((m) => ({ id: m.id, name: m.name }))}
        on={models.flatMap((m) => (kit.fits.some((f) => f.fits && f.models?.includes(m.id)) ? [m.id] : []))}
        onToggle={(id, on) => onChange(fitsModel(kit, id, on))}
      />
      <Toggles
        label="Or for every unit of a kind"
        options={UnitKind.options.map((k) => ({ id: k, name: words(k) }))}
        on={UnitKind.options.filter((k) => kit.fits.some((f) => f.fits && !f.models && f.kinds?.includes(k)))}
        onToggle={(k, on) => {
          const others = kit.fits.filter((f) => f.models || !f.kinds?.includes(k));
          onChange({ ...kit, fits: on ? [...others, { kinds: [k], fits: true }] : others });
        }}
      />
      <Toggles
        label="It answers an owner’s wish"
        options={(Object.keys(WISHES) as WishId[]).map((w) => ({ id: w, name: WISHES[w] }))}
        on={kit.wishes as WishId[]}
        onToggle={(w, on) => onChange({ ...kit, wishes: on ? [...kit.wishes, w] : kit.wishes.filter((x) => x !== w) })}
      />
      <WordsField
        id="kit-owner"
        label="What the owner is told at the end"
        value={kit.owner[0] ?? ''}
        most={240}
        onTyped={(text) => onChange({ ...kit, owner: text ? [text, ...kit.owner.slice(1)] : kit.owner.slice(1) })}
      />
      <chakra.p fontSize="14px" color="quiet">
        Places are named as on the {model.maker} {model.name}.
      </chakra.p>
    </Fields>
  );
}
