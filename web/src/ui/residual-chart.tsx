'use client';

import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { BarChart } from 'echarts/charts';
import { GridComponent, MarkAreaComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

register([BarChart, GridComponent, MarkAreaComponent, TooltipComponent, SVGRenderer]);

export interface Residual { label: string; /** Measured less true, millimetres. */ millimetres: number; within: boolean; fitted: boolean }

const HEIGHT = 110;

/** What is left over of each known dimension, in order of their size, against the tolerance of the median one. */
export function ResidualChart({ residuals, tolerance }: { residuals: readonly Residual[]; tolerance: number }) {
  const at = useRef<HTMLDivElement>(null);
  const { palette } = useTheme();
  useEffect(() => {
    if (!at.current) return;
    const chart = init(at.current, null, { renderer: 'svg' });
    const soft = palette.text.secondary;
    chart.setOption({
      animation: false,
      grid: { left: 34, right: 6, top: 8, bottom: 8 },
      tooltip: { trigger: 'item', confine: true, textStyle: { fontSize: 12 }, formatter: ({ dataIndex: i }: { dataIndex: number }) => `${residuals[i].label}: ${residuals[i].millimetres > 0 ? '+' : ''}${residuals[i].millimetres.toFixed(1)} mm` },
      xAxis: { type: 'category', data: residuals.map((r) => r.label), axisLabel: { show: false }, axisTick: { show: false }, axisLine: { lineStyle: { color: soft } } },
      yAxis: { type: 'value', axisLabel: { fontSize: 10, color: soft }, splitLine: { lineStyle: { color: palette.edge } } },
      series: [{
        type: 'bar', barMaxWidth: 14,
        data: residuals.map((r) => ({ value: r.millimetres, itemStyle: { color: r.within ? palette.known : palette.differs, opacity: r.fitted ? 1 : 0.45 } })),
        markArea: { silent: true, itemStyle: { color: palette.known, opacity: 0.09 }, data: [[{ yAxis: -tolerance }, { yAxis: tolerance }]] },
      }],
    });
    const sizes = new ResizeObserver(() => chart.resize());
    sizes.observe(at.current);
    return () => {
      sizes.disconnect();
      chart.dispose();
    };
  }, [residuals, tolerance, palette]);
  return (
    <>
      <Typography variant="caption" color="text.secondary">Measured less printed, millimetres</Typography>
      <Box ref={at} role="img" aria-label={`Residuals of ${residuals.length} known dimensions in millimetres: ${residuals.filter((r) => r.within).length} within tolerance`} sx={{ height: HEIGHT, width: '100%' }} />
    </>
  );
}
