import { applyTransform, type Point, type Transform } from '@calque/core/geometry';
import { lineworkOfScene, type Scene } from '@calque/core/exchange';
import type { Linework } from '@calque/core/linework';
import type { Underlay } from '@calque/core/model';
import type { FileInfo, SheetInfo } from '@/project/wire';
import type { LineworkCache } from '@/table/linework-cache';
import type { SheetTiles } from '@/table/tile-cache';

/** The page of the sheet that tools are shown on, at true size: a room with a door and a window, drawn at 1:100. Millimetres. */
const WIDTH = 7200,
  HEIGHT = 5600,
  SCALE = 100;
/** Millimetres in the world to a point of the sheet, where it lies to scale. */
const TRUE = (SCALE * 25.4) / 72;

const rectangle = (x: number, y: number, X: number, Y: number): Point[][] => [
  [
    [x, y],
    [X, y],
  ],
  [
    [X, y],
    [X, Y],
  ],
  [
    [X, Y],
    [x, Y],
  ],
  [
    [x, Y],
    [x, y],
  ],
];
/** Faces of the walls: outside 600..6600 by 600..4600, 200 thick; a door 900 wide at 1500, a window 1500 wide at 4000. */
const WALL_FACES: Point[][] = [
  [
    [600, 600],
    [1500, 600],
  ],
  [
    [2400, 600],
    [6600, 600],
  ],
  [
    [6600, 600],
    [6600, 4600],
  ],
  [
    [6600, 4600],
    [600, 4600],
  ],
  [
    [600, 4600],
    [600, 600],
  ],
  [
    [800, 800],
    [1500, 800],
  ],
  [
    [2400, 800],
    [6400, 800],
  ],
  [
    [6400, 800],
    [6400, 4400],
  ],
  [
    [6400, 4400],
    [800, 4400],
  ],
  [
    [800, 4400],
    [800, 800],
  ],
  [
    [1500, 600],
    [1500, 800],
  ],
  [
    [2400, 600],
    [2400, 800],
  ],
];
const DOOR: Point[][] = [
  [
    [1500, 800],
    [1500, 1700],
  ],
];
const WINDOW: Point[][] = [...rectangle(4000, 4400, 5500, 4600)];
const DIMENSION: Point[][] = [
  [
    [600, 5000],
    [6600, 5000],
  ],
  ...[600, 6600].flatMap((x): Point[][] => [
    [
      [x, 4750],
      [x, 5100],
    ],
    [
      [x - 70, 4930],
      [x + 70, 5070],
    ],
  ]),
];

const style = (width: number) => ({ layer: -1, colour: 0x333333, width, dash: [] });
const stroke = (points: Point[], width: number): Scene['items'][number] => ({
  type: 'path',
  style: style(width),
  verbs: points.map((_, i) => (i === 0 ? 0 : 1)),
  points,
  stroke: true,
  fill: 'none',
  fillColour: 0,
});

/** As a photo from below sees it: what lies farther up is smaller. */
const slanted = ([x, y]: Point): Point => {
  const t = (y - 600) / 4000;
  return [600 + (x - 600) * (1 - 0.24 * t) + 720 * t, 600 + (y - 600) * (1 - 0.092 * t)];
};

/** The sheet's own lines, in sheet points; `seen`: as they stand on the paper. */
export function planLinework(seen: (p: Point) => Point = (p) => p): Linework {
  const scene: Scene = {
    items: [
      ...[...WALL_FACES, ...WINDOW].map((p) => stroke(p.map(seen), 35)),
      ...[...DOOR, ...DIMENSION].map((p) => stroke(p.map(seen), 15)),
      { type: 'round', style: style(15), cx: 1500, cy: 800, r: 900, start: 0, end: Math.PI / 2 },
      {
        type: 'text',
        style: style(15),
        text: '6000',
        x: 3350,
        y: 5080,
        height: 220,
        radians: 0,
        width: 520,
      },
    ],
    layers: [],
    millimetresPerUnit: 1,
    unknown: {},
    hatches: 0,
    page: [0, 0, WIDTH, HEIGHT],
  };
  return lineworkOfScene(scene, 1 / SCALE);
}

export const planSheets = (): Record<string, Linework> => ({
  plan: planLinework(),
  photo: planLinework(slanted),
});

/** The sheet laid with its corner on the origin; `factor`: how far its scale is from true. */
export function laidPlan(factor = 1, more: Partial<Underlay> = {}): Underlay {
  const k = TRUE * factor;
  return {
    type: 'underlay',
    id: 'sheet',
    name: 'Plan',
    fileId: 'plan',
    page: 1,
    planeId: 'ground',
    crop: [0, 0, WIDTH / TRUE, HEIGHT / TRUE],
    placement: [k, 0, 0, k, 0, 0],
    scaleState: factor === 1 ? 'stated' : 'paper',
    calibration: null,
    visible: true,
    fade: 0,
    locked: false,
    snap: true,
    order: 1,
    ...more,
  };
}

/** The same room on a photo at a slant. */
export const slantedPlan = (): Underlay => laidPlan(1, { fileId: 'photo', scaleState: 'paper' });

/** The file that a sheet is the page of. */
export function fileOf(id: string, l: Linework): FileInfo {
  const sheet: SheetInfo = {
    fileId: id,
    page: 1,
    width: l.width,
    height: l.height,
    content: l.content,
    counts: l.counts,
    leftOut: l.leftOut,
    layers: [],
    scaleNotes: [],
    title: null,
    hatches: 0,
    dimensions: 0,
    markups: 0,
    reference: null,
    unknown: null,
    whole: true,
    pixels: null,
  };
  return {
    id,
    name: `${id}.pdf`,
    kind: 'pdf',
    status: 'ready',
    message: null,
    pages: 1,
    pagesRead: 1,
    encrypted: false,
    repaired: false,
    opened: false,
    layered: false,
    sheets: [sheet],
  };
}

const ARC_STEPS = 24;

/** Draws a sheet from its lines alone: there is no file to draw tiles from. */
export class LineTiles implements SheetTiles {
  waiting = 0;

  constructor(private readonly sheets: Pick<LineworkCache, 'get'>) {}

  paint(...[context, file, sheet, , screenFromSheet]: Parameters<SheetTiles['paint']>): void {
    const l = this.sheets.get(file.id, sheet.page)?.linework;
    if (!l) return;
    context.save();
    context.strokeStyle = context.fillStyle = '#3c434b';
    this.lines(context, l, screenFromSheet);
    for (const t of l.texts) {
      const [x, y] = applyTransform(screenFromSheet, [t.x, t.y]);
      context.font = `${t.height * Math.abs(screenFromSheet[0]) * 1.35}px "Archivo Variable", sans-serif`;
      context.fillText(t.text, x, y);
    }
    context.restore();
  }

  async pictureOf(): Promise<null> {
    return null;
  }

  close(): void {}

  private lines(context: Parameters<SheetTiles['paint']>[0], l: Linework, screenFromSheet: Transform): void {
    const ring = (points: readonly Point[], width: number) => {
      context.lineWidth = width;
      context.beginPath();
      points.forEach((p, i) => {
        const [x, y] = applyTransform(screenFromSheet, p);
        if (i === 0) context.moveTo(x, y);
        else context.lineTo(x, y);
      });
      context.stroke();
    };
    const widthOf = (pen: number) => (l.pens[pen].width > 0.7 ? 1.6 : 0.9);
    for (let i = 0; i < l.segments.length; i += 4)
      ring(
        [
          [l.segments[i], l.segments[i + 1]],
          [l.segments[i + 2], l.segments[i + 3]],
        ],
        widthOf(l.segmentStyle[i / 2 + 1]),
      );
    for (let i = 0; i < l.arcs.length; i += 5) {
      const [cx, cy, r, start, end] = l.arcs.subarray(i, i + 5);
      ring(
        Array.from({ length: ARC_STEPS + 1 }, (_, k): Point => {
          const a = start + ((end - start) * k) / ARC_STEPS;
          return [cx + r * Math.cos(a), cy + r * Math.sin(a)];
        }),
        0.9,
      );
    }
  }
}
