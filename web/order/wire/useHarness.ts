import { useEffect, useMemo, useState } from 'react';
import { layOut, WIDE, type Layout } from '#core/harness/layout';
import { schematicOf } from '#core/harness/schematic';
import type { Scan } from '#core/harness/scan';
import type { Faults, Meter, SwitchState } from '#core/harness/simulate';
import type { Harness } from '#model/harness';
import type { Answer } from './harness.worker';
import { layouter, runScan, showWorker } from './workers';

/** Below this many pixels the schematic has less room beside the drawing, and shorter rows. */
const DESK = 1200;
const NARROW = 780;

/** The schematic laid out; the last one stays until the new one is there. */
export function useLayout(harness: Harness): Layout | null {
  const [layout, setLayout] = useState<Layout | null>(null);
  const schematic = useMemo(() => schematicOf(harness), [harness]);
  const shape = useMemo(
    () =>
      JSON.stringify([schematic.blocks.map((b) => [b.id, b.width, b.height, b.ports]), schematic.links.map((l) => [l.id, l.from, l.to])]),
    [schematic],
  );
  useEffect(() => {
    let stale = false;
    void layOut(schematic, layouter(), window.innerWidth < DESK ? NARROW : WIDE).then((l) => !stale && setLayout(l));
    return () => {
      stale = true;
    };
  }, [shape]); // eslint-disable-line react-hooks/exhaustive-deps
  // a changed gauge or fuse is written into the layout at hand
  return useMemo(() => {
    if (!layout) return null;
    const blocks = new Map(schematic.blocks.map((b) => [b.id, b]));
    const links = new Map(schematic.links.map((l) => [l.id, l]));
    return {
      ...layout,
      // one that has other points than it had waits for the next layout
      blocks: layout.blocks.map((b) => {
        const fresh = blocks.get(b.id);
        return fresh?.ports.every((p) => b.at[p.id]) ? { ...b, ...fresh } : b;
      }),
      links: layout.links.map((l) => ({ ...l, ...links.get(l.of ?? l.id), id: l.id, from: l.from, to: l.to })),
    };
  }, [layout, schematic]);
}

/** How everything stands with the switches so, on both beats of a flasher. */
export function useShown(harness: Harness, state: Omit<SwitchState, 'beat'>, faults: Faults, meter: Meter | null): [Answer, Answer] | null {
  const [answers, setAnswers] = useState<[Answer, Answer] | null>(null);
  useEffect(() => {
    let stale = false;
    void showWorker()
      .show(harness, state, faults, meter)
      .then((a) => !stale && setAnswers(a));
    return () => {
      stale = true;
    };
  }, [harness, state, faults, meter]);
  return answers;
}

/** Every reachable state tried; null while it is under way. */
export function useScan(harness: Harness, faults: Faults): Scan | string | null {
  const [result, setResult] = useState<{ of: Harness; faults: Faults; scan: Scan | string } | null>(null);
  useEffect(() => {
    let stale = false;
    const soon = setTimeout(() => void runScan(harness, faults).then((r) => !stale && setResult({ of: harness, faults, scan: r })), 400);
    return () => {
      stale = true;
      clearTimeout(soon);
    };
  }, [harness, faults]);
  return result && result.of === harness && result.faults === faults ? result.scan : null;
}
