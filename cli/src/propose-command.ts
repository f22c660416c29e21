import { readPrinted, type PrintedReading, type SheetView } from '@calque/core/calibration';
import { boxRing, MM_PER_POINT } from '@calque/core/geometry';
import { inkSlack, withInkLines } from '@calque/core/ink';
import { proposalsOn, type Proposals } from '@calque/core/proposals';
import { describeScale, parseScale } from '@calque/core/units';
import { DEFAULT_MEMORY_MB, type ReadPage } from '@calque/reader';
import { Pictures } from './pictures.ts';
import { readLimited } from './read-limited.ts';
import { UsageError } from './usage-error.ts';

export interface ProposeFlags {
  page: number;
  view?: number;
  scale?: string;
  password?: string;
  seconds: number;
  json?: boolean;
}

/** Where a scale comes from, and on which part of the page it holds. */
interface Scaled {
  x: number;
  y: number;
  region: SheetView['region'] | null;
}

/** Tells what a page is seen to show: walls, openings, rooms, columns, grid lines, levels. */
export async function proposeCommand(file: string, flags: ProposeFlags): Promise<string> {
  const given = flags.scale === undefined ? null : scaleGiven(flags.scale),
    { pages } = await readLimited(
      file,
      { page: flags.page, password: flags.password, maxMegabytes: DEFAULT_MEMORY_MB },
      flags.seconds,
    );
  const { page } = pages[0],
    { lines, reading, slack } = await readingOf(
      file,
      pages[0],
      flags,
      given === null || flags.view !== undefined,
    ),
    scaled = scaleOf(reading, given, flags.view),
    proposals = proposalsOn(lines, scaled, { ring: scaled.region && boxRing(scaled.region), slack });
  return flags.json ? JSON.stringify(json(page, scaled.x, proposals)) : words(page, scaled.x, proposals);
}

function scaleGiven(text: string): number {
  const scale = parseScale(text);
  if (!scale.ok) throw new UsageError(`"${text}" is no scale: 1:100, 1/4" = 1'-0" or a bare factor.`);
  return scale.factor;
}

/** The lines of a page, those of a scan by its ink, and what its printed figures say. */
async function readingOf(
  file: string,
  { page, linework }: ReadPage,
  flags: ProposeFlags,
  asked: boolean,
): Promise<{ lines: ReadPage['linework']; reading: PrintedReading | null; slack: number }> {
  const own = asked ? readPrinted(linework) : null;
  if (linework.content !== 'scan' && (own === null || own.views.length > 0))
    return { lines: linework, reading: own, slack: 0 };
  const pictures = new Pictures(file, flags.password);
  try {
    const picture = await pictures.read(page, linework);
    if (!picture) return { lines: linework, reading: own, slack: 0 };
    const isScan = linework.content === 'scan',
      texts = { ...linework, texts: [...linework.texts, ...picture.texts] };
    return {
      lines: isScan ? withInkLines(texts, picture, { pens: true }) : texts,
      slack: isScan ? inkSlack(picture) : 0,
      reading: asked ? readPrinted(linework, { picture }) : null,
    };
  } finally {
    await pictures.close();
  }
}

function scaleOf(reading: PrintedReading | null, given: number | null, view: number | undefined): Scaled {
  const views = reading?.views ?? [];
  if (view !== undefined && (view < 1 || view > views.length))
    throw new UsageError(
      views.length === 0
        ? 'The page tells no views: leave out --view, and give its --scale.'
        : `The page has ${views.length === 1 ? 'one view' : `${views.length} views`}: give --view 1${views.length > 1 ? ` to ${views.length}` : ''}.`,
    );
  const found = view === undefined ? [...views].sort((a, b) => areaOf(b) - areaOf(a))[0] : views[view - 1];
  if (given !== null) return { x: given, y: given, region: view === undefined ? null : found.region };
  if (found && found.unit !== null)
    return { x: found.x, y: found.y, region: views.length > 1 ? found.region : null };
  if (found)
    throw new UsageError(
      `Its figures may be in ${found.rivals.map((r) => r.unit).join(' or ')}: give the scale with --scale.`,
    );
  throw new UsageError(`${reading?.why ?? 'The page tells no scale.'} Give it with --scale.`);
}
const areaOf = ({ region: [x0, y0, x1, y1] }: SheetView): number => (x1 - x0) * (y1 - y0);

function json(page: number, scale: number, p: Proposals) {
  return {
    page,
    scale,
    walls: p.walls.map(({ from, to, thickness, arc, outer, confidence, doubts }) => ({
      from,
      to,
      thickness,
      arc: arc && { centre: arc.centre, radius: arc.radius },
      outer,
      confidence,
      ...(doubts.length > 0 && { doubts }),
    })),
    openings: p.openings.map(({ kind, at, width, wall, swing, tag, height, sill, confidence }) => ({
      kind,
      at,
      width,
      wall,
      swing,
      tag,
      ...(height !== null && { height }),
      ...(sill !== null && { sill }),
      confidence,
    })),
    rooms: p.rooms.map(({ name, number, outline, area, printed, confidence }) => ({
      name,
      number,
      outline,
      area,
      printed,
      confidence,
    })),
    columns: p.columns.map(({ at, width, depth, turn, round, confidence }) => ({
      at,
      width,
      depth,
      turn,
      round,
      confidence,
    })),
    grid: p.grid.map(({ name, from, to, confidence }) => ({ name, from, to, confidence })),
    stairs: p.stairs,
    north: p.north,
    members: p.members,
    levels: p.levels,
  };
}

/** What is less sure than this is told to be doubtful. */
const DOUBTFUL = 0.8;

function words(page: number, scale: number, p: Proposals): string {
  const of = (kind: string) => p.openings.filter((o) => o.kind === kind).length,
    count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`,
    metres = p.walls.reduce((sum, w) => sum + lengthOf(w) * scale * MM_PER_POINT, 0) / 1000;
  const lines = [
    `Page ${page} at ${describeScale(scale, false).text} shows ${count(p.walls.length, 'wall')}, ${metres.toFixed(1)} m in all, ${count(of('door'), 'door')}, ${count(of('window'), 'window')}, ${count(of('gap'), 'gap')}, ${count(p.rooms.length, 'room')}, ${count(p.columns.length, 'column')}, ${count(p.grid.length, 'grid line')}, ${count(p.stairs.length, 'flight of stairs', 'flights of stairs')}, ${count(p.members.length, 'member')}, ${count(p.levels.length, 'level')}.`,
    ...(p.classes.length > 0
      ? [`  Walls are ${p.classes.map((t) => t.toFixed(0)).join(', ')} mm thick.`]
      : []),
    ...p.rooms.map(
      (r) =>
        `  ${[r.number, r.name].filter(Boolean).join(' ') || 'a room'}: ${r.area.toFixed(2)} m²${r.printed === null ? '' : `, prints ${r.printed.toFixed(2)}`}`,
    ),
  ];
  const doubtful = p.walls.filter((w) => w.confidence < DOUBTFUL);
  if (doubtful.length > 0) lines.push(`  ${count(doubtful.length, 'wall is', 'walls are')} doubtful.`);
  return lines.join('\n');
}
const lengthOf = ({ from, to }: { from: readonly number[]; to: readonly number[] }): number =>
  Math.hypot(to[0] - from[0], to[1] - from[1]);
