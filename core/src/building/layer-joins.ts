import {
  differenceOf,
  ringArea,
  ringTurning,
  type Point,
  type Polygon,
  type Ring,
} from '../geometry/index.ts';
import { coreDepths, wallTypeOf, type Model, type Wall, type WallType } from '../model/index.ts';
import { bodyBetween, type CutWalls } from './joins.ts';
import { bandOf, type WallBand } from './wall-geometry.ts';
import { beside, cornerCuts, endOf, meet, type CornerEnd, type End, type Meeting } from './wall-ends.ts';

/** The core of a wall about its drawn line: how far its faces lie to the left and right of it, millimetres. */
export interface WallCore {
  left: number;
  right: number;
}

/** The core of a wall by its type; null where nothing says what it is built of. */
export type CoreOf = (wall: Wall) => WallCore | null;

export function coreWithin(wall: Wall, type: WallType): WallCore | null {
  const depths = coreDepths(type.layers),
    { left, right } = bandOf(wall);
  if (!depths) return null;
  return wall.firstLayer === 'right'
    ? { left: left - depths.last, right: right - depths.first }
    : { left: left - depths.first, right: right - depths.last };
}

export const coresOf =
  (model: Model): CoreOf =>
  (wall) => {
    const type = wallTypeOf(model, wall);
    return type && coreWithin(wall, type);
  };

/** A core that goes on through the finish of the wall that its own runs into, up to that one's core. */
export interface Pass {
  stem: string;
  through: string;
  atStart: boolean;
  ring: Ring;
}

/** Seen from one of its ends, the other way round at the far one. */
const coreAt = ({ left, right }: WallCore, { atStart }: End): WallCore =>
  atStart ? { left, right } : { left: right, right: left };

/** Walls that join by their layers: by the wall's id what is known of them. */
class Layered {
  private readonly bands = new Map<string, WallBand>();
  private readonly walls: ReadonlyMap<string, Wall>;

  constructor(
    walls: readonly Wall[],
    private readonly coreOf: CoreOf,
  ) {
    this.walls = new Map(walls.map((w) => [w.id, w]));
  }

  band(id: string): WallBand | null {
    const known = this.bands.get(id),
      wall = this.walls.get(id);
    if (known || !wall || wall.curve) return known ?? null;
    const band = bandOf(wall);
    this.bands.set(id, band);
    return band;
  }

  core(id: string): WallCore | null {
    const wall = this.walls.get(id);
    return wall ? this.coreOf(wall) : null;
  }

  /** An end in a corner: all of a wall of which nothing is known counts as core. */
  cornerEnd(id: string, atStart: boolean, node: Point): CornerEnd | null {
    const band = this.band(id);
    if (!band) return null;
    const end: End = { ...endOf(band, atStart), node },
      core = this.core(id);
    return { end, core: core ? coreAt(core, end) : end };
  }
}

const isLayered = ({ end, core }: CornerEnd): boolean => core.left < end.left || core.right < end.right;

/**
 * The bodies of walls of which something is known of their layers, parted in corners so that like meets like, and the cores that go on
 * through a finish. All of them together cover what the bodies covered before.
 */
export function joinedByLayers(
  walls: readonly Wall[],
  { bodies, meets }: Pick<CutWalls, 'bodies' | 'meets'>,
  coreOf: CoreOf,
): { bodies: ReadonlyMap<string, Ring>; passes: Pass[] } {
  const layered = new Layered(walls, coreOf),
    next = new Map(bodies),
    passes: Pass[] = [];
  for (const [id, { start, end, cuts }] of meets) {
    const cutAt = (meeting: Meeting | null, atStart: boolean) =>
      meeting?.kind === 'corner' ? cornerOf(layered, id, atStart, meeting) : null;
    const [first, last] = [cutAt(start, true), cutAt(end, false)];
    if (first || last) next.set(id, bodyBetween({ start: first ?? cuts.start, end: last ?? cuts.end }));
    for (const [meeting, atStart] of [
      [start, true],
      [end, false],
    ] as const) {
      const pass = meeting?.kind === 'tee' ? passOf(layered, id, atStart, meeting) : null;
      if (pass) passes.push(pass);
    }
  }
  return { bodies: next, passes };
}

function cornerOf(
  layered: Layered,
  id: string,
  atStart: boolean,
  { node, other, otherAtStart, through }: Extract<Meeting, { kind: 'corner' }>,
) {
  const [own, beyond] = [layered.cornerEnd(id, atStart, node), layered.cornerEnd(other, otherAtStart, node)];
  if (!own || !beyond || !(isLayered(own) || isLayered(beyond))) return null;
  if (through === 'other') return cornerCuts(beyond, own, true).other;
  return cornerCuts(own, beyond, through === 'this').through;
}

/** The face of a wall that a stem runs into, and that of its core behind it, to the left of its line. */
function facesBefore(band: WallBand, core: WallCore, stem: End): { near: number; core: number } {
  const isFromLeft = stem.dy * band.ux - stem.dx * band.uy > 0;
  return isFromLeft ? { near: band.left, core: core.left } : { near: -band.right, core: -core.right };
}

function passOf(layered: Layered, id: string, atStart: boolean, { node, other }: Meeting): Pass | null {
  const band = layered.band(id),
    through = layered.band(other),
    [own, beyond] = [layered.core(id), layered.core(other)];
  if (!band || !through || !own || !beyond) return null;
  const end: End = { ...endOf(band, atStart), node },
    core = coreAt(own, end),
    faces = facesBefore(through, beyond, end);
  if (faces.near === faces.core) return null;
  const at = (left: number, face: number) =>
      meet(beside(end, left), end.dx, end.dy, faceOf(through, face), through.ux, through.uy),
    ring = [
      at(core.left, faces.near),
      at(-core.right, faces.near),
      at(-core.right, faces.core),
      at(core.left, faces.core),
    ];
  return ring.every((p) => p !== null) ? { stem: id, through: other, atStart, ring } : null;
}

const faceOf = (b: WallBand, left: number): Point => [b.from[0] - b.uy * left, b.from[1] + b.ux * left];

/** What a pass takes counts only where the wall that it goes into has all of it: to within a share of its area, and square millimetres. */
const SHARE = 1e-6,
  LEAST = 1;

const areaOf = (polygons: readonly Polygon[]): number =>
  polygons.flat().reduce((sum, ring) => sum + ringArea(ring), 0);

/** Gives to stems what of the walls that they run into their cores go through. */
export function passOn(own: Map<string, Polygon[]>, passes: readonly Pass[]): void {
  for (const { stem, through, ring } of passes) {
    const [giver, taker] = [own.get(through), own.get(stem)];
    if (!giver || !taker) continue;
    const left = giver.flatMap((polygon) => differenceOf(polygon, [ring])),
      area = Math.abs(ringArea(ring));
    if (Math.abs(areaOf(giver) - areaOf(left) - area) > SHARE * area + LEAST) continue;
    own.set(through, left);
    own.set(stem, [...taker, [ringTurning(ring, true)]]);
  }
}

/** How far along a wall the lines between its layers go, and where they are open for a core that goes through them. */
export interface LineLimits {
  /** The distances along the wall at which a line so far to the left of its own ends; null where nothing but its body ends it. */
  start(left: number): number | null;
  end(left: number): number | null;
  open(left: number): { from: number; to: number }[];
}

/** Lines lie on a face within this, millimetres. */
const ON = 1e-6;

interface Joined {
  walls: readonly Wall[];
  model: Model;
  meets: CutWalls['meets'];
  passes: readonly Pass[];
}

/** Tells what the walls that a straight wall meets leave of the lines between its layers. */
export function limitsIn(joined: Joined): (wall: Wall) => LineLimits {
  const layered = new Layered(joined.walls, coresOf(joined.model));
  return (wall) => limitsOf(layered, wall, joined);
}

function limitsOf(layered: Layered, wall: Wall, { walls, model, meets, passes }: Joined): LineLimits {
  const band = layered.band(wall.id)!,
    own = layered.core(wall.id),
    known = meets.get(wall.id),
    alongOf = (p: Point) => (p[0] - band.from[0]) * band.ux + (p[1] - band.from[1]) * band.uy;
  const stop = (meeting: Meeting | null | undefined, atStart: boolean) => (left: number) => {
    const through = meeting?.kind === 'tee' ? layered.band(meeting.other) : null;
    if (!through) return null;
    const end: End = { ...endOf(band, atStart), node: meeting!.node },
      core = layered.core(through.id) ?? through,
      goesOn =
        passes.some((p) => p.stem === wall.id && p.atStart === atStart) &&
        own !== null &&
        left <= own.left + ON &&
        left >= -own.right - ON,
      faces = facesBefore(through, core, end),
      [x, y] = faceOf(through, goesOn ? faces.core : faces.near),
      at = meet(faceOf(band, left), band.ux, band.uy, [x, y], through.ux, through.uy);
    return at && alongOf(at);
  };
  const into = passes.filter((p) => p.through === wall.id);
  return {
    start: stop(known?.start, true),
    end: stop(known?.end, false),
    open: (left) =>
      into.flatMap(({ stem, atStart, ring }) => {
        const end = endOf(layered.band(stem)!, atStart),
          { near, core } = facesBefore(band, own!, end),
          share = (left - near) / (core - near);
        const isWithin =
          share > ON && (share < 1 - ON || (share < 1 + ON && areAlike(model, walls, stem, wall, near > 0)));
        if (!isWithin) return [];
        const at = (a: Point, b: Point) => alongOf(a) + share * (alongOf(b) - alongOf(a)),
          [p, q] = [at(ring[0], ring[3]), at(ring[1], ring[2])];
        return [{ from: Math.min(p, q), to: Math.max(p, q) }];
      }),
  };
}

/** Is the core of a stem of the material that the core of the wall which it runs into has on its side? */
function areAlike(
  model: Model,
  walls: readonly Wall[],
  stem: string,
  wall: Wall,
  fromLeft: boolean,
): boolean {
  const coreLayers = (w: Wall | undefined): string[] => {
    const layers = (w && wallTypeOf(model, w)?.layers) ?? [],
      isCore = layers.map((l) => l.purpose === 'structure');
    return layers.slice(isCore.indexOf(true), isCore.lastIndexOf(true) + 1).map((l) => l.material);
  };
  const own = coreLayers(wall),
    facing = (wall.firstLayer !== 'right') === fromLeft ? own[0] : own.at(-1);
  return coreLayers(walls.find((w) => w.id === stem)).every((material) => material === facing);
}
