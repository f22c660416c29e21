import { create } from 'zustand';
import { straighten, type Straightening } from '@calque/core/calibration';
import { applyTransform, type Point } from '@calque/core/geometry';
import {
  get,
  group,
  ofType,
  PLAIN_LOOK,
  setFields,
  storedTransform,
  type Change,
  type Check,
  type Pair,
  type Underlay,
} from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { uploadTo } from '@/project/api';
import { spreadOf } from '@/project/known';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { Table } from '@/table/table';
import { runTask, Stopped } from '@/workers/task';
import type { FromStraighten, ToStraighten } from '@/workers/straighten-protocol';
import { placedBy, recordOf } from './fit';
import { showPlaced } from './place';

/** What straightening is at, in words; `why` where it failed. */
interface StraightenState {
  doing: { words: string; share: number | null; stop(): void } | null;
  why: string | null;
}
export const useStraighten = create<StraightenState>(() => ({ doing: null, why: null }));

/** Sides of the photo as it is looked at, pixels. */
const PHOTO_PIXELS = 3200;
const WAIT_MS = 300;

export interface Rectangle {
  corners: readonly Point[];
  /** How well each corner was picked, sheet points. */ sigma: readonly number[];
  width: number;
  height: number;
  typed: readonly [string, string];
  /** More points whose places are known, along the first side and away from it. */ further?: readonly {
    at: Point;
    sigma: number;
    along: number;
    away: number;
  }[];
}

/** Pixels per sheet point, and a sheet point as a pixel of the cropped photo (y down). */
function photoOf(u: Underlay): {
  scale: number;
  width: number;
  height: number;
  pixel(p: Point): [number, number];
} {
  const [x0, y0, x1, y1] = u.crop;
  const scale = PHOTO_PIXELS / Math.max(x1 - x0, y1 - y0);
  return {
    scale,
    width: Math.round((x1 - x0) * scale),
    height: Math.round((y1 - y0) * scale),
    pixel: ([x, y]) => [(x - x0) * scale, (y1 - y) * scale],
  };
}

function straightened(
  u: Underlay,
  { corners, sigma, width, height, further = [] }: Rectangle,
): ReturnType<typeof straighten> {
  const photo = photoOf(u);
  return straighten(
    corners.map(photo.pixel),
    width,
    height,
    photo,
    further.map((f) => ({ at: photo.pixel(f.at), along: f.along, away: f.away })),
    [...sigma, ...further.map((f) => f.sigma)].map((s) => s * photo.scale),
  );
}

/** Why four corners do not do, in words; null where they do. */
export function cornersProblem(u: Underlay, rectangle: Rectangle): string | null {
  const result = straightened(u, rectangle);
  if (!('reason' in result)) return null;
  return result.reason === 'cross'
    ? 'The four corners cross: pick them in their order round the rectangle.'
    : 'Three of the corners lie in one line: pick the four corners of a rectangle.';
}

/** Straightens a photo by four corners of a rectangle of known size: the picture becomes a file of its own, laid to scale in place of the photo. */
export async function straightenUnderlay(table: Table, u: Underlay, rectangle: Rectangle): Promise<void> {
  const result = straightened(u, rectangle);
  if ('reason' in result) return;
  const { scale } = photoOf(u);
  await straightenPicture(table, u, {
    picture: result,
    box: u.crop,
    scale,
    lay: (file, sheet) => layByCorners(table, u, rectangle, result, scale, file, sheet),
  });
}

export interface StraightenWork {
  picture: Pick<Straightening, 'photoFromPicture' | 'width' | 'height'>;
  /** The part of the page that is the photo, sheet points, and how many of its pixels make a point. */
  box: Underlay['crop'];
  scale: number;
  /** Lays what became of it. */
  lay(file: FileInfo, sheet: SheetInfo): void;
}

/** Draws a photo anew into a file of its own, waits until that is read, and lays it; with progress, and can be stopped at any moment. */
export async function straightenPicture(
  table: Table,
  u: Underlay,
  { picture, box, scale, lay }: StraightenWork,
): Promise<void> {
  const { session } = table;
  let stopped = false;
  let stopWork = () => {};
  const stop = () => {
    stopped = true;
    stopWork();
  };
  const tell = (words: string, share: number | null) =>
    useStraighten.setState({ doing: { words, share, stop }, why: null });
  try {
    tell('Fetching the photo', null);
    const file = session.state.files.find((f) => f.id === u.fileId),
      sheet = file?.sheets.find((s) => s.page === u.page);
    const bitmap = file && sheet ? await table.tiles.pictureOf(file, sheet, box, scale) : null;
    if (!bitmap) throw new Error('The photo cannot be fetched. Try it again.');
    if (stopped) throw new Stopped();
    const straight = await drawn(
      picture,
      bitmap,
      (share) => tell('Straightening the photo', share),
      (end) => {
        stopWork = end;
      },
    );
    const sending = uploadTo(session.projectId, `${u.name}, straightened.jpg`, straight, (share) =>
      tell('Keeping the straightened picture', share),
    );
    stopWork = () => sending.cancel();
    const { id } = await sending.done;
    stopWork = () => {};
    tell('Reading the straightened picture', null);
    lay(...(await readFile(table, id, () => stopped)));
    useStraighten.setState({ doing: null, why: null });
  } catch (error) {
    useStraighten.setState({
      doing: null,
      why:
        error instanceof Stopped || stopped ? null : error instanceof Error ? error.message : String(error),
    });
  }
}

function drawn(
  { photoFromPicture, width, height }: StraightenWork['picture'],
  photo: ImageBitmap,
  onProgress: (share: number) => void,
  onStop: (end: () => void) => void,
): Promise<Blob> {
  const worker = new Worker(new URL('../../workers/straighten.worker.ts', import.meta.url), {
    type: 'module',
  });
  const { done, stop } = runTask<ToStraighten, FromStraighten>(
    worker,
    { photo, photoFromPicture, width, height },
    {
      onProgress,
      transfer: [photo],
      broken: 'Straightening the photo failed. Try it again with a smaller crop.',
    },
  );
  onStop(stop);
  return done.then(({ picture }) => picture);
}

/** Waits until a file has been read. */
async function readFile(
  table: Table,
  fileId: string,
  stopped: () => boolean,
): Promise<[FileInfo, SheetInfo]> {
  for (;;) {
    if (stopped()) throw new Stopped();
    await table.session.refreshFiles();
    const file = table.session.state.files.find((f) => f.id === fileId);
    if (file?.status === 'failed')
      throw new Error(file.message ?? 'The straightened picture cannot be read.');
    if (file?.status === 'ready' && file.sheets[0]) return [file, file.sheets[0]];
    await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
  }
}

/** The straightened picture as it is laid: all of it, at `s` millimetres to the point, with one of its points where it lay on the photo. */
export function laidAs(
  table: Table,
  u: Underlay,
  file: FileInfo,
  sheet: SheetInfo,
  s: number,
  at: Pair,
  onPlane: Pair,
  across: number,
): Underlay {
  return {
    ...u,
    id: crypto.randomUUID(),
    name: `${u.name}, straightened`.slice(0, 200),
    fileId: file.id,
    page: sheet.page,
    crop: [0, 0, sheet.width, sheet.height],
    outline: null,
    former: null,
    look: PLAIN_LOOK,
    visible: true,
    placement: storedTransform([s, 0, 0, s, onPlane[0] - s * at[0], onPlane[1] - s * at[1]]),
    scaleState: 'calibrated',
    calibration: null,
    straightened: { across },
    order: Math.max(0, ...ofType(table.session.state.model, 'underlay').map((o) => o.order)) + 1,
  };
}

/** Lays it with what is known of it, and hides the photo: one step. `placement`: as these fit it, or as it is. */
export function layStraight(table: Table, u: Underlay, laid: Underlay, known: readonly Check[]): boolean {
  const { session } = table,
    { model } = session.state,
    label = `Straighten ${u.name}`,
    photo = get(model, 'underlay', u.id);
  const add = (entity: Underlay | Check): Change => ({ type: 'add', entity });
  const change = group([
    add(laid),
    ...known.map(add),
    photo ? setFields(photo, { visible: false }) : null,
    {
      type: 'add',
      entity: recordOf(
        model,
        laid,
        label,
        { placement: laid.placement, scaleState: laid.scaleState, calibration: laid.calibration },
        known,
      ),
    },
  ]);
  if (!change || !session.do(change, label)) return false;
  table.setUnderlay(laid.id);
  showPlaced(table, laid.id);
  return true;
}

/** Lays the straightened picture with its first corner where the photo's lay. */
function layByCorners(
  table: Table,
  u: Underlay,
  { corners, sigma, width, height, typed }: Rectangle,
  result: Straightening,
  scale: number,
  file: FileInfo,
  sheet: SheetInfo,
): void {
  const perPixel = sheet.width / result.width;
  const at = result.corners.map(([x, y]): Pair => [x * perPixel, sheet.height - y * perPixel]);
  const laid = laidAs(
    table,
    u,
    file,
    sheet,
    result.millimetresPerPixel / perPixel,
    at[0],
    applyTransform(u.placement, corners[0]),
    result.across,
  );
  const known = at.map((from, i): Check => {
    const [mm, words] = i % 2 === 0 ? [width, typed[0]] : [height, typed[1]];
    return {
      type: 'check',
      id: crypto.randomUUID(),
      underlayId: laid.id,
      from,
      to: at[(i + 1) % 4],
      printed: mm,
      typed: words,
      use: 'fit',
      sigma: [sigma[i] * scale * perPixel, sigma[(i + 1) % 4] * scale * perPixel],
      spread: spreadOf(words, mm),
      origin: 'picked',
    };
  });
  const placed = placedBy(laid, known, 'auto');
  if (
    !layStraight(
      table,
      u,
      { ...laid, calibration: typeof placed === 'string' ? null : placed.calibration },
      known,
    )
  )
    return;
  if (result.misses.length > 0)
    table.session.tell(
      `Straightened by ${4 + result.misses.length} points: the further ones miss their places by up to ${formatNumber(Math.max(...result.misses), 1)} mm.`,
    );
}
