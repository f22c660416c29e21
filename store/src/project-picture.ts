import {
  applyTransform,
  boxOfPoints,
  boxRing,
  flattenPiece,
  ringArea,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { bandOf, cutWalls, wedgesOf, plainBody } from '@calque/core/building';
import {
  isTraced,
  looseOf,
  modelOf,
  ofType,
  piecesOf,
  shownOf,
  type Entity,
  type Loose,
  type Model,
  type Underlay,
  type Wall,
} from '@calque/core/model';
import type { Database } from './database.ts';
import { findSheet } from './files.ts';

const WIDTH = 640,
  HEIGHT = 400,
  MARGIN = 14;
/** More could not be told apart in a picture of this size: elements, walls that are joined, pieces, points. */
const MOST_ELEMENTS = 6000,
  MOST_JOINED = 1500,
  MOST_PIECES = 20000,
  MOST_POINTS = 60000;
/** Chords of bends stray by no more than this share of a pixel; before the scale is known, by anything. */
const CHORDS_PX = 0.3,
  ANY = 1e9;

/** A project at a glance: its lowest visible sheet with the trace over it, as SVG. Of what is too much for a picture a part is drawn. */
export async function projectPicture(
  database: Database,
  projectId: string,
  entities: readonly Entity[],
): Promise<string> {
  const model = modelOf(entities);
  const underlay =
    ofType(model, 'underlay')
      .filter((u) => u.visible)
      .sort((a, b) => b.order - a.order)[0] ?? null;
  const traced = firstElements(model),
    walls = traced.filter((e) => e.type === 'wall');
  const pieces = traced
    .flatMap((e) => (e.type === 'wall' ? [] : piecesOf(e).slice(0, MOST_PIECES)))
    .slice(0, MOST_PIECES);
  const rings = bodiesOf(walls.filter((w) => w.planeId === walls[0].planeId));
  const extent: Point[] = rings.flat();
  for (const piece of pieces) for (const p of flattenPiece(piece, ANY)) extent.push(p);
  if (underlay) extent.push(...boxRing(underlay.crop).map((p) => applyTransform(underlay.placement, p)));
  const head = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 ${WIDTH} ${HEIGHT}"><rect width="${WIDTH}" height="${HEIGHT}" fill="#dfe3e0"/>`;
  if (extent.length === 0) {
    return `${head}<g fill="none" stroke="#9aa39d" stroke-width="2"><rect x="230" y="120" width="160" height="120" fill="#f4f4ee"/><rect x="250" y="150" width="160" height="120" fill="#fffefa"/></g></svg>`;
  }
  const [x0, y0, x1, y1] = boxOfPoints(extent);
  const k = Math.min((WIDTH - 2 * MARGIN) / (x1 - x0 || 1), (HEIGHT - 2 * MARGIN) / (y1 - y0 || 1));
  const ox = (WIDTH - k * (x0 + x1)) / 2,
    oy = (HEIGHT + k * (y0 + y1)) / 2;
  const at = ([x, y]: Point) => `${(k * x + ox).toFixed(1)} ${(oy - k * y).toFixed(1)}`;
  const path = (rings: readonly (readonly Point[])[]) =>
    rings.map((r) => `M${r.map(at).join('L')}Z`).join('');
  const parts = [underlay ? await underlayPart(database, projectId, underlay, k, ox, oy, path) : ''];
  if (rings.length > 0)
    parts.push(
      `<path d="${path(rings.map((r) => (ringArea(r) < 0 ? [...r].reverse() : r)))}" fill="#d4451f" fill-opacity=".55"/>`,
    );
  const lines = chainsOf(pieces, CHORDS_PX / k);
  if (lines.length > 0)
    parts.push(
      `<path d="${lines.map((l) => `M${l.map(at).join('L')}`).join('')}" fill="none" stroke="#d4451f" stroke-width="1.2"/>`,
    );
  return `${head}${parts.join('')}</svg>`;
}

/** What has been traced, placed groups as their elements, the first of it. */
function firstElements(model: Model): Loose[] {
  const out: Loose[] = [];
  for (const e of model.values()) {
    if (!isTraced(e)) continue;
    for (const loose of looseOf(shownOf(e, model))) if (out.push(loose) >= MOST_ELEMENTS) return out;
  }
  return out;
}

/** Walls joined where there are few enough to see that they are. */
function bodiesOf(walls: readonly Wall[]): (readonly Point[])[] {
  if (walls.length > MOST_JOINED) return walls.map((w) => plainBody(bandOf(w)));
  const cut = cutWalls(walls);
  return [...cut.bodies.values(), ...wedgesOf(cut)];
}

function chainsOf(pieces: readonly Piece[], tolerance: number): Point[][] {
  const chains: Point[][] = [];
  let points = 0;
  for (const piece of pieces) {
    const chain = flattenPiece(piece, tolerance);
    if ((points += chain.length) > MOST_POINTS) break;
    chains.push(chain);
  }
  return chains;
}

async function underlayPart(
  database: Database,
  projectId: string,
  u: Underlay,
  k: number,
  ox: number,
  oy: number,
  path: (rings: readonly (readonly Point[])[]) => string,
): Promise<string> {
  const ring = boxRing(u.crop).map((p) => applyTransform(u.placement, p));
  const paper = `<path d="${path([ring])}" fill="#fff" stroke="#c9cdc6"/>`;
  const sheet = await findSheet(database, projectId, u.fileId, u.page);
  if (!sheet?.picture) return paper;
  const p = u.placement;
  // The picture's own y goes down from the sheet's top edge.
  const m = [
    k * p[0],
    -k * p[1],
    -k * p[2],
    k * p[3],
    k * (p[2] * sheet.height + p[4]) + ox,
    oy - k * (p[3] * sheet.height + p[5]),
  ];
  const data = Buffer.from(sheet.picture).toString('base64');
  return `<clipPath id="crop"><path d="${path([ring])}"/></clipPath>${paper}<g clip-path="url(#crop)" opacity="${(1 - u.fade * 0.8).toFixed(2)}"><image width="${sheet.width}" height="${sheet.height}" preserveAspectRatio="none" transform="matrix(${m.map((v) => v.toFixed(6)).join(' ')})" href="data:image/png;base64,${data}"/></g>`;
}
