'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MuiTable from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useState } from 'react';
import { tracedLength } from '@calque/core/building';
import { applyTransform, boxOfPoints } from '@calque/core/geometry';
import { get, type Check } from '@calque/core/model';
import { formatLength, formatNumber } from '@calque/core/units';
import { useFromModel, useProject } from '@/project/context';
import { checked, isFitted } from '@/project/known';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';

/** Rows that are shown before more are asked for. */
const ROWS = 12;
const ORIGIN_WORDS = { picked: '', read: 'read', recognised: 'recognised', assumed: 'assumed' };

interface Props {
  checks: readonly Check[];
  /** Turns one from fitted to check and back; without it they are shown alone. */
  onUse?(check: Check): void;
  onRemove(check: Check): void;
}

/** Known dimensions held against their sheets, and against what was traced: printed, measured, difference in length and percent, those that differ first. */
export function ChecksTable({ checks, onUse, onRemove }: Props) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const [all, setAll] = useState(false);
  const right = { textAlign: 'right' } as const;
  const sign = (v: number, text: string) => (v > 0 && !/^0([.]0*)?$/.test(text) ? `+${text}` : text);
  const rows = checks.flatMap((check) => {
    const u = get(model, 'underlay', check.underlayId);
    return u ? [{ check, u, result: checked(u, check) }] : [];
  });
  const ordered =
    rows.length > ROWS
      ? [...rows].sort((a, b) => Math.abs(b.result.percent) - Math.abs(a.result.percent))
      : rows;
  const shown = all ? ordered : ordered.slice(0, ROWS);
  return (
    <>
      <MuiTable size="small" aria-label="Known dimensions" sx={{ '& td, & th': { px: 0.5 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Printed</TableCell>
            <TableCell sx={right}>measured</TableCell>
            <TableCell sx={right}>differs</TableCell>
            <TableCell sx={right}>%</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {shown.map(({ check: c, u, result: r }) => {
            const ends = [applyTransform(u.placement, c.from), applyTransform(u.placement, c.to)] as const;
            const find = () => {
              const [x0, y0, x1, y1] = boxOfPoints(ends);
              const margin = 0.4 * Math.max(x1 - x0, y1 - y0);
              table.show([x0 - margin, y0 - margin, x1 + margin, y1 + margin]);
            };
            const traced = tracedLength(model, u.planeId, ...ends);
            const share = Math.min(1, Math.abs(r.difference) / Math.max(r.allowed, 1e-9));
            const words = [
              c.origin && ORIGIN_WORDS[c.origin],
              traced !== null && `traced ${formatLength(traced, style)}`,
            ]
              .filter(Boolean)
              .join(' · ');
            return [
              <TableRow
                key={c.id}
                sx={{ '& td': { color: r.agrees ? undefined : 'differs', borderBottom: 0, pb: 0 } }}
              >
                <TableCell sx={{ whiteSpace: 'nowrap' }}>
                  {r.agrees ? '' : '≠ '}
                  {formatLength(c.printed, style)}
                </TableCell>
                <TableCell sx={right}>{formatLength(r.measured, style)}</TableCell>
                <TableCell sx={right}>{sign(r.difference, formatLength(r.difference, style))}</TableCell>
                <TableCell sx={right}>{sign(r.percent, formatNumber(r.percent, 2))}</TableCell>
              </TableRow>,
              <TableRow key={`${c.id}:more`}>
                <TableCell colSpan={4} sx={{ pt: 0 }}>
                  <Box aria-hidden sx={{ height: 3, bgcolor: 'edge', mb: 0.25 }}>
                    <Box
                      sx={{ height: 3, width: `${share * 100}%`, bgcolor: r.agrees ? 'known' : 'differs' }}
                    />
                  </Box>
                  <Box sx={{ display: 'flex', alignItems: 'center' }}>
                    {onUse && (
                      <Button
                        onClick={() => onUse(c)}
                        aria-pressed={isFitted(c)}
                        disabled={u.locked}
                        sx={{
                          px: 0.5,
                          py: 0,
                          fontSize: 12,
                          fontWeight: isFitted(c) ? 650 : 500,
                          color: isFitted(c) ? 'known' : 'text.secondary',
                        }}
                      >
                        {isFitted(c) ? 'Fitted: leave out' : 'Check: fit to it'}
                      </Button>
                    )}
                    <Box
                      component="span"
                      sx={{
                        flex: 1,
                        fontSize: 11.5,
                        color: c.origin === 'assumed' ? 'assumed' : 'text.secondary',
                        px: 0.5,
                      }}
                    >
                      {words}
                    </Box>
                    <Button
                      onClick={find}
                      aria-label="Find on the drawing"
                      sx={{ px: 0.5, py: 0, fontSize: 12 }}
                    >
                      Find
                    </Button>
                    <Button
                      onClick={() => onRemove(c)}
                      disabled={isFitted(c) && (u.locked || !onUse)}
                      aria-label="Remove this known dimension"
                      sx={{ px: 0.5, py: 0, fontSize: 12 }}
                    >
                      Remove
                    </Button>
                  </Box>
                </TableCell>
              </TableRow>,
            ];
          })}
        </TableBody>
      </MuiTable>
      {rows.length > ROWS && (
        <Button onClick={() => setAll(!all)}>
          {all ? `Show the ${ROWS} that differ most` : `Show all ${rows.length}`}
        </Button>
      )}
    </>
  );
}
