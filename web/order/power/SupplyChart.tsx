import { chakra } from '@chakra-ui/react';
import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { ownAmps } from '#core/energy/source';
import type { Budget } from '#core/energy/budget';
import type { UnitModel } from '#model/unit-model';

register([LineChart, GridComponent, TooltipComponent, LegendComponent, MarkLineComponent, SVGRenderer]);

const BANDS = ['#7d8f94', '#0B5E6B', '#3c8c88', '#7bb0a0', '#b2c9a8', '#d9c48c', '#cf9f6b', '#b47a63', '#8d6f86'];

/** The source over engine speed with the unit's own needs and what is added stacked as bands, and the break-even speed marked. */
export default function SupplyChart({ model, budget }: { model: UnitModel; budget: Budget }) {
  const at = useRef<HTMLDivElement>(null);
  const { electrical } = model;
  const { source } = electrical;
  useEffect(() => {
    if (!at.current || source.kind === 'none') return;
    const chart = init(at.current, undefined, { renderer: 'svg' });
    const css = getComputedStyle(at.current);
    const ink = css.color;
    const { idleRpm, workingRpm, curve } = source;
    const top = curve.at(-1)![0];
    const rpms = [...new Set([curve[0]![0], idleRpm, ...curve.map((c) => c[0]), workingRpm, top])].sort((a, b) => a - b);
    const steady = budget.loads.filter((l) => !l.burst && l.amps !== null);
    const band = (name: string, data: [number, number][], i: number) => ({
      name,
      type: 'line' as const,
      stack: 'loads',
      showSymbol: false,
      lineStyle: { width: 0 },
      areaStyle: { color: BANDS[i % BANDS.length], opacity: 0.85 },
      itemStyle: { color: BANDS[i % BANDS.length] },
      data,
    });
    chart.setOption({
      animation: false,
      textStyle: { fontFamily: css.fontFamily, color: ink },
      grid: { left: 46, right: 16, top: 30, bottom: 64 },
      legend: { bottom: 0, type: 'scroll', textStyle: { color: ink, fontSize: 13 }, itemWidth: 14, itemHeight: 10, icon: 'rect' },
      tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} A` },
      xAxis: {
        type: 'value',
        min: curve[0]![0],
        max: top,
        name: 'rpm',
        nameLocation: 'middle',
        nameGap: 26,
        axisLabel: { color: ink, fontSize: 13 },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        name: 'A',
        nameLocation: 'middle',
        nameRotate: 0,
        nameGap: 32,
        axisLabel: { color: ink, fontSize: 13 },
        splitLine: { lineStyle: { color: 'rgba(128,128,128,.25)' } },
      },
      series: [
        band(
          'the unit itself',
          rpms.map((r) => [r, ownAmps(electrical, r)]),
          0,
        ),
        ...steady.map((l, i) =>
          band(
            l.name,
            rpms.map((r) => [r, l.amps!]),
            i + 1,
          ),
        ),
        {
          name: 'source',
          type: 'line',
          showSymbol: false,
          lineStyle: { width: 3, color: ink },
          itemStyle: { color: ink },
          data: curve,
          markLine: {
            silent: true,
            symbol: 'none',
            label: { color: ink, formatter: '{b}', position: 'end', fontSize: 13 },
            lineStyle: { color: ink, type: 'dashed' },
            data: [
              { name: 'idle', xAxis: idleRpm },
              { name: 'working', xAxis: workingRpm },
              ...(budget.breakEvenRpm && budget.breakEvenRpm > idleRpm + 50
                ? [{ name: `break-even ${Math.round(budget.breakEvenRpm / 50) * 50}`, xAxis: budget.breakEvenRpm }]
                : []),
            ],
          },
        },
      ],
    });
    const fit = new ResizeObserver(() => chart.resize());
    fit.observe(at.current);
    return () => {
      fit.disconnect();
      chart.dispose();
    };
  }, [source, electrical, budget]);
  return <chakra.div ref={at} height="260px" color="ink" role="img" aria-label="Source over engine speed with loads stacked" />;
}
