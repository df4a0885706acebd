import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { lazy, Suspense, useEffect } from 'react';
import { useLocation } from 'react-router';
import { useNotices, useOutbox, usePending } from './context';
import { Act } from './ui';

/** saying what happened needs all that may happen: not loaded for the first view */
const Changed = lazy(() => import('./Changed'));

/** Clashes to choose in, and refusals to read: below the screen, which makes room for them, so that they cover nothing. */
export function Notices() {
  const outbox = useOutbox();
  const pending = usePending();
  const client = useQueryClient();
  const me = client.getQueryData<{ id: string }>(['session'])?.id;
  const clashes = pending.filter((p) => p.state === 'clash' && p.by === me);
  const { pathname, search } = useLocation();
  useEffect(() => outbox.left(pathname + search), [outbox, pathname, search]);
  return (
    <chakra.div display="flex" flexDirection="column" aria-live="polite" data-part="notices">
      {clashes.map((c) => (
        <Bar key={c.key} tone="fails">
          <chakra.div flex="1">
            <b>Changed meanwhile.</b>{' '}
            <Suspense fallback={null}>
              <Changed theirs={c.clash!.theirs} mine={c.command} />
            </Suspense>
          </chakra.div>
          <Act look="main" onClick={() => outbox.resolve(c.key, true)}>
            Record mine too
          </Act>
          <Act onClick={() => outbox.resolve(c.key, false)}>Keep theirs</Act>
        </Bar>
      ))}
      {/* one place is enough: a dialog over the screen that shows them is nearer */}
      <chakra.div css={{ 'body:has([data-part="refused here"]) &': { display: 'none' } }}>
        <Refusals />
      </chakra.div>
    </chakra.div>
  );
}

/**
 * What was refused and why. In a dialog that stays open it stands in the dialog, which covers the screen’s own:
 * `data-part="refused here"` around it hides that.
 */
export function Refusals() {
  const outbox = useOutbox();
  return useNotices().map((n) => (
    <Bar key={n.id} tone={n.tone}>
      <chakra.div flex="1">{n.text}</chakra.div>
      {n.file && <Act onClick={() => void n.file!().then(() => outbox.dismiss(n.id))}>Save it as a file</Act>}
      <Act look="quiet" onClick={() => outbox.dismiss(n.id)} aria-label="Dismiss">
        <X size={18} aria-hidden />
      </Act>
    </Bar>
  ));
}

function Bar({ tone = 'quiet', children }: { tone?: 'fails' | 'quiet'; children: React.ReactNode }) {
  return (
    <chakra.div
      role={tone === 'fails' ? 'alert' : 'status'}
      display="flex"
      alignItems="center"
      gap="12px"
      bg="raised"
      borderTopWidth="3px"
      borderColor={tone === 'fails' ? 'fails' : 'quiet'}
      px="16px"
      py="6px"
      minH="52px"
    >
      {children}
    </chakra.div>
  );
}
