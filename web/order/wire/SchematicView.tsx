import '@xyflow/react/dist/base.css';
import { chakra } from '@chakra-ui/react';
import { Background, PanOnScrollMode, ReactFlow, ReactFlowProvider, useReactFlow, type Node, type NodeProps } from '@xyflow/react';
import { Maximize2, ScanSearch, ZoomIn, ZoomOut } from 'lucide-react';
import { createContext, memo, useContext, useEffect, useMemo } from 'react';
import { labels, type Label } from '#core/harness/labels';
import type { Layout, PlacedBlock, PlacedLink } from '#core/harness/layout';
import type { Faults, Meter, Shown } from '#core/harness/simulate';
import { plain } from '#core/harness/schematic';
import { figure } from '#core/quantity/quantity';
import type { Harness } from '#model/harness';
import { useScheme } from '../../app/scheme';
import { Act } from '../../app/ui';
import { wireFill } from '../../marks/WireSwatch';
import { cutPath, OriginLegend } from './WireOrigin';

/** What the schematic shows beside its lines. */
export interface Sight {
  harness: Harness;
  shown: Shown | null;
  faults: Faults;
  meter: Meter | null;
  probing: boolean;
  /** what is picked: a wire, a fuse, a block */
  picked: string | null;
  circuit: string | null;
  positions: Readonly<Record<string, string>>;
  onPick: (element: string | null, circuit: string | null) => void;
  onProbe: (node: string) => void;
  onThrow: (control: string) => void;
}
const SightContext = createContext<Sight | null>(null);
const useSight = () => useContext(SightContext)!;

const LIVE_A = 0.004;
const LIVE_V = 1;

/** The whole added wiring, from source to ground, laid out by itself; blocks and wires can be touched, probed and thrown. */
export const SchematicView = memo(function SchematicView({
  layout,
  sight,
  height,
}: {
  layout: Layout | null;
  sight: Sight;
  height: string;
}) {
  return (
    <chakra.div
      height={height}
      borderWidth="1px"
      borderColor="rule"
      borderRadius="kadro"
      bg="raised"
      overflow="hidden"
      display="flex"
      flexDirection="column"
    >
      <SightContext value={sight}>
        <ReactFlowProvider>{layout && <Flow layout={layout} />}</ReactFlowProvider>
      </SightContext>
      {!layout && (
        <chakra.p p="16px" color="quiet">
          Laying the schematic out …
        </chakra.p>
      )}
    </chakra.div>
  );
});

type BlockNode = Node<{ block: PlacedBlock }, 'block'>;
type WiresNode = Node<{ layout: Layout }, 'wires'>;
const nodeTypes = { block: BlockView, wires: WiresView };

function Flow({ layout }: { layout: Layout }) {
  const { circuit, onPick } = useSight();
  const flow = useReactFlow();
  const scheme = useScheme();
  const nodes = useMemo<(BlockNode | WiresNode)[]>(() => {
    const still = { draggable: false, connectable: false, focusable: false, selectable: false } as const;
    return [
      {
        id: 'wires',
        type: 'wires',
        position: { x: 0, y: 0 },
        data: { layout },
        width: layout.width,
        height: layout.height,
        zIndex: 0,
        style: { pointerEvents: 'none' },
        ...still,
      },
      ...layout.blocks.map((b): BlockNode => ({
        id: b.id,
        type: 'block',
        position: { x: b.x, y: b.y },
        data: { block: b },
        width: b.width,
        height: b.height,
        zIndex: 1,
        ...still,
      })),
    ];
  }, [layout]);
  const width = () => {
    const pane = document.querySelector('.react-flow')!.clientWidth;
    const zoom = Math.min(1.15, Math.max(0.6, (pane - 4) / Math.max(layout.width, 320)));
    void flow.setViewport({ x: Math.max(2, (pane - layout.width * zoom) / 2), y: 4, zoom });
  };
  const shape = `${layout.width} ${layout.height}`;
  useEffect(width, [shape]); // eslint-disable-line react-hooks/exhaustive-deps
  useEffect(() => {
    if (!circuit) return;
    const own = layout.blocks.filter(
      (b) => b.circuit === circuit || layout.links.some((l) => l.circuit === circuit && (l.from.block === b.id || l.to.block === b.id)),
    );
    if (own.length) void flow.fitView({ nodes: own.map((b) => ({ id: b.id })), duration: 200, maxZoom: 1.1, minZoom: 0.55, padding: 0.08 });
  }, [circuit, shape]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <>
      <chakra.div flex="1" minH={0}>
        <ReactFlow
          nodes={nodes}
          nodeTypes={nodeTypes}
          colorMode={scheme}
          style={{ background: 'transparent' }}
          nodesDraggable={false}
          nodesConnectable={false}
          elementsSelectable={false}
          minZoom={0.25}
          maxZoom={2.5}
          zoomOnDoubleClick={false}
          panOnScroll
          panOnScrollMode={PanOnScrollMode.Vertical}
          onPaneClick={() => onPick(null, null)}
          proOptions={{ hideAttribution: true }}
          aria-label="Schematic of the added wiring"
        >
          <Background gap={24} size={1} color="var(--chakra-colors-rule)" />
        </ReactFlow>
      </chakra.div>
      <chakra.div display="flex" alignItems="center" gap="4px" px="10px" py="4px" borderTopWidth="1px" borderColor="rule">
        <OriginLegend origins={new Set(layout.links.map((l) => l.origin))} />
        <chakra.span flex="1" />
        {(
          [
            ['Nearer', ZoomIn, () => void flow.zoomIn()],
            ['Farther', ZoomOut, () => void flow.zoomOut()],
            ['Whole', Maximize2, () => void flow.fitView({ padding: 0.02 })],
            ['To its width', ScanSearch, width],
          ] as const
        ).map(([label, Icon, act]) => (
          <Act key={label} onClick={act} aria-label={label} title={label} px="8px" minHeight="36px">
            <Icon size={17} aria-hidden />
          </Act>
        ))}
      </chakra.div>
    </>
  );
}

/** All lines together, beneath the blocks: ELK has routed them. */
function WiresView({ data }: NodeProps<WiresNode>) {
  const { picked, circuit, shown } = useSight();
  const says = useMemo(
    () =>
      labels(
        data.layout,
        (l) => {
          const runs = ampsOf(shown, l);
          // gauge and amperes where there is room, or one of them
          return [[l.label, runs].filter(Boolean).join(' · '), runs, l.label].filter(Boolean);
        },
        { char: 6.1, height: 11, off: 5 },
      ),
    [data.layout, shown],
  );
  // what is picked is drawn last, on top
  const rank = (l: PlacedLink) => (l.element !== null && l.element === picked ? 2 : l.circuit === circuit ? 1 : 0);
  return (
    <chakra.svg width={`${data.layout.width}px`} height={`${data.layout.height}px`} overflow="visible">
      {[...data.layout.links]
        .sort((a, b) => rank(a) - rank(b))
        .map((l) => (
          <LinkView key={l.id} link={l} says={says.get(l.id) ?? null} />
        ))}
    </chakra.svg>
  );
}

/** A line drawn as the wire it is: ink outline, true colour, tracer, and a moving dash where current runs. */
function LinkView({ link: l, says }: { link: PlacedLink; says: Label | null }) {
  const { shown, faults, picked, circuit, onPick } = useSight();
  const d = l.points.map((p, i) => `${i ? 'L' : 'M'}${p.x} ${p.y}`).join('');
  const amps = l.element ? (shown?.amps.get(l.element) ?? 0) : 0;
  const open = l.element !== null && faults.open.includes(l.element);
  const live = Math.abs(shown?.volts.get(l.node) ?? 0) > LIVE_V;
  const runs = Math.abs(amps) > LIVE_A;
  const on = l.element !== null && picked === l.element;
  const dim = circuit !== null && l.circuit !== circuit;
  const [base, tracer] = l.colour.split('/') as [string, string | undefined];
  let best: [number, number, number] | null = null;
  for (let i = 1; i < l.points.length; i++) {
    const [a, b] = [l.points[i - 1]!, l.points[i]!];
    const len = Math.abs(b.x - a.x);
    if (Math.abs(a.y - b.y) < 1 && len > (best?.[2] ?? 30)) best = [(a.x + b.x) / 2, a.y, len];
  }
  const [first, second] = [l.points[0], l.points[1]];
  // an open joint is shown on its longest level stretch, or half-way along its first
  const gap = best
    ? { x: best[0], y: best[1] }
    : first && second
      ? { x: (first.x + second.x) / 2, y: (first.y + second.y) / 2 }
      : { x: 0, y: 0 };
  return (
    <chakra.g opacity={dim ? 0.28 : 1} cursor="pointer" onClick={() => onPick(l.element, l.circuit)} data-wire={l.element} data-live={runs}>
      <title>{`${l.label || 'joined'}${runs ? `, ${showAmps(amps)}` : ''}`}</title>
      {live && !dim && <chakra.path d={d} fill="none" stroke="accent" strokeWidth={9} opacity={0.22} strokeLinejoin="round" />}
      {l.origin === 'box' && (
        <>
          <chakra.path d={d} fill="none" stroke="quiet" strokeWidth={on ? 10 : 8} strokeLinejoin="round" />
          <chakra.path d={d} fill="none" stroke="raised" strokeWidth={on ? 8.6 : 6.6} strokeLinejoin="round" />
        </>
      )}
      {l.origin === 'shelf' && <chakra.path d={cutPath(l.points)} fill="none" stroke="ink" strokeWidth={1.6} />}
      <chakra.path d={d} fill="none" stroke="ink" strokeWidth={on ? 7 : 4.4} strokeLinejoin="round" />
      <path d={d} fill="none" stroke={wireFill(base)} strokeWidth={on ? 4.6 : 2.6} strokeLinejoin="round" />
      {tracer && <path d={d} fill="none" stroke={wireFill(tracer)} strokeWidth={on ? 2.4 : 1.4} strokeDasharray="9 7" />}
      {runs && (
        <chakra.path
          d={d}
          fill="none"
          stroke={base === 'WH' || base === 'YE' ? 'ink' : 'raised'}
          strokeWidth={on ? 2.6 : 1.8}
          strokeDasharray="3 9"
          className={amps > 0 ? 'flow' : 'flow back'}
        />
      )}
      {open && (
        <chakra.g color="fails">
          <circle cx={gap.x} cy={gap.y} r={9} fill="var(--chakra-colors-raised)" />
          <path d={`M${gap.x - 6} ${gap.y - 6}l12 12m0 -12l-12 12`} stroke="currentColor" strokeWidth={3} />
        </chakra.g>
      )}
      {says && !open && (
        <chakra.text
          x={says.x}
          y={says.y - 2}
          textAnchor="middle"
          fontSize="10.5px"
          fontFamily="mono"
          fill="ink"
          style={{ pointerEvents: 'none' }}
        >
          {says.text}
        </chakra.text>
      )}
      <path d={d} fill="none" stroke="transparent" strokeWidth={14} style={{ pointerEvents: 'stroke' }} />
    </chakra.g>
  );
}

/** What a line carries, in words; nothing where it rests. */
function ampsOf(shown: Shown | null, l: PlacedLink): string {
  const amps = l.element ? (shown?.amps.get(l.element) ?? 0) : 0;
  return Math.abs(amps) > LIVE_A ? showAmps(amps) : '';
}

const showAmps = (a: number): string => (Math.abs(a) < 0.1 ? `${figure(Math.abs(a) * 1000, 2)} mA` : `${figure(Math.abs(a), 3)} A`);

function BlockView({ data }: NodeProps<BlockNode>) {
  const sight = useSight();
  const b = data.block;
  const dim = sight.circuit !== null && b.circuit !== null && b.circuit !== sight.circuit;
  const owner = (node: string | null) => sight.harness.nodes.find((n) => n.id === node)?.of;
  const wrong = sight.harness.problems.find((p) => p.node !== null && (b.ports.some((x) => x.id === p.node) || owner(p.node) === b.id));
  const title = b.kind === 'flag' ? `${b.title}: to ${b.note}` : `${b.title}${b.note ? `, ${b.note}` : ''}`;
  return (
    <chakra.svg
      width={`${b.width}px`}
      height={`${b.height}px`}
      overflow="visible"
      opacity={dim ? 0.3 : 1}
      cursor="pointer"
      onClick={() => (b.kind === 'switch' ? sight.onThrow(b.id) : sight.onPick(b.elements[0] ?? b.id, b.circuit))}
      data-block={b.id}
      role="img"
      aria-label={title}
    >
      <title>{wrong ? `${title}: ${wrong.text}` : title}</title>
      <Face b={b} />
      {wrong && (
        <chakra.g color="fails">
          <chakra.rect
            x={-4}
            y={-4}
            width={b.width + 8}
            height={b.height + 8}
            rx={7}
            fill="none"
            stroke="currentColor"
            strokeWidth={2.5}
            strokeDasharray="5 3"
          />
          <circle cx={b.width} cy={0} r={8} fill="currentColor" />
          <chakra.text x={b.width} y={4.5} textAnchor="middle" fontSize="13px" fontWeight={700} fill="raised">
            !
          </chakra.text>
        </chakra.g>
      )}
      {b.kind !== 'splice' &&
        b.kind !== 'flag' &&
        b.ports.map((p) => {
          const at = b.at[p.id]!;
          const wide = plain(b) || b.kind === 'fuse' || b.kind === 'plug' || b.kind === 'ground';
          return (
            <g key={p.id}>
              {!wide && p.label && (
                <chakra.text
                  x={p.side === 'in' ? 9 : b.width - 9}
                  y={at.y + 4}
                  textAnchor={p.side === 'in' ? 'start' : 'end'}
                  fontSize="12px"
                  fill="quiet"
                >
                  {p.label}
                </chakra.text>
              )}
            </g>
          );
        })}
      {b.ports.map((p) => (
        <Port key={p.id} id={p.node} x={b.at[p.id]!.x} y={b.at[p.id]!.y} />
      ))}
    </chakra.svg>
  );
}

function Port({ id, x, y }: { id: string | null; x: number; y: number }) {
  const { probing, meter, onProbe } = useSight();
  if (!id) return null;
  const red = meter?.plus === id;
  const black = meter?.minus === id;
  return (
    <g>
      <chakra.circle cx={x} cy={y} r={3} fill="ink" />
      {probing && (
        <chakra.circle
          cx={x}
          cy={y}
          r={7}
          fill="raised"
          stroke="accent"
          strokeWidth={2}
          cursor="crosshair"
          data-port={id}
          onClick={(e) => {
            e.stopPropagation();
            onProbe(id);
          }}
        />
      )}
      {(red || black) && (
        <g style={{ pointerEvents: 'none' }}>
          <path d={`M${x} ${y}l10 -20`} stroke={red ? '#c62f24' : '#1c1c1c'} strokeWidth={5} strokeLinecap="round" />
          <circle cx={x} cy={y} r={4} fill={red ? '#c62f24' : '#1c1c1c'} stroke="#fff" strokeWidth={1.2} />
        </g>
      )}
    </g>
  );
}

function Face({ b }: { b: PlacedBlock }) {
  const { harness, shown, faults, picked, positions } = useSight();
  const on = picked !== null && (b.elements.includes(picked) || b.id === picked);
  const edge = on ? 'accent' : 'ink';
  const width = on ? 3 : 1.6;
  if (b.kind === 'splice') return <chakra.circle cx={5} cy={5} r={5} fill={on ? 'accent' : 'ink'} />;
  if (b.kind === 'ground')
    return (
      <chakra.g color="ink" stroke="currentColor" strokeWidth={2}>
        <path d="M0 8H15V16M5 16H25M9 20.5H21M13 25H17" fill="none" />
      </chakra.g>
    );
  if (b.kind === 'flag') {
    const leaves = b.ports[0]!.side === 'in';
    return (
      <g>
        <chakra.path
          d={
            leaves
              ? `M0 0H${b.width - 6}L${b.width} ${b.height / 2}L${b.width - 6} ${b.height}H0Z`
              : `M${b.width} 0H6L0 ${b.height / 2}L6 ${b.height}H${b.width}Z`
          }
          fill={on ? 'accentWash' : 'raised'}
          stroke={edge}
          strokeWidth={width}
          strokeLinejoin="round"
        />
        <chakra.text x={b.width / 2} y={13.5} textAnchor="middle" fontSize="13px" fontWeight={700} fontFamily="mono" fill="ink">
          {b.title}
        </chakra.text>
      </g>
    );
  }
  if (b.kind === 'fuse') {
    const blown = faults.blown.includes(b.elements[0]!) || shown?.blown.some((f) => f.id === b.elements[0]);
    return (
      <chakra.g color={blown ? 'fails' : 'ink'}>
        <chakra.rect
          x={10}
          y={12}
          width={44}
          height={16}
          rx={3}
          fill="raised"
          stroke={on ? 'accent' : 'currentColor'}
          strokeWidth={width}
        />
        <path d={blown ? 'M0 20H20M44 20H64' : 'M0 20H64'} stroke="currentColor" strokeWidth={2} fill="none" />
        {blown && <path d="M24 14L40 26M40 14L24 26" stroke="currentColor" strokeWidth={2} />}
        <chakra.text x={32} y={8} textAnchor="middle" fontSize="12px" fontWeight={700} fontFamily="mono" fill={blown ? 'fails' : 'ink'}>
          {b.title}
        </chakra.text>
        {blown && (
          <chakra.text x={32} y={39} textAnchor="middle" fontSize="11px" fontWeight={700} fill="fails">
            {faults.blown.includes(b.elements[0]!) ? 'out' : 'blows'}
          </chakra.text>
        )}
      </chakra.g>
    );
  }
  if (b.kind === 'plug')
    return (
      <chakra.g color={edge} stroke="currentColor" strokeWidth={2} fill="none">
        <path d="M0 20H24M40 20H64M24 12v16h6M40 12v16h-6" />
      </chakra.g>
    );
  const loads = b.elements.flatMap((id) => {
    const e = harness.elements.find((x) => x.id === id);
    return e?.kind === 'load' ? [e] : [];
  });
  const lit = loads.find(
    (e) => (shown?.amps.get(e.id) ?? 0) !== 0 && Math.abs((shown?.volts.get(e.from) ?? 0) - (shown?.volts.get(e.to) ?? 0)) > e.volts / 2,
  );
  const volts = loads[0] ? (shown?.volts.get((lit ?? loads[0]).from) ?? 0) - (shown?.volts.get((lit ?? loads[0]).to) ?? 0) : 0;
  const coils = b.elements.filter((id) => harness.elements.some((e) => e.id === id && e.kind === 'coil'));
  const pulled = coils.some((id) => shown?.pulled.has(id));
  const control = harness.controls.filter((c) => c.of === b.id);
  // the unit’s own fuse before a feed is not drawn, but it can blow
  const spent = b.kind === 'point' && shown?.blown.some((f) => f.id === `${b.id}:fuse`);
  const supply = b.kind === 'supply' ? [...(shown?.supplies ?? [])].find(([id]) => b.elements.includes(id))?.[1] : undefined;
  const state =
    b.kind === 'relay' || (coils.length && !loads.length && b.kind !== 'supply')
      ? pulled
        ? 'pulled in'
        : 'at rest'
      : b.kind === 'switch'
        ? control.map((c) => c.positions.find((p) => p.id === (positions[c.id] ?? c.positions[0]!.id))!.name).join(', ')
        : (supply ?? (loads.length && Math.abs(volts) > LIVE_V ? `${figure(volts, 3)} V` : ''));
  return (
    <>
      <chakra.rect
        width={b.width}
        height={b.height}
        rx={b.kind === 'point' ? b.height / 2 : 5}
        fill={lit ? 'accentWash' : b.kind === 'point' ? 'sunk' : 'raised'}
        stroke={edge}
        strokeWidth={width}
        strokeDasharray={b.kind === 'relay' || b.kind === 'supply' ? '6 3' : undefined}
      />
      <chakra.text x={b.kind === 'point' ? 14 : 9} y={16} fontSize="13px" fontWeight={700} fill="ink">
        {b.title}
      </chakra.text>
      {b.note && (
        <chakra.text x={b.kind === 'point' ? 14 : 9} y={30} fontSize="12px" fill={spent ? 'fails' : 'quiet'} fontWeight={spent ? 700 : 400}>
          {spent ? `${b.note.split(',')[0]} blows` : b.note}
        </chakra.text>
      )}
      {state && (
        <chakra.text
          x={b.kind === 'switch' ? 9 : b.width - 9}
          y={b.kind === 'relay' ? 16 : b.note ? 30 : b.title.length * 7.3 + state.length * 6.6 + 22 > b.width ? b.height - 6 : 16}
          textAnchor={b.kind === 'switch' ? 'start' : 'end'}
          fontSize="12px"
          fontWeight={700}
          fontFamily={loads.length ? 'mono' : 'body'}
          fill={pulled || lit || b.kind === 'switch' || supply ? 'accent' : 'quiet'}
        >
          {state}
        </chakra.text>
      )}
    </>
  );
}
