import { chakra } from '@chakra-ui/react';
import { FolderOpen } from 'lucide-react';
import { useState } from 'react';
import type { Harness } from '#model/harness';
import { Act } from '../app/ui';
import { Checks } from '../order/wire/Checks';
import { NO_FAULTS } from '#core/harness/simulate';
import { SimulatorView } from '../order/wire/SimulatorView';
import { useSimulator } from '../order/wire/useSimulator';
import { readHarness } from './read-harness';

const MOST_BYTES = 4_000_000;

/** A saved harness opened again: switched on, probed, checked, without its order. */
export function HarnessPage() {
  const [opened, setOpened] = useState<{ name: string; harness: Harness } | null>(null);
  const [problems, setProblems] = useState<string[]>([]);
  const open = async (file: File | undefined) => {
    if (!file) return;
    const read =
      file.size > MOST_BYTES ? { problems: [`${file.name} is larger than 4 MB: no harness is`] } : readHarness(await file.text());
    if ('problems' in read) setProblems(read.problems);
    else {
      setProblems([]);
      setOpened({ name: file.name, harness: read.harness });
    }
  };
  return (
    <>
      <chakra.h1 fontSize="22px">Open a harness</chakra.h1>
      <chakra.p color="quiet" mb="10px">
        A harness saved from a Wire station as JSON, to be switched on and probed again.
      </chakra.p>
      <chakra.label display="inline-block">
        <Act as="span">
          <FolderOpen size={18} aria-hidden /> Choose a file
        </Act>
        <input
          type="file"
          accept="application/json,.json"
          aria-label="Harness file"
          style={{ position: 'absolute', opacity: 0, width: 1 }}
          onChange={(e) => void open(e.target.files?.[0])}
        />
      </chakra.label>
      {problems.map((p) => (
        <chakra.p key={p} role="alert" color="fails" mt="6px">
          {p}
        </chakra.p>
      ))}
      {opened && <Opened key={opened.name} name={opened.name} harness={opened.harness} />}
    </>
  );
}

function Opened({ name, harness }: { name: string; harness: Harness }) {
  const sim = useSimulator(harness);
  return (
    <chakra.section mt="12px">
      <chakra.h2 fontSize="18px" mb="8px">
        {harness.unit} <chakra.span color="quiet">{name}</chakra.span>
      </chakra.h2>
      <SimulatorView sim={sim} rows={[]} circuit={null} onCircuit={() => {}} height="max(380px, calc(100vh - 360px))" />
      <Checks harness={harness} scan={sim.scan} faulty={sim.faults !== NO_FAULTS} onShow={(f) => sim.setPositions(f.state.controls)} />
    </chakra.section>
  );
}
