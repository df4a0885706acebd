import { format } from 'echarts/core';
import { useCallback, useMemo } from 'react';
import type { Chance } from '#core/energy/chance';
import type { DayResult } from '#core/energy/day';
import type { PowerSystem } from '#core/energy/system';
import Chart, { type Ink } from './Chart';
import { clock, stripOf } from './strip';

/** Points of a line; a null breaks it. */
type Line = [number, number | null][];

/** Charge of each battery and volts of the bus over the day, with likely bands, the reserve, and the moment a start would fail. */
export default function DayChart({
  result,
  other,
  system,
  chance,
  reserve,
  height,
  file,
}: {
  result: DayResult;
  /** drawn thinner, to compare */
  other?: { name: string; result: DayResult };
  system: PowerSystem;
  chance: Chance | null;
  reserve: number;
  height: number;
  file: string;
}) {
  const strip = useMemo(() => stripOf(result.day.phases), [result.day]);
  const option = useCallback(
    (ink: Ink) => {
      const pct = (x: number) => Number((x * 100).toFixed(2));
      const soc = result.moments.map((m) => ({ x: strip.at(m.hour * 60), soc: m.soc, volts: m.volts }));
      const otherStrip = other && stripOf(other.result.day.phases);
      const band = (name: string, axis: number, low: Line, high: Line, colour: string) => [
        {
          name: `${name} low`,
          type: 'line',
          yAxisIndex: axis,
          stack: name,
          symbol: 'none',
          lineStyle: { opacity: 0 },
          silent: true,
          data: low,
          tooltip: { show: false },
        },
        {
          name: `${name} high`,
          type: 'line',
          yAxisIndex: axis,
          stack: name,
          symbol: 'none',
          lineStyle: { opacity: 0 },
          silent: true,
          areaStyle: { color: colour, opacity: 0.18 },
          data: high.map(([x, y], i) => [x, y === null ? null : y - low[i]![1]!]),
          tooltip: { show: false },
        },
      ];
      // volts jump where a phase begins: its band is broken there and begins anew at the first moment that was kept
      const lasting = (chance?.bands ?? []).filter((p, i, all) => p.hour - (all[i - 1]?.hour ?? 0) > 1 / 60);
      const voltBand = lasting.flatMap((p, i): { x: number; v: [number, number, number] | null }[] => {
        const here = { x: strip.at(p.hour * 60), v: p.volts[0]! };
        return lasting[i - 1]?.phase === p.phase ? [here] : [{ x: strip.lefts[p.phase]!, v: null }, here];
      });
      const bands = chance
        ? [
            ...system.cells.flatMap((_, b) => {
              const pts = chance.bands.map((p) => ({ x: strip.at(p.hour * 60), v: p.soc[b]! }));
              return band(
                `charge${b}`,
                0,
                pts.map((p) => [p.x, pct(p.v[0])]),
                pts.map((p) => [p.x, pct(p.v[2])]),
                ink.accent,
              );
            }),
            ...band(
              'volts',
              1,
              voltBand.map((p) => [p.x, p.v && p.v[0]]),
              voltBand.map((p) => [p.x, p.v && p.v[2]]),
              ink.tight,
            ),
          ]
        : [];
      const volts = soc.map((p) => p.volts[0]!).filter((v) => v > 0);
      const k = system.systemV / 12;
      return {
        grid: { left: 44, right: 44, top: 22, bottom: 24 },
        tooltip: {
          formatter: (list: { seriesName: string; data: [number, number]; marker: string; axisValue: number }[]) => {
            const shown = list.filter((l) => !/ (low|high)$/.test(l.seriesName));
            if (!shown.length) return '';
            const minute = strip.minuteAt(shown[0]!.data[0]);
            const p = [...result.phases].reverse().find((q) => q.fromMinute <= minute + 1e-6);
            return [
              `<b>${format.encodeHTML(p?.name ?? '')}</b>, ${clock(minute)} into the day`,
              ...shown.map(
                (l) =>
                  `${l.marker}${format.encodeHTML(l.seriesName)}: ${l.seriesName.includes('volts') ? `${l.data[1].toFixed(2)} V` : `${l.data[1].toFixed(1)} %`}`,
              ),
            ].join('<br>');
          },
        },
        xAxis: {
          type: 'value',
          min: 0,
          max: 1,
          axisLabel: { show: false },
          axisTick: { show: false },
          splitLine: { show: false },
          axisLine: { lineStyle: { color: ink.ink } },
        },
        yAxis: [
          {
            type: 'value',
            min: 0,
            max: 100,
            interval: 25,
            name: '%',
            nameGap: 6,
            nameTextStyle: { color: ink.accent },
            axisLabel: { color: ink.accent, fontSize: 13 },
            splitLine: { lineStyle: { color: ink.rule } },
          },
          {
            type: 'value',
            min: Math.floor(Math.min(...volts, 11.5 * k)),
            max: Math.ceil(Math.max(...volts, 14.5 * k)),
            name: 'V',
            nameGap: 6,
            nameTextStyle: { color: ink.tight },
            axisLabel: { color: ink.tight, fontSize: 13 },
            splitLine: { show: false },
          },
        ],
        series: [
          ...bands,
          ...system.names.map((n, b) => ({
            name: system.names.length > 1 ? `charge, ${n}` : 'charge',
            type: 'line',
            symbol: 'none',
            lineStyle: { color: ink.accent, width: 3, type: b ? 'dashed' : 'solid' },
            itemStyle: { color: ink.accent },
            data: soc.map((p) => [p.x, pct(p.soc[b]!)]),
            ...(b === 0 && {
              markLine: {
                silent: true,
                symbol: 'none',
                data: [
                  {
                    yAxis: reserve * 100,
                    lineStyle: { color: ink.accent, type: 'dashed', opacity: 0.8 },
                    label: {
                      formatter: system.starter ? 'reserve' : 'keep',
                      backgroundColor: ink.paper,
                      padding: [1, 3],
                      position: 'insideEndTop',
                      color: ink.accent,
                      fontSize: 13,
                    },
                  },
                  ...(result.noStartFrom !== null
                    ? [
                        {
                          xAxis: strip.at(result.noStartFrom),
                          lineStyle: { color: ink.fails, width: 2, type: 'solid' },
                          label: {
                            formatter: 'no start from here',
                            position: 'end',
                            align: strip.at(result.noStartFrom) > 0.85 ? 'right' : strip.at(result.noStartFrom) < 0.15 ? 'left' : 'center',
                            color: ink.fails,
                            fontSize: 13,
                            fontWeight: 700,
                          },
                        },
                      ]
                    : []),
                ],
              },
            }),
          })),
          {
            name: 'bus volts',
            type: 'line',
            yAxisIndex: 1,
            symbol: 'none',
            lineStyle: { color: ink.tight, width: 1.5 },
            itemStyle: { color: ink.tight },
            data: soc.filter((p) => p.volts[0]! > 0).map((p) => [p.x, Number(p.volts[0]!.toFixed(3))]),
          },
          ...(other && otherStrip
            ? [
                {
                  name: `charge, ${other.name}`,
                  type: 'line',
                  symbol: 'none',
                  lineStyle: { color: ink.quiet, width: 2, type: 'dotted' },
                  itemStyle: { color: ink.quiet },
                  data: other.result.moments.map((m) => [otherStrip.at(m.hour * 60), pct(m.soc[0]!)]),
                },
              ]
            : []),
        ],
      };
    },
    [result, other, system, chance, reserve, strip],
  );
  return (
    <Chart
      title={<>Charge and bus volts{chance ? '; bands hold 8 of 10 days' : ''}. Long phases are drawn narrowed.</>}
      label={`Charge and volts over ${result.day.name}`}
      height={height}
      option={option}
      file={file}
      table={{
        heads: ['phase', 'from', 'lasts', 'source, A', 'drawn, A', 'to spare, A', 'charge, Ah', 'least V'],
        num: [3, 4, 5, 6, 7],
        rows: result.phases.map((p) => [
          p.name,
          clock(p.fromMinute),
          clock(p.minutes),
          p.sourceA.toFixed(1),
          p.loadA.toFixed(1),
          p.marginA.toFixed(1),
          p.deltaAh.map((x) => x.toFixed(2)).join(' / '),
          p.leastVolts.toFixed(2),
        ]),
      }}
    />
  );
}
