import { cutAt, knownSection, sectionName, settingsOf, type Member, type Model } from '../../model/index.ts';
import { joinedFrame, reachOf, type JoinedFrame, type PlatePart } from '../../framing/index.ts';
import type { Frame, Point } from '../../geometry/index.ts';
import { roomOn } from '../../papers/index.ts';
import { pieceSurfaces, seenOfSurfaces, type PieceHole, type PieceSurfaces } from '../../solids/index.ts';
import { markedPlates, takeoff } from '../../takeoff/index.ts';
import { formatNumber } from '../../units/index.ts';
import { drawingBox } from '../drawing.ts';
import type { View } from '../from-model.ts';
import { brokenLength, type Broken } from './broken.ts';
import { HOLES, ShopSketch, SHOP_LAYERS, VISIBLE, type Stop } from './dims.ts';

/** Scales of drawings for the shop, and the paper that each fits on: A3, lying. */
const SCALES = [5, 10, 15, 20, 25, 50, 100],
  PAPER = { width: 420, height: 297 };

/** Millimetres of paper. */
const TEXT = 2.5,
  BROKEN = 26,
  ROOM = 9,
  TO_DIMENSION = 9,
  STEP = 7,
  BETWEEN = 16;

/** The four ways in which a piece is looked at: frames in its own coordinates (see OwnBars). */
const FROM_RIGHT: Frame = { origin: [0, 0, 0], across: [0, 0, 1], up: [0, 1, 0] },
  FROM_ABOVE: Frame = { origin: [0, 0, 0], across: [0, 0, 1], up: [1, 0, 0] },
  FROM_END: Frame = { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 1, 0] },
  FROM_START: Frame = { origin: [0, 0, 0], across: [-1, 0, 0], up: [0, 1, 0] };

/** Equal pieces, with what is welded to them. */
interface Piece {
  member: Member;
  mark: string;
  count: number;
  mass: number | null;
  ends: string;
  length: number;
  plates: readonly PlatePart[];
}

/** A drawing for the shop of each of the pieces of a frame, with dimensions, by their marks; equal ones once. */
export function pieceViews(model: Model, most = Infinity): View[] {
  const frame = joinedFrame(model),
    marks = new Map(markedPlates(frame).flatMap(({ mark, plates }) => plates.map((p) => [p, mark]))),
    { units, precision } = settingsOf(model);
  return piecesOf(model, frame)
    .slice(0, most)
    .flatMap((piece): View[] => {
      const section = knownSection(piece.member.section),
        seen = section && pieceSurfaces(frame, piece.member.id, piece.plates);
      if (!seen) return [];
      for (const scale of SCALES) {
        const sketch = new ShopSketch(TEXT * scale, { units, precision });
        draw(sketch, scale, piece, seen, frame, marks);
        const drawing = { layers: [...SHOP_LAYERS], shapes: sketch.shapes },
          box = drawingBox(drawing)!,
          [free, high] = roomOn(PAPER);
        if ((box[2] - box[0]) / scale <= free && (box[3] - box[1]) / scale <= high)
          return [{ name: piece.mark, drawing, scale }];
      }
      return [];
    });
}

/** Pieces that are cut alike, parted by what is welded to them. */
function piecesOf(model: Model, frame: JoinedFrame): Piece[] {
  const counted = takeoff(model),
    assembly = new Map(counted.assemblies.flatMap((a) => a.members.map((id) => [id, a]))),
    members = new Map(frame.members.map((m) => [m.member.id, m.member])),
    welded = new Map<string, PlatePart[]>();
  for (const p of frame.plates)
    if (p.weldedTo !== null) welded.set(p.weldedTo, [...(welded.get(p.weldedTo) ?? []), p]);
  let n = 0;
  return counted.cuts.flatMap((cut) => {
    const groups = new Map<string, string[]>();
    for (const id of cut.members) {
      const key = assembly.get(id)?.mark ?? '';
      groups.set(key, [...(groups.get(key) ?? []), id]);
    }
    return [...groups].map(([key, ids]): Piece => {
      const member = members.get(ids[0])!,
        own = [...new Set(ids.map((id) => members.get(id)!.mark).filter((m) => m !== ''))].sort().join(', ');
      return {
        member,
        mark: [own || `Piece ${++n}`, key].filter((w) => w !== '').join(', '),
        count: ids.length,
        mass: key === '' ? cut.mass && cut.mass / cut.count : assembly.get(ids[0])!.mass,
        ends: cut.ends,
        length: cut.length,
        plates: welded.get(ids[0]) ?? [],
      };
    });
  });
}

type Box4 = [number, number, number, number];
const boxOf = (lines: readonly { from: Point; to: Point }[]): Box4 =>
  lines
    .flatMap((l) => [l.from, l.to])
    .reduce<Box4>(
      (b, [x, y]) => [Math.min(b[0], x), Math.min(b[1], y), Math.max(b[2], x), Math.max(b[3], y)],
      [Infinity, Infinity, -Infinity, -Infinity],
    );

function draw(
  sketch: ShopSketch,
  u: number,
  piece: Piece,
  seen: PieceSurfaces,
  frame: JoinedFrame,
  marks: ReadonlyMap<PlatePart, string>,
): void {
  const section = knownSection(piece.member.section)!,
    shape = frame.shapes.get(piece.member.id),
    side = seenOfSurfaces(seen.surfaces, FROM_RIGHT),
    above = seenOfSurfaces(seen.surfaces, FROM_ABOVE),
    [z0, , z1] = boxOf(side),
    [low, high] = shape ? reachOf(section, shape) : [z0, z1],
    corners = [...side, ...above]
      .filter((l) => Math.abs(l.from[0] - l.to[0]) < (z1 - z0) / 4)
      .flatMap((l) => [l.from[0], l.to[0]]),
    broken = brokenLength(z0, z1, [...corners, ...seen.holes.map((h) => h.at[2])], {
      longest: BROKEN * u,
      room: ROOM * u,
    });
  const sideFoot = drawSide(
    sketch,
    u,
    { lines: side, broken, low, high },
    seen.holes.filter((h) => h.axis === 'x'),
  );
  const aboveBox = boxOf(above),
    middle = sideFoot - BETWEEN * u - aboveBox[3],
    foot = drawAbove(sketch, u, { lines: above, broken, low, high }, middle, seen.holes);
  drawEnds(sketch, u, seen, broken.length, section.h);
  const notes = [
    `${sectionName(piece.member)}, ${piece.member.material}, ${sketch.length(piece.length)} long, ${piece.count} off${piece.mass === null ? '' : `, ${formatNumber(piece.mass, 1)} kg each`}`,
    piece.ends === 'square' ? 'Both ends square.' : `Ends: ${piece.ends}.`,
    ...notesOfCuts(sketch, shape, section.h),
    ...notesOfHoles(
      sketch,
      shape?.holes.map((h) => h.d) ?? [],
      seen.holes.some((h) => h.axis === 'y' && h.at[1] < 0),
    ),
    ...(broken.breaks.length > 0
      ? ['Not as long as drawn where two strokes cross it: the figures count.']
      : []),
    ...piecesIn(piece.plates, marks, sketch),
  ];
  sketch.words(piece.mark, [0, foot - 10 * u], { height: 5 * u });
  notes.forEach((words, i) => sketch.words(words.slice(0, 180), [0, foot - (16 + 5 * i) * u]));
}

interface Long {
  lines: readonly { from: Point; to: Point }[];
  broken: Broken;
  /** Where the member itself begins and ends. */
  low: number;
  high: number;
}

function drawLines(sketch: ShopSketch, { lines, broken }: Long, lift: number): void {
  for (const { from, to } of lines)
    sketch.shapes.push({
      kind: 'line',
      layer: VISIBLE.name,
      from: [broken.at(from[0]), from[1] + lift],
      to: [broken.at(to[0]), to[1] + lift],
    });
}

/** Two strokes across what is drawn shorter than it is. */
function drawBreaks(sketch: ShopSketch, u: number, { broken }: Long, [low, high]: [number, number]): void {
  for (const x of broken.breaks)
    for (const off of [-1, 1])
      sketch.shapes.push({
        kind: 'line',
        layer: VISIBLE.name,
        from: [x + (off - 1) * u, low - 3 * u],
        to: [x + (off + 1) * u, high + 3 * u],
      });
}

function drawHoles(
  sketch: ShopSketch,
  holes: readonly PieceHole[],
  place: (h: PieceHole) => Point,
  dashed: (h: PieceHole) => boolean = () => false,
): void {
  for (const h of holes) {
    const [cx, cy] = place(h);
    sketch.shapes.push({
      kind: 'circle',
      layer: HOLES.name,
      cx,
      cy,
      r: h.d / 2,
      ...(dashed(h) && { dash: [h.d / 5, h.d / 8] }),
    });
  }
}

/** Seen from its right: all along it, and what is drilled through its web. Gives how far down it goes. */
function drawSide(sketch: ShopSketch, u: number, long: Long, holes: readonly PieceHole[]): number {
  const { broken, low, high } = long,
    [z0, y0, z1, y1] = boxOf(long.lines);
  drawLines(sketch, long, 0);
  drawBreaks(sketch, u, long, [y0, y1]);
  drawHoles(sketch, holes, (h) => [broken.at(h.at[2]), h.at[1]]);
  const stops = holes.map((h) => broken.stop(h.at[2]));
  if (holes.length > 0)
    sketch.chain('x', [broken.stop(low), ...stops, broken.stop(high)], y1, y1 + TO_DIMENSION * u);
  let line = y0 - TO_DIMENSION * u;
  sketch.dimension('x', broken.stop(low), broken.stop(high), y0, line);
  if (low - z0 > 0.5 || z1 - high > 0.5) {
    // With the plates at its ends.
    line -= STEP * u;
    sketch.dimension('x', broken.stop(z0), broken.stop(z1), y0, line);
  }
  const stop = (y: number): Stop => ({ drawn: y, true: y });
  sketch.dimension('y', stop(y0), stop(y1), broken.at(z0), broken.at(z0) - TO_DIMENSION * u);
  const heights = holes.map((h) => stop(h.at[1]));
  if (heights.length > 0)
    sketch.chain('y', [stop(y0), ...heights, stop(y1)], broken.at(z1), broken.at(z1) + TO_DIMENSION * u);
  return line - TEXT * u;
}

/** Seen from above, below that: its width, and what is drilled through its flanges; those of the lower one dashed. */
function drawAbove(
  sketch: ShopSketch,
  u: number,
  long: Long,
  middle: number,
  all: readonly PieceHole[],
): number {
  const { broken, low, high } = long,
    holes = all.filter((h) => h.axis === 'y'),
    [z0, x0, z1, x1] = boxOf(long.lines);
  drawLines(sketch, long, middle);
  drawBreaks(sketch, u, long, [middle + x0, middle + x1]);
  drawHoles(
    sketch,
    holes,
    (h) => [broken.at(h.at[2]), middle + h.at[0]],
    (h) => h.at[1] < 0,
  );
  const stop = (x: number): Stop => ({ drawn: middle + x, true: x });
  sketch.dimension('y', stop(x0), stop(x1), broken.at(z0), broken.at(z0) - TO_DIMENSION * u);
  const across = holes.map((h) => stop(h.at[0]));
  if (across.length > 0)
    sketch.chain('y', [stop(x0), ...across, stop(x1)], broken.at(z1), broken.at(z1) + TO_DIMENSION * u);
  const foot = middle + x0,
    line = foot - TO_DIMENSION * u,
    isChained =
      holes.length > 0 &&
      sketch.chain(
        'x',
        [broken.stop(low), ...holes.map((h) => broken.stop(h.at[2])), broken.stop(high)],
        foot,
        line,
      );
  return isChained ? line : foot;
}

/** Its ends as they are seen: the far one at the right, the near one at the left where a plate closes it. */
function drawEnds(sketch: ShopSketch, u: number, seen: PieceSurfaces, length: number, depth: number): void {
  const middle = boxOf(seenOfSurfaces(seen.surfaces, FROM_RIGHT)),
    atMiddle = (middle[0] + middle[2]) / 2,
    isClosed = (isEnd: boolean) => seen.plates.some((p) => p.axis === 'z' && p.z > atMiddle === isEnd);
  for (const isEnd of [false, true]) {
    if (!isEnd && !isClosed(false)) continue;
    const lines = seenOfSurfaces(seen.surfaces, isEnd ? FROM_END : FROM_START),
      sign = isEnd ? 1 : -1,
      [x0, y0, x1, y1] = boxOf(lines),
      at = isEnd ? length + 34 * u - x0 : -34 * u - x1,
      holes = seen.holes.filter((h) => h.axis === 'z' && h.at[2] > atMiddle === isEnd);
    for (const { from, to } of lines)
      sketch.shapes.push({
        kind: 'line',
        layer: VISIBLE.name,
        from: [at + from[0], from[1]],
        to: [at + to[0], to[1]],
      });
    drawHoles(sketch, holes, (h) => [at + sign * h.at[0], h.at[1]]);
    sketch.words(
      isEnd ? 'at its end' : 'at its start',
      [at + (x0 + x1) / 2, y1 + 3 * TO_DIMENSION * u * 0.4],
      {
        centred: true,
      },
    );
    const stop = (v: number, off = 0): Stop => ({ drawn: v + off, true: v });
    sketch.chain(
      'x',
      [stop(x0, at), ...holes.map((h) => stop(sign * h.at[0], at)), stop(x1, at)],
      y0,
      y0 - TO_DIMENSION * u,
    );
    if (holes.length > 0)
      sketch.chain(
        'y',
        [stop(y0), ...holes.map((h) => stop(h.at[1])), stop(y1)],
        at + x1,
        at + x1 + TO_DIMENSION * u,
      );
    else if (y1 - y0 > depth + 1)
      sketch.dimension('y', stop(y0), stop(y1), at + x1, at + x1 + TO_DIMENSION * u);
  }
}

/** Angles of cuts and sizes of notches, in words. */
function notesOfCuts(
  sketch: ShopSketch,
  shape: ReturnType<JoinedFrame['shapes']['get']>,
  h: number,
): string[] {
  if (!shape) return [];
  return (['start', 'end'] as const).flatMap((end) => {
    const long = [h / 2, -h / 2].map((y) => cutAt(shape[end], [0, y]));
    const slope = Math.abs(long[0] - long[1]);
    return slope > 0.5
      ? [`At its ${end} the cut runs ${sketch.length(slope)} along over its depth of ${sketch.length(h)}.`]
      : [];
  });
}

/** "4 holes ⌀ 22": those of the member itself, by their diameters. */
function notesOfHoles(sketch: ShopSketch, diameters: readonly number[], hasLower: boolean): string[] {
  const counts = new Map<string, number>();
  for (const d of diameters) counts.set(sketch.length(d), (counts.get(sketch.length(d)) ?? 0) + 1);
  const words = [...counts].map(([d, n]) => `${n} ${n === 1 ? 'hole' : 'holes'} ⌀ ${d} in it`);
  if (words.length === 0) return [];
  return [`${words.join(', ')}${hasLower ? '; those of its lower flange are dashed seen from above' : ''}.`];
}

/** What is welded to it, by marks. */
function piecesIn(
  plates: readonly PlatePart[],
  marks: ReadonlyMap<PlatePart, string>,
  sketch: ShopSketch,
): string[] {
  const found = new Map<string, { plate: PlatePart; count: number }>();
  for (const plate of plates) {
    const mark = marks.get(plate) ?? '',
      known = found.get(mark);
    if (known) known.count++;
    else found.set(mark, { plate, count: 1 });
  }
  return [...found].map(
    ([mark, { plate, count }]) =>
      `Welded to it: ${count} ${mark} ${plate.name}, ${sketch.length(plate.thickness)} thick${plate.weld ? `, fillet welds of ${sketch.length(plate.weld.size)}` : ''}.`,
  );
}
