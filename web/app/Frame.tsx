import { chakra } from '@chakra-ui/react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  CircleHelp,
  CloudOff,
  Calculator,
  Moon,
  Package,
  RefreshCw,
  ScrollText,
  Sheet as SheetIcon,
  Store,
  Sun,
  UserRound,
  Warehouse,
} from 'lucide-react';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { ApiError, leaveBench, queries, signOut as endSession } from './api';
import { PersonContext, useAbout, useOutbox, usePending, useReachable, useRoom, useStuck } from './context';
import { useGoKeys, useKeys } from './keys';
import { Help } from '../help/Help';
import { Walk } from '../help/Walk';
import { useLive } from './live';
import { program, useKeepToday, useNewer } from './offline';
import { AtBench, LeaveBench } from './AtBench';
import { Notices } from './Notices';
import { OtherShops } from './OtherShops';
import { currentScheme, putScheme, type Scheme } from './scheme';
import { SignIn } from './SignIn';
import { Act, FormDialog } from './ui';

const PLACES = [
  { to: '/floor', word: 'Floor', Icon: Warehouse },
  { to: '/orders', word: 'Orders', Icon: ScrollText },
  { to: '/parts', word: 'Parts', Icon: Package },
  { to: '/sheets', word: 'Sheets', Icon: SheetIcon },
  { to: '/tools', word: 'Tools', Icon: Calculator },
  { to: '/shop', word: 'Shop', Icon: Store },
] as const;

const railItem = {
  display: 'flex',
  flexDirection: 'column',
  alignItems: 'center',
  justifyContent: 'center',
  gap: '3px',
  width: '64px',
  minHeight: '56px',
  borderRadius: 'kadro',
  color: 'quiet',
  fontSize: '13px',
  cursor: 'pointer',
  '&.active': { bg: 'accentWash', color: 'ink', fontWeight: 600 },
  _hover: { color: 'ink' },
} as const;
const RailLink = chakra(NavLink, { base: railItem });
const RailButton = chakra('button', { base: { ...railItem, minHeight: '48px' } });

/** The rail, the place for the screen, and what must be seen wherever one is: clashes, refusals, what waits to be sent. */
export function Frame() {
  const session = useQuery(queries.session);
  const outbox = useOutbox();
  const who = session.data?.id ?? null;
  useEffect(() => outbox.signedIn(who), [outbox, who]);
  if (session.isPending)
    return (
      <chakra.p p="32px" color="quiet">
        {session.failureCount ? 'Looking for the server …' : ''}
      </chakra.p>
    );
  if (session.error instanceof ApiError && session.error.status === 404)
    return (
      <chakra.main p="32px">
        <chakra.h1 fontSize="24px" mb="8px">
          There is no shop at this address
        </chakra.h1>
        <chakra.p mb="16px" color="quiet">
          It may be called otherwise, or be gone.
        </chakra.p>
        <OtherShops />
      </chakra.main>
    );
  if (session.isError)
    return (
      <chakra.main p="32px">
        <chakra.p mb="12px">The server cannot be reached. What you recorded on this device is kept.</chakra.p>
        <Act onClick={() => void session.refetch()}>Try again</Act>
      </chakra.main>
    );
  if (!session.data) return <SignIn />;
  return (
    <PersonContext value={session.data}>
      {/* another person begins anew: nothing half typed by the last one is theirs */}
      <Inside key={session.data.id} />
    </PersonContext>
  );
}

function Inside() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const session = useQuery(queries.session);
  const who = session.data?.id ?? null;
  const [helping, setHelping] = useState(false);
  const [walk, setWalk] = useState<number | null>(null);
  const [leaving, setLeaving] = useState(false);
  const [scheme, setScheme] = useState<Scheme>(currentScheme);
  useLive();
  useKeepToday();
  const newer = useNewer();
  const go = useMemo(
    () => ({
      f: () => navigate('/floor'),
      o: () => navigate('/orders'),
      p: () => navigate('/parts'),
      s: () => navigate('/sheets'),
      t: () => navigate('/tools'),
      h: () => navigate('/shop'),
    }),
    [navigate],
  );
  useGoKeys(go);
  useKeys({ '?': () => setHelping(true), '/': () => navigate('/orders', { state: { search: true } }) });
  const flip = () => {
    const next = scheme === 'dark' ? 'light' : 'dark';
    putScheme(next, true);
    setScheme(next);
  };
  const leave = async (by: () => Promise<void>) => {
    await by();
    client.removeQueries({ predicate: (q) => q.queryKey[0] !== 'session' });
    client.setQueryData(['session'], null);
  };
  return (
    <chakra.div display="grid" gridTemplateColumns="76px minmax(0, 1fr)" height="100%">
      <chakra.nav
        aria-label="Places"
        borderRightWidth="1px"
        borderColor="rule"
        display="flex"
        flexDirection="column"
        alignItems="center"
        py="10px"
        gap="4px"
        overflowY="auto"
      >
        <img src="/mark.svg" alt="Kadro" width={36} height={36} style={{ marginBottom: 8 }} />
        {PLACES.map(({ to, word, Icon }) => (
          <RailLink key={to} to={to}>
            <Icon size={22} aria-hidden />
            {word}
          </RailLink>
        ))}
        <chakra.div flex="1" />
        <Waiting />
        <NotReal />
        {newer && (
          <RailButton type="button" onClick={program.renew} title="A newer version of Kadro is here">
            <RefreshCw size={18} aria-hidden />
            Update
          </RailButton>
        )}
        <RailButton type="button" onClick={() => setHelping(true)} title="How this works, and the keys">
          <CircleHelp size={18} aria-hidden />
          Help
        </RailButton>
        <RailButton type="button" onClick={flip}>
          {scheme === 'dark' ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
          {scheme === 'dark' ? 'Light' : 'Dark'}
        </RailButton>
        <RailButton type="button" onClick={() => setLeaving(true)} data-part="me" title="Who is signed in here">
          <UserRound size={18} aria-hidden />
          {session.data?.name}
        </RailButton>
      </chakra.nav>
      <Page>
        <Notices />
        <Walk at={walk} onAt={setWalk} />
      </Page>
      <FormDialog
        open={leaving}
        title={`${session.data?.name}, ${session.data?.role}`}
        action="Sign out"
        ready
        onClose={() => setLeaving(false)}
        onDone={() => (setLeaving(false), void leave(endSession))}
      >
        <AtBench me={who} onCame={() => setLeaving(false)} />
        <OtherShops />
        <LeaveBench onLeave={() => leave(leaveBench)} />
        <Act type="button" look="quiet" minHeight="44px" ml="-9px" onClick={() => (setLeaving(false), void navigate('/shop/account'))}>
          My account
        </Act>
        <p>What you recorded and is not sent yet stays on this device for you. What is kept to work without a network is dropped.</p>
      </FormDialog>
      <Help open={helping} onClose={() => setHelping(false)} onWalk={() => (setHelping(false), setWalk(0), void navigate('/floor'))} />
    </chakra.div>
  );
}

/** The screen that is open, and what stands beneath it. Alone made anew where one goes elsewhere. */
function Page({ children }: { children: ReactNode }) {
  return (
    <chakra.div
      minW={0}
      height="100%"
      overflow="hidden"
      display="grid"
      gridTemplateRows="minmax(0, 1fr) auto auto"
      data-part="page"
      // the address in the bar changes before what stands at it
      data-at={useLocation().pathname}
    >
      <chakra.div minH={0} overflow="hidden">
        <Outlet />
      </chakra.div>
      {children}
    </chakra.div>
  );
}

/**
 * What of this device the record does not have yet: in the rail, where it covers nothing that is pressed. What others did here
 * waits for them.
 */
function Waiting() {
  const outbox = useOutbox();
  const pending = usePending();
  const client = useQueryClient();
  const me = client.getQueryData<{ id: string }>(['session'])?.id;
  const waiting = pending.filter((p) => p.state === 'waiting' && p.by === me).length;
  const unreached = !useReachable();
  const stuck = useStuck();
  const away = unreached || (stuck && waiting > 0);
  const room = useRoom();
  const others = outbox.ofOthers();
  return (
    <chakra.div role="status" width="100%" textAlign="center" fontSize="13px" lineHeight={1.3} px="4px" display="grid" gap="6px">
      {away && (
        <chakra.div bg="sunk" color="tightText" borderRadius="kadro" py="8px" px="2px">
          <CloudOff size={22} aria-hidden style={{ margin: '0 auto 4px' }} />
          {waiting > 0 ? (
            <>
              <b>{waiting}</b> waiting to be sent. Nothing is lost; go on working.
            </>
          ) : (
            'Out of reach of the server. Go on working.'
          )}
        </chakra.div>
      )}
      {!room && (
        <chakra.div bg="sunk" color="fails" borderRadius="kadro" py="8px" px="2px">
          <b>No room</b> on this device. Keep this page open.
        </chakra.div>
      )}
      {others.map((o) => (
        <chakra.div key={o.by} bg="sunk" color="quiet" borderRadius="kadro" py="8px" px="2px">
          <b>{o.n}</b> recorded by {o.by}: sent when {o.by} signs in here.
        </chakra.div>
      ))}
    </chakra.div>
  );
}

/** Says, wherever one is, that what is seen is not all real. */
function NotReal() {
  const { standIns, demo } = useAbout();
  if (!standIns && !demo) return null;
  return (
    <chakra.div
      role="note"
      fontSize="12px"
      lineHeight={1.25}
      textAlign="center"
      color="tightText"
      fontWeight={600}
      px="4px"
      title={`${demo ? 'This is the demo shop. ' : ''}${standIns ? 'A meter that is simulated answers on orders to practise on; so do a supplier and a messenger, which reach nobody.' : ''}`}
    >
      {demo ? 'Demo' : 'Practice'}
      {standIns && <chakra.span display="block">stand-ins on</chakra.span>}
    </chakra.div>
  );
}
