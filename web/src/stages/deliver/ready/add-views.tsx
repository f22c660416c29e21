'use client';

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { get, ofType, storeysOf, type PaperDrawing } from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import { nameOfSheet } from '@/project/sheet-names';
import { addView, laidPart, viewOfPage, viewOfPlane } from './changes';

/** Puts another plane, or a page of a file, on the paper. */
export function AddViews({ drawing, onAdd }: { drawing: PaperDrawing; onAdd(viewId: string): void }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    planes = [...storeysOf(model), ...ofType(model, 'plane')];
  const [why, setWhy] = useState<string | null>(null);
  const addPlane = (id: string) => {
    const plane = get(model, 'storey', id) ?? get(model, 'plane', id),
      view = plane && viewOfPlane(model, drawing, plane);
    setWhy(
      plane && !view ? `There is nothing to draw of ${plane.name} yet: trace on it, or lay a sheet.` : null,
    );
    if (view && addView(session, drawing, view)) onAdd(view.id);
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.25, pt: 0.5 }}>
      <TextField select label="Add a storey or plane" value="" onChange={(e) => addPlane(e.target.value)}>
        {planes.map((p) => (
          <MenuItem key={p.id} value={p.id}>
            {p.name}
          </MenuItem>
        ))}
      </TextField>
      <PageChoice drawing={drawing} onAdd={onAdd} />
      {why && (
        <Typography role="status" variant="caption" color="text.secondary">
          {why}
        </Typography>
      )}
    </Box>
  );
}

/** Pages of all files, found by their number, title or file; a project may have thousands. */
function PageChoice({ drawing, onAdd }: { drawing: PaperDrawing; onAdd(viewId: string): void }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    files = useProject((s) => s.files);
  const pages = useMemo(
    () =>
      files.flatMap((f) =>
        f.sheets.map((s) => {
          const { number, title } = nameOfSheet(model, s),
            named = [number, title].filter((t) => t !== '').join(' ');
          return {
            sheet: s,
            key: `${f.id}/${s.page}`,
            label: `${named || f.name}, page ${s.page}`,
            caption: named,
          };
        }),
      ),
    [files, model],
  );
  return (
    <Autocomplete
      options={pages}
      value={null}
      blurOnSelect
      getOptionKey={(p) => p.key}
      getOptionLabel={(p) => p.label}
      noOptionsText="No page of that name"
      renderInput={(params) => <TextField {...params} label="Add a page as it is" />}
      onChange={(_, page) => {
        if (!page) return;
        const { fileId, page: number, width, height } = page.sheet,
          of = { fileId, page: number },
          view = viewOfPage(
            model,
            drawing,
            of,
            laidPart(model, of, [width, height]) ?? [0, 0, width, height],
            page.caption,
          );
        if (addView(session, drawing, view)) onAdd(view.id);
      }}
    />
  );
}
