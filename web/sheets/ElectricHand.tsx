import { chakra } from '@chakra-ui/react';
import { useRef, useState, type PointerEvent } from 'react';
import { HOW_WORD, howKnown } from '#core/known/pointer';
import { changeDims, changeElectrical, changeOwnLoad, changeParked, curvePoints, moveCurvePoint } from '#core/sheets/edit-things';
import type { Typed } from '#core/sheets/edit-model';
import { Chemistry } from '#model/common';
import type { UnitModel } from '#model/unit-model';
import { Act } from '../app/ui';
import { Picking, QuantityField, Two } from './fields';

const W = 300;
const H = 150;
const [LEFT, BOTTOM] = [34, 20];

/** The source’s output over engine speed: its points are dragged, or moved by the arrow keys. */
function Curve({ model, typed, onChange }: { model: UnitModel; typed: () => Typed; onChange: (m: UnitModel) => void }) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ at: number; model: UnitModel } | null>(null);
  const { source } = (drag?.model ?? model).electrical;
  if (source.kind === 'none') return <p>Electric: nothing gives amperes while it runs.</p>;
  const was = model.electrical.source.kind === 'none' ? source.curve : model.electrical.source.curve;
  const most = { rpm: was.at(-1)![0] * 1.1 || 1, amps: Math.max(...was.map((p) => p[1])) * 1.35 || 1 };
  const x = (rpm: number) => LEFT + (rpm / most.rpm) * (W - LEFT - 8);
  const y = (a: number) => H - BOTTOM - (a / most.amps) * (H - BOTTOM - 8);
  const at = (e: PointerEvent): [number, number] => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.current!.getScreenCTM()!.inverse());
    return [((p.x - LEFT) / (W - LEFT - 8)) * most.rpm, ((H - BOTTOM - p.y) / (H - BOTTOM - 8)) * most.amps];
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      role="group"
      aria-label="Output over engine speed"
      style={{ touchAction: 'none', display: 'block' }}
      onPointerMove={(e) => drag && setDrag({ ...drag, model: moveCurvePoint(model, drag.at, at(e), typed()) })}
      onPointerUp={() => {
        if (drag && drag.model !== model) onChange(drag.model);
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
    >
      <chakra.path d={`M${LEFT} 6V${H - BOTTOM}H${W - 4}`} fill="none" stroke="rule" strokeWidth="1.5" />
      {[most.amps / 1.35, most.amps / 2.7].map((a) => (
        <chakra.text key={a} x={LEFT - 4} y={y(a) + 4} fontSize="11px" textAnchor="end" fill="quiet">
          {Math.round(a)} A
        </chakra.text>
      ))}
      {[source.idleRpm, source.workingRpm].map((r, i) => (
        <g key={i}>
          <chakra.path d={`M${x(r)} 6V${H - BOTTOM}`} stroke="rule" strokeDasharray="3 4" />
          <chakra.text x={x(r)} y={H - 6} fontSize="11px" textAnchor="middle" fill="quiet">
            {i ? 'working' : 'idle'} {Math.round(r)}
          </chakra.text>
        </g>
      ))}
      <chakra.path d={`M${source.curve.map(([r, a]) => `${x(r)} ${y(a)}`).join('L')}`} fill="none" stroke="accent" strokeWidth="2.5" />
      {source.curve.map(([r, a], i) => (
        <chakra.circle
          key={i}
          cx={x(r)}
          cy={y(a)}
          r={8}
          fill="accent"
          role="button"
          tabIndex={0}
          cursor="grab"
          data-point={i}
          aria-label={`${a} A at ${r} per minute`}
          onPointerDown={(e) => {
            e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
            setDrag({ at: i, model });
          }}
          onKeyDown={(e) => {
            const by = (
              { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-50, 0], ArrowRight: [50, 0] } as Record<string, [number, number]>
            )[e.key];
            if (!by) return;
            e.preventDefault();
            onChange(moveCurvePoint(model, i, [r + by[0], a + by[1]], typed()));
          }}
        />
      ))}
    </svg>
  );
}

/** What gives current and what keeps it: the source’s curve, the battery, the unit’s own draws, and the unit’s sizes. */
export function ElectricHand({ model, typed, onChange }: { model: UnitModel; typed: () => Typed; onChange: (m: UnitModel) => void }) {
  const { battery, source, ownLoads, parkedMa } = model.electrical;
  const note = (p: string) => HOW_WORD[howKnown(model, p).how];
  const bat = (change: Partial<typeof battery>) => onChange(changeElectrical(model, 'battery', change, typed()));
  const running = source.kind === 'none' ? null : source;
  const set = (change: Partial<NonNullable<typeof running>>) => onChange(changeElectrical(model, 'source', change, typed()));
  const above = (f: (v: number) => void) => (v: number | null) => v !== null && v > 0 && f(v);
  return (
    <chakra.section aria-label="Source and battery" display="grid" gap="8px">
      <chakra.h2 fontSize="18px">What gives current</chakra.h2>
      <Curve model={model} typed={typed} onChange={onChange} />
      {running && (
        <>
          <chakra.p fontSize="14px" color="quiet">
            {note('/electrical/source/curve')}
          </chakra.p>
          <chakra.div display="flex" gap="6px" flexWrap="wrap">
            <Act minHeight="36px" onClick={() => onChange(curvePoints(model, 1, typed()))}>
              One point more
            </Act>
            <Act minHeight="36px" disabled={running.curve.length <= 2} onClick={() => onChange(curvePoints(model, -1, typed()))}>
              One less
            </Act>
          </chakra.div>
          {running.curve.map(([r, a], i) => (
            <Two key={i}>
              <QuantityField
                id={`curve-rpm-${i}`}
                label={`Point ${i + 1}, rpm`}
                kind="plain"
                value={r}
                onTyped={(v) => v !== null && onChange(moveCurvePoint(model, i, [v, a], typed()))}
              />
              <QuantityField
                id={`curve-amps-${i}`}
                label="gives"
                kind="amps"
                value={a}
                onTyped={(v) => v !== null && onChange(moveCurvePoint(model, i, [r, v], typed()))}
              />
            </Two>
          ))}
          <Two>
            <QuantityField
              id="idle-rpm"
              label="Idles at, rpm"
              kind="plain"
              value={running.idleRpm}
              onTyped={above((idleRpm) => set({ idleRpm }))}
            />
            <QuantityField
              id="regulated"
              label="Regulated to"
              kind="volts"
              value={running.regulatedV}
              onTyped={above((regulatedV) => set({ regulatedV }))}
            />
          </Two>
        </>
      )}
      <chakra.h2 fontSize="18px">The battery</chakra.h2>
      <Picking
        id="battery-kind"
        label="Kind"
        value={battery.chemistry}
        options={Chemistry.options.map((c) => ({
          id: c,
          name: { flooded: 'flooded lead', agm: 'AGM lead', lfp: 'lithium iron phosphate' }[c],
        }))}
        onPick={(chemistry) => chemistry && bat({ chemistry })}
      />
      <Two>
        <QuantityField
          id="battery-count"
          label="How many in series"
          kind="plain"
          value={battery.count}
          onTyped={above((n) => bat({ count: Math.round(n) }))}
        />
        <QuantityField
          id="battery-volts"
          label="Volts each"
          kind="volts"
          value={battery.voltsEach}
          onTyped={above((voltsEach) => bat({ voltsEach }))}
        />
        <QuantityField
          id="battery-ah"
          label="Capacity, Ah"
          kind="plain"
          value={battery.capacityAh}
          note={note('/electrical/battery/capacityAh')}
          onTyped={above((capacityAh) => bat({ capacityAh }))}
        />
        <QuantityField
          id="battery-cca"
          label="Cranking amperes"
          kind="plain"
          value={battery.cca ?? null}
          placeholder="not said"
          note={note('/electrical/battery/cca')}
          onTyped={(v) => bat({ cca: v !== null && v > 0 ? v : undefined } as Partial<typeof battery>)}
        />
      </Two>
      <chakra.h2 fontSize="18px">What it draws itself</chakra.h2>
      <QuantityField
        id="parked"
        label="Parked"
        kind="amps"
        value={parkedMa / 1000}
        note={note('/electrical/parkedMa')}
        onTyped={(a) => a !== null && onChange(changeParked(model, a, typed()))}
      />
      {ownLoads.map((l) => (
        <QuantityField
          key={l.id}
          id={`load-${l.id}`}
          label={`${l.name}, at idle`}
          kind="watts"
          value={l.idleW}
          note={note('/electrical/ownLoads')}
          onTyped={(w) => w !== null && w >= 0 && onChange(changeOwnLoad(model, l.id, { idleW: w }, typed()))}
        />
      ))}
      <chakra.h2 fontSize="18px">Its sizes</chakra.h2>
      <Two>
        {(['lengthMm', 'widthMm', 'heightMm', 'wheelbaseMm'] as const).map((k) =>
          model.dims[k] ? (
            <QuantityField
              key={k}
              id={`dims-${k}`}
              label={{ lengthMm: 'Length', widthMm: 'Width', heightMm: 'Height', wheelbaseMm: 'Wheelbase' }[k]}
              kind="smallLength"
              value={model.dims[k]}
              note={note(`/dims/${k}`)}
              onTyped={above((v) => onChange(changeDims(model, { [k]: Math.round(v) }, typed())))}
            />
          ) : null,
        )}
      </Two>
    </chakra.section>
  );
}
