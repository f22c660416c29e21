import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { boxOfPoints } from '@calque/core/geometry';
import type { ReferredSheet } from '@calque/core/linework';
import {
  group,
  ofType,
  PLAIN_LOOK,
  storedTransform,
  type Change,
  type Model,
  type Pair,
  type Underlay,
} from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import { boxOfUnderlay } from '@/project/views';
import type { FileInfo, SheetInfo } from '@/project/wire';
import { useTable, useTableState } from '@/table/context';

/** Names of files are compared as people type them: whatever the case, with or without the ending. */
const plainName = (name: string) => name.toLowerCase().replace(/\.[a-z0-9]{1,5}$/, '');
const fileNamed = (files: readonly FileInfo[], name: string): FileInfo | null =>
  files.find((f) => f.kind === 'pdf' && f.name.toLowerCase() === name.toLowerCase()) ??
  files.find((f) => f.kind === 'pdf' && plainName(f.name) === plainName(name)) ??
  null;

/** How it stands with a file that is attached under its name. */
const statusWords = (f: FileInfo): string =>
  f.status === 'ready'
    ? 'attached'
    : f.status === 'waiting' || f.status === 'reading'
      ? 'being read'
      : 'attached, but it cannot be read: see there';
const ALIKE = 1e-6;
/** Does a sheet lie there already, on this storey? */
const liesThere = (model: Model, planeId: string, { sheet, file }: Found): boolean =>
  ofType(model, 'underlay').some(
    (u) =>
      u.planeId === planeId &&
      u.fileId === file.id &&
      u.page === sheet.page &&
      u.placement.every((v, i) => Math.abs(v - sheet.placement[i]) <= ALIKE * (1 + Math.abs(v))),
  );

interface Found {
  sheet: ReferredSheet;
  file: FileInfo;
  page: SheetInfo;
}

/** The sheets that a drawing lays under itself: which files it asks for, and one press to lay them as they lie there. */
export function ReferredSheets({ drawing }: { drawing: FileInfo }) {
  const session = useSession(),
    table = useTable();
  const files = useProject((s) => s.files),
    model = useProject((s) => s.model),
    planeId = useTableState((s) => s.planeId);
  const sheets = drawing.sheets.flatMap((s) => s.reference?.sheets ?? []);
  if (sheets.length === 0) return null;
  const names = [...new Set(sheets.map((s) => s.file))];
  const found = sheets.flatMap((sheet): Found[] => {
    const file = fileNamed(files, sheet.file),
      page = file?.sheets.find((s) => s.page === sheet.page);
    return file && page ? [{ sheet, file, page }] : [];
  });
  const open = found.filter((f) => !liesThere(model, planeId, f));
  const missing = names.filter((name) => !fileNamed(files, name));
  const lay = () => {
    let order = Math.max(0, ...ofType(session.state.model, 'underlay').map((u) => u.order));
    const laid = open.map(({ sheet, file, page }): Underlay => ({
      ...underlayOf(sheet, file, page),
      planeId,
      order: ++order,
    }));
    if (
      !session.do(
        group(laid.map((entity): Change => ({ type: 'add', entity }))),
        `Lay ${laid.length === 1 ? 'a sheet' : `${laid.length} sheets`} as in ${drawing.name}`.slice(0, 190),
      )
    )
      return;
    table.setUnderlay(laid[0].id);
    table.show(boxOfUnderlay(laid[0]));
  };
  return (
    <Box
      data-testid="referred-sheets"
      sx={{
        mt: 0.75,
        p: 1.25,
        bgcolor: 'knownWash',
        borderLeft: 4,
        borderColor: missing.length > 0 ? 'assumed' : 'known',
      }}
    >
      <Typography sx={{ fontWeight: 650 }}>
        This drawing lies over {sheets.length === 1 ? 'a sheet' : `${sheets.length} sheets`} of{' '}
        {names.length === 1 ? 'a PDF' : `${names.length} PDFs`}
      </Typography>
      {names.map((name) => {
        const file = fileNamed(files, name),
          pages = [...new Set(sheets.filter((s) => s.file === name).map((s) => s.page))];
        const gone =
          file?.status === 'ready' ? pages.filter((p) => !file.sheets.some((s) => s.page === p)) : [];
        return (
          <Typography key={name} sx={{ color: file ? undefined : 'assumed' }}>
            {name}, {pages.length === 1 ? `page ${pages[0]}` : `pages ${pages.join(', ')}`}:{' '}
            {!file ? 'not attached' : gone.length > 0 ? `has no page ${gone.join(', ')}` : statusWords(file)}
          </Typography>
        );
      })}
      {missing.length > 0 && (
        <Typography color="text.secondary">
          Attach {missing.length === 1 ? missing[0] : 'the missing files'} above to lay{' '}
          {missing.length === 1 ? 'it' : 'them'} as here.
        </Typography>
      )}
      <Button variant="contained" disabled={open.length === 0} onClick={lay} sx={{ mt: 0.5 }}>
        {layWords(found.length, open.length, sheets.length)}
      </Button>
    </Box>
  );
}

/** The page as the drawing has it: its scale is what the drawing says, not checked. */
function underlayOf(
  { placement, ring, on }: ReferredSheet,
  file: FileInfo,
  page: SheetInfo,
): Omit<Underlay, 'planeId' | 'order'> {
  const whole: Underlay['crop'] = [0, 0, page.width, page.height];
  const [x0, y0, x1, y1] = ring ? boxOfPoints(ring) : whole;
  const crop: Underlay['crop'] = [
    Math.max(0, x0),
    Math.max(0, y0),
    Math.min(page.width, x1),
    Math.min(page.height, y1),
  ];
  const fits = crop[2] > crop[0] && crop[3] > crop[1];
  const isBox =
    !ring || (ring.length === 4 && ring.every(([x, y]) => (x === x0 || x === x1) && (y === y0 || y === y1)));
  return {
    type: 'underlay',
    id: crypto.randomUUID(),
    name: `${file.name.replace(/\.[A-Za-z0-9]{2,5}$/, '')}${file.pages > 1 ? `, page ${page.page}` : ''}`.slice(
      0,
      200,
    ),
    fileId: file.id,
    page: page.page,
    crop: fits ? crop : whole,
    placement: storedTransform(placement),
    scaleState: 'stated',
    calibration: null,
    visible: on,
    fade: 0,
    locked: false,
    snap: true,
    outline: fits && !isBox ? ring!.map(([x, y]): Pair => [x, y]) : null,
    former: null,
    look: PLAIN_LOOK,
  };
}

/** What the button does: lays those of the sheets that were found and do not lie there yet. */
function layWords(found: number, open: number, all: number): string {
  if (found > 0 && open === 0) return found === 1 ? 'It lies there already' : 'They lie there already';
  if (open < all && open > 0) return `Lay ${open} of ${all} as they lie there`;
  return all === 1 ? 'Lay it as it lies there' : 'Lay them as they lie there';
}
