import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { recheck } from '#core/lighting/check';
import type { LampItem } from '#core/lighting/item';
import type { Lamp } from '#core/lighting/lamp';
import { bandsFor, faceOf, otherSide, type Placement } from '#core/lighting/placing';
import type { Verdict } from '#model/common';
import type { Point } from '#model/lamp';
import { RANK } from '#core/verdict';
import { Act } from '../../app/ui';
import { useOrder } from '../useOrder';
import { AddLamp } from './AddLamp';
import { Elevation, ELEVATION, elevations, type DrawnLamp, type ElevationName } from './Elevation';
import { LampPanel } from './LampPanel';
import { isDrawn } from './lampLook';
import { Requirements } from './Requirements';

const GAP = 10;
/** Room for a large elevation, pixels. */
const LARGE_H = 470;
const PANEL_W = 330;

/** Each lamp's worst verdict over the items that measured it. */
function verdicts(items: readonly LampItem[]): Map<string, { verdict: Verdict; says: string }> {
  const out = new Map<string, { verdict: Verdict; says: string }>();
  for (const i of items)
    for (const f of i.lamps) {
      const had = out.get(f.lamp.id);
      // a lamp of the wrong colour for one item may be right for another
      if (!had || RANK[f.verdict] > RANK[had.verdict]) out.set(f.lamp.id, { verdict: f.verdict, says: `${i.title}: ${f.says}` });
    }
  return out;
}

/** Lamps measured on front, rear and side elevations at one scale; the one picked shows its bands and can be moved. */
export function Place() {
  const { order, assessment, sheets, record } = useOrder();
  const { lamps: check } = assessment;
  const { model } = sheets;
  const open = order.status === 'open';
  const [pickedId, setPicked] = useState<string | null>(null);
  const [drag, setDrag] = useState<ReadonlyMap<string, Point> | null>(null);
  const [together, setTogether] = useState(true);
  const [large, setLarge] = useState<ElevationName | null>(null);
  const [placement, setPlacement] = useState<{ lamp: string; of: typeof check; found: Placement } | null>(null);
  const views = useMemo(() => elevations(model), [model]);
  const host = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const el = host.current!;
    const watch = new ResizeObserver(() => setWidth(el.clientWidth));
    watch.observe(el);
    setWidth(el.clientWidth);
    return () => watch.disconnect();
  }, []);

  // while something is dragged, everything is judged again at the place under the finger
  const now = useMemo(
    () =>
      drag
        ? recheck(
            check,
            check.lamps.map((l) => (drag.has(l.id) ? { ...l, at: drag.get(l.id)! } : l)),
          )
        : { ...check, given: check.given },
    [check, drag],
  );
  const lamps = now.given.lamps;
  const picked = lamps.find((l) => l.id === pickedId) ?? null;
  const items = useMemo(() => now.packs.flatMap((p) => p.items), [now]);
  const words = useMemo(() => verdicts(items), [items]);
  const packs = check.packs.map((p) => p.pack);
  const bands = useMemo(() => (picked ? bandsFor(packs, picked, now.given) : []), [picked, now.given]); // eslint-disable-line react-hooks/exhaustive-deps
  const found = placement && placement.lamp === pickedId && placement.of === check ? placement.found : null;

  const frame = useRef(0);
  const wanted = useRef<ReadonlyMap<string, Point> | null>(null);
  const moved = (l: Lamp, at: Point): Map<string, Point> => {
    const out = new Map([[l.id, at]]);
    const other = together
      ? otherSide(
          check.lamps.find((x) => x.id === l.id)!,
          check.lamps,
        )
      : null;
    if (other) out.set(other.id, { x: at.x, y: -at.y + 0, z: at.z });
    return out;
  };
  const onDrag = (id: string, at: Point) => {
    const l = lamps.find((x) => x.id === id);
    if (!l) return;
    wanted.current = moved(l, at);
    // one judgement a frame, however fast the finger is
    frame.current ||= requestAnimationFrame(() => {
      frame.current = 0;
      setDrag(wanted.current);
    });
  };
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  /** Answers whether all was recorded. */
  const put = (places: ReadonlyMap<string, Point>): boolean =>
    [...places].every(([id, at]) => {
      const l = check.lamps.find((x) => x.id === id);
      return !l || record({ type: 'lamp.placed', lamp: id, at, label: l.name });
    });
  const onDrop = () => {
    cancelAnimationFrame(frame.current);
    frame.current = 0;
    const places = wanted.current;
    wanted.current = null;
    // let go, it stays where it was let go until what was recorded is painted there
    if (places && put(places)) setDrag(places);
    else setDrag(null);
  };
  useEffect(() => {
    if (!wanted.current) setDrag(null);
  }, [check]);

  const drawn = (name: ElevationName): DrawnLamp[] =>
    lamps
      .filter(
        (l) =>
          isDrawn(l) &&
          (name === 'side'
            ? l.at!.y < 60
            : faceOf(l.function, l.at, check.unit.lengthMm, check.unit.rearOverhangMm) === name ||
              (l.function.startsWith('mirror') && name !== 'rear' ? name === 'front' : false)),
      )
      .map((l) => ({ lamp: l, verdict: words.get(l.id)?.verdict ?? null, says: words.get(l.id)?.says ?? 'no rule asks for it' }));
  const names: ElevationName[] = ['front', 'rear', 'side'];
  const aside = picked || large ? PANEL_W + GAP : 0;
  const all = names.reduce((s, n) => s + views[n].box.w, 0);
  const room = Math.max(200, width - 2 * GAP);
  const scale = Math.min((room - 0) / all, 300 / views.front.box.h);
  const big = large ? Math.min((width - aside) / views[large].box.w, LARGE_H / views[large].box.h) : 0;

  const elevation = (n: ElevationName, pxPerMm: number) => (
    <chakra.figure key={n} m={0} position="relative">
      <Elevation
        view={views[n]}
        name={n}
        lamps={drawn(n)}
        picked={picked}
        bands={bands}
        legal={
          found && picked && faceOf(picked.function, picked.at, check.unit.lengthMm, check.unit.rearOverhangMm) === n ? found.legal : []
        }
        pxPerMm={pxPerMm}
        movable={open}
        boat={check.unit.kind === 'boat'}
        onPick={setPicked}
        onDrag={onDrag}
        onDrop={onDrop}
      />
      <chakra.figcaption fontSize="14px" color="quiet" display="flex" alignItems="center" justifyContent="center" gap="4px">
        {ELEVATION[n]}
        <Act look="quiet" minHeight="28px" fontSize="14px" onClick={() => setLarge(large === n ? null : n)}>
          {large === n ? 'all three' : 'larger'}
        </Act>
      </chakra.figcaption>
    </chakra.figure>
  );
  // the picture follows the finger; figures and list follow when there is time
  const later = useDeferredValue(now);
  const panel = useMemo(() => {
    const lamp = later.given.lamps.find((l) => l.id === pickedId);
    if (!lamp) return null;
    return (
      <LampPanel
        lamp={lamp}
        items={later.packs.flatMap((p) => p.items)}
        bands={bands}
        other={otherSide(lamp, later.given.lamps)}
        together={together}
        onTogether={setTogether}
        placement={found}
        onPlacement={(p) => setPlacement({ lamp: lamp.id, of: check, found: p })}
        onPut={(at) => put(moved(lamp, at))}
        onPutAll={(places) => put(new Map(places.map((x) => [x.lamp, x.at])))}
        onClose={() => setPicked(null)}
      />
    );
  }, [later, pickedId, together, found]); // eslint-disable-line react-hooks/exhaustive-deps
  const requirements = useMemo(
    () => <Requirements packs={later.packs} picked={later.given.lamps.find((l) => l.id === pickedId) ?? null} onPick={setPicked} />,
    [later, pickedId],
  );
  return (
    <>
      <chakra.div ref={host} position="relative">
        {width > 0 &&
          (large ? (
            <chakra.div display="grid" gridTemplateColumns={`minmax(0, 1fr) ${PANEL_W}px`} gap={`${GAP}px`}>
              <chakra.div display="flex" justifyContent="center">
                {elevation(large, big)}
              </chakra.div>
              <div>{panel ?? <Hint />}</div>
            </chakra.div>
          ) : (
            <chakra.div display="flex" justifyContent="center" gap={`${GAP}px`}>
              {names.map((n) => elevation(n, scale))}
            </chakra.div>
          ))}
      </chakra.div>
      {!large && (panel ?? <Hint />)}
      <chakra.div display="flex" alignItems="center" gap="8px" mt="10px" flexWrap="wrap">
        {open && <AddLamp check={check} onAdded={setPicked} />}
      </chakra.div>
      {requirements}
    </>
  );
}

const Hint = () => (
  <chakra.p color="quiet" fontSize="15px">
    Touch a lamp to see where it may stand; drag it, or type what you measured.
  </chakra.p>
);
