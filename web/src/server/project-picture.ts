import 'server-only';
import { applyTransform, boxOfPoints, boxRing, flattenPiece, ringArea, type Point } from '@calque/core/geometry';
import { cutWalls } from '@calque/core/building';
import { looseElements, modelOf, ofType, piecesOf, type Entity, type Underlay } from '@calque/core/model';
import { findSheet, type Database } from '@calque/store';

/** Chords of bends stray by no more than this, millimetres: far less than a pixel of the picture. */
const CHORDS = 5;
const WIDTH = 640, HEIGHT = 400, MARGIN = 14;

/** A project at a glance: its lowest visible sheet with the trace over it, as SVG. */
export async function projectPicture(database: Database, entities: readonly Entity[]): Promise<string> {
  const model = modelOf(entities);
  const underlay = ofType(model, 'underlay').filter((u) => u.visible).sort((a, b) => b.order - a.order)[0] ?? null;
  const traced = looseElements(model), walls = traced.filter((e) => e.type === 'wall');
  const lines = traced.flatMap((e) => (e.type === 'wall' ? [] : piecesOf(e).map((piece) => flattenPiece(piece, CHORDS))));
  const storey = walls[0]?.storeyId;
  const { bodies, wedges } = cutWalls(walls.filter((w) => w.storeyId === storey));
  const rings = [...bodies.values(), ...wedges];
  const extent: Point[] = [...rings.flat(), ...lines.flat()];
  if (underlay) extent.push(...boxRing(underlay.crop).map((p) => applyTransform(underlay.placement, p)));
  const head = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 ${WIDTH} ${HEIGHT}"><rect width="${WIDTH}" height="${HEIGHT}" fill="#dfe3e0"/>`;
  if (extent.length === 0) {
    return `${head}<g fill="none" stroke="#9aa39d" stroke-width="2"><rect x="230" y="120" width="160" height="120" fill="#f4f4ee"/><rect x="250" y="150" width="160" height="120" fill="#fffefa"/></g></svg>`;
  }
  const [x0, y0, x1, y1] = boxOfPoints(extent);
  const k = Math.min((WIDTH - 2 * MARGIN) / (x1 - x0 || 1), (HEIGHT - 2 * MARGIN) / (y1 - y0 || 1));
  const ox = (WIDTH - k * (x0 + x1)) / 2, oy = (HEIGHT + k * (y0 + y1)) / 2;
  const at = ([x, y]: Point) => `${(k * x + ox).toFixed(1)} ${(oy - k * y).toFixed(1)}`;
  const path = (rings: readonly (readonly Point[])[]) => rings.map((r) => `M${r.map(at).join('L')}Z`).join('');
  const parts = [underlay ? await underlayPart(database, underlay, k, ox, oy, path) : ''];
  if (rings.length > 0) parts.push(`<path d="${path(rings.map((r) => (ringArea(r) < 0 ? [...r].reverse() : r)))}" fill="#d4451f" fill-opacity=".55"/>`);
  if (lines.length > 0) parts.push(`<path d="${lines.map((l) => `M${l.map(at).join('L')}`).join('')}" fill="none" stroke="#d4451f" stroke-width="1.2"/>`);
  return `${head}${parts.join('')}</svg>`;
}

async function underlayPart(database: Database, u: Underlay, k: number, ox: number, oy: number, path: (rings: readonly (readonly Point[])[]) => string): Promise<string> {
  const ring = boxRing(u.crop).map((p) => applyTransform(u.placement, p));
  const paper = `<path d="${path([ring])}" fill="#fff" stroke="#c9cdc6"/>`;
  const sheet = await findSheet(database, u.fileId, u.page);
  if (!sheet?.picture) return paper;
  const p = u.placement;
  // The picture's own y goes down from the sheet's top edge.
  const m = [k * p[0], -k * p[1], -k * p[2], k * p[3], k * (p[2] * sheet.height + p[4]) + ox, oy - k * (p[3] * sheet.height + p[5])];
  const data = Buffer.from(sheet.picture).toString('base64');
  return `<clipPath id="crop"><path d="${path([ring])}"/></clipPath>${paper}<g clip-path="url(#crop)" opacity="${(1 - u.fade * 0.8).toFixed(2)}"><image width="${sheet.width}" height="${sheet.height}" preserveAspectRatio="none" transform="matrix(${m.map((v) => v.toFixed(6)).join(' ')})" href="data:image/png;base64,${data}"/></g>`;
}
