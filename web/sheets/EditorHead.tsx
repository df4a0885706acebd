import { chakra } from '@chakra-ui/react';
import { Redo2, Undo2 } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { sayInUnits } from '#core/quantity/quantity';
import { useUnits } from '../app/context';
import { Act } from '../app/ui';
import type { History } from './useHistory';

/** Problems that are shown at once: the worst come first. */
const MOST_SHOWN = 3;

/** Takes a step back by its keys, or makes it again, but not within what is typed. */
export const byUndoKeys =
  (history: Pick<History<unknown>, 'undo' | 'redo'>) =>
  (e: KeyboardEvent): void => {
    const typing = e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement;
    if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z' || typing) return;
    e.preventDefault();
    (e.shiftKey ? history.redo : history.undo)?.();
  };

/** What stands above a sheet that is edited: its name, back and again, leaving it, and publishing it. */
export function EditorHead({
  title,
  history,
  publishing,
  ready,
  onPublish,
  onLeave,
}: {
  title: string;
  history: Pick<History<unknown>, 'undo' | 'redo'>;
  publishing: boolean;
  ready: boolean;
  onPublish: () => void;
  onLeave: () => void;
}) {
  return (
    <chakra.div display="flex" alignItems="center" gap="8px" mb="8px" flexWrap="wrap">
      <chakra.h1 fontSize="22px" flex="1">
        {title}
      </chakra.h1>
      <Act aria-label="Undo" disabled={!history.undo} onClick={() => history.undo?.()}>
        <Undo2 size={18} aria-hidden />
      </Act>
      <Act aria-label="Redo" disabled={!history.redo} onClick={() => history.redo?.()}>
        <Redo2 size={18} aria-hidden />
      </Act>
      <Act onClick={onLeave}>Leave</Act>
      <Act look="main" disabled={!ready} aria-expanded={publishing} onClick={onPublish}>
        Publish…
      </Act>
    </chakra.div>
  );
}

const MOST_BOTH = 4;

/** Says that a sheet became another since its draft was begun, and what was changed there as well as here. */
export function MovedOn({ moved }: { moved: readonly string[] | null }) {
  if (!moved) return null;
  const said = moved.slice(0, MOST_BOTH).map((p) => p.slice(1).replaceAll('/', ', ').replaceAll('-', ' '));
  const more = moved.length - said.length;
  return (
    <chakra.p role="status" mb="8px" color="tightText">
      The sheet has become another since you began: what you changed is put onto that one.
      {moved.length > 0 && ` Changed there too, and yours stands: ${said.join('; ')}${more > 0 ? `; ${more} more` : ''}.`}
    </chakra.p>
  );
}

/** What is wrong with a sheet or lacks in it: touching one goes there. */
export function ToLookAt<P extends { says: string; stops: boolean }>({
  problems,
  onTouch,
}: {
  problems: readonly P[];
  onTouch: (p: P) => void;
}) {
  const units = useUnits();
  if (!problems.length) return null;
  return (
    <chakra.section aria-label="To look at" mb="6px" display="flex" flexWrap="wrap" alignItems="center" gap="0 8px">
      <b>To look at</b>
      {problems.slice(0, MOST_SHOWN).map((p) => (
        <Act
          key={p.says}
          look="quiet"
          minHeight="36px"
          whiteSpace="normal"
          textAlign="left"
          color={p.stops ? 'fails' : undefined}
          onClick={() => onTouch(p)}
        >
          {sayInUnits(p.says, units)}
        </Act>
      ))}
      {problems.length > MOST_SHOWN && <span>and {problems.length - MOST_SHOWN} more</span>}
    </chakra.section>
  );
}
