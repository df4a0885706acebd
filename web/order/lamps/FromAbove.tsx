import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { unitView } from '#core/drawing/view';
import { sightFor } from '#core/lighting/judge';
import type { Lamp } from '#core/lighting/lamp';
import { hiddenPieces, type ArcPiece } from '#core/lighting/occlusion';
import { rangeOfIntensity } from '#core/lighting/range';
import { litAtNav } from '#core/lighting/switching';
import { round } from '#core/sum';
import { figure, showQuantity } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Act } from '../../app/ui';
import { Outline } from '../../drawing/UnitDrawing';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { LampPanel } from './LampPanel';
import { lampFill } from './lampLook';
import { ItemLine } from './ItemLine';

const NAVIGATION = /^(sidelight|masthead|stern|all-round)/;
/** The plot's half size and the boat's half length in it, pixels. */
const R = 250;
const BOAT = 96;
const RINGS = [1, 2, 3, 5];

const rad = (deg: number) => (deg * Math.PI) / 180;
/** A point at a bearing clockwise from the bow, which points up. */
const polar = (r: number, deg: number): string => `${(Math.sin(rad(deg)) * r).toFixed(2)} ${(-Math.cos(rad(deg)) * r).toFixed(2)}`;
function wedge(from: number, to: number, r0: number, r1: number): string {
  if (to - from >= 360)
    return `M${polar(r1, 0)}A${r1} ${r1} 0 1 1 ${polar(r1, 180)}A${r1} ${r1} 0 1 1 ${polar(r1, 0)}M${polar(r0, 0)}A${r0} ${r0} 0 1 0 ${polar(r0, 180)}A${r0} ${r0} 0 1 0 ${polar(r0, 0)}Z`;
  const big = to - from > 180 ? 1 : 0;
  return `M${polar(r0, from)}L${polar(r1, from)}A${r1} ${r1} 0 ${big} 1 ${polar(r1, to)}L${polar(r0, to)}A${r0} ${r0} 0 ${big} 0 ${polar(r0, from)}Z`;
}

/** Navigation lights as an observer on the water meets them: sectors, what the boat hides of them, and how far they are seen. */
export function FromAbove() {
  const { assessment, sheets, order, record } = useOrder();
  const { lamps: check } = assessment;
  const units = useUnits();
  const [pickedId, setPicked] = useState<string | null>(null);
  const [at, setAt] = useState<'run' | 'anchor' | 'off'>('run');
  const view = useMemo(() => unitView(sheets.model, 'top'), [sheets.model]);
  const lights = check.lamps.filter((l) => NAVIGATION.test(l.function));
  const placed = lights.filter((l): l is Lamp & { at: NonNullable<Lamp['at']> } => l.at !== null);
  const lit = check.given.table && litAtNav(check.given.table, at);
  const hasSwitch = check.given.table?.roles.some((r) => r.has('nav')) ?? false;
  const items = check.packs
    .flatMap((p) => p.items)
    .filter((i) => i.rule && ['sector', 'intensity', 'above'].includes(i.rule.kind) && i.verdict !== null);
  const L = check.unit.lengthMm ?? 6000;
  const scale = BOAT / (L / 2);
  const mid = L / 2 - check.unit.rearOverhangMm;
  const ranges = placed.map((l) => (l.candela === undefined ? null : rangeOfIntensity(l.candela)));
  const most = Math.max(2.4, ...ranges.map((r) => (r ?? 0) * 1.12));
  const ring = (nm: number) => BOAT + 22 + ((R - 26 - BOAT - 22) * nm) / most;
  const picked = check.lamps.find((l) => l.id === pickedId) ?? null;
  // the widest arcs beneath, so that sidelights lie on the all-round white
  const drawn = placed
    .map((l, i) => ({ l, range: ranges[i] ?? null, arc: l.arcDeg ?? null }))
    .sort((a, b) => (b.arc ? b.arc[1] - b.arc[0] : 0) - (a.arc ? a.arc[1] - a.arc[0] : 0));
  return (
    <chakra.div display="grid" gridTemplateColumns="minmax(0, 540px) minmax(0, 1fr)" gap="16px">
      <div>
        {hasSwitch && (
          <chakra.div display="flex" gap="6px" role="group" aria-label="Navigation switch" mb="4px">
            {(
              [
                ['run', 'Under way'],
                ['anchor', 'At anchor'],
                ['off', 'Off'],
              ] as const
            ).map(([p, word]) => (
              <Act key={p} minHeight="36px" on={at === p} aria-pressed={at === p} onClick={() => setAt(p)}>
                {word}
              </Act>
            ))}
          </chakra.div>
        )}
        <chakra.svg
          viewBox={`${-R} ${-R} ${2 * R} ${2 * R}`}
          width="100%"
          maxHeight="calc(100vh - 290px)"
          minHeight="380px"
          role="group"
          aria-label="Navigation lights from above"
          overflow="visible"
        >
          {drawn.map(({ l, range, arc }) => {
            const on = !lit || lit.has(l.id);
            if (!arc) return null;
            const r = ring(range ?? 0.5);
            const s = sightFor(l, check.given);
            const hidden = hiddenPieces(s, arc, check.unit.obstacles);
            const white = l.colour === 'white';
            return (
              <chakra.g key={l.id} cursor="pointer" onClick={() => setPicked(l.id)} data-light={l.id} opacity={on ? 1 : 0.18}>
                <title>{`${l.name}: ${on ? 'lit' : 'dark'}`}</title>
                <chakra.path
                  d={wedge(arc[0], arc[1], BOAT + 16, r)}
                  fill={lampFill(l)}
                  fillOpacity={white ? 0.75 : 0.5}
                  stroke="ink"
                  strokeWidth={picked?.id === l.id ? '2.4px' : '1px'}
                  strokeDasharray={range === null ? '5 4' : undefined}
                  fillRule="evenodd"
                />
                {hidden.map((p) => (
                  <Hidden key={p.from} piece={p} r0={BOAT + 16} r1={r} />
                ))}
              </chakra.g>
            );
          })}
          {RINGS.filter((nm) => nm <= most).map((nm) => (
            <g key={nm}>
              <chakra.circle r={ring(nm)} fill="none" stroke="ink" strokeWidth="1px" opacity={0.28} />
              <chakra.text
                as="text"
                x={4}
                y={ring(nm) + 14}
                fontSize="12px"
                fill="ink"
                fontFamily="mono"
                stroke="paper"
                strokeWidth="3px"
                paintOrder="stroke"
              >
                {nm} nm
              </chakra.text>
            </g>
          ))}
          <g transform={`rotate(-90) scale(${scale}) translate(${-mid} 0)`}>
            <Outline shapes={view.shapes.filter((s) => s.role !== 'ghost')} />
            {check.unit.obstacles.map((o) =>
              o.kind === 'box' ? null : (
                <chakra.path
                  key={o.id}
                  d={`M${o.from.x} ${-o.from.y}L${o.to.x} ${-o.to.y}`}
                  stroke="quiet"
                  strokeWidth="2px"
                  vectorEffect="non-scaling-stroke"
                />
              ),
            )}
          </g>
          {placed.map((l) => (
            <chakra.circle
              key={l.id}
              cx={-l.at.y * scale}
              cy={-(l.at.x - mid) * scale}
              r="6"
              fill={lampFill(l)}
              stroke="ink"
              strokeWidth="1.6px"
              cursor="pointer"
              onClick={() => setPicked(l.id)}
              opacity={!lit || lit.has(l.id) ? 1 : 0.35}
            >
              <title>{l.name}</title>
            </chakra.circle>
          ))}
        </chakra.svg>
        <chakra.p fontSize="14px" color="quiet">
          Each wedge reaches as far as its light is seen, on the rings’ scale; the boat is drawn larger. Hatched: hidden by the unit itself,
          at the light’s height.
        </chakra.p>
      </div>
      <div>
        {lit && (
          <chakra.p role="status" fontWeight={700} mb="8px">
            {at === 'run' ? 'Under way, key on' : at === 'anchor' ? 'At anchor, key out' : 'Off'}:{' '}
            {placed
              .filter((l) => lit.has(l.id))
              .map((l) => l.name)
              .join(', ') || 'everything dark'}
          </chakra.p>
        )}
        {!lights.length && <p>No navigation light is on this order yet: choose a kit at Fit.</p>}
        {picked && (
          <LampPanel
            lamp={picked}
            items={check.packs.flatMap((p) => p.items)}
            bands={[]}
            other={null}
            together={false}
            onTogether={() => undefined}
            placement={null}
            onPlacement={() => undefined}
            onPut={(p) => record({ type: 'lamp.placed', lamp: picked.id, at: p, label: picked.name })}
            onPutAll={() => undefined}
            onClose={() => setPicked(null)}
          />
        )}
        {items.map((i) => (
          <ItemLine key={`${i.pack}/${i.id}`} item={i} />
        ))}
        <H3>Lights</H3>
        <chakra.table width="100%" fontSize="15px">
          <thead>
            <chakra.tr textAlign="left" color="quiet">
              <th>Light</th>
              <th>Arc</th>
              <th>Up</th>
              <th>Seen at</th>
            </chakra.tr>
          </thead>
          <tbody>
            {lights.map((l) => (
              <chakra.tr key={l.id} borderTopWidth="1px" borderColor="rule">
                <td>
                  <Act look="quiet" minHeight="36px" onClick={() => setPicked(l.id)}>
                    {l.name}
                  </Act>
                </td>
                <chakra.td fontFamily="mono">{l.arcDeg ? `${round(l.arcDeg[1] - l.arcDeg[0], 4)}°` : '?'}</chakra.td>
                <chakra.td fontFamily="mono">{l.at ? showQuantity(l.at.z, 'smallLength', units) : '?'}</chakra.td>
                <chakra.td fontFamily="mono">
                  {l.candela === undefined ? '?' : `${figure(rangeOfIntensity(l.candela))} nm, ${figure(l.candela)} cd`}
                </chakra.td>
              </chakra.tr>
            ))}
          </tbody>
        </chakra.table>
        {order.status === 'open' && check.unit.obstacles.length === 0 && (
          <chakra.p mt="8px">
            The model’s sheet names nothing that could hide a light: add its frame, canopy and seats as obstacles, or look from every side
            after dark.
          </chakra.p>
        )}
      </div>
    </chakra.div>
  );
}

function Hidden({ piece, r0, r1 }: { piece: ArcPiece; r0: number; r1: number }) {
  const mid = (piece.from + piece.to) / 2;
  const [x, y] = polar(r1 + 8, mid)
    .split(' ')
    .map(Number) as [number, number];
  return (
    <g>
      <title>{`${piece.by}: ${round(piece.to - piece.from)}°`}</title>
      <chakra.path d={wedge(piece.from, piece.to, r0, r1)} fill="paper" stroke="fails" strokeWidth="1.4px" strokeDasharray="3 2" />
      {piece.to - piece.from >= 1.5 && (
        <chakra.text
          as="text"
          x={x}
          y={y + 4}
          fontSize="12px"
          fontFamily="mono"
          fill="fails"
          textAnchor={x > 40 ? 'start' : x < -40 ? 'end' : 'middle'}
          stroke="paper"
          strokeWidth="3px"
          paintOrder="stroke"
        >
          {`${round(piece.to - piece.from)}° ${piece.by}`}
        </chakra.text>
      )}
    </g>
  );
}
