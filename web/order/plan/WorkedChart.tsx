import { useCallback } from 'react';
import type { Outlier, Worked } from '#core/learn/learn';
import Chart, { type Ink } from '../power/Chart';

/** Minutes planned and spent, one point a kit on a finished order. */
export default function WorkedChart({
  jobs,
  outliers,
  name,
}: {
  jobs: readonly Worked[];
  outliers: readonly Outlier[];
  name: (kit: string) => string;
}) {
  const key = JSON.stringify([jobs, outliers.map((o) => `${o.worked.order}/${o.worked.kit}`)]);
  const option = useCallback(
    (ink: Ink) => {
      const [list, far] = JSON.parse(key) as [Worked[], string[]];
      const most = Math.ceil(Math.max(...list.flatMap((w) => [w.planned, w.spent]), 10) / 10) * 10;
      const isFar = (w: Worked) => far.includes(`${w.order}/${w.kit}`);
      const points = (of: Worked[]) =>
        of.map((w) => ({ value: [Number(w.planned.toFixed(1)), Number(w.spent.toFixed(1))], name: `${w.order}, ${w.by}` }));
      const axis = (title: string) => ({
        type: 'value',
        name: title,
        nameLocation: 'middle',
        nameGap: 28,
        min: 0,
        max: most,
        axisLabel: { color: ink.ink, fontSize: 13 },
        nameTextStyle: { color: ink.ink, fontSize: 13 },
        splitLine: { lineStyle: { color: ink.rule } },
      });
      return {
        grid: { left: 52, right: 16, top: 10, bottom: 44 },
        tooltip: { trigger: 'item' },
        xAxis: axis('minutes planned'),
        yAxis: { ...axis('minutes spent'), nameGap: 36 },
        series: [
          {
            name: 'as planned',
            type: 'line',
            data: [
              [0, 0],
              [most, most],
            ],
            symbol: 'none',
            lineStyle: { color: ink.quiet, type: 'dashed', width: 1 },
            silent: true,
          },
          { name: 'jobs', type: 'scatter', symbolSize: 9, itemStyle: { color: ink.accent }, data: points(list.filter((w) => !isFar(w))) },
          {
            name: 'far off',
            type: 'scatter',
            symbol: 'diamond',
            symbolSize: 13,
            itemStyle: { color: ink.fails },
            data: points(list.filter(isFar)),
          },
        ],
      };
    },
    [key],
  );
  return (
    <Chart
      title="Minutes planned and spent, one point a kit on a finished order; diamonds are far off"
      label="Minutes planned and spent"
      height={260}
      option={option}
      file="planned-and-spent"
      table={{
        heads: ['order', 'kit', 'by', 'planned', 'spent', 'which for them'],
        num: [3, 4, 5],
        rows: jobs.map((w) => [String(w.order), name(w.kit), w.by, w.planned.toFixed(0), w.spent.toFixed(0), String(w.nth)]),
      }}
    />
  );
}
