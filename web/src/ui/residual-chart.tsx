'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { BarChart } from 'echarts/charts';
import { GridComponent, MarkAreaComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { formatNumber, type UnitSystem } from '@calque/core/units';
import { useSchemePalette } from './scheme-palette';

register([BarChart, GridComponent, MarkAreaComponent, TooltipComponent, SVGRenderer]);

export interface Residual {
  label: string;
  /** Measured less true, millimetres. */ millimetres: number;
  within: boolean;
  fitted: boolean;
}

/** The unit that residuals are shown in: its name, its millimetres, and its decimals. */
export interface ChartUnit {
  name: string;
  mm: number;
  decimals: number;
}
const CHART_UNITS: Record<UnitSystem, ChartUnit> = {
  mm: { name: 'millimetres', mm: 1, decimals: 1 },
  cm: { name: 'centimetres', mm: 10, decimals: 2 },
  m: { name: 'metres', mm: 1000, decimals: 4 },
  in: { name: 'inches', mm: 25.4, decimals: 2 },
  'ft-in': { name: 'inches', mm: 25.4, decimals: 2 },
  ft: { name: 'feet', mm: 304.8, decimals: 3 },
};
export const chartUnit = (units: UnitSystem): ChartUnit => CHART_UNITS[units];

const HEIGHT = 110;
/** An axis spans this much at least, millimetres: where all agree, what is left over is no figure. */
const LEAST_SPAN = 1;

/** What is left over of each known dimension, in order of their size, against the tolerance of the median one. */
export function ResidualChart({
  residuals,
  tolerance,
  unit,
}: {
  residuals: readonly Residual[];
  tolerance: number;
  unit: ChartUnit;
}) {
  const at = useRef<HTMLDivElement>(null);
  const palette = useSchemePalette();
  useEffect(() => {
    if (!at.current) return;
    const chart = init(at.current, null, { renderer: 'svg' });
    const soft = palette.text.secondary;
    const shown = (mm: number) => formatNumber(mm / unit.mm, unit.decimals),
      span = Math.max(LEAST_SPAN, tolerance, ...residuals.map((r) => Math.abs(r.millimetres))) / unit.mm;
    chart.setOption({
      animation: false,
      grid: { left: 34, right: 6, top: 8, bottom: 8 },
      tooltip: {
        trigger: 'item',
        confine: true,
        textStyle: { fontSize: 12 },
        formatter: ({ dataIndex: i }: { dataIndex: number }) =>
          `${residuals[i].label}: ${residuals[i].millimetres > 0 ? '+' : ''}${shown(residuals[i].millimetres)} ${unit.name}`,
      },
      xAxis: {
        type: 'category',
        data: residuals.map((r) => r.label),
        axisLabel: { show: false },
        axisTick: { show: false },
        axisLine: { lineStyle: { color: soft } },
      },
      yAxis: {
        type: 'value',
        min: -span,
        max: span,
        splitNumber: 2,
        axisLabel: { fontSize: 10, color: soft, formatter: (v: number) => formatNumber(v, unit.decimals) },
        splitLine: { lineStyle: { color: palette.edge } },
      },
      series: [
        {
          type: 'bar',
          barMaxWidth: 14,
          data: residuals.map((r) => ({
            value: r.millimetres / unit.mm,
            itemStyle: { color: r.within ? palette.known : palette.differs, opacity: r.fitted ? 1 : 0.45 },
          })),
          markArea: {
            silent: true,
            itemStyle: { color: palette.known, opacity: 0.09 },
            data: [[{ yAxis: -tolerance / unit.mm }, { yAxis: tolerance / unit.mm }]],
          },
        },
      ],
    });
    const sizes = new ResizeObserver(() => chart.resize());
    sizes.observe(at.current);
    return () => {
      sizes.disconnect();
      chart.dispose();
    };
  }, [residuals, tolerance, unit, palette]);
  return (
    <>
      <Typography variant="caption" color="text.secondary">
        Measured less printed, {unit.name}
      </Typography>
      <Box
        ref={at}
        role="img"
        aria-label={`Residuals of ${residuals.length} known dimensions in ${unit.name}: ${residuals.filter((r) => r.within).length} within tolerance`}
        sx={{ height: HEIGHT, width: '100%' }}
      />
    </>
  );
}
