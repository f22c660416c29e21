import type { Joint, JointSize, KnownSection, MadeForm } from '../../model/index.ts';
import { boltOf } from './bolts.ts';

export type Sizes = Readonly<Record<JointSize, number>>;

/** The sizes that a form has, in the order in which they are asked for. */
export const SIZES_OF: Readonly<Record<MadeForm, readonly JointSize[]>> = {
  face: ['gap'],
  mitre: ['gap'],
  cope: ['gap', 'clearance'],
  basePlate: ['width', 'height', 'thickness', 'bolt', 'gauge', 'pitch', 'weld'],
  endPlate: [
    'width',
    'height',
    'thickness',
    'bolt',
    'rows',
    'gauge',
    'pitch',
    'clearance',
    'weld',
    'stiffener',
  ],
  finPlate: ['height', 'thickness', 'bolt', 'rows', 'pitch', 'edge', 'gap', 'clearance', 'weld'],
  cleat: ['width', 'height', 'thickness', 'bolt', 'rows', 'pitch', 'edge', 'gap', 'clearance'],
  purlinCleat: ['width', 'thickness', 'bolt', 'rows', 'pitch', 'gauge', 'edge', 'weld'],
  splice: ['thickness', 'bolt', 'rows', 'pitch', 'edge', 'gauge', 'gap'],
  gusset: ['width', 'thickness', 'bolt', 'rows', 'pitch', 'edge', 'gap', 'weld'],
};

const up = (v: number, to: number) => Math.ceil(v / to - 1e-9) * to;
const within = (v: number, low: number, high: number) => Math.min(Math.max(v, low), Math.max(low, high));

/** Bolts that a section of a height is usually joined with, millimetres. */
const usualBolt = (h: number): number => (h < 180 ? 16 : h < 360 ? 20 : 24);
/** For a flange: with room on either side of two rows that lie a little more than half its width apart. */
const flangeBolt = (b: number, most: number): number =>
  [30, 24, 20, 16, 12].find((d) => d <= most && 1.2 * boltOf(d).hole <= 0.22 * b) ?? 10;

const thickest = ({ sizes, b }: KnownSection): number =>
  sizes ? Math.max(sizes.tf || 0, sizes.tw || 0) || Math.min(b, 20) : Math.min(b, 20);

/** What was typed of a joint before the rest follows. */
type Typed = Partial<Record<JointSize, number>>;

/** What all forms begin with. */
function beginning(form: MadeForm, section: KnownSection, typed: Typed) {
  const { h, b } = section,
    onFlange = form === 'splice' && section.sizes?.shape === 'I',
    bolt = typed.bolt ?? (onFlange ? flangeBolt(b, usualBolt(h)) : usualBolt(h)),
    thick = thickest(section),
    thickness = typed.thickness ?? up(usualThickness(form, thick, bolt), 1);
  return {
    gap: typed.gap ?? USUAL_GAP[form] ?? 0,
    clearance: typed.clearance ?? 10,
    thickness,
    bolt,
    edge: typed.edge ?? up(2 * bolt, 5),
    weld: typed.weld ?? up(within(0.7 * Math.min(thickness, thick), 3, 12), 1),
    // None, until somebody wants them.
    stiffener: typed.stiffener ?? 0,
  };
}

const USUAL_GAP: Partial<Record<MadeForm, number>> = {
  cope: 10,
  finPlate: 10,
  cleat: 10,
  splice: 10,
  gusset: 20,
};

function usualThickness(form: MadeForm, thick: number, bolt: number): number {
  if (form === 'basePlate') return within(1.5 * thick, 12, 60);
  if (form === 'endPlate') return 0.8 * bolt;
  return form === 'splice' ? within(0.8 * thick, 6, 30) : within(0.5 * bolt, 8, 12);
}

/** Height between fillets, where rows of bolts have their place. */
const roomOf = ({ h, sizes }: KnownSection): number =>
  Math.max(h - (sizes ? 2 * ((sizes.tf || 0) + (sizes.r || 0)) : 0), 0.6 * h);

/**
 * The sizes of a joint: what was typed, and for the rest what is usual for the section. Edges are two bolt diameters and pitches three and a
 * half (EN 1993-1-8, table 3.3, asks for 1.2 and 2.2 holes at least); welds are 0.7 of what is thinner, on both sides. They are where to
 * begin, no design.
 */
export function sizesOf(
  { form, sizes }: { form: MadeForm } & Pick<Joint, 'sizes'>,
  section: KnownSection,
): Sizes {
  const typed = sizes ?? {},
    rest = beginning(form, section, typed);
  if (form === 'basePlate') return basePlateSizes(rest, section, typed);
  return form === 'endPlate' ? endPlateSizes(rest, section, typed) : rowSizes(form, rest, section, typed);
}

type Beginning = ReturnType<typeof beginning>;

function basePlateSizes(rest: Beginning, { h, b }: KnownSection, typed: Typed): Sizes {
  const { edge, bolt } = rest,
    width = typed.width ?? up(b + 2 * (edge + bolt), 10),
    height = typed.height ?? up(h + 2 * (edge + bolt), 10);
  return {
    ...rest,
    width,
    height,
    rows: 2,
    gauge: typed.gauge ?? width - 2 * edge,
    pitch: typed.pitch ?? height - 2 * edge,
  };
}

function endPlateSizes(rest: Beginning, section: KnownSection, typed: Typed): Sizes {
  const { h, b } = section,
    { edge, bolt } = rest,
    room = roomOf(section) - 2 * edge,
    gauge = typed.gauge ?? within(up(0.6 * b, 5), up((section.sizes?.tw ?? 0) + 2 * boltOf(bolt).hole, 5), b),
    rows = typed.rows ?? within(Math.floor(room / (2 * up(3.5 * bolt, 5))) + 2, 2, 5);
  return {
    ...rest,
    gauge,
    rows,
    width: typed.width ?? up(Math.max(b, gauge + 2 * edge), 10),
    height: typed.height ?? h + 30,
    pitch: typed.pitch ?? (rows > 1 ? Math.max(0, Math.floor(room / (rows - 1))) : 0),
  };
}

/** A gusset about its brace, a purlin cleat about two columns of bolts, the leg of an angle with room for the bolts in the other, a fin plate. */
function usualWidth(
  form: MadeForm,
  { edge, gap, bolt, thickness }: Beginning,
  h: number,
  gauge: number,
): number {
  if (form === 'gusset') return up(Math.max(h, 2 * edge) + 60, 10);
  if (form === 'purlinCleat') return gauge + 2 * edge;
  if (form === 'cleat')
    return up(Math.max(gap + 2 * edge, thickness + boltOf(bolt).washerOut + edge + 5), 10);
  return 2 * edge + gap;
}

function usualRows(form: MadeForm, h: number, fits: number): number {
  if (form === 'gusset') return 2;
  if (form === 'purlinCleat') return h < 200 ? 1 : 2;
  return within(Math.round(0.75 * fits), Math.min(2, fits), 8);
}

/** Of forms with rows of bolts in a web. */
function rowSizes(form: MadeForm, rest: Beginning, section: KnownSection, typed: Typed): Sizes {
  const { edge, bolt } = rest,
    { h, b } = section,
    pitch = typed.pitch ?? up(3.5 * bolt, 5),
    fits = Math.max(1, Math.floor((roomOf(section) - 2 * edge) / pitch) + 1),
    rows = typed.rows ?? usualRows(form, h, fits);
  return {
    ...rest,
    pitch,
    rows,
    gauge: typed.gauge ?? (form === 'splice' ? up(0.56 * b, 1) : pitch),
    height: typed.height ?? (rows - 1) * pitch + 2 * edge,
    width: typed.width ?? usualWidth(form, rest, h, typed.gauge ?? pitch),
  };
}
