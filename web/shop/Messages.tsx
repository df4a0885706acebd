import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { filled } from '#core/messages/due';
import { MESSAGE_KINDS, messageSettings, PLACEHOLDERS, type MessageKind } from '#model/message';
import type { Settings } from '#model/settings';
import { queries } from '../app/api';
import { Lines } from '../app/ui';
import { Kept } from './Kept';
import { WordSetting } from './Setting';
import { useSetting, type SettingOf } from './useSetting';

const MESSAGE_WORDS: Record<MessageKind, string> = {
  quote: 'A quote is made',
  agreed: 'The owner has agreed',
  extra: 'Something turned up',
  late: 'The promise is put later',
  ready: 'The unit is ready',
};
/** What texts are tried on. */
const EXAMPLE = { owner: 'Orla', unit: 'Drover 4', order: '1042', promise: 'Thu 3 Dec, 16:00', page: 'https://…/u/…' };

/** What owners of units are told, and in what words. */
export function Messages({ locked }: { locked: boolean }) {
  const kept = useSetting('messages');
  return (
    <>
      <WordSetting
        field="publicAddress"
        label="Address"
        does="where owners reach this program, such as https://fit.example; only then may a text name {page}"
        locked={locked}
      />
      {kept.value && <Form key={JSON.stringify(kept.value)} messages={kept.value} kept={kept} locked={locked} />}
    </>
  );
}

function Form({ messages, kept, locked }: { messages: Settings['messages']; kept: SettingOf<'messages'>; locked: boolean }) {
  const { save, saved, error } = kept;
  const settings = useQuery(queries.settings).data?.settings;
  const [typed, setTyped] = useState(messages);
  const read = messageSettings.messages.safeParse(typed);
  const wrongOf = (kind: MessageKind) => (read.success ? null : (read.error.issues.find((i) => i.path[0] === kind)?.message ?? null));
  const dirty = JSON.stringify(typed) !== JSON.stringify(messages);
  return (
    <chakra.form
      noValidate
      mt="16px"
      onSubmit={(e) => {
        e.preventDefault();
        if (read.success) save(read.data);
      }}
    >
      <chakra.p color="quiet" mb="10px">
        A text may name {PLACEHOLDERS.map((p) => `{${p}}`).join(', ')}. Each is sent once for each thing that happens, to what is written
        down as how the owner is reached, and stands in the order’s log.
      </chakra.p>
      {MESSAGE_KINDS.map((kind) => {
        const m = typed[kind];
        const wrong = wrongOf(kind);
        const needsPage = m.on && m.text.includes('{page}') && !settings?.publicAddress;
        return (
          <chakra.div
            key={kind}
            display="grid"
            gridTemplateColumns="210px minmax(0, 1fr)"
            gap="14px"
            borderTopWidth="1px"
            borderColor="rule"
            py="10px"
          >
            <chakra.label display="flex" gap="10px" minH="44px" alignItems="center" fontWeight={600}>
              <input
                type="checkbox"
                style={{ width: 22, height: 22, flex: 'none' }}
                disabled={locked}
                checked={m.on}
                onChange={(e) => setTyped({ ...typed, [kind]: { ...m, on: e.target.checked } })}
              />
              {MESSAGE_WORDS[kind]}
            </chakra.label>
            <div>
              <Lines
                aria-label={`Text: ${MESSAGE_WORDS[kind]}`}
                disabled={locked}
                value={m.text}
                maxLength={480}
                aria-invalid={wrong ? true : undefined}
                onChange={(e) => setTyped({ ...typed, [kind]: { ...m, text: e.target.value } })}
              />
              {wrong ? (
                <chakra.p role="alert" color="fails" fontSize="14px">
                  {wrong}
                </chakra.p>
              ) : (
                <chakra.p color="quiet" fontSize="14px">
                  {filled(m.text, { ...EXAMPLE, shop: settings?.shop ?? '' })}
                </chakra.p>
              )}
              {needsPage && (
                <chakra.p color="tightText" fontSize="14px">
                  It names the owner’s page, and no address is said above: it would be held.
                </chakra.p>
              )}
            </div>
          </chakra.div>
        );
      })}
      <Kept locked={locked} dirty={dirty} saved={saved} action="Save the texts" error={error} ready={read.success} />
    </chakra.form>
  );
}
