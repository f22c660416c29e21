import { printedSchedule, tagKey, type ScheduledOpening, type WallBand } from '../building/index.ts';
import { MM_PER_POINT } from '../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { parseLevel } from '../units/index.ts';
import { columnsOf } from './columns.ts';
import { INK_OPENINGS, INK_SOLID, INK_WALLS, OPENINGS, reliable, WALLS } from './confidence.ts';
import { gridOf, middleOf } from './grid.ts';
import { membersOf } from './members.ts';
import { Nearby } from './nearby.ts';
import { northOf } from './north.ts';
import { openingsIn } from './openings.ts';
import { local, type OpenedWall } from './seen-along.ts';
import { withoutPatched } from './patched.ts';
import { roomsOf, type TallText } from './rooms.ts';
import { partOfSheet, type SheetPart } from './sheet-part.ts';
import type { Span } from './spans.ts';
import { stairsOf } from './stairs.ts';
import { strokesOf } from './strokes.ts';
import { bendOf, rolled, unrolled, unrolledBand } from './unrolled.ts';
import type { ProposedOpening, Proposals, WallPen } from './types.ts';
import type { SeenWall, Told } from './seen-walls.ts';
import { proposedWalls } from './walls.ts';

/** On what of a page to look, and what is known of it. */
export interface ProposeOptions extends SheetPart {
  told?: Told;
  /** How far lines may lie from where they are meant, sheet points: of ink. */
  slack?: number;
}

/**
 * All that a sheet to scale is seen to show. `factor`: true millimetres to a millimetre of paper, or along its width and its height where it is stretched.
 */
export function proposalsOn(
  sheet: Linework,
  factor: number | { x: number; y: number },
  { told, slack = 0, ...part }: ProposeOptions = {},
): Proposals {
  const { x, y } = typeof factor === 'number' ? { x: factor, y: factor } : factor,
    whole = partOfSheet(sheet, part, y / x),
    // Walls run on beneath white patches, where these open them.
    seen = sheet.patches ? partOfSheet(withoutPatched(sheet, part.switches), part, y / x) : whole,
    found = seenOn(whole, seen, x, slack, told);
  return x === y ? found : stretchedBack(found, x / y);
}

/** What was seen on a sheet that was stretched, where it lies on the sheet as it is. */
function stretchedBack(p: Proposals, by: number): Proposals {
  const back = ([x, y]: readonly [number, number]): [number, number] => [x, y * by],
    line = <T extends { from: [number, number]; to: [number, number] }>(t: T): T => ({
      ...t,
      from: back(t.from),
      to: back(t.to),
    }),
    at = <T extends { at: [number, number] }>(t: T): T => ({ ...t, at: back(t.at) });
  return {
    ...p,
    walls: p.walls.map((w) => ({
      ...line(w),
      arc: w.arc && { ...w.arc, centre: back(w.arc.centre) },
    })),
    openings: p.openings.map((o) => ({
      ...at(o),
      swing: o.swing && { ...o.swing, hinge: back(o.swing.hinge) },
    })),
    rooms: p.rooms.map((r) => ({ ...r, outline: r.outline.map(back) })),
    columns: p.columns.map(at),
    grid: p.grid.map(line),
    stairs: p.stairs.map(line),
    north: p.north && at(p.north),
    members: p.members.map(line),
    levels: p.levels.map(at),
  };
}

function seenOn(whole: Linework, l: Linework, factor: number, slack: number, told?: Told): Proposals {
  const mm = MM_PER_POINT * factor,
    { walls: all, pens } = proposedWalls(whole, factor, told, slack),
    walls = all.filter((w) => w.confidence >= LEAST_SURE),
    near = new Nearby(l, mm),
    texts = textsOf(l, mm),
    bands = walls.map((w, i) => bandOf(w, i, mm)),
    straight = bands.filter((_, i) => !walls[i].arc),
    openings = walls.flatMap((w, i): ProposedOpening[] => {
      const bend = bendOf(w, mm),
        penOf = (pen: string) => pens.get(pen) ?? 0;
      if (bend) {
        const opened = {
          band: unrolledBand(bend, String(i)),
          confidence: w.confidence,
          solid: null,
          met: [],
          ofInk: slack > 0,
        };
        // What is written beside it is not laid straight.
        return openingsIn(opened, i, unrolled(near, bend), [], mm, penOf).map((o) => rolled(o, bend, mm));
      }
      const opened: OpenedWall = {
        band: bands[i],
        confidence: w.confidence,
        solid: w.solid?.map(([a, b]): Span => [a * mm, b * mm]) ?? null,
        met: metBy(bands[i], straight),
        ofInk: slack > 0,
      };
      return openingsIn(opened, i, near, texts, mm, penOf);
    }),
    isTag = tagsLike(openings.flatMap((o) => (o.tag === null ? [] : [o.tag]))),
    grid = gridOf(l).filter((g) => !isTag(g.name));
  const rows = new Map(printedSchedule(l.texts).map((r) => [tagKey(r.tag), r]));
  const wallSure = ({ confidence, solid }: SeenWall): number => {
      const own = reliable(confidence, WALLS);
      return slack > 0 ? Math.min(reliable(own, INK_WALLS), solid ? INK_SOLID : 1) : own;
    },
    openingSure = (own: number): number =>
      slack > 0 ? reliable(reliable(own, OPENINGS), INK_OPENINGS) : reliable(own, OPENINGS);
  const sure = walls.map((w) => ({
      ...w,
      thickness: asThick(w.thickness, told),
      confidence: wallSure(w),
    })),
    { rooms, outer } = roomsOf(
      sure,
      mm,
      texts.filter((t) => !isTag(t.text)),
    );
  return {
    walls: sure.map(({ from, to, thickness, arc, confidence, doubts }, i) => ({
      from,
      to,
      thickness,
      arc,
      outer: outer[i],
      confidence,
      doubts,
    })),
    classes: classesOf(sure, mm),
    pens: pensOf(l, pens),
    lines: linePens(l),
    openings: openings.map((o) => ({
      ...o,
      ...asScheduled(o, rows),
      confidence: openingSure(o.confidence),
    })),
    rooms,
    columns: columnsOf(l, mm, walls, grid),
    grid,
    stairs: stairsOf(l, mm),
    north: northOf(l, grid),
    members: membersOf(l, mm, sure.length < FEW_WALLS),
    levels: l.texts.flatMap((t) => {
      const value = t.text.length < 24 ? parseLevel(t.text) : null,
        { x, y } = middleOf(t);
      return value === null
        ? []
        : [{ at: [x, y] as [number, number], figure: t.text.trim(), millimetres: value }];
    }),
  };
}

/** What is not written beside an opening a schedule on its sheet may say by its tag. */
function asScheduled(
  { tag, height, sill }: ProposedOpening,
  rows: ReadonlyMap<string, ScheduledOpening>,
): Pick<ProposedOpening, 'height' | 'sill' | 'type' | 'material'> {
  const row = tag === null ? undefined : rows.get(tagKey(tag));
  if (!row) return { height, sill, type: null, material: null };
  const between = (a: number | null, b: number | null) => (a === null || b === null ? null : a - b),
    low = row.sill ?? between(row.head, row.height);
  return {
    height: height ?? row.height ?? between(row.head, low),
    sill: sill ?? low,
    type: row.type,
    material: row.material,
  };
}

/** Is a text a tag of an opening, or as those that were found are: the same letters, and a number? */
function tagsLike(tags: readonly string[]): (text: string) => boolean {
  const known = new Set(tags.map((t) => t.trim())),
    letters = new Set([...known].map((t) => /^[A-Za-z]*/.exec(t)![0]).filter((l) => l !== ''));
  return (text) => {
    const plain = text.trim(),
      [, begin] = /^([A-Za-z]+)[-. ]?\d{1,4}[a-z]?$/.exec(plain) ?? [];
    return known.has(plain) || (begin !== undefined && letters.has(begin));
  };
}

/** On a plan of walls marks are of doors and windows, not of members. */
const FEW_WALLS = 4;

/** What is less sure than this by its own reckoning is not offered. */
const LEAST_SURE = 0.3;

/** Thicknesses of walls within this share are one class. */
const ONE_CLASS = 0.035;

/** The thicknesses that walls have, the one of the longest first. */
function classesOf(walls: readonly SeenWall[], mm: number): number[] {
  const groups: { sum: number; length: number }[] = [];
  for (const w of [...walls].sort((a, b) => a.thickness - b.thickness)) {
    const length = Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]) * mm,
      last = groups.at(-1);
    if (last && w.thickness - last.sum / last.length <= Math.max(6, ONE_CLASS * w.thickness)) {
      last.sum += w.thickness * length;
      last.length += length;
    } else groups.push({ sum: w.thickness * length, length });
  }
  return groups.sort((a, b) => b.length - a.length).map((g) => g.sum / g.length);
}

/** A thickness as a person has said it is. */
const asThick = (seen: number, told: Told | undefined): number =>
  told?.asThick?.find(({ was }) => Math.abs(seen - was) <= Math.max(6, ONE_CLASS * was))?.is ?? seen;

/** The pens that draw straight lines. */
function linePens(l: Linework): WallPen[] {
  const lengths = new Map<string, number>();
  for (const { from, to, pen, filled } of strokesOf(l))
    if (!filled) lengths.set(pen, (lengths.get(pen) ?? 0) + Math.hypot(to[0] - from[0], to[1] - from[1]));
  const most = Math.max(1e-9, ...lengths.values());
  return [...lengths]
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_LINE_PENS)
    .map(([name, n]) => penNamed(l, name, n / most));
}
const MOST_LINE_PENS = 12;

/** A pen by its name (see penName). */
function penNamed(l: Linework, name: string, draws: number): WallPen {
  const [layer, width, colour] = name.startsWith('fill ')
    ? [Number(name.slice(5)), 0, 0]
    : name.split(' ').map(Number);
  return { name, width, colour, layer: l.layers[layer]?.name ?? '', draws };
}

/** The pens that draw walls, told by what the sheet says of them. */
function pensOf(l: Linework, pens: ReadonlyMap<string, number>): WallPen[] {
  return [...pens]
    .filter(([, draws]) => draws >= LEAST_DRAWS)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_PENS)
    .map(([name, draws]) => penNamed(l, name, draws));
}
const LEAST_DRAWS = 0.08,
  MOST_PENS = 6;

function textsOf(l: Linework, mm: number): TallText[] {
  return l.texts
    .filter(
      (t) => ITEM_KINDS_OF_SHEET[t.kind] !== 'dimension' && (t.layer < 0 || l.layers[t.layer]?.on !== false),
    )
    .map((t) => {
      const { x, y } = middleOf(t);
      return { text: t.text, at: [x * mm, y * mm] as [number, number], height: t.height * mm };
    });
}

function bandOf({ from, to, thickness }: SeenWall, i: number, mm: number): WallBand {
  const [p, q] = [from, to].map(([x, y]): [number, number] => [x * mm, y * mm]),
    length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  return {
    id: String(i),
    from: p,
    to: q,
    left: thickness / 2,
    right: thickness / 2,
    length,
    ux: (q[0] - p[0]) / length,
    uy: (q[1] - p[1]) / length,
  };
}

/** Where other walls meet or cross a wall, along it. */
function metBy(band: WallBand, all: readonly WallBand[]): Span[] {
  return all.flatMap((o): Span[] => {
    const cross = band.ux * o.uy - band.uy * o.ux;
    if (o === band || Math.abs(cross) < 0.2) return [];
    const [t, v] = local(band, o.from),
      // Where both middle lines cross, along each.
      along = -v / cross,
      at = t + along * (o.ux * band.ux + o.uy * band.uy),
      half = (o.left + o.right) / 2 / Math.abs(cross),
      reach = band.left + o.left;
    if (along < -reach || along > o.length + reach || at < -reach || at > band.length + reach) return [];
    return [[at - half, at + half]];
  });
}
