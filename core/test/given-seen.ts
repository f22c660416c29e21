import { emptyLinework, kindCode, type Linework } from '@calque/core/linework';

export type Place = [number, number];
export type Line = [Place, Place];

/** Sheet points of a millimetre at 1:100. */
export const K = 72 / 25.4 / 100;

/** A wall along x or y by its middle line: two faces, open at some stretches with jambs. */
export function wall(
  from: Place,
  to: Place,
  thickness: number,
  gaps: readonly [number, number][] = [],
): Line[] {
  const n = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / n, (to[1] - from[1]) / n],
    at = (t: number, v: number): Place => [from[0] + t * ux - v * uy, from[1] + t * uy + v * ux],
    h = thickness / 2,
    out: Line[] = [];
  let begins = 0;
  for (const [a, b] of [...gaps, [n, n] as [number, number]]) {
    if (a > begins) for (const v of [-h, h]) out.push([at(begins, v), at(a, v)]);
    if (b > a) for (const t of [a, b]) out.push([at(t, -h), at(t, h)]);
    begins = b;
  }
  return out;
}

/** A house of 12 x 8 m: walls of 300 around, one of 100 across, a door in each, with a bed, a cupboard and a stair. */
export const MIDDLE: [Place, Place, number][] = [
  [[0, 0], [12000, 0], 300],
  [[12000, 0], [12000, 8000], 300],
  [[12000, 8000], [0, 8000], 300],
  [[0, 8000], [0, 0], 300],
  [[5000, 0], [5000, 8000], 100],
];
export const rectangle = (x: number, y: number, w: number, h: number): Line[] => [
  [
    [x, y],
    [x + w, y],
  ],
  [
    [x + w, y],
    [x + w, y + h],
  ],
  [
    [x + w, y + h],
    [x, y + h],
  ],
  [
    [x, y + h],
    [x, y],
  ],
];
export const HOUSE: { lines: Line[]; pen: number }[] = [
  {
    pen: 0,
    lines: [
      // Faces end at the corners of the outline, outer and inner.
      ...rectangle(-150, -150, 12300, 8300),
      ...wall([150, 0], [4950, 0], 300).slice(1),
      ...wall([5050, 0], [11850, 0], 300, [[2000, 3000]]).filter(([p, q]) => Math.max(p[1], q[1]) > 0),
      ...wall([11850, 8000], [5050, 8000], 300).slice(1),
      ...wall([4950, 8000], [150, 8000], 300).slice(1),
      [
        [150, 150],
        [150, 7850],
      ],
      [
        [11850, 150],
        [11850, 7850],
      ],
      ...wall([5000, 150], [5000, 7850], 100, [[3000, 3900]]),
    ],
  },
  {
    pen: 1,
    lines: [
      ...rectangle(200, 200, 2000, 1600),
      ...rectangle(5060, 6000, 600, 1800),
      ...Array.from({ length: 12 }, (_, i): Line => [
        [8000 + 270 * i, 6000],
        [8000 + 270 * i, 7800],
      ]),
    ],
  },
];

export function sheet(
  parts: readonly { lines: readonly Line[]; pen: number }[],
  move: (p: Place) => Place = (p) => p,
  k = K,
): Linework {
  const l = emptyLinework(900, 900),
    all = parts.flatMap((p) => p.lines.map((line) => ({ line, pen: p.pen })));
  l.pens = [
    { width: 0.9, colour: 0, dash: [] },
    { width: 0.3, colour: 0, dash: [] },
  ];
  l.segments = Float64Array.from(
    all.flatMap(({ line }) => line.flatMap((p) => move(p).map((v) => 200 + v * k))),
  );
  l.segmentStyle = Int32Array.from(all.flatMap(({ pen }) => [-1, pen]));
  l.segmentKind = new Uint8Array(all.length).fill(kindCode('line'));
  return l;
}

/** A house of which the inner walls vary from issue to issue. */
export interface Plan {
  /** Where the inner wall stands, how thick it is, and where its door is. */
  x: number;
  thickness: number;
  door: [number, number] | null;
  /** Of a second wall from the left to the inner one. */
  across: number | null;
}
const PLAN: Plan = { x: 5000, thickness: 100, door: [3000, 3900], across: 5500 };

/** A house of 12 x 8 m with outer walls of 300, drawn by its faces. */
export function plan(p: Partial<Plan> = {}): Line[] {
  const { x, thickness, door, across } = { ...PLAN, ...p },
    [left, right] = [x - thickness / 2, x + thickness / 2],
    upright = (at: number, from: number, to: number): Line[] => {
      const parts =
        door && from < door[0] && door[1] < to
          ? [
              [from, door[0]],
              [door[1], to],
            ]
          : [[from, to]];
      return parts.map(([a, b]) => [
        [at, a],
        [at, b],
      ]);
    },
    level = (y: number, from: number, to: number): Line => [
      [from, y],
      [to, y],
    ];
  const below = across === null ? 7850 : across - 60;
  return [
    ...rectangle(-150, -150, 12300, 8300),
    // The left room, or both.
    level(150, 150, left),
    ...upright(left, 150, below),
    [
      [150, 150],
      [150, below],
    ] as Line,
    level(below, 150, left),
    ...(across === null
      ? []
      : [
          level(across + 60, 150, left),
          ...upright(left, across + 60, 7850),
          [
            [150, across + 60],
            [150, 7850],
          ] as Line,
          level(7850, 150, left),
        ]),
    level(150, right, 11850),
    ...upright(right, 150, 7850),
    [
      [11850, 150],
      [11850, 7850],
    ] as Line,
    level(7850, right, 11850),
    ...(door ? door.map((y): Line => level(y, left, right)) : []),
  ];
}

/** What stands in the house in both issues, by which they are laid on one another. */
export const FURNITURE: Line[] = [
  ...rectangle(8300, 400, 1900, 900),
  ...rectangle(8400, 1700, 620, 2030),
  ...rectangle(9700, 5200, 1410, 760),
  ...rectangle(10300, 2300, 510, 1333),
  ...rectangle(8210, 6100, 777, 1490),
  ...rectangle(9420, 6800, 2100, 610),
];
