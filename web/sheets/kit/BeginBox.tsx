import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { Choice, Entry, FormDialog, Labelled } from '../../app/ui';

/** Begins the sheet of a box, by who made it, what it is called, and the unit beside it; or a copy of one. */
export function BeginBox({
  from,
  models,
  onClose,
  onBegun,
}: {
  /** what it is a copy of */
  from: Kit | null;
  models: readonly UnitModel[];
  onClose: () => void;
  onBegun: (maker: string, name: string, on: UnitModel) => void;
}) {
  const [maker, setMaker] = useState(from?.maker ?? '');
  const [name, setName] = useState(from ? `${from.name}, again` : '');
  const [on, setOn] = useState(from?.fits.flatMap((f) => f.models ?? [])[0] ?? models[0]!.id);
  return (
    <FormDialog
      open
      title={from ? `A copy of ${from.name}` : 'A new box'}
      action="Unpack it"
      ready={!!maker.trim() && !!name.trim()}
      onClose={onClose}
      onDone={() => onBegun(maker, name, models.find((m) => m.id === on) ?? models[0]!)}
    >
      <chakra.div display="grid" gap="10px">
        {!from && (
          <Labelled id="box-maker" label="Maker">
            <Entry id="box-maker" value={maker} maxLength={60} autoComplete="off" onChange={(e) => setMaker(e.target.value)} />
          </Labelled>
        )}
        <Labelled id="box-name" label="What it is called">
          <Entry id="box-name" value={name} maxLength={80} autoComplete="off" onChange={(e) => setName(e.target.value)} />
        </Labelled>
        <Labelled id="box-on" label="The unit beside it">
          <Choice id="box-on" value={on} onChange={(e) => setOn(e.target.value)}>
            {models.map((m) => (
              <option key={m.id} value={m.id}>
                {m.maker} {m.name}
              </option>
            ))}
          </Choice>
        </Labelled>
      </chakra.div>
    </FormDialog>
  );
}
