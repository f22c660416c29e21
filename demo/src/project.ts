import { BRACKET_FOOT, BRACKET_PLANE, bracketPart } from './bracket.ts';
import { calibrateByLength, placeAtScale } from '@calque/core/calibration';
import { boxContains, boxOfPoints, MM_PER_POINT, type Point } from '@calque/core/geometry';
import {
  GABLE,
  storedTransform,
  usualOpening,
  type Change,
  type Check,
  type Entity,
  type OpeningMeasure,
  type Roof,
  type Slab,
  type Space,
  type Underlay,
  type Wall,
  type WallType,
  type WallOpening,
  type WorkPlane,
} from '@calque/core/model';
import { uprightPlane } from '@calque/core/planes';
import { FRAME_FOOT, frameMembers, framePlanes, FRAMES } from './frames.ts';
import { modelWall, type PlanWall } from './plan.ts';
import { GROUND_ROOMS, GROUND_WALLS, OUTER, PLAN, ROOF, UPPER_WALLS } from './sheets.ts';

export interface DemoFiles {
  set: string;
  bracket: string;
  scan: string;
}

const PT = 1 / MM_PER_POINT;
const SHEET: [number, number, number, number] = [0, 0, PLAN.width * PT, PLAN.height * PT];
/** Sheet point of a point of the plan. */
const onPlan = (p: Point): [number, number] => [
  (PLAN.origin[0] + p[0] / PLAN.scale) * PT,
  (PLAN.origin[1] + p[1] / PLAN.scale) * PT,
];

function underlay(
  id: string,
  name: string,
  fileId: string,
  page: number,
  planeId: string,
  order: number,
  more: Partial<Underlay> = {},
): Underlay {
  return {
    type: 'underlay',
    id,
    name,
    fileId,
    page,
    planeId,
    crop: SHEET,
    placement: storedTransform(placeAtScale(1, [0, 0], [0, 0])),
    scaleState: 'paper',
    calibration: null,
    visible: true,
    fade: 0,
    locked: false,
    snap: true,
    order,
    ...more,
  };
}

const check = (id: string, a: Point, b: Point, printed: number): Check => ({
  type: 'check',
  id,
  underlayId: 'u-ground',
  from: onPlan(a),
  to: onPlan(b),
  printed,
  typed: String(printed),
});

/** Where floors were traced. */
const GROUND = { prefix: 'w', planeId: 'ground', underlayId: 'u-ground' },
  UPPER = {
    prefix: 'u',
    planeId: 'upper',
    underlayId: 'u-upper',
    more: { height: 2800, underRoof: true },
  };

/** The steps that tell the demo's story: sheets laid down, the ground floor calibrated and traced with its rooms, the upper floor begun under its roof. */
export function demoSteps(files: DemoFiles): { label: string; change: Change }[] {
  const add = (entities: Entity[]): Change => ({
    type: 'group',
    changes: entities.map((entity) => ({ type: 'add', entity })),
  });
  const paper = placeAtScale(1, onPlan([0, 0]), [0, 0]);
  const from = onPlan([0, 0]),
    to = onPlan([OUTER.width, 0]);
  const fitted = calibrateByLength(paper, from, to, OUTER.width);
  if (!fitted.ok) throw new Error(`The demo cannot be calibrated: ${fitted.reason}.`);
  const ground = underlay('u-ground', 'Ground floor plan', files.set, 1, 'ground', 3, {
    placement: storedTransform(paper),
    fade: 0.4,
  });
  const tags = { door: 0, window: 0 };
  const scanCrop: Underlay['crop'] = SHEET;
  return [
    {
      label: 'Add Upper floor',
      change: {
        type: 'add',
        entity: {
          type: 'storey',
          id: 'upper',
          name: 'Upper floor',
          elevation: UPPER_LEVEL,
          height: 2800,
          heightAssumed: true,
        },
      },
    },
    {
      label: 'Stand up River side',
      change: { type: 'add', entity: riverSide() },
    },
    { label: 'Stand up the frames of the boat bay', change: add(framePlanes()) },
    {
      label: 'Lay down 6 sheets',
      change: add([
        ground,
        underlay('u-upper', 'Upper floor plan', files.set, 2, 'upper', 1, {
          placement: storedTransform(placeAtScale(100, onPlan([0, 0]), [0, 0])),
          scaleState: 'stated',
        }),
        underlay('u-elevation', 'River elevation', files.set, 3, RIVER_SIDE, 2, {
          placement: storedTransform(placeAtScale(100, ELEVATION_FOOT, [0, 0])),
          scaleState: 'stated',
        }),
        underlay('u-frame', 'Boat-bay frame', files.set, 4, FRAMES[0].id, 1, {
          placement: storedTransform(placeAtScale(50, FRAME_FOOT, [0, 0])),
          scaleState: 'stated',
        }),
        underlay('u-bracket', 'Rigging bracket', files.bracket, 1, 'ground', 0, {
          visible: false,
          crop: [0, 0, 297 * PT, 210 * PT],
        }),
        underlay('u-scan', 'Old ground floor, scan', files.scan, 1, 'ground', -1, {
          visible: false,
          crop: scanCrop,
        }),
      ]),
    },
    {
      label: 'Calibrate Ground floor plan',
      change: {
        type: 'set',
        id: 'u-ground',
        before: { placement: ground.placement, scaleState: 'paper', calibration: null },
        after: {
          placement: storedTransform(fitted.placement),
          scaleState: 'calibrated',
          calibration: {
            from,
            to,
            trueLength: OUTER.width,
            oldLength: fitted.oldLength,
            factor: fitted.factor,
            typed: String(OUTER.width),
          },
        },
      },
    },
    {
      label: 'Enter known dimensions',
      change: add([
        check('k-depth', [0, 0], [0, OUTER.depth], OUTER.depth),
        check('k-bay', [300, 4000], [14150, 4000], 13850),
        check('k-gate', [2000, 0], [6200, 0], 4200),
        check('k-hall', [14350, 6100], [23700, 6100], 9450),
      ]),
    },
    { label: 'Add the wall type of the outer walls', change: add([OUTER_WALL]) },
    { label: 'Take the walls of the ground floor', change: add(tracedWalls(GROUND_WALLS, GROUND, tags)) },
    { label: 'Make 7 rooms', change: add(rooms()) },
    { label: 'Make a slab', change: add([slab('slab-ground', 'ground', ['thickness'])]) },
    {
      label: 'Take the outer walls of the upper floor',
      change: add(tracedWalls(UPPER_WALLS.slice(0, 4), UPPER, tags)),
    },
    { label: 'Make a slab', change: add([slab('slab-upper', 'upper', ['thickness', 'top'])]) },
    { label: 'Put the members of the boat-bay frames', change: add(frameMembers()) },
    { label: 'Make the rigging bracket', change: add(bracketPart()) },
    {
      label: 'Lay the bracket sheet on its front',
      change: add([
        underlay('u-bracket-front', 'Rigging bracket, front', files.bracket, 1, BRACKET_PLANE, 0, {
          placement: storedTransform(placeAtScale(1, BRACKET_FOOT, [0, 0])),
          scaleState: 'stated',
          crop: [0, 0, 297 * PT, 210 * PT],
          fade: 0.4,
        }),
      ]),
    },
    { label: 'Make a roof', change: add([roof()]) },
  ];
}

const RIVER_SIDE = 'river';
/** Where the elevation draws the foot of the west corner, sheet points. */
const ELEVATION_FOOT: [number, number] = [70 * PT, 105 * PT];

/** The plane of the outer wall towards the river, looked at from there. */
function riverSide(): WorkPlane {
  const plane = uprightPlane(RIVER_SIDE, {
    from: [0, 0],
    to: [OUTER.width, 0],
    height: 9000,
    name: 'River side',
    role: 'elevation',
  });
  if (!plane) throw new Error('The demo has no river side.');
  return plane;
}

/** Walls of a floor with their openings, as they were taken from its sheet. */
function tracedWalls(
  walls: readonly PlanWall[],
  {
    prefix,
    planeId,
    underlayId,
    more = {},
  }: { prefix: string; planeId: string; underlayId: string; more?: Partial<Wall> },
  tags: { door: number; window: number },
): Wall[] {
  return walls.map((drawn, i) => {
    const wall = modelWall(`${prefix}-${i + 1}`, drawn.from, drawn.to, drawn.thickness);
    return {
      ...wall,
      ...more,
      ...(wall.thickness === OUTER.wall && { wallType: OUTER_WALL.id, firstLayer: outsideOf(wall) }),
      planeId,
      openings: openingsIn(wall, drawn, tags),
      source: { underlayId, ends: 'snapped', thickness: 'measured' },
    };
  });
}

/** What the outer walls are of, from the outside inwards. */
const OUTER_WALL: WallType = {
  type: 'wallType',
  id: 'outer-wall',
  name: 'Outer wall, larch on studs',
  layers: [
    { material: 'Larch boards', purpose: 'finish', thickness: 22 },
    { material: 'Battens and air', purpose: 'cavity', thickness: 38 },
    { material: 'Wood fibre board', purpose: 'insulation', thickness: 60 },
    { material: 'Studs and wool', purpose: 'structure', thickness: 165 },
    { material: 'Gypsum board', purpose: 'lining', thickness: 15 },
  ],
};

/** The side of an outer wall on which the middle of the building does not lie. */
function outsideOf({ from: [x, y], to }: Pick<Wall, 'from' | 'to'>): 'left' | 'right' {
  const middle = [OUTER.width / 2, OUTER.depth / 2],
    turn = (to[0] - x) * (middle[1] - y) - (to[1] - y) * (middle[0] - x);
  return turn > 0 ? 'right' : 'left';
}

/** What everything has that was made of what is traced. */
const made = (id: string, planeId: string) => ({
  id,
  planeId,
  source: { underlayId: null, ends: 'snapped', thickness: 'typed' } as const,
});

const rooms = (): Space[] =>
  GROUND_ROOMS.map(({ name, area, at }, i) => ({
    type: 'space',
    ...made(`r-${i + 1}`, 'ground'),
    at: [at[0], at[1]],
    name,
    number: '',
    letters: 250,
    printed: Number.parseFloat(area) * 1e6,
  }));

const slab = (id: string, planeId: string, assumed: Slab['assumed']): Slab => ({
  type: 'slab',
  ...made(id, planeId),
  rings: [{ points: OUTLINE, bulges: OUTLINE.map(() => 0) }],
  thickness: 250,
  top: 0,
  assumed,
});

/** The outside faces of the building. */
const OUTLINE: [number, number][] = [
  [0, 0],
  [OUTER.width, 0],
  [OUTER.width, OUTER.depth],
  [0, OUTER.depth],
];

/** The roof as the river elevation draws it: planes from west and east, gables to the river and away from it. */
function roof(): Roof {
  const pitch = Math.atan(ROOF.rise / (OUTER.width / 2 + ROOF.overhang));
  return {
    type: 'roof',
    ...made('roof', 'upper'),
    points: OUTLINE,
    pitches: [GABLE, pitch, GABLE, pitch],
    eaves: ROOF.eaves - 100 - UPPER_LEVEL,
    overhang: ROOF.overhang,
    thickness: 250,
    assumed: ['thickness'],
  };
}

/** As the river elevation prints it. */
const UPPER_LEVEL = 3100;

/** What a plan does not say of a door. */
const SEEN: OpeningMeasure[] = ['sill', 'head'];
/** Gates of the boat bay are as high as this, as the river elevation shows them; millimetres. */
const GATE_HEAD = 2500;

/** The openings that the plan shows in the traced part of a wall. */
function openingsIn(
  wall: Wall,
  { from, to, openings = [] }: PlanWall,
  tags: { door: number; window: number },
): WallOpening[] {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    place = (along: number): [number, number] => [
      from[0] + ((to[0] - from[0]) * along) / length,
      from[1] + ((to[1] - from[1]) * along) / length,
    ];
  const box = boxOfPoints([wall.from, wall.to]);
  return openings
    .map((o) => ({ o, ends: [place(o.at), place(o.at + o.width)] as const }))
    .filter(({ ends }) => ends.every(([x, y]) => boxContains(box, [x, y, x, y])))
    .map(({ o, ends }, i): WallOpening => {
      const kind = o.kind === 'gate' ? 'gap' : o.kind;
      return {
        ...usualOpening(`o${i + 1}`, kind, ...ends),
        ...(o.kind === 'gate' && { head: GATE_HEAD }),
        ...(o.kind === 'door' && {
          hung: o.hinge === 'end' ? ('to' as const) : ('from' as const),
          opens: o.side === -1 ? ('right' as const) : ('left' as const),
          assumed: SEEN,
        }),
        tag: kind === 'gap' ? '' : `${kind === 'door' ? 'D' : 'W'}${String(++tags[kind]).padStart(2, '0')}`,
      };
    });
}
