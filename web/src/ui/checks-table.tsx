'use client';

import Button from '@mui/material/Button';
import MuiTable from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { evaluateCheck } from '@calque/core/calibration';
import { applyTransform, boxOfPoints } from '@calque/core/geometry';
import { get, type Check } from '@calque/core/model';
import { formatLength, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';

/** Known dimensions held against their sheets: printed, measured, difference in length and percent. */
export function ChecksTable({ checks }: { checks: readonly Check[] }) {
  const session = useSession();
  const table = useTable();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const right = { textAlign: 'right' } as const;
  return (
    <MuiTable size="small" aria-label="Known dimensions">
      <TableHead>
        <TableRow><TableCell>Printed</TableCell><TableCell sx={right}>measured</TableCell><TableCell sx={right}>differs</TableCell><TableCell sx={right}>%</TableCell><TableCell /></TableRow>
      </TableHead>
      <TableBody>
        {checks.map((c) => {
          const u = get(model, 'underlay', c.underlayId);
          if (!u) return null;
          const r = evaluateCheck(u.placement, c.from, c.to, c.printed);
          const find = () => {
            const [x0, y0, x1, y1] = boxOfPoints([applyTransform(u.placement, c.from), applyTransform(u.placement, c.to)]);
            const margin = 0.4 * Math.max(x1 - x0, y1 - y0);
            table.show([x0 - margin, y0 - margin, x1 + margin, y1 + margin]);
          };
          const sign = (v: number, text: string) => (v > 0 && !/^0([.]0*)?$/.test(text) ? `+${text}` : text);
          return (
            <TableRow key={c.id} sx={{ '& td': { color: r.agrees ? undefined : 'differs' } }}>
              <TableCell sx={{ whiteSpace: 'nowrap' }}>{r.agrees ? '' : '≠ '}{formatLength(c.printed, style)}</TableCell>
              <TableCell sx={right}>{formatLength(r.measured, style)}</TableCell>
              <TableCell sx={right}>{sign(r.difference, formatLength(r.difference, style))}</TableCell>
              <TableCell sx={right}>{sign(r.percent, formatNumber(r.percent, 2))}</TableCell>
              <TableCell sx={{ ...right, whiteSpace: 'nowrap' }}>
                <Button onClick={find} aria-label="Find on the drawing" sx={{ px: 0.5, fontSize: 12 }}>Find</Button>
                <Button onClick={() => session.do({ type: 'remove', entity: c }, 'Remove a known dimension')} aria-label="Remove this known dimension" sx={{ px: 0.5, fontSize: 12 }}>Remove</Button>
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </MuiTable>
  );
}
