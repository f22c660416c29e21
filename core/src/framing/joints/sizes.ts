import type { Joint, JointForm, JointSize, KnownSection } from '../../model/index.ts';
import { boltOf } from './bolts.ts';

export type Sizes = Readonly<Record<JointSize, number>>;

/** The sizes that a form has, in the order in which they are asked for. */
export const SIZES_OF: Readonly<Record<JointForm, readonly JointSize[]>> = {
  face: ['gap'],
  mitre: ['gap'],
  cope: ['gap', 'clearance'],
  basePlate: ['width', 'height', 'thickness', 'bolt', 'gauge', 'pitch', 'weld'],
  endPlate: ['width', 'height', 'thickness', 'bolt', 'rows', 'gauge', 'pitch', 'clearance', 'weld'],
  finPlate: ['height', 'thickness', 'bolt', 'rows', 'pitch', 'edge', 'gap', 'clearance', 'weld'],
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

/**
 * The sizes of a joint: what was typed, and for the rest what is usual for the section. Edges are two bolt diameters and pitches three and a
 * half (EN 1993-1-8, table 3.3, asks for 1.2 and 2.2 holes at least); welds are 0.7 of what is thinner, on both sides. They are where to
 * begin, no design.
 */
export function sizesOf({ form, sizes }: Pick<Joint, 'form' | 'sizes'>, section: KnownSection): Sizes {
  const typed = sizes ?? {},
    { h, b } = section,
    bolt =
      typed.bolt ??
      (form === 'splice' && section.sizes?.shape === 'I' ? flangeBolt(b, usualBolt(h)) : usualBolt(h)),
    { hole } = boltOf(bolt),
    edge = typed.edge ?? up(2 * bolt, 5),
    pitchUsual = up(3.5 * bolt, 5),
    flanges = section.sizes ? 2 * ((section.sizes.tf || 0) + (section.sizes.r || 0)) : 0,
    room = Math.max(h - flanges, 0.6 * h),
    thickness =
      typed.thickness ??
      (form === 'basePlate'
        ? up(within(1.5 * thickest(section), 12, 60), 1)
        : form === 'endPlate'
          ? up(0.8 * bolt, 1)
          : form === 'splice'
            ? up(within(thickest(section) * 0.8, 6, 30), 1)
            : up(within(0.5 * bolt, 8, 12), 1)),
    weld = typed.weld ?? up(within(0.7 * Math.min(thickness, thickest(section)), 3, 12), 1);
  const rest = {
    gap:
      typed.gap ??
      (form === 'cope' || form === 'finPlate' || form === 'splice' ? 10 : form === 'gusset' ? 20 : 0),
    clearance: typed.clearance ?? 10,
    thickness,
    bolt,
    edge,
    weld,
  };
  if (form === 'basePlate') {
    const width = typed.width ?? up(b + 2 * (edge + bolt), 10),
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
  if (form === 'endPlate') {
    const gauge = typed.gauge ?? within(up(0.6 * b, 5), up((section.sizes?.tw ?? 0) + 2 * hole, 5), b),
      rows = typed.rows ?? within(Math.floor((room - 2 * edge) / (2 * pitchUsual)) + 2, 2, 5);
    return {
      ...rest,
      gauge,
      rows,
      width: typed.width ?? up(Math.max(b, gauge + 2 * edge), 10),
      height: typed.height ?? h + 30,
      pitch: typed.pitch ?? (rows > 1 ? Math.max(0, Math.floor((room - 2 * edge) / (rows - 1))) : 0),
    };
  }
  const pitch = typed.pitch ?? pitchUsual,
    fits = Math.max(1, Math.floor((room - 2 * edge) / pitch) + 1),
    rows = typed.rows ?? (form === 'gusset' ? 2 : within(Math.round(0.75 * fits), Math.min(2, fits), 8));
  return {
    ...rest,
    pitch,
    rows,
    gauge: typed.gauge ?? (form === 'splice' ? up(0.56 * b, 1) : pitch),
    height: typed.height ?? (rows - 1) * pitch + 2 * edge,
    width: typed.width ?? (form === 'gusset' ? up(Math.max(h, 2 * edge) + 60, 10) : 2 * edge + rest.gap),
  };
}
