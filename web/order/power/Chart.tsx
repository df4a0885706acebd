import { chakra } from '@chakra-ui/react';
import { BarChart, LineChart, ScatterChart } from 'echarts/charts';
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  MarkPointComponent,
  TooltipComponent,
} from 'echarts/components';
import { init, use as register, type ECharts } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import type { EChartsCoreOption } from 'echarts/core';
import { Download } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { useScheme } from '../../app/scheme';
import { Act } from '../../app/ui';
import { Table } from '../../sheets/Table';

register([
  BarChart,
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  MarkPointComponent,
  TooltipComponent,
  SVGRenderer,
]);

/** Colours of a chart as the page has them now. */
export interface Ink {
  ink: string;
  quiet: string;
  rule: string;
  raised: string;
  paper: string;
  accent: string;
  fails: string;
  tight: string;
  holds: string;
}
const readInk = (el: Element): Ink => {
  const css = getComputedStyle(el);
  const v = (name: string) => css.getPropertyValue(`--chakra-colors-${name}`).trim();
  return {
    ink: v('ink'),
    quiet: v('quiet'),
    rule: v('rule'),
    raised: v('raised'),
    paper: v('paper'),
    accent: v('accent'),
    fails: v('fails'),
    tight: v('tight-text'),
    holds: v('holds'),
  };
};

/** A chart with a table behind it and a picture to save. `option` is made anew when what it depends on changes. */
export default function Chart({
  title,
  label,
  height,
  option,
  table,
  file,
}: {
  title: ReactNode;
  label: string;
  height: number;
  option: (ink: Ink) => EChartsCoreOption;
  table: { heads: string[]; rows: ReactNode[][]; num?: number[] };
  file: string;
}) {
  const at = useRef<HTMLDivElement>(null);
  const chart = useRef<ECharts | null>(null);
  const scheme = useScheme();
  useEffect(() => {
    if (!at.current) return;
    const made = init(at.current, undefined, { renderer: 'svg' });
    chart.current = made;
    // it is told of its first size, and of none as it is taken away: neither is a change to draw
    const fit = new ResizeObserver(([e]) => {
      const { width, height } = e!.contentRect;
      if (width && (Math.abs(width - made.getWidth()) >= 1 || Math.abs(height - made.getHeight()) >= 1)) made.resize();
    });
    fit.observe(at.current);
    return () => {
      fit.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(() => {
    if (!at.current || !chart.current) return;
    const ink = readInk(at.current);
    const fontFamily = getComputedStyle(at.current).fontFamily;
    const tooltip = { backgroundColor: ink.raised, borderColor: ink.rule, textStyle: { color: ink.ink, fontFamily, fontSize: 14 } };
    const made = option(ink);
    chart.current.setOption(
      {
        animation: false,
        textStyle: { fontFamily, color: ink.ink },
        ...made,
        tooltip: { trigger: 'axis', confine: true, ...tooltip, ...(made.tooltip as object | undefined) },
      },
      true,
    );
  }, [option, scheme]);
  const save = () => {
    const a = document.createElement('a');
    a.href = chart.current!.getDataURL({ type: 'svg' });
    a.download = `${file}.svg`;
    a.click();
  };
  return (
    <chakra.figure minW={0} m={0}>
      <chakra.figcaption display="flex" alignItems="center" gap="8px" fontSize="14px" color="quiet">
        <chakra.span flex="1" minW={0}>
          {title}
        </chakra.span>
        <Act look="quiet" minHeight="28px" onClick={save} aria-label={`Save the picture: ${label}`} title="Save the picture">
          <Download size={16} aria-hidden />
        </Act>
      </chakra.figcaption>
      <chakra.div ref={at} height={`${height}px`} color="ink" role="img" aria-label={label} />
      <chakra.details fontSize="14px">
        <chakra.summary cursor="pointer" color="accent" py="2px">
          As a table
        </chakra.summary>
        <Table {...table} />
      </chakra.details>
    </chakra.figure>
  );
}
