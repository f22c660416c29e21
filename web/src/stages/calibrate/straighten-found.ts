import { isStraight, radius95, type PrintedReading } from '@calque/core/calibration';
import {
  applyHomography,
  applyTransform,
  composeHomographies,
  invertHomography,
  meanScale,
  MM_PER_POINT,
  type Homography,
  type Point,
} from '@calque/core/geometry';
import type { PictureReading, StraightSheet } from '@calque/core/ink';
import { storedTransform, type Check, type Pair, type Underlay } from '@calque/core/model';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { Table } from '@/table/table';
import { placedBy } from './fit';
import { sheetKey, usePrinted } from '@/drawing/printed';
import { laidAs, layStraight, straightenPicture } from './straighten';

/** Ends read on a photo are good to about this, pixels of the straightened picture. */
const END_SIGMA = 0.6;

/**
 * Straightens a photo by what was found on it: its own right angles, and where printed dimensions agree on a scale, these. The
 * picture becomes a file of its own in place of the photo, at scale by its dimensions, or at the photo's own scale where there are none.
 */
export async function straightenFound(
  table: Table,
  u: Underlay,
  reading: PrintedReading,
  picture: PictureReading,
): Promise<void> {
  const straight = picture.straight,
    file = table.session.state.files.find((f) => f.id === u.fileId),
    sheet = file?.sheets.find((s) => s.page === u.page);
  if (!straight || !sheet) return;
  const [width, height] = straight.pixels,
    scale = straight.photoScale,
    k = width / straight.width;
  // Straightened pixels to its points, to points of the page, to pixels of the photo.
  const toPoints: Homography = [1 / k, 0, 0, 0, -1 / k, straight.height, 0, 0, 1],
    toPixels: Homography = [scale, 0, 0, 0, -scale, scale * sheet.height, 0, 0, 1];
  const photoFromPicture = composeHomographies(
    toPixels,
    composeHomographies(straight.pageFromStraight, toPoints),
  );
  await straightenPicture(table, u, {
    picture: { photoFromPicture, width, height },
    box: [0, 0, sheet.width, sheet.height],
    scale,
    lay: (made, page) => layFound(table, u, reading, picture, straight, made, page),
  });
}

function layFound(
  table: Table,
  u: Underlay,
  reading: PrintedReading,
  picture: PictureReading,
  straight: StraightSheet,
  file: FileInfo,
  sheet: SheetInfo,
): void {
  // Points of the new sheet to a point of the straightened one.
  const per = sheet.width / straight.width,
    back = invertHomography(straight.pageFromStraight);
  const onSheet = (p: Point): Pair => {
    const [x, y] = applyHomography(back, p);
    return [x * per, y * per];
  };
  const view = reading.photo?.view ?? null,
    middle: Pair = [sheet.width / 2, sheet.height / 2];
  const onPlane = applyTransform(
    u.placement,
    applyHomography(straight.pageFromStraight, [straight.width / 2, straight.height / 2]),
  );
  const dimensions =
    view === null ? [] : reading.dimensions.filter((d) => d.view === view && isStraight(d) && !d.free);
  const factor = reading.photo?.factor ?? null;
  const s = factor === null ? meanScale(u.placement) : (factor * MM_PER_POINT) / per;
  const laid = laidAs(
    table,
    u,
    file,
    sheet,
    s,
    middle,
    [onPlane[0], onPlane[1]],
    radius95(straight.sigma, straight.sigma) * per * s,
  );
  const sigma = (END_SIGMA * sheet.width) / straight.pixels[0];
  const known = dimensions.map((d): Check => ({
    type: 'check',
    id: crypto.randomUUID(),
    underlayId: laid.id,
    from: onSheet(d.from),
    to: onSheet(d.to),
    printed: d.millimetres,
    typed: d.text,
    use: d.agrees ? 'fit' : 'check',
    sigma: [sigma, sigma],
    spread: d.half / Math.sqrt(3),
    origin: 'recognised',
  }));
  // What was recognised on the photo need not be recognised again on its straightened picture.
  usePrinted.setState((state) => ({
    pictures: { ...state.pictures, [sheetKey(laid)]: movedPicture(picture, per) },
  }));
  const placed = known.some((c) => c.use === 'fit') ? placedBy(laid, known, 'auto') : null;
  if (placed === null || typeof placed === 'string')
    layStraight(table, u, { ...laid, scaleState: 'paper' }, []);
  else
    layStraight(
      table,
      u,
      { ...laid, placement: storedTransform(placed.placement), calibration: placed.calibration },
      known,
    );
}

/** What was recognised, on a sheet so many times as large. */
const movedPicture = ({ texts, lines, dots, slack }: PictureReading, k: number): PictureReading => ({
  texts: texts.map((t) => ({ ...t, x: t.x * k, y: t.y * k, width: t.width * k, height: t.height * k })),
  lines: lines.map((l) => ({
    from: [l.from[0] * k, l.from[1] * k],
    to: [l.to[0] * k, l.to[1] * k],
    width: l.width * k,
    rms: l.rms * k,
  })),
  dots: dots.map((d) => ({ at: [d.at[0] * k, d.at[1] * k], r: d.r * k })),
  slack: slack * k,
  straight: null,
});
