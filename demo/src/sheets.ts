import type { Point } from '@calque/core/geometry';
import { Drafter, PENS } from './draft.ts';
import { drawShell, drawWalls, nameRooms, type PlanWall, type Room } from './plan.ts';

/** Paper, scale and origin of the plans: A3 across at 1:100. */
export const PLAN = { width: 420, height: 297, scale: 100, origin: [70, 78] as Point };

/** Outer size of the boathouse, face to face. */
export const OUTER = { width: 24000, depth: 13200, wall: 300 };
const H = OUTER.wall / 2;
const W = OUTER.width,
  D = OUTER.depth;

/** Walls of the ground floor by their middle lines. */
export const GROUND_WALLS: readonly PlanWall[] = [
  {
    from: [H, H],
    to: [W - H, H],
    thickness: 300,
    openings: [
      { at: 1850, width: 4200, kind: 'gate' },
      { at: 8050, width: 4200, kind: 'gate' },
      { at: 15600, width: 1800, kind: 'window' },
      { at: 19600, width: 2400, kind: 'window' },
    ],
  },
  {
    from: [W - H, H],
    to: [W - H, D - H],
    thickness: 300,
    openings: [
      { at: 1650, width: 1500, kind: 'window' },
      { at: 6250, width: 1100, kind: 'door', side: 1 },
      { at: 9650, width: 1200, kind: 'window' },
    ],
  },
  {
    from: [W - H, D - H],
    to: [H, D - H],
    thickness: 300,
    openings: [
      { at: 1650, width: 900, kind: 'window' },
      { at: 5050, width: 900, kind: 'window' },
      { at: 12050, width: 2400, kind: 'window' },
      { at: 17650, width: 2400, kind: 'window' },
    ],
  },
  {
    from: [H, D - H],
    to: [H, H],
    thickness: 300,
    openings: [
      { at: 2650, width: 1000, kind: 'door', side: 1 },
      { at: 7250, width: 2400, kind: 'window' },
    ],
  },
  {
    from: [14250, H],
    to: [14250, D - H],
    thickness: 200,
    openings: [
      { at: 2150, width: 1000, kind: 'door', side: -1 },
      { at: 7150, width: 1600, kind: 'gate' },
    ],
  },
  {
    from: [14250, 5150],
    to: [W - H, 5150],
    thickness: 100,
    openings: [
      { at: 2650, width: 900, kind: 'door', side: 1 },
      { at: 7350, width: 900, kind: 'door', side: 1, hinge: 'end' },
    ],
  },
  { from: [18700, H], to: [18700, 5150], thickness: 100 },
  {
    from: [14250, 8350],
    to: [W - H, 8350],
    thickness: 100,
    openings: [
      { at: 1450, width: 900, kind: 'door', side: 1 },
      { at: 6350, width: 900, kind: 'door', side: 1 },
    ],
  },
  {
    from: [19450, 8350],
    to: [19450, D - H],
    thickness: 100,
    openings: [{ at: 3150, width: 800, kind: 'door', side: 1 }],
  },
  {
    from: [H, 9650],
    to: [6250, 9650],
    thickness: 150,
    openings: [{ at: 3650, width: 1200, kind: 'door', side: -1 }],
  },
  { from: [6250, 9650], to: [6250, D - H], thickness: 150 },
];

/** Walls of the upper floor by their middle lines; the first four are its outer ones. */
export const UPPER_WALLS: readonly PlanWall[] = [
  {
    from: [H, 2150],
    to: [W - H, 2150],
    thickness: 300,
    openings: [
      { at: 1850, width: 3600, kind: 'window' },
      { at: 6450, width: 3600, kind: 'window' },
      { at: 11050, width: 1800, kind: 'door', side: -1 },
      { at: 15600, width: 2400, kind: 'window' },
    ],
  },
  {
    from: [W - H, 2150],
    to: [W - H, D - H],
    thickness: 300,
    openings: [{ at: 3650, width: 1800, kind: 'window' }],
  },
  {
    from: [W - H, D - H],
    to: [H, D - H],
    thickness: 300,
    openings: [
      { at: 2650, width: 1200, kind: 'window' },
      { at: 13650, width: 3000, kind: 'window' },
    ],
  },
  {
    from: [H, D - H],
    to: [H, 2150],
    thickness: 300,
    openings: [{ at: 3650, width: 2400, kind: 'window' }],
  },
  {
    from: [14250, 2150],
    to: [14250, D - H],
    thickness: 200,
    openings: [{ at: 1650, width: 1800, kind: 'gate' }],
  },
  {
    from: [14250, 8350],
    to: [W - H, 8350],
    thickness: 100,
    openings: [
      { at: 1650, width: 900, kind: 'door', side: 1 },
      { at: 6850, width: 900, kind: 'door', side: 1 },
    ],
  },
  { from: [19450, 8350], to: [19450, D - H], thickness: 100 },
];

/** Rooms of the ground floor, as its plan names them. */
export const GROUND_ROOMS: readonly Room[] = [
  { name: 'Boat bay', area: '154.5 m2', at: [7000, 4900] },
  { name: 'Rigging workshop', area: '19.2 m2', at: [2900, 11600] },
  { name: 'Entrance hall', area: '29.0 m2', at: [20500, 6900] },
  { name: 'Changing A', area: '20.6 m2', at: [16450, 2500] },
  { name: 'Changing B', area: '23.8 m2', at: [21300, 2500] },
  { name: 'Kit store', area: '22.7 m2', at: [16800, 10800] },
  { name: 'Plant', area: '19.6 m2', at: [21700, 10800] },
];

async function plan(d: Drafter, title: string, number: string): Promise<void> {
  d.sheet(PLAN.width, PLAN.height, PLAN.scale, PLAN.origin);
  d.frame(PLAN.width, PLAN.height, { title, number, scaleText: '1:100 @ A3', date: '05.01.2026' });
}

function axes(d: Drafter): void {
  const xs: [number, string][] = [
    [H, 'A'],
    [7200, 'B'],
    [14250, 'C'],
    [W - H, 'D'],
  ];
  for (const [x, name] of xs) {
    d.line([x, -900], [x, D + 4300], PENS.axis);
    d.circle([x, D + 4650], 350, PENS.thin);
    d.text(name, [x, D + 4650], 8, { lift: -3 });
  }
}

export async function drawGroundFloor(d: Drafter): Promise<void> {
  await plan(d, 'Ground floor plan', 'B-101');
  axes(d);
  drawWalls(d, GROUND_WALLS);
  nameRooms(d, GROUND_ROOMS);
  for (const y of [1700, 2900, 6500, 7700]) drawShell(d, 1000, y, 12200);
  d.chain([0, 2000, 6200, 8200, 12400, 15750, 17550, 19750, 22150, W], 'x', 0, -1100);
  d.chain([0, 14150, 14350, W], 'x', D, 1300);
  d.dimension([0, D], [W, D], 2300);
  d.dimension([0, 0], [W, 0], -2000);
  d.chain([0, 1800, 3300, 6400, 7500, 9800, 11000, D], 'y', W, -1300);
  d.dimension([0, 0], [0, D], 1800);
  d.chain([300, 9575, 9725, D - 300], 'y', 7400, -300);
  d.dimension([300, 4900], [14150, 4900], -900);
  // A typing error, as real sheets have them: the check in the demo shows it.
  d.dimension([14350, 6100], [W - 300, 6100], 0, '9450');
}

export async function drawUpperFloor(d: Drafter): Promise<void> {
  await plan(d, 'Upper floor plan', 'B-102');
  axes(d);
  drawWalls(d, UPPER_WALLS);
  d.rect(0, 0, W, 2000, PENS.light);
  d.text('Balcony over the river', [W / 2, 900], 7);
  nameRooms(d, [
    { name: 'Club room', area: '141.2 m2', at: [7000, 7200] },
    { name: 'Galley', area: '54.1 m2', at: [19000, 5200] },
    { name: 'Office', area: '23.1 m2', at: [16800, 10800] },
    { name: 'Committee', area: '19.6 m2', at: [21700, 10800] },
  ]);
  d.dimension([0, D], [W, D], 2300);
  d.chain([0, 14150, 14350, W], 'x', D, 1300);
  d.dimension([0, 0], [0, D], 1800);
  d.chain([0, 2000, D], 'y', W, -1300);
  d.chain([0, 2000, 5600, 6600, 10200, 11200, 13000, 15750, 18150, W], 'x', 0, -1100);
}

/** The roof as the river elevation draws it: its two planes meet over the middle, gables look to the river and away from it. */
export const ROOF = { eaves: 6150, ridge: 8900, overhang: 450, rise: 3100 };

export async function drawElevation(d: Drafter): Promise<void> {
  d.sheet(420, 297, 100, [70, 105]);
  d.frame(420, 297, {
    title: 'River elevation',
    number: 'B-201',
    scaleText: '1:100 @ A3',
    date: '05.01.2026',
  });
  const { eaves, ridge, overhang, rise } = ROOF;
  d.line([-3000, 0], [W + 3000, 0], { width: 1.4 });
  d.path(
    [
      [0, 0],
      [0, eaves],
      [W / 2, ridge],
      [W, eaves],
      [W, 0],
    ],
    PENS.wall,
  );
  d.path(
    [
      [-overhang, eaves - 100],
      [W / 2, eaves - 100 + rise],
      [W + overhang, eaves - 100],
    ],
    PENS.wall,
  );
  for (const x of [2000, 8200]) {
    d.rect(x, 0, x + 4200, 3000, PENS.wall);
    for (let i = 1; i < 6; i++) d.line([x + i * 700, 0], [x + i * 700, 3000], PENS.light);
  }
  for (const [x, w] of [
    [15750, 1800],
    [19750, 2400],
  ]) {
    d.rect(x, 1000, x + w, 2200, PENS.wall);
    d.line([x + w / 2, 1000], [x + w / 2, 2200], PENS.thin);
  }
  d.line([0, 3100], [W, 3100], PENS.thin);
  for (let x = 0; x <= W; x += 1500) d.line([x, 3100], [x, 4150], PENS.thin);
  d.line([0, 4150], [W, 4150], PENS.thin);
  for (const [x, w] of [
    [2000, 3600],
    [6600, 3600],
    [15750, 2400],
  ])
    d.rect(x, 3400, x + w, 5600, PENS.wall);
  d.circle([W / 2, 7300], 600, PENS.wall);
  d.chain([0, 2000, 6200, 8200, 12400, 15750, 17550, 19750, 22150, W], 'x', 0, -1100);
  d.dimension([0, 0], [W, 0], -2000);
  d.chain([0, 3100, eaves], 'y', W, -1500);
  d.dimension([W, 0], [W, ridge], -2600);
  d.text('+0.000', [-2200, 150], 7);
  d.text('+3.100', [-2200, 3250], 7);
  d.text('+6.150', [-2200, 6300], 7);
}

/** A portal frame over the boat bay: columns, rafters, haunches and their setting-out. */
export async function drawFrame(d: Drafter): Promise<void> {
  d.sheet(420, 297, 50, [75, 95]);
  d.frame(420, 297, {
    title: 'Boat-bay frame, grid B',
    number: 'S-301',
    scaleText: '1:50 @ A3',
    date: '05.01.2026',
  });
  const span = 12900,
    eaves = 4200,
    ridge = 6100,
    depth = 300;
  d.line([-1500, 0], [span + 1500, 0], { width: 1.2 });
  for (const x of [0, span]) {
    d.line([x - depth / 2, 0], [x - depth / 2, eaves - 150], PENS.steel);
    d.line([x + depth / 2, 0], [x + depth / 2, eaves - 150], PENS.steel);
    d.line([x, -600], [x, ridge + 900], PENS.axis);
    d.rect(x - 250, -25, x + 250, 0, PENS.steel);
    for (const dx of [-170, 170]) d.circle([x + dx, -12], 12, PENS.thin);
  }
  const slope = (ridge - eaves) / (span / 2);
  for (const off of [-depth / 2, depth / 2]) {
    d.path(
      [
        [-depth / 2, eaves + off - slope * (depth / 2)],
        [span / 2, ridge + off],
        [span + depth / 2, eaves + off - slope * (depth / 2)],
      ],
      PENS.steel,
    );
  }
  d.line([depth / 2, eaves - 900], [1400, eaves + slope * 1400 - depth / 2], PENS.steel);
  d.line([span - depth / 2, eaves - 900], [span - 1400, eaves + slope * 1400 - depth / 2], PENS.steel);
  d.line([span / 2, ridge - 600], [span / 2, ridge + 900], PENS.axis);
  d.dimension([0, 0], [span, 0], -900);
  d.chain([0, span / 2, span], 'x', 0, -1500);
  d.dimension([0, 0], [0, eaves], 1100);
  d.dimension([span, 0], [span, ridge], -1300);
  d.dimension([0, ridge], [1400, ridge], 700);
  d.text('columns and rafters 300 deep', [span / 2, 2400], 8);
  d.text('B1', [0, ridge + 1150], 8);
  d.text('B2', [span, ridge + 1150], 8);
}

/** The rigging bracket: a plate with a slot, a bent foot and its holes. */
export async function drawBracket(d: Drafter): Promise<void> {
  d.sheet(297, 210, 1, [60, 70]);
  d.frame(297, 210, {
    title: 'Rigging bracket, 6 mm plate',
    number: 'P-401',
    scaleText: '1:1 @ A4',
    date: '05.01.2026',
  });
  const r = 12;
  d.path(
    [
      [r, 0],
      [150 - r, 0],
    ],
    PENS.wall,
  );
  d.arc([150 - r, r], r, -Math.PI / 2, 0, PENS.wall);
  d.path(
    [
      [150, r],
      [150, 90 - 30],
      [120, 90],
      [r, 90],
    ],
    PENS.wall,
  );
  d.arc([r, 90 - r], r, Math.PI / 2, Math.PI, PENS.wall);
  d.path(
    [
      [0, 90 - r],
      [0, r],
    ],
    PENS.wall,
  );
  d.arc([r, r], r, Math.PI, 1.5 * Math.PI, PENS.wall);
  for (const [x, y] of [
    [20, 20],
    [130, 20],
    [20, 70],
  ] as Point[]) {
    d.circle([x, y], 5.5, PENS.wall);
    d.line([x - 9, y], [x + 9, y], PENS.axis);
    d.line([x, y - 9], [x, y + 9], PENS.axis);
  }
  d.circle([75, 45], 16, PENS.wall);
  d.line([95 + 8, 66], [95 + 8 + 14, 66], PENS.wall);
  d.line([95 + 8, 56], [95 + 8 + 14, 56], PENS.wall);
  d.arc([103, 61], 5, Math.PI / 2, 1.5 * Math.PI, PENS.wall);
  d.arc([117, 61], 5, -Math.PI / 2, Math.PI / 2, PENS.wall);
  d.chain([0, 20, 75, 130, 150], 'x', 0, -14);
  d.dimension([0, 0], [150, 0], -26);
  d.chain([0, 20, 70, 90], 'y', 0, 14);
  d.dimension([150, 0], [150, 60], -14);
  d.dimension([0, 90], [120, 90], 14);
  d.text('3 holes dia 11', [170, 96], 8, { left: true });
  d.text('bore dia 32', [170, 88], 8, { left: true });
  d.text('slot 10 x 24', [170, 80], 8, { left: true });
}

/** All drawings of the set, one page each. */
export async function drawSet(): Promise<Uint8Array> {
  const d = await Drafter.start();
  await drawGroundFloor(d);
  await drawUpperFloor(d);
  await drawElevation(d);
  await drawFrame(d);
  return d.save();
}

export async function drawBracketSheet(): Promise<Uint8Array> {
  const d = await Drafter.start();
  await drawBracket(d);
  return d.save();
}

/** The plan from before the extension, to be printed, smudged and scanned. */
export async function drawOldPlan(): Promise<Uint8Array> {
  const d = await Drafter.start();
  d.sheet(PLAN.width, PLAN.height, PLAN.scale, PLAN.origin);
  d.rect(-6200, -6900, 34200, 21000, { width: 1.2 });
  drawWalls(d, [
    {
      from: [H, H],
      to: [14250, H],
      thickness: 300,
      openings: [
        { at: 1850, width: 4200, kind: 'gate' },
        { at: 8050, width: 4200, kind: 'gate' },
      ],
    },
    {
      from: [14250, H],
      to: [14250, D - H],
      thickness: 300,
      openings: [{ at: 3150, width: 1000, kind: 'door', side: 1 }],
    },
    {
      from: [14250, D - H],
      to: [H, D - H],
      thickness: 300,
      openings: [
        { at: 2650, width: 2400, kind: 'window' },
        { at: 8650, width: 2400, kind: 'window' },
      ],
    },
    {
      from: [H, D - H],
      to: [H, H],
      thickness: 300,
      openings: [{ at: 2650, width: 1000, kind: 'door', side: 1 }],
    },
    {
      from: [H, 9650],
      to: [6250, 9650],
      thickness: 150,
      openings: [{ at: 3650, width: 1200, kind: 'door', side: -1 }],
    },
    { from: [6250, 9650], to: [6250, D - H], thickness: 150 },
  ]);
  nameRooms(d, [
    { name: 'Boats', area: '', at: [7000, 4900] },
    { name: 'Workshop', area: '', at: [2900, 11600] },
  ]);
  d.dimension([0, 0], [14400, 0], -2400);
  d.chain([0, 2000, 6200, 8200, 12400, 14400], 'x', 0, -1200);
  d.dimension([0, 0], [0, D], 2600);
  d.chain([0, 9650, D], 'y', 0, 1300);
  d.chain([0, 6325, 14400], 'x', D, 1300);
  d.text('Old boathouse, ground floor, before the extension', [20500, 18500], 11, { bold: true });
  return d.save();
}
