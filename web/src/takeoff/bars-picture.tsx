'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { SAW, type Bar, type CountedTable } from '@calque/core/takeoff';
import { formatLength, formatLengthWithUnit, type LengthStyle } from '@calque/core/units';
import { useSchemePalette } from '@/ui/scheme-palette';

/** Height of a bar, the room for it with its words, and the width of the longest, CSS pixels. */
const BAR = 16,
  ROW = 34,
  WIDTH = 380;
/** About the width of a figure, CSS pixels. */
const LETTER = 6.4;
/** More ways of cutting than are looked at. */
const MOST = 60;

/** Bars that are cut alike, and how many. */
interface Way {
  section: string;
  bar: Bar;
  count: number;
}

function waysOf(table: CountedTable): Way[] {
  const at = table.columns.findIndex((c) => c.head === 'section'),
    ways = new Map<string, Way>();
  for (const row of table.rows)
    for (const bar of row.bars ?? []) {
      const section = String(row.cells[at]),
        key = [section, bar.stock, ...bar.pieces.map((p) => Math.round(p * 10))].join(' '),
        known = ways.get(key);
      if (known) known.count++;
      else ways.set(key, { section, bar, count: 1 });
    }
  return [...ways.values()];
}

/** How pieces are laid into bars of stock: each way of cutting once, true to length, with what is left over. */
export function BarsPicture({ table, style }: { table: CountedTable; style: LengthStyle }) {
  const palette = useSchemePalette();
  const ways = useMemo(() => waysOf(table), [table]);
  if (ways.length === 0) return null;
  const longest = Math.max(...ways.map((w) => w.bar.stock)),
    shown = ways.slice(0, MOST),
    length = (mm: number) => formatLengthWithUnit(mm, style);
  return (
    <Box sx={{ width: WIDTH + 16, flex: '0 0 auto', overflowY: 'auto' }} data-testid="bars-picture">
      <Typography variant="h3">
        {shown.length < ways.length ? `How bars are cut: ${MOST} of ${ways.length} ways` : 'How bars are cut'}
      </Typography>
      {shown.map(({ section, bar, count }, i) => {
        const scale = WIDTH / longest;
        let at = 0;
        return (
          <Box
            key={i}
            component="svg"
            role="img"
            aria-label={`${count === 1 ? 'One bar' : `${count} bars`} of ${section}, ${length(bar.stock)}: ${bar.pieces.map(length).join(', ')}; ${length(bar.rest)} left over`}
            width={WIDTH + 2}
            height={ROW}
            sx={{ display: 'block' }}
          >
            <text x={0} y={11} fontSize={11.5} fill={palette.text.primary}>
              {`${count} × ${section}, ${length(bar.stock)}`}
            </text>
            <text x={WIDTH} y={11} fontSize={11.5} textAnchor="end" fill={palette.text.secondary}>
              {`${length(bar.rest)} left over`}
            </text>
            <rect
              x={0.5}
              y={15.5}
              width={bar.stock * scale}
              height={BAR}
              fill="none"
              stroke={palette.text.secondary}
              strokeDasharray="3 3"
            />
            {bar.pieces.map((piece, k) => {
              const x = at * scale,
                wide = piece * scale,
                words = formatLength(piece, style);
              at += piece + SAW;
              return (
                <g key={k}>
                  <rect
                    x={x + 0.5}
                    y={15.5}
                    width={Math.max(wide - 1, 1)}
                    height={BAR}
                    fill={palette.knownWash}
                    stroke={palette.known}
                  />
                  {wide > LETTER * words.length + 6 && (
                    <text
                      x={x + wide / 2}
                      y={27.5}
                      fontSize={11}
                      textAnchor="middle"
                      fill={palette.text.primary}
                    >
                      {words}
                    </text>
                  )}
                </g>
              );
            })}
          </Box>
        );
      })}
    </Box>
  );
}
