import { chakra, Dialog, Portal } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Act } from '../app/ui';
import { KEY_LIST } from '../app/keys';
import { MarginBar } from '../marks/MarginBar';
import { MEANS, VerdictMark } from '../marks/VerdictMark';
import type { Verdict } from '#model/common';

const STATIONS: [string, string][] = [
  ['Arrive', 'what stands here, and what must it be able to do when it leaves?'],
  ['Fit', 'does each kit belong on this build, and what is missing from its box?'],
  ['Power', 'can the unit carry it, on the days its owner describes?'],
  ['Wire', 'what feeds each thing, through what wire, fuse and relay, and where does it run?'],
  ['Lamps', 'is every lamp there, in its place, bright and quick enough?'],
  ['Plan', 'in what order, with each panel off once?'],
  ['Bench', 'what now, and is it right?'],
  ['Hand over', 'is it proved, and what must the owner know?'],
];
const MARKED: Verdict[] = ['holds', 'tight', 'fails', 'unknown'];

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.section mb="14px">
      <chakra.h3 fontSize="17px" mb="4px">
        {title}
      </chakra.h3>
      {children}
    </chakra.section>
  );
}

/** How this works, found from every screen: marks, stations, pad, what happens without a network, keys. */
export function Help({ open, onClose, onWalk }: { open: boolean; onClose: () => void; onWalk: () => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={(e) => !e.open && onClose()} placement="center" scrollBehavior="inside">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="raised" color="ink" borderRadius="kadro" p="20px" maxW="860px" maxH="90vh">
            <chakra.div display="flex" gap="10px" alignItems="center" mb="10px">
              <Dialog.Title fontSize="22px" flex="1">
                How this works
              </Dialog.Title>
              <Act minHeight="48px" onClick={onWalk}>
                Walk through an order
              </Act>
              <Act look="main" minHeight="48px" onClick={onClose}>
                Close
              </Act>
            </chakra.div>
            <chakra.div
              overflowY="auto"
              minH={0}
              tabIndex={0}
              display="grid"
              gridTemplateColumns="repeat(auto-fit, minmax(320px, 1fr))"
              gap="0 28px"
            >
              <div>
                <Part title="Marks">
                  {MARKED.map((v) => (
                    <chakra.p key={v} display="flex" gap="10px" py="3px">
                      <VerdictMark verdict={v} size={22} />
                      <span>{MEANS[v]}</span>
                    </chakra.p>
                  ))}
                  <chakra.p display="flex" gap="10px" alignItems="center" py="3px">
                    <MarginBar margin={{ used: 11.2, limit: 14, unit: 'A' }} verdict="holds" label="An example" width="150px" />
                    <span>Used of a limit. The tick is the limit; what is past it is hatched.</span>
                  </chakra.p>
                  <p>Every verdict opens into its sum: where each figure comes from, and what would change it.</p>
                </Part>
                <Part title="Stations of an order">
                  {STATIONS.map(([name, asks]) => (
                    <chakra.p key={name} py="2px">
                      <b>{name}</b> {asks}
                    </chakra.p>
                  ))}
                  <p>Any may be opened at any time; the strip shows what is still owed.</p>
                </Part>
              </div>
              <div>
                <Part title="At the bench">
                  <p>
                    What a reading should be stands above the pad. A reading that holds brings the next step by itself; <b>Undo</b> takes
                    back the last thing you did. A figure may be typed, spoken, or shown by the meter; its unit stands on the pad, OL for an
                    open way. “Done” counts what came out of a panel back in; touch − where one is missing.
                  </p>
                </Part>
                <Part title="Without a network">
                  <p>
                    Orders on your bench and those promised within a day open and work without one, once this device has seen them. What you
                    record waits under your name and is sent when it can be. What only the server can do says so on its button.
                  </p>
                </Part>
                <Part title="Two people on one unit">
                  <p>
                    Each has a clock, and sees at once what the other does. Steps can be given to one of them. Where both change the same
                    thing, the later one is asked.
                  </p>
                </Part>
                <Part title="Paper">
                  <p>The plan, labels, cut list, hole sheets and the hand-over sheet print as PDF, in the shop’s units and times.</p>
                </Part>
                <Part title="Keys">
                  <chakra.dl display="grid" gridTemplateColumns="auto 1fr" gap="3px 14px" fontSize="15px">
                    {KEY_LIST.map(([k, what]) => (
                      <chakra.div key={k} display="contents">
                        <chakra.dt fontFamily="mono">{k}</chakra.dt>
                        <dd>{what}</dd>
                      </chakra.div>
                    ))}
                  </chakra.dl>
                </Part>
              </div>
            </chakra.div>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
