'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { DataGrid, type GridColDef } from '@mui/x-data-grid';
import { useEffect, useMemo, useState } from 'react';
import { writeTableCsv } from '@calque/core/exchange';
import { settingsOf } from '@calque/core/model';
import type { CountedTable } from '@calque/core/takeoff';
import type { LengthStyle } from '@calque/core/units';
import { makeOfBuilding } from '@/project/building-task';
import { useFromModel, useProject } from '@/project/context';
import { useDelivered } from '@/project/delivered';
import { lengthStyle } from '@/project/views';
import { saveText } from '@/ui/save-text';
import { cellWords, headWords } from './figures';
import { BarsPicture } from './bars-picture';
import { barsOf, SumsChart } from './sums-chart';

interface Props {
  /** Room that lies below it, CSS pixels. */
  bottom: number;
  /** Shows elements on the drawing, where they lie. */
  onShow(ids: readonly string[]): void;
  onClose(): void;
}

/** What is counted, made by a worker whenever the model has become another; what was counted before stays meanwhile. */
function useTables(): { tables: readonly CountedTable[] | null; why: string | null; counting: boolean } {
  const model = useProject((s) => s.model);
  const [state, setState] = useState<{
    tables: readonly CountedTable[] | null;
    why: string | null;
    of: unknown;
  }>({
    tables: null,
    why: null,
    of: null,
  });
  useEffect(() => {
    const task = makeOfBuilding(
      model,
      { make: 'tables' },
      {
        onEnd: (end) => {
          if ('done' in end) setState({ tables: end.done.tables ?? [], why: null, of: model });
          else if (end.error.name !== 'Stopped')
            setState((s) => ({ tables: s.tables, why: end.error.message, of: model }));
        },
      },
    );
    return () => task.stop();
  }, [model]);
  return { tables: state.tables, why: state.why, counting: state.of !== model };
}

/** The takeoff in tables below the drawing: sorted, filtered, each row shown where it lies. */
export function TakeoffView({ bottom, onShow, onClose }: Props) {
  const { tables, why, counting } = useTables();
  const style = useFromModel(lengthStyle);
  const { name } = useFromModel(settingsOf);
  const [open, setOpen] = useState<CountedTable['id']>('rooms');
  const table = tables?.find((t) => t.id === open) ?? null;
  const bars = useMemo(() => table && barsOf(table), [table]);
  return (
    <Box
      component="section"
      aria-label="Takeoff"
      onKeyDown={(e) => {
        if (e.key === 'Escape' && !e.defaultPrevented) onClose();
        // Letters typed into filters are no commands.
        if (!e.ctrlKey && !e.metaKey && e.key !== 'Tab') e.stopPropagation();
      }}
      sx={{
        position: 'absolute',
        inset: `auto 0 ${bottom}px 0`,
        height: '46%',
        bgcolor: 'slip',
        borderTop: 1,
        borderColor: 'edge',
        boxShadow: '0 -4px 18px rgba(23,39,58,.12)',
        zIndex: 6,
        display: 'flex',
        flexDirection: 'column',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 1.5, py: 0.5 }}>
        <Typography variant="h2" sx={{ mr: 1 }}>
          Takeoff
        </Typography>
        <Box role="tablist" aria-label="Tables" sx={{ display: 'flex', flex: 1, overflowX: 'auto' }}>
          {tables?.map((t) => (
            <ButtonBase
              key={t.id}
              role="tab"
              aria-selected={t.id === open}
              disabled={t.rows.length === 0}
              onClick={() => setOpen(t.id)}
              sx={{
                px: 1,
                height: 36,
                whiteSpace: 'nowrap',
                fontSize: 13.5,
                fontWeight: 650,
                color: t.rows.length === 0 ? 'text.disabled' : 'text.primary',
                borderBottom: 3,
                borderColor: t.id === open ? 'now' : 'transparent',
              }}
            >
              {t.name} {t.rows.length > 0 && t.rows.length}
            </ButtonBase>
          ))}
        </Box>
        <Button
          variant="outlined"
          disabled={!table || table.rows.length === 0}
          onClick={() => {
            saveText(
              `${name} ${table!.name.toLowerCase()}.csv`,
              writeTableCsv(table!, style.units),
              'text/csv',
            );
            useDelivered.getState().again();
          }}
        >
          This table as CSV
        </Button>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </Box>
      <Typography role="status" color="text.secondary" sx={{ px: 1.5, minHeight: 20 }}>
        {why ?? hint(table, counting)}
      </Typography>
      <Box sx={{ flex: 1, minHeight: 0, display: 'flex', gap: 2, px: 1.5, pb: 1 }}>
        {table && table.rows.length > 0 && <Grid table={table} style={style} onShow={onShow} />}
        {table?.id === 'stock' && <BarsPicture table={table} style={style} />}
        {bars && table && table.rows.length > 0 && <SumsChart {...bars} style={style} />}
      </Box>
    </Box>
  );
}

function hint(table: CountedTable | null, counting: boolean): string {
  if (counting) return 'It is being counted …';
  if (!table || table.rows.length > 0) return 'Press a row to see on the drawing what it counts.';
  return table.id === 'rooms'
    ? 'No rooms: the walls enclose nothing yet.'
    : 'Nothing of this kind is there yet: what you draw is counted here.';
}

/** About the width of a letter in the head of a column, CSS pixels. */
const LETTER = 7.2;

function Grid({
  table,
  style,
  onShow,
}: {
  table: CountedTable;
  style: LengthStyle;
  onShow: Props['onShow'];
}) {
  const columns = useMemo(
    () =>
      table.columns.map((c, i): GridColDef => ({
        field: String(i),
        headerName: headWords(c.head, c.kind, style),
        type: c.kind === 'text' ? 'string' : 'number',
        flex: c.kind === 'text' ? 1.4 : 1,
        minWidth: Math.max(
          c.kind === 'text' ? 118 : 84,
          LETTER * headWords(c.head, c.kind, style).length + 28,
        ),
        valueFormatter: (value: string | number | null) => cellWords(value, c.kind, style),
      })),
    [table, style],
  );
  const rows = useMemo(
    () => table.rows.map((r, i) => ({ id: i, ...Object.fromEntries(r.cells.map((v, k) => [String(k), v])) })),
    [table],
  );
  return (
    <DataGrid
      key={table.id}
      aria-label={table.name}
      density="compact"
      rows={rows}
      columns={columns}
      hideFooter={rows.length <= 100}
      disableColumnSelector
      onRowClick={({ id }) => {
        const { ids } = table.rows[Number(id)];
        if (ids.length > 0) onShow(ids);
      }}
      sx={{ flex: 1, minWidth: 0, border: 0, '& .MuiDataGrid-row': { cursor: 'pointer' } }}
    />
  );
}
