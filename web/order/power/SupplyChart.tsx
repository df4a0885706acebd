import { useCallback, useMemo } from 'react';
import { howKnown } from '#core/known/pointer';
import { openValue, SOURCE_CURVE } from '#core/known/values';
import { loadsByKit } from '#core/energy/checks';
import { ownAmps, sourceAmps } from '#core/energy/source';
import type { Budget } from '#core/energy/budget';
import type { Sheets } from '#model/sheet';
import Chart, { type Ink } from './Chart';

const BANDS = ['#8a999d', '#0B5E6B', '#c98f4e', '#3c8c88', '#b47a63', '#9bb89a', '#8d6f86', '#d9c48c'];

/** The source over engine speed with the unit's own needs and what each kit adds stacked as bands, and the speed where they meet. */
export default function SupplyChart({ sheets, budget, height, file }: { sheets: Sheets; budget: Budget; height: number; file: string }) {
  const { electrical } = sheets.model;
  const source = electrical.source as Exclude<typeof electrical.source, { kind: 'none' }>;
  const groups = useMemo(() => loadsByKit(budget.loads, sheets), [budget.loads, sheets]);
  const rpms = useMemo(() => {
    const { idleRpm, workingRpm, curve } = source;
    const set = [curve[0]![0], idleRpm, ...curve.map((c) => c[0]), workingRpm, ...(budget.breakEvenRpm ? [budget.breakEvenRpm] : [])];
    return [...new Set(set.map((r) => Math.round(r)))].sort((a, b) => a - b);
  }, [source, budget.breakEvenRpm]);
  // what the source gives may be known only by its kind: the same share off at every speed
  const known = useMemo((): [number, number] | null => {
    const of = openValue(sheets.model, SOURCE_CURVE);
    return of && howKnown(sheets.model, SOURCE_CURVE).how === 'assumed' ? [of.spread[0] / of.value, of.spread[1] / of.value] : null;
  }, [sheets.model]);
  const meet = budget.breakEvenRpm && budget.breakEvenRpm > source.idleRpm + 50 ? Math.round(budget.breakEvenRpm / 50) * 50 : null;
  const option = useCallback(
    (ink: Ink) => {
      const band = (name: string, at: (rpm: number) => number, i: number) => ({
        name,
        type: 'line' as const,
        stack: 'loads',
        showSymbol: false,
        lineStyle: { width: 0 },
        areaStyle: { color: BANDS[i % BANDS.length], opacity: 0.85 },
        itemStyle: { color: BANDS[i % BANDS.length] },
        data: rpms.map((r) => [r, at(r)]),
      });
      const line = (name: string, xAxis: number, distance: number[], bold = false) => ({
        name,
        xAxis,
        label: {
          color: bold ? ink.fails : ink.ink,
          formatter: '{b}',
          position: 'end' as const,
          fontSize: 13,
          distance,
          fontWeight: bold ? 700 : 400,
        },
        lineStyle: { color: bold ? ink.fails : ink.ink, type: 'dashed' as const },
      });
      return {
        grid: { left: 44, right: 22, top: 40, bottom: 84 },
        legend: {
          data: ['the unit itself', ...groups.map((g) => g.name), 'source', ...(known ? ['source, 8 of 10 so'] : [])],
          bottom: 0,
          type: 'plain',
          left: 0,
          textStyle: { color: ink.ink, fontSize: 13 },
          itemWidth: 14,
          itemHeight: 10,
          icon: 'rect',
        },
        tooltip: { valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} A` },
        xAxis: {
          type: 'value',
          min: source.curve[0]![0],
          max: source.curve.at(-1)![0],
          axisLabel: { color: ink.ink, fontSize: 13, hideOverlap: true },
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          name: 'A',
          nameLocation: 'middle',
          nameRotate: 0,
          nameGap: 30,
          nameTextStyle: { color: ink.ink },
          axisLabel: { color: ink.ink, fontSize: 13 },
          splitLine: { lineStyle: { color: ink.rule } },
        },
        series: [
          band('the unit itself', (r) => ownAmps(electrical, r), 0),
          ...groups.map((g, i) => band(g.name, () => g.amps, i + 1)),
          ...(known
            ? [
                // from the low of it up to the high, the lower part unseen
                {
                  name: 'source at least',
                  type: 'line',
                  stack: 'known',
                  silent: true,
                  showSymbol: false,
                  lineStyle: { width: 0 },
                  itemStyle: { opacity: 0 },
                  data: rpms.map((r) => [r, sourceAmps(source, r) * known[0]]),
                },
                {
                  name: 'source, 8 of 10 so',
                  type: 'line',
                  stack: 'known',
                  silent: true,
                  showSymbol: false,
                  lineStyle: { width: 0 },
                  itemStyle: { color: ink.quiet },
                  areaStyle: { color: ink.quiet, opacity: 0.22 },
                  tooltip: { show: false },
                  data: rpms.map((r) => [r, sourceAmps(source, r) * (known[1] - known[0])]),
                },
              ]
            : []),
          {
            name: 'source',
            type: 'line',
            showSymbol: false,
            lineStyle: { width: 3, color: ink.ink },
            itemStyle: { color: ink.ink },
            data: rpms.map((r) => [r, sourceAmps(source, r)]),
            markLine: {
              silent: true,
              symbol: 'none',
              data: [
                line('idle', source.idleRpm, [0, 4]),
                line('working', source.workingRpm, [0, 4]),
                // its label stands a line higher, so that it never lies on another
                ...(meet ? [line(`meets at ${meet}`, meet, [0, 20], true)] : []),
              ],
            },
          },
        ],
      };
    },
    [electrical, source, groups, rpms, meet, known],
  );
  return (
    <Chart
      title="Source over engine speed in rpm, everything on"
      label="Source over engine speed with loads stacked"
      height={height}
      option={option}
      file={file}
      table={{
        heads: [
          'rpm',
          'source, A',
          ...(known ? ['at least, A', 'at most, A'] : []),
          'the unit, A',
          ...groups.map((g) => `${g.name}, A`),
          'to spare, A',
        ],
        num: Array.from({ length: groups.length + (known ? 6 : 4) }, (_, i) => i),
        rows: rpms.map((r) => {
          const own = ownAmps(electrical, r);
          const made = sourceAmps(source, r);
          const added = groups.reduce((s, g) => s + g.amps, 0);
          return [
            r,
            made.toFixed(1),
            ...(known ?? []).map((k) => (made * k).toFixed(1)),
            own.toFixed(1),
            ...groups.map((g) => g.amps.toFixed(1)),
            (made - own - added).toFixed(1),
          ];
        }),
      }}
    />
  );
}
