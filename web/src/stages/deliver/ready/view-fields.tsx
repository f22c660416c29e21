'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { get, type PaperDrawing, type PaperView } from '@calque/core/model';
import { windowsOf, type LaidView } from '@calque/core/ready';
import { describeScale, parseScale } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { isImperial } from '@/project/views';
import { useTable } from '@/table/context';
import { FigureField } from '@/ui/figure-field';
import { WordsField } from '@/ui/words-field';
import { changeView, laidPart, removeView } from './changes';

interface Props {
  drawing: PaperDrawing;
  view: PaperView;
  /** Where it lies; null where it cannot be drawn. */
  laid: LaidView | null;
}

/** What of its plane or page a view shows, how large, and what stands below it. */
export function ViewFields({ drawing, view, laid }: Props) {
  const session = useSession(),
    imperial = useFromModel(isImperial),
    isUpright = useFromModel((model) => get(model, 'plane', view.planeId ?? '') !== null),
    change = (fields: Partial<PaperView>) => changeView(session, drawing, view.id, fields);
  return (
    <Box data-testid="view-fields" sx={{ display: 'grid', gap: 1.25, pt: 1 }}>
      <WordsField
        label="Caption"
        value={view.caption}
        mayBeEmpty
        onChange={(caption) => change({ caption })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <FigureField
          label="Scale"
          value={view.scale}
          shown={(v) => describeScale(v, imperial).text}
          read={(text) => {
            const parsed = parseScale(text);
            return parsed.ok ? parsed.factor : null;
          }}
          wrong={'Such as 1:50, 1/4" = 1\'-0".'}
          onChange={(scale) => change({ scale })}
        />
        {view.sheet ? (
          <PartOfPage view={view} onChange={change} />
        ) : (
          <PartOfPlane view={view} onChange={change} />
        )}
      </Box>
      {view.planeId && (
        <FormControlLabel
          control={
            <Checkbox checked={view.beneath} onChange={(e) => change({ beneath: e.target.checked })} />
          }
          label="with the sheets beneath"
        />
      )}
      {view.planeId && isUpright && (
        <FormControlLabel
          control={
            <Checkbox
              checked={view.building ?? false}
              onChange={(e) => change({ building: e.target.checked })}
            />
          }
          label="with the building as it is seen from there"
        />
      )}
      {laid === null && (
        <Typography color="warning.main" variant="caption">
          It cannot be drawn as it is.
        </Typography>
      )}
      <Box>
        <Button color="inherit" onClick={() => removeView(session, drawing, view.id)}>
          Take it off the paper
        </Button>
      </Box>
    </Box>
  );
}

interface PartProps {
  view: PaperView;
  onChange(fields: Partial<PaperView>): void;
}

function PartOfPlane({ view, onChange }: PartProps) {
  const model = useProject((s) => s.model),
    table = useTable(),
    planeId = view.planeId ?? '',
    { traced, sheets } = windowsOf(model, planeId),
    isShownNow = table.state.getState().planeId === planeId;
  const is = !view.window ? 'traced' : same(view.window, sheets) ? 'sheets' : 'part';
  const choose = (part: string) => {
    if (part === 'traced') onChange({ window: null });
    else if (part === 'sheets' && sheets) onChange({ window: [...sheets] });
    else if (part === 'now') onChange({ window: boxShown(table) });
  };
  return (
    <TextField select label="Shows" value={is} onChange={(e) => choose(e.target.value)}>
      <MenuItem value="traced" disabled={!traced && !sheets}>
        what is traced
      </MenuItem>
      <MenuItem value="sheets" disabled={!sheets}>
        the sheets whole
      </MenuItem>
      {is === 'part' && <MenuItem value="part">a part of it</MenuItem>}
      <MenuItem value="now" disabled={!isShownNow}>
        what the screen shows
      </MenuItem>
    </TextField>
  );
}

/** What of the plane the panels leave free on the screen. */
function boxShown(table: ReturnType<typeof useTable>): [number, number, number, number] {
  const { view, size, insets } = table.state.getState(),
    x = (px: number) => (px - view.x) / view.scale,
    y = (px: number) => (view.y - px) / view.scale;
  return [x(insets.left), y(size.height - insets.bottom), x(size.width - insets.right), y(insets.top)];
}

const same = (a: readonly number[], b: readonly number[] | null) =>
  b !== null && a.every((v, i) => Math.abs(v - b[i]) < 1e-6);

function PartOfPage({ view, onChange }: PartProps) {
  const model = useProject((s) => s.model),
    files = useProject((s) => s.files),
    { fileId, page } = view.sheet!,
    sheet = files.find((f) => f.id === fileId)?.sheets.find((s) => s.page === page),
    whole: [number, number, number, number] | null = sheet ? [0, 0, sheet.width, sheet.height] : null,
    part = sheet ? laidPart(model, view.sheet!, [sheet.width, sheet.height]) : null,
    is = same(view.window ?? [], whole) && view.window ? 'whole' : 'part';
  return (
    <TextField
      select
      label="Shows"
      value={is}
      onChange={(e) => {
        const window = e.target.value === 'whole' ? whole : part;
        if (window) onChange({ window: [...window] });
      }}
    >
      <MenuItem value="whole" disabled={!whole}>
        the whole page
      </MenuItem>
      <MenuItem value="part" disabled={!part && is !== 'part'}>
        the part that is laid
      </MenuItem>
    </TextField>
  );
}

/** A view by its name, as a list shows it. */
export function useViewName(): (view: PaperView) => string {
  const model = useProject((s) => s.model),
    files = useProject((s) => s.files);
  return (view) => {
    if (view.caption !== '') return view.caption;
    if (view.sheet) {
      const file = files.find((f) => f.id === view.sheet!.fileId);
      return `${file?.name ?? 'a file that is gone'}, page ${view.sheet.page}`;
    }
    const plane = get(model, 'storey', view.planeId ?? '') ?? get(model, 'plane', view.planeId ?? '');
    return plane?.name ?? 'a plane that is gone';
  };
}
