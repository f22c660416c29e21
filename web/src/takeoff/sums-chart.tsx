'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { BarChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { WINDS, type CountedTable } from '@calque/core/takeoff';
import { formatArea, type LengthStyle } from '@calque/core/units';
import { useSchemePalette } from '@/ui/scheme-palette';

register([BarChart, GridComponent, TooltipComponent, SVGRenderer]);

/** Most bars that can be told from one another. */
const MOST = 14;

interface Bars {
  title: string;
  /** Square metres. */
  bars: { name: string; value: number }[];
}

const at = (table: CountedTable, head: string) => table.columns.findIndex((c) => c.head === head);

/** What of a table is looked at rather than read: areas of rooms, glazing by the winds; null for the others. */
export function barsOf(table: CountedTable): Bars | null {
  if (table.id === 'rooms') {
    const [name, area] = [at(table, 'room'), at(table, 'area')];
    const bars = table.rows
      .map((r) => ({ name: String(r.cells[name]), value: Number(r.cells[area]) }))
      .sort((a, b) => b.value - a.value);
    const shown = bars.slice(0, MOST);
    return {
      title: shown.length < bars.length ? `The ${MOST} largest rooms` : 'Areas of the rooms',
      bars: shown,
    };
  }
  if (table.id !== 'sides') return null;
  const [facing, glazing] = [at(table, 'facing'), at(table, 'glazing')];
  const bars = WINDS.map((wind) => ({
    name: wind,
    value: table.rows
      .filter((r) => r.cells[facing] === wind)
      .reduce((sum, r) => sum + Number(r.cells[glazing]), 0),
  }));
  return bars.some((b) => b.value > 0) ? { title: 'Glazing by facing', bars } : null;
}

/** Sums as bars, with their figures. */
export function SumsChart({ title, bars, style }: Bars & { style: LengthStyle }) {
  const host = useRef<HTMLDivElement>(null);
  const palette = useSchemePalette();
  useEffect(() => {
    if (!host.current) return;
    const chart = init(host.current, null, { renderer: 'svg' }),
      words = (v: number) => formatArea(v * 1e6, style.units);
    chart.setOption({
      animation: false,
      grid: { left: 110, right: 70, top: 4, bottom: 4 },
      tooltip: { trigger: 'item', confine: true },
      xAxis: { type: 'value', show: false },
      yAxis: {
        type: 'category',
        inverse: true,
        data: bars.map((b) => b.name),
        axisTick: { show: false },
        axisLine: { show: false },
        axisLabel: { color: palette.text.primary, width: 100, overflow: 'truncate', fontSize: 12 },
      },
      series: [
        {
          type: 'bar',
          barMaxWidth: 16,
          itemStyle: { color: palette.known },
          label: {
            show: true,
            position: 'right',
            color: palette.text.primary,
            fontSize: 12,
            formatter: ({ value }: { value: number }) => (value > 0 ? words(value) : ''),
          },
          data: bars.map((b) => b.value),
        },
      ],
    });
    const sizes = new ResizeObserver(() => chart.resize());
    sizes.observe(host.current);
    return () => {
      sizes.disconnect();
      chart.dispose();
    };
  }, [bars, style, palette]);
  const words = bars.map((b) => `${b.name} ${formatArea(b.value * 1e6, style.units)}`).join(', ');
  return (
    <Box sx={{ width: 330, flex: '0 0 auto', overflowY: 'auto' }}>
      <Typography variant="h3">{title}</Typography>
      <Box ref={host} role="img" aria-label={`${title}: ${words}`} sx={{ height: 24 + bars.length * 22 }} />
    </Box>
  );
}
