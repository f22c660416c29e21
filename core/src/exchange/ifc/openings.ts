import {
  arcOf,
  bandOf,
  nicheIn,
  openingsOf,
  pointAt,
  type OpeningInWall,
  type WallBand,
} from '../../building/index.ts';
import type { Point } from '../../geometry/index.ts';
import { footOf, pairOf, topOf, type Wall, type WallOpening } from '../../model/index.ts';
import type { IfcScope } from './scope.ts';
import { Enum, type Ref } from '../step/step-text.ts';

/** Frames that nobody has said: usual ones, so marked. Millimetres. */
const LINING = 50,
  PANEL = 40,
  GLASS = 20;

/** Where a wall lies and what it is called in the file. */
export interface WrittenWall {
  wall: Wall;
  band: WallBand;
  ref: Ref;
  placement: Ref;
  storeyPlacement: Ref;
  name: string;
}

/** A door or window with what the list of what its storey contains needs. */
export interface Filled {
  ref: Ref;
  name: string;
  opening: OpeningInWall;
}

/**
 * The operation of a door whose local y points to where its leaf opens: hung at its left edge seen along that, or at its right
 * (IfcDoorTypeOperationEnum).
 */
function operationOf({ kind, leaves, folds, hung, opens }: WallOpening): string {
  if (kind !== 'door') return 'NOTDEFINED';
  if (leaves === 2) return 'DOUBLE_DOOR_SINGLE_SWING';
  if (leaves === 0) return folds ? 'USERDEFINED' : 'NOTDEFINED';
  // Seen to the left of its way its first edge is at the left; seen to the right it is at the right.
  return (hung === 'from') === (opens === 'left') ? 'SINGLE_SWING_LEFT' : 'SINGLE_SWING_RIGHT';
}

/** In words what the standard's operations would say too much of: to which side a door folds nobody has said. */
const ownOperation = ({ kind, leaves, folds }: WallOpening): string | null =>
  kind === 'door' && leaves === 0 && folds ? 'folding' : null;

/** The openings of a wall, with their doors and windows; `cuts`: the wall is written whole, and they are cut out of it. */
export function writeOpenings(scope: IfcScope, written: WrittenWall, cuts: boolean): Filled[] {
  return openingsOf(written.wall).flatMap((opening): Filled[] => {
    const name = `${written.name}.${opening.opening.id}`,
      at = whereStraight(scope, written, opening),
      hole = cuts ? cutOut(scope, at.written, at.opening, name) : null;
    if (opening.opening.kind === 'gap' || opening.opening.kind === 'niche') return [];
    const ref = filling(scope, at.written, at.opening, name, hole);
    if (hole) scope.relate('IFCRELFILLSELEMENT', `${name} fills`, hole.ref, ref);
    return [{ ref, name, opening }];
  });
}

/** An opening of a bent wall in the straight part of it that it takes up, which has a placement of its own within the wall. */
function whereStraight(
  scope: IfcScope,
  written: WrittenWall,
  opening: OpeningInWall,
): { written: WrittenWall; opening: OpeningInWall } {
  const { wall, band: chord } = written,
    arc = arcOf(wall);
  if (!arc) return { written, opening };
  const [from, to] = [pairOf(arc.at(opening.from)), pairOf(arc.at(opening.to))],
    band = bandOf({ ...wall, curve: null, from, to }),
    within = ([x, y]: Point): Point => [x * chord.ux + y * chord.uy, -x * chord.uy + y * chord.ux],
    [x, y] = within([from[0] - wall.from[0], from[1] - wall.from[1]]),
    [ux, uy] = within([band.ux, band.uy]);
  return {
    written: { ...written, band, placement: scope.local(written.placement, [x, y, 0], [ux, uy, 0]) },
    opening: { ...opening, from: 0, to: band.length },
  };
}

/** What of an opening's height lies within its wall. */
function heightsOf({ wall }: WrittenWall, { opening }: OpeningInWall): { sill: number; head: number } {
  return {
    sill: Math.max(footOf(wall), opening.sill),
    head: wall.underRoof ? opening.head : Math.min(topOf(wall), opening.head),
  };
}

function cutOut(
  scope: IfcScope,
  written: WrittenWall,
  opening: OpeningInWall,
  name: string,
): { ref: Ref; placement: Ref } {
  const { band, placement } = written,
    { sill, head } = heightsOf(written, opening),
    niche = opening.opening.kind === 'niche' ? nicheIn(band, opening) : null,
    { right, left } = niche ?? { right: -band.right, left: band.left },
    at = scope.local(placement, [opening.from, right, sill]),
    [w, d] = [opening.to - opening.from, left - right];
  const ring: Point[] = [
    [0, 0],
    [w, 0],
    [w, d],
    [0, d],
  ];
  const shape = scope.shape(
    [scope.extruded({ outline: [ring], low: 0, high: Math.max(head - sill, 1e-3) })],
    'SweptSolid',
  );
  const ref = scope.file.add(
    'IFCOPENINGELEMENT',
    scope.id(`${name} opening`),
    null,
    opening.opening.tag || (niche ? 'Niche' : 'Opening'),
    null,
    null,
    at,
    shape,
    null,
    new Enum(niche ? 'RECESS' : 'OPENING'),
  );
  scope.relate('IFCRELVOIDSELEMENT', `${name} voids`, written.ref, ref);
  return { ref, placement: at };
}

/** The door or window itself: its lining all round, and what stands within it. */
function filling(
  scope: IfcScope,
  written: WrittenWall,
  opening: OpeningInWall,
  name: string,
  hole: { placement: Ref } | null,
): Ref {
  const { band, storeyPlacement } = written,
    { opening: o, from, to } = opening,
    { sill, head } = heightsOf(written, opening),
    [w, h] = [to - from, head - sill],
    along = isAlong(band, o),
    // The leaf opens towards the local y, so that left and right are said as the standard has it.
    toLeft = o.kind === 'window' || (o.opens === 'left') === along,
    depth = band.left + band.right;
  const [x, y] = toLeft ? pointAt(band, from, -band.right) : pointAt(band, to, band.left),
    direction = toLeft ? ([band.ux, band.uy, 0] as const) : ([-band.ux, -band.uy, 0] as const);
  let placement: Ref;
  if (hole)
    placement = toLeft
      ? scope.local(hole.placement, [0, 0, 0])
      : scope.local(hole.placement, [w, depth, 0], [-1, 0, 0]);
  else placement = scope.local(storeyPlacement, [x, y, sill], direction);
  const shape = scope.shape(fillingSolids(scope, w, h, depth, o), 'SweptSolid');
  const isDoor = o.kind === 'door',
    operation = isDoor ? operationOf(o) : windowParts(o);
  const ref = scope.file.add(
    isDoor ? 'IFCDOOR' : 'IFCWINDOW',
    scope.id(name),
    null,
    o.tag || (isDoor ? 'Door' : 'Window'),
    null,
    o.type || null,
    placement,
    shape,
    o.tag || null,
    h,
    w,
    new Enum(isDoor ? 'DOOR' : 'WINDOW'),
    new Enum(operation),
    ownOperation(o),
  );
  if (o.material)
    scope.relate('IFCRELASSOCIATESMATERIAL', `${name} is of`, [ref], scope.material(o.material));
  typeOf(scope, { ref, name }, o, operation, depth);
  scope.quantities({ ref, name }, isDoor ? 'Qto_DoorBaseQuantities' : 'Qto_WindowBaseQuantities', {
    Width: ['length', w],
    Height: ['length', h],
    Area: ['area', (w * h) / 1e6],
  });
  scope.properties({ ref, name }, 'Calque_Source', {
    Sill: sill,
    Assumed: ['lining and panel', ...o.assumed].join(', '),
  });
  return ref;
}

const windowParts = ({ leaves }: WallOpening): string =>
  leaves === 2 ? 'DOUBLE_PANEL_VERTICAL' : 'SINGLE_PANEL';

/** Do the edges of an opening follow one another along its wall? */
const isAlong = (band: WallBand, { from, to }: WallOpening): boolean =>
  (to[0] - from[0]) * band.ux + (to[1] - from[1]) * band.uy > 0;

/** Lining at both jambs and the head (of a window at the sill as well), and panels within. */
function fillingSolids(scope: IfcScope, w: number, h: number, depth: number, o: WallOpening): Ref[] {
  const isDoor = o.kind === 'door',
    lining = Math.min(LINING, w / 4, h / 4),
    box = (x0: number, x1: number, y0: number, y1: number, z0: number, z1: number) =>
      scope.extruded({
        outline: [
          [
            [x0, y0],
            [x1, y0],
            [x1, y1],
            [x0, y1],
          ],
        ],
        low: z0,
        high: z1,
      });
  const foot = isDoor ? 0 : lining,
    thick = Math.min(isDoor ? PANEL : GLASS, depth / 2),
    y0 = isDoor ? depth - thick : (depth - thick) / 2;
  return [
    box(0, lining, 0, depth, 0, h),
    box(w - lining, w, 0, depth, 0, h),
    box(lining, w - lining, 0, depth, h - lining, h),
    ...(isDoor ? [] : [box(lining, w - lining, 0, depth, 0, lining)]),
    box(lining, w - lining, y0, y0 + thick, foot, h - lining),
  ];
}

/** The type of a door or window, with its lining. */
function typeOf(
  scope: IfcScope,
  owner: { ref: Ref; name: string },
  o: WallOpening,
  operation: string,
  depth: number,
): void {
  const isDoor = o.kind === 'door',
    id = (what: string) => scope.id(`${owner.name} ${what}`);
  const lining = scope.file.add(
    isDoor ? 'IFCDOORLININGPROPERTIES' : 'IFCWINDOWLININGPROPERTIES',
    id('lining'),
    null,
    'Lining',
    null,
    depth,
    LINING,
    ...Array.from({ length: isDoor ? 11 : 10 }, () => null),
  );
  const type = scope.file.add(
    isDoor ? 'IFCDOORTYPE' : 'IFCWINDOWTYPE',
    id('type'),
    null,
    o.tag || (isDoor ? 'Door' : 'Window'),
    null,
    null,
    [lining],
    null,
    null,
    null,
    new Enum(isDoor ? 'DOOR' : 'WINDOW'),
    new Enum(operation),
    null,
    ownOperation(o),
  );
  scope.relate('IFCRELDEFINESBYTYPE', `${owner.name} is of type`, [owner.ref], type);
}
