import { compose, type Box, type Point, type Transform } from '@calque/core/geometry';
import { lookOf, PLAIN_LOOK, type Underlay } from '@calque/core/model';
import type { LaidPaper, LaidView, SheetBeneath } from '@calque/core/ready';
import type { FileInfo } from '@/project/wire';
import type { Table } from '@/table/table';
import { pictureKey } from '@/workers/ready-protocol';

/** Pixels of a millimetre of paper in what is written: 200 to an inch. */
export const WRITTEN_FINENESS = 200 / 25.4;
/** A picture has no longer side than this, pixels. */
const MOST_PIXELS = 5000;
/** So long is waited for the last tile, milliseconds: what is there by then is taken. */
const LONGEST_WAIT = 20000,
  LOOK_AGAIN = 120;

/** Is a sheet shown otherwise than its file has it, or is its file one that no PDF can take over? It is put on paper as a picture then. */
export function needsPicture(u: Pick<Underlay, 'fileId' | 'look'>, files: readonly FileInfo[]): boolean {
  const file = files.find((f) => f.id === u.fileId),
    { switches, tint, linesOnly } = lookOf(u);
  return (
    !file ||
    file.kind !== 'pdf' ||
    file.encrypted ||
    tint !== null ||
    linesOnly ||
    JSON.stringify(switches) !== JSON.stringify(PLAIN_LOOK.switches)
  );
}

/** A page by itself, as if it lay on a plane of its own points. */
const asSheet = ({ page, window }: LaidView): SheetBeneath => ({
  underlay: {
    type: 'underlay',
    id: 'page',
    name: '',
    fileId: page!.fileId,
    page: page!.page,
    planeId: '',
    crop: [...window] as Underlay['crop'],
    placement: [1, 0, 0, 1, 0, 0],
    scaleState: 'paper',
    calibration: null,
    visible: true,
    fade: 0,
    locked: true,
    snap: false,
    order: 0,
  },
  ring: ringOf(window),
});

const ringOf = ([x0, y0, x1, y1]: Box): Point[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

/** Paints sheets of a view one over another; nothing where they have no ink. */
function painted(
  table: Table,
  view: LaidView,
  sheets: readonly SheetBeneath[],
  fineness: number,
): HTMLCanvasElement {
  const { window, unit } = view,
    whole = [(window[2] - window[0]) * unit, (window[3] - window[1]) * unit],
    perMillimetre = Math.min(fineness, MOST_PIXELS / Math.max(...whole)),
    k = unit * perMillimetre,
    out = canvasOf(whole[0] * perMillimetre, whole[1] * perMillimetre),
    onto = out.getContext('2d')!,
    fromPlane: Transform = [k, 0, 0, -k, -window[0] * k, window[3] * k];
  for (const { underlay, ring } of sheets) {
    const one = canvasOf(out.width, out.height),
      context = one.getContext('2d', { willReadFrequently: true })!;
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, one.width, one.height);
    context.beginPath();
    ring.forEach(([x, y], i) => {
      const [px, py] = [k * x + fromPlane[4], -k * y + fromPlane[5]];
      if (i === 0) context.moveTo(px, py);
      else context.lineTo(px, py);
    });
    context.clip();
    table.paintSheet(context, underlay, compose(fromPlane, underlay.placement), [
      0,
      0,
      one.width,
      one.height,
    ]);
    inkAlone(context, one);
    onto.globalAlpha = 1 - underlay.fade;
    onto.drawImage(one, 0, 0);
  }
  return out;
}

function canvasOf(width: number, height: number): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(width));
  canvas.height = Math.max(1, Math.round(height));
  return canvas;
}

/** White becomes nothing, what is darker as opaque as it is dark: what lies below shows through, as through tracing paper. */
function inkAlone(context: CanvasRenderingContext2D, { width, height }: HTMLCanvasElement): void {
  const picture = context.getImageData(0, 0, width, height),
    { data } = picture;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = 255 - Math.min(data[i], data[i + 1], data[i + 2]);
    if (alpha === 0) {
      data[i + 3] = 0;
      continue;
    }
    for (let c = i; c < i + 3; c++) data[c] = ((data[c] - (255 - alpha)) * 255) / alpha;
    data[i + 3] = alpha;
  }
  context.putImageData(picture, 0, 0);
}

/** All parts of a view that show sheets, with what lies in them. */
const partsOf = (view: LaidView): [part: string, sheets: readonly SheetBeneath[]][] =>
  view.page
    ? [['page', [asSheet(view)]]]
    : [
        ['beneath', view.beneath],
        ['above', view.above],
      ];

/** Waits until all tiles that were asked for are there; false where they did not come in time. */
async function settled(table: Table, isWanted: () => boolean): Promise<boolean> {
  const began = performance.now();
  while (table.tiles.waiting > 0) {
    if (!isWanted() || performance.now() - began > LONGEST_WAIT) return false;
    await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN));
  }
  return true;
}

/** Pictures of the sheets of a paper as an SVG holds them; `whole` says whether every tile was there. */
export async function svgPictures(
  table: Table,
  laid: LaidPaper,
  fineness: number,
  isWanted: () => boolean = () => true,
): Promise<{ pictures: Record<string, string>; whole: boolean }> {
  const parts = laid.views.flatMap((view) =>
      partsOf(view).flatMap(([part, sheets]) => (sheets.length > 0 ? [{ view, part, sheets }] : [])),
    ),
    pictures: Record<string, string> = {};
  // Once to ask for what is missing, and again with all that came.
  for (const { view, sheets } of parts) painted(table, view, sheets, fineness);
  const whole = await settled(table, isWanted);
  for (const { view, part, sheets } of parts)
    pictures[pictureKey(view.view.id, part)] = painted(table, view, sheets, fineness).toDataURL('image/png');
  return { pictures, whole };
}

/** Pictures of those sheets of a paper that a PDF cannot take over as they are, as PNG. */
export async function pdfPictures(
  table: Table,
  laid: LaidPaper,
  files: readonly FileInfo[],
): Promise<{ pictures: Map<string, Uint8Array>; whole: boolean }> {
  const wanted = laid.views.flatMap((view) =>
      (view.page ? [asSheet(view)] : [...view.beneath, ...view.above])
        .filter((s) => needsPicture(s.underlay, files))
        .map((sheet) => ({ view, sheet })),
    ),
    pictures = new Map<string, Uint8Array>();
  for (const { view, sheet } of wanted) painted(table, view, [sheet], WRITTEN_FINENESS);
  const whole = await settled(table, () => true);
  for (const { view, sheet } of wanted)
    pictures.set(
      pictureKey(view.view.id, view.page ? 'page' : sheet.underlay.id),
      await pngOf(painted(table, view, [sheet], WRITTEN_FINENESS)),
    );
  return { pictures, whole };
}

async function pngOf(canvas: HTMLCanvasElement): Promise<Uint8Array> {
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('A sheet could not be drawn as a picture: take a smaller paper.');
  return new Uint8Array(await blob.arrayBuffer());
}
