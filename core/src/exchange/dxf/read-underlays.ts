import { compose, type Point, type Transform } from '../../geometry/index.ts';
import type { SceneSheet } from '../scene/scene.ts';
import { number, numbers, text, type DxfRecord } from './records.ts';
import { OWN_DATA, POINTS_PER_INCH, SHOWN, underlayPlacing } from './underlays.ts';

/** More sheets than a drawing refers to, corners than a clip has, and letters than a name. */
const MOST_SHEETS = 500,
  MOST_CORNERS = 1000,
  LONGEST_NAME = 250;
/** What is written beside an underlay holds as long as it says the same, to this share. */
const ALIKE = 1e-6;

/** The pages of PDFs that a DXF lays under itself, in its own units; the files are named without their folders. */
export function readUnderlays(
  records: readonly DxfRecord[],
  millimetresPerUnit: number | null,
): SceneSheet[] {
  const files = new Map<string, { file: string; page: number }>(),
    found: SceneSheet[] = [];
  let section = '';
  for (const r of records) {
    if (r.type === 'SECTION') section = text(r, 2);
    else if (section === 'OBJECTS' && r.type === 'PDFDEFINITION')
      files.set(text(r, 5), {
        file: baseName(text(r, 1)),
        page: Math.max(1, Math.round(Number(text(r, 2)) || 1)),
      });
  }
  section = '';
  for (const r of records) {
    if (r.type === 'SECTION') section = text(r, 2);
    if (
      section !== 'ENTITIES' ||
      r.type !== 'PDFUNDERLAY' ||
      number(r, 67) === 1 ||
      found.length >= MOST_SHEETS
    )
      continue;
    const definition = files.get(text(r, 340));
    if (!definition || definition.file === '') continue;
    const sx = number(r, 41, 1),
      sy = number(r, 42, 1),
      turn = (number(r, 50) * Math.PI) / 180;
    if (!(sx > 0) || sy === 0) continue;
    const placed = compose(
      [Math.cos(turn), Math.sin(turn), -Math.sin(turn), Math.cos(turn), number(r, 10), number(r, 20)],
      [sx / POINTS_PER_INCH, 0, 0, sy / POINTS_PER_INCH, 0, 0],
    );
    const ys = numbers(r, 21),
      ring = numbers(r, 11)
        .slice(0, MOST_CORNERS)
        .map((x, i): Point => [x * POINTS_PER_INCH, (ys[i] ?? 0) * POINTS_PER_INCH]);
    found.push({
      ...definition,
      placing: exactPlacing(r, placed, millimetresPerUnit) ?? placed,
      ring: cornersOf(ring),
      on: (number(r, 280, SHOWN) & SHOWN) !== 0,
    });
  }
  return found;
}

/** The name of a file without its folders, however these are parted; letters beyond ASCII may be written as \U+XXXX. */
const baseName = (path: string): string =>
  (
    path
      .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
      .split(/[\\/]/)
      .at(-1) ?? ''
  )
    .trim()
    .slice(0, LONGEST_NAME);

/** A clip by two corners is a rectangle; one of fewer is none. */
function cornersOf(ring: Point[]): Point[] | null {
  if (ring.length !== 2) return ring.length > 2 ? ring : null;
  const [[x0, y0], [x1, y1]] = ring;
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
}

/** The placing to its last bit, as it was written beside the underlay; null where there is none, or where the underlay was moved since. */
function exactPlacing(r: DxfRecord, placed: Transform, millimetresPerUnit: number | null): Transform | null {
  const from = r.pairs.findIndex(([c, v]) => c === 1001 && v.trim() === OWN_DATA);
  if (from < 0 || millimetresPerUnit === null) return null;
  const own = r.pairs
    .slice(from)
    .filter(([c]) => c === 1040)
    .map(([, v]) => Number(v) / millimetresPerUnit)
    .slice(0, 6);
  if (own.length < 6 || !own.every(Number.isFinite)) return null;
  const exact = own as unknown as Transform,
    a = underlayPlacing(exact),
    b = underlayPlacing(placed),
    size = Math.abs(a.sx) * 10 + Math.abs(a.at[0]) + Math.abs(a.at[1]);
  const same =
    Math.abs(a.sx - b.sx) <= ALIKE * a.sx &&
    Math.abs(a.sy - b.sy) <= ALIKE * Math.abs(a.sx) &&
    Math.abs(Math.sin(a.radians - b.radians)) <= ALIKE &&
    Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) <= ALIKE * size;
  return same ? exact : null;
}
