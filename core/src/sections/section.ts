import {
  angleOutline,
  channelOutline,
  hollowOutline,
  iOutline,
  pipeOutline,
  rectangleOutline,
  roundOutline,
  teeOutline,
  type SectionRing,
  type SectionSizes,
} from './outline.ts';
import { figuresOf, type SectionFigures } from './properties.ts';

/** What a section is by its shape. */
export type SectionShape =
  | 'I'
  | 'channel'
  | 'tee'
  | 'angle'
  | 'rectangular hollow'
  | 'round hollow'
  | 'rectangle'
  | 'round'
  | 'outline';
export const SECTION_SHAPES: readonly SectionShape[] = [
  'I',
  'channel',
  'tee',
  'angle',
  'rectangular hollow',
  'round hollow',
  'rectangle',
  'round',
  'outline',
];

/** What a table prints of a section, where it does: cm2, kg/m, cm4. */
export interface PublishedFigures {
  area?: number;
  mass?: number;
  iy?: number;
  iz?: number;
}

/** The dimensions of a section, millimetres: of a hollow one `tw` is its wall and `r` its outer radius, of an angle `tw` its legs' thickness. */
export interface SectionForm extends SectionSizes {
  shape: Exclude<SectionShape, 'outline'>;
  /** The inner radius of a rectangular hollow section. */
  innerRadius?: number;
}

/** A section of a published table. */
export interface TableSection extends SectionForm {
  name: string;
  standard: string;
  /** What of the table it is: "IPE", "HEA", "W". */
  family: string;
  material: SectionMaterial;
  published: PublishedFigures;
}

/** What it is usually made of. */
export type SectionMaterial = 'steel' | 'timber';

/** The outline of a section about the middle of its box, x across and y up, millimetres. */
export function outlineOfForm(f: SectionForm): SectionRing[] {
  switch (f.shape) {
    case 'I':
      return iOutline(f);
    case 'channel':
      return channelOutline(f);
    case 'tee':
      return teeOutline(f);
    case 'angle':
      return angleOutline(f);
    case 'rectangular hollow':
      return hollowOutline(f.h, f.b, f.tw, f.r, f.innerRadius ?? 0);
    case 'round hollow':
      return pipeOutline(f.h, f.tw);
    case 'rectangle':
      return rectangleOutline(f.b, f.h);
    case 'round':
      return roundOutline(f.h);
  }
}

const known = new WeakMap<SectionForm, SectionFigures>();

/** The figures of a section by its outline. */
export function figuresOfForm(form: SectionForm): SectionFigures {
  let figures = known.get(form);
  if (!figures) known.set(form, (figures = figuresOf(outlineOfForm(form))));
  return figures;
}

/** Why dimensions make no section, in words; null for those that do. */
export function whyNoSection(f: SectionForm): string | null {
  const isRound = f.shape === 'round' || f.shape === 'round hollow';
  if (!(f.h > 0) || !(isRound || f.b > 0)) return 'A section needs a height and a width above 0.';
  if (f.shape === 'rectangle' || f.shape === 'round') return null;
  if (!(f.tw > 0)) return 'Its web or wall needs a thickness above 0.';
  if (f.shape === 'round hollow') return 2 * f.tw < f.h ? null : 'Its wall is thicker than the half of it.';
  if (f.shape === 'rectangular hollow') return whyNoBox(f);
  if (f.shape === 'angle')
    return f.tw + f.r + (f.tipRadius ?? 0) <= Math.min(f.h, f.b)
      ? null
      : 'Its legs are thicker than they are long.';
  return whyNoFlanges(f);
}

function whyNoBox({ h, b, tw, r, innerRadius = 0 }: SectionForm): string | null {
  const least = Math.min(h, b);
  if (2 * tw >= least) return 'Its wall is thicker than the half of it.';
  if (2 * r > least) return 'Its corners are rounder than it has room for.';
  return 2 * innerRadius > least - 2 * tw ? 'Its inner corners are rounder than it has room for.' : null;
}

function whyNoFlanges({ shape, h, b, tw, tf, r, tipRadius = 0 }: SectionForm): string | null {
  if (!(tf > 0)) return 'Its flanges need a thickness above 0.';
  const flanges = shape === 'tee' ? 1 : 2,
    out = shape === 'channel' ? b - tw : (b - tw) / 2;
  if (flanges * (tf + r) > h) return 'Its flanges with their fillets are thicker than it is high.';
  return out >= r + tipRadius && out > 0 ? null : 'Its web with its fillets is thicker than it is wide.';
}
