import type { Joint, Member, WorkPlane } from '@calque/core/model';
import { uprightPlane } from '@calque/core/planes';

/** The open boat bay beside the house: portal frames as sheet S-301 draws them, millimetres. */
const SPAN = 12900,
  EAVES = 4200,
  RIDGE = 6100,
  /** Where its west columns stand. */ WEST = -SPAN - 1500,
  /** How far back each frame stands from the river front. */ BACK = [2000, 7000, 12000];
/** Where the sheet draws the foot of its west column, sheet points. */
const PT = 72 / 25.4;
export const FRAME_FOOT: [number, number] = [75 * PT, 95 * PT];

export const FRAMES = ['B', 'C', 'D'].map((grid, i) => ({
  id: `frame-${grid.toLowerCase()}`,
  grid,
  y: BACK[i],
}));

const upright = (id: string, name: string, from: [number, number], to: [number, number]): WorkPlane => {
  const plane = uprightPlane(id, { from, to, height: 7000, name, role: 'section' });
  if (!plane) throw new Error(`The demo has no plane for ${name}.`);
  return plane;
};

/** A plane for each frame, and one for each row of eaves beams. */
export const framePlanes = (): WorkPlane[] => [
  ...FRAMES.map(({ id, grid, y }) => upright(id, `Frame, grid ${grid}`, [WEST, y], [WEST + SPAN, y])),
  ...EAVES_ROWS.map(({ id, name, x }) => upright(id, name, [x, BACK[0]], [x, BACK[2]])),
];

const EAVES_ROWS = [
  { id: 'eaves-west', name: 'Eaves, west', x: WEST, side: 'west' },
  { id: 'eaves-east', name: 'Eaves, east', x: WEST + SPAN, side: 'east' },
];

function member(
  id: string,
  planeId: string,
  line: [[number, number], [number, number]],
  more: Pick<Member, 'role' | 'mark'> & Partial<Member>,
): Member {
  const [from, to] = line;
  return {
    type: 'member',
    id,
    planeId,
    source: { underlayId: planeId === FRAMES[0].id ? 'u-frame' : null, ends: 'snapped', thickness: 'typed' },
    from,
    to,
    rise: [0, 0],
    section: { form: 'table', name: 'IPE 300' },
    point: 5,
    turn: Math.PI / 2,
    mirrored: false,
    back: [0, 0],
    material: 'S355',
    density: 7850,
    ...more,
  };
}

/** On a base plate, and joined to another. */
const FOOT: Joint = { end: 'start', form: 'basePlate', to: null };
const meets = (end: Joint['end'], form: Joint['form'], to: string): Joint => ({ end, form, to });

/** Columns and rafters 300 deep, frame by frame, with beams along the eaves. */
export const frameMembers = (): Member[] => [
  ...FRAMES.flatMap(({ id }) => [
    member(
      `${id}-west`,
      id,
      [
        [0, 0],
        [0, EAVES],
      ],
      { role: 'column', mark: 'C1', joints: [FOOT] },
    ),
    member(
      `${id}-east`,
      id,
      [
        [SPAN, 0],
        [SPAN, EAVES],
      ],
      { role: 'column', mark: 'C1', joints: [FOOT] },
    ),
    member(
      `${id}-left`,
      id,
      [
        [0, EAVES],
        [SPAN / 2, RIDGE],
      ],
      {
        role: 'rafter',
        mark: 'R1',
        joints: [meets('start', 'mitre', `${id}-west`), meets('end', 'mitre', `${id}-right`)],
      },
    ),
    member(
      `${id}-right`,
      id,
      [
        [SPAN / 2, RIDGE],
        [SPAN, EAVES],
      ],
      { role: 'rafter', mark: 'R1', joints: [meets('end', 'mitre', `${id}-east`)] },
    ),
  ]),
  ...EAVES_ROWS.flatMap(({ id, side }) =>
    BACK.slice(1).map((y, i) =>
      member(
        `${id}-${i + 1}`,
        id,
        [
          [BACK[i] - BACK[0], EAVES],
          [y - BACK[0], EAVES],
        ],
        {
          role: 'beam',
          mark: 'B1',
          section: { form: 'table', name: 'IPE 160' },
          // Between the webs of the columns.
          joints: [
            meets('start', 'finPlate', `${FRAMES[i].id}-${side}`),
            meets('end', 'finPlate', `${FRAMES[i + 1].id}-${side}`),
          ],
        },
      ),
    ),
  ),
];
