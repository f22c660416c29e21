import type { PrintedDimension, PrintedReading } from '@calque/core/calibration';
import type { Point, Transform } from '@calque/core/geometry';
import { kindCode, type PageText } from '@calque/core/linework';
import type { Underlay } from '@calque/core/model';

export const text = (words: string, x: number, y: number, more: Partial<PageText> = {}): PageText => ({
  text: words,
  object: 0,
  kind: kindCode('text'),
  x,
  y,
  height: 8,
  radians: 0,
  layer: -1,
  width: 4.5 * words.length,
  ...more,
});

export const laid = (placement: Transform, planeId = 'top'): Underlay =>
  ({
    type: 'underlay',
    id: 'u',
    name: 'Sheet',
    fileId: 'f',
    page: 1,
    planeId,
    crop: [0, 0, 900, 800],
    placement: [...placement],
    visible: true,
    scaleState: 'typed',
    order: 0,
  }) as unknown as Underlay;
/** A sheet that draws at 1:1, its zero at (100, 100) points. */
export const PT = 72 / 25.4,
  TO_PLANE: Transform = [1 / PT, 0, 0, 1 / PT, -100 / PT, -100 / PT];
export const onSheet = ([x, y]: Point): [number, number] => [100 + x * PT, 100 + y * PT];
export const dimension = (
  words: string,
  from: Point,
  to: Point,
  more: Partial<PrintedDimension> = {},
): PrintedDimension => {
  const [p, q] = [onSheet(from), onSheet(to)];
  return {
    index: 0,
    text: words,
    kind: 'linear',
    millimetres: Number(words.replace(/[^\d.]/g, '')),
    half: 0.5,
    from: p,
    to: q,
    figure: { x: (p[0] + q[0]) / 2, y: (p[1] + q[1]) / 2, width: 12, height: 6, radians: 0 },
    points: 1,
    factor: 1,
    view: 0,
    agrees: true,
    measured: 0,
    recognised: false,
    ...more,
  };
};
export const reading = (dimensions: PrintedDimension[]): PrintedReading => ({
  endsFromInk: false,
  views: [],
  dimensions,
  notes: [],
  chains: [],
  unknown: [],
  photo: null,
  why: null,
});
