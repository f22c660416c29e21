'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { BarChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { setFields, type Part } from '@calque/core/model';
import { costOf, RATE_WORDS, ratesOf, type Cost, type RateName } from '@calque/core/part';
import { formatNumber } from '@calque/core/units';
import { useSession } from '@/project/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { CountField } from './forms/fields';
import { usePartSolid } from './part-solid';
import { Unfold } from './unfold';
import { useSchemePalette } from '@/ui/scheme-palette';

register([BarChart, GridComponent, TooltipComponent, SVGRenderer]);

const MOST_PIECES = 1e6;
const readRate = (text: string): number | null => {
  const v = Number(text.replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(v) && v >= 0 && v <= 1e9 ? v : null;
};
const plain = (v: number) => formatNumber(v, 2).replace(/\.?0+$/, '');

/** What the part may cost: an estimate from rates that a person says, line by line. */
export function CostCard({ part }: { part: Part }) {
  const session = useSession(),
    solid = usePartSolid((s) => s.solid);
  if (!solid) return null;
  const cost = costOf(part, solid),
    { rates } = ratesOf(part),
    set = (fields: Partial<Part>, label: string) => session.do(setFields<Part>(part, fields), label);
  return (
    <Box sx={{ mt: 1.5 }} data-testid="part-cost">
      <Typography variant="h3">What it may cost</Typography>
      <Typography>
        An estimate: <b data-testid="part-cost-each">{formatNumber(cost.each, 2)}</b> each,{' '}
        {formatNumber(cost.all, 2)} for {part.pieces}
      </Typography>
      {cost.guessed.length > 0 && (
        <Typography sx={{ color: 'assumed' }}>
          {cost.guessed.length} of its rates are first guesses: say your own below.
        </Typography>
      )}
      <Lines cost={cost} />
      <Box component="dl" sx={{ my: 0.5, '& dt': { float: 'right' }, '& dd': { m: 0, mb: 0.25 } }}>
        {cost.lines.map((l) => (
          <Box key={l.what}>
            <dt>{formatNumber(l.amount, 2)}</dt>
            <dd>
              {l.what}{' '}
              <Typography variant="caption" color="text.secondary">
                {l.words}
              </Typography>
            </dd>
          </Box>
        ))}
      </Box>
      <Unfold words="Rates and pieces">
        <Box sx={{ ...TWO_COLUMNS, mt: 1 }}>
          <CountField
            label="Pieces"
            value={part.pieces}
            most={MOST_PIECES}
            onChange={(pieces) => set({ pieces }, `${pieces} pieces`)}
          />
          {(Object.keys(RATE_WORDS) as RateName[]).map((name) => (
            <FigureField
              key={name}
              label={`${RATE_WORDS[name]}${cost.guessed.includes(name) ? ' (guess)' : ''}`}
              value={rates[name]}
              shown={plain}
              read={readRate}
              wrong="A figure of 0 or more"
              onChange={(v) =>
                set({ rates: { ...part.rates, [name]: v } }, `Rate: ${RATE_WORDS[name].toLowerCase()}`)
              }
            />
          ))}
        </Box>
      </Unfold>
    </Box>
  );
}

const HEIGHT = 110;

/** The lines of an estimate as bars. */
function Lines({ cost }: { cost: Cost }) {
  const host = useRef<HTMLDivElement>(null),
    palette = useSchemePalette();
  useEffect(() => {
    if (!host.current) return;
    const chart = init(host.current, null, { renderer: 'svg' });
    chart.setOption({
      animation: false,
      grid: { left: 62, right: 12, top: 4, bottom: 18 },
      tooltip: { trigger: 'item', valueFormatter: (v: unknown) => formatNumber(Number(v), 2) },
      xAxis: {
        type: 'value',
        axisLabel: { color: palette.text.secondary, fontSize: 10 },
        splitNumber: 3,
        splitLine: { lineStyle: { color: palette.edge } },
      },
      yAxis: {
        type: 'category',
        inverse: true,
        data: cost.lines.map((l) => l.what),
        axisLabel: { color: palette.text.primary, fontSize: 11 },
        axisTick: { show: false },
        axisLine: { lineStyle: { color: palette.edge } },
      },
      series: [
        {
          type: 'bar',
          data: cost.lines.map((l) => l.amount),
          barWidth: 10,
          itemStyle: { color: palette.text.secondary },
        },
      ],
    });
    return () => chart.dispose();
  }, [cost, palette]);
  return (
    <Box
      ref={host}
      role="img"
      aria-label={`Estimate: ${cost.lines.map((l) => `${l.what} ${formatNumber(l.amount, 2)}`).join(', ')}`}
      sx={{ height: HEIGHT, width: '100%' }}
    />
  );
}
