import { useCallback } from 'react';
import type { DayResult } from '#core/energy/day';
import Chart, { type Ink } from './Chart';

/** Watt-hours that each load took over the day, at its battery. */
export default function EnergyChart({ result, file }: { result: DayResult; file: string }) {
  const list = result.energy.filter((e) => e.wh >= 0.05);
  const total = list.reduce((a, e) => a + e.wh, 0);
  const shown = list.slice(0, 14);
  const key = JSON.stringify(shown);
  const option = useCallback(
    (ink: Ink) => {
      const rows = (JSON.parse(key) as typeof shown).reverse();
      return {
        grid: { left: 8, right: 64, top: 4, bottom: 22, containLabel: true },
        tooltip: { trigger: 'item', valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} Wh` },
        xAxis: {
          type: 'value',
          axisLabel: { color: ink.ink, fontSize: 13, formatter: '{value} Wh' },
          splitLine: { lineStyle: { color: ink.rule } },
          splitNumber: 4,
        },
        yAxis: {
          type: 'category',
          data: rows.map((e) => e.name),
          axisLabel: { color: ink.ink, fontSize: 13, width: 230, overflow: 'truncate' },
          axisTick: { show: false },
        },
        series: [
          {
            name: 'energy',
            type: 'bar',
            barMaxWidth: 18,
            data: rows.map((e) => ({
              value: Number(e.wh.toFixed(2)),
              itemStyle: { color: e.id.startsWith('own/') || ['parked', 'drive', 'starter'].includes(e.id) ? ink.quiet : ink.accent },
            })),
            label: {
              show: true,
              position: 'right',
              color: ink.ink,
              fontSize: 13,
              formatter: (p: { value: number }) => (p.value < 10 ? p.value.toFixed(1) : String(Math.round(p.value))),
            },
          },
        ],
      };
    },
    [key],
  );
  return (
    <Chart
      title={`Energy per load over the day, ${Math.round(total)} Wh in all; grey is the unit’s own`}
      label={`Energy per load over ${result.day.name}`}
      height={Math.max(120, shown.length * 24 + 30)}
      option={option}
      file={file}
      table={{
        heads: ['load', 'Wh', 'share'],
        num: [1, 2],
        rows: list.map((e) => [e.name, e.wh.toFixed(1), `${((100 * e.wh) / total).toFixed(1)} %`]),
      }}
    />
  );
}
