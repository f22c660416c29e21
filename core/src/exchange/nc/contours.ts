import type { Shape } from '../../framing/index.ts';
import type { Point } from '../../geometry/index.ts';
import { cutAt, type KnownSection } from '../../model/index.ts';

export const ten = (v: number) => (Math.abs(v) < 5e-3 ? 0 : v).toFixed(2).padStart(10);

/** A closed outline of one of the faces: v the web or front, o the flange above, u the one below; AK its edge, IK an opening of it. */
export const outline = (face: string, points: readonly Point[], block: 'AK' | 'IK' = 'AK'): string[] => [
  block,
  ...[...points, points[0]].map(
    ([x, y], i) => `${i === 0 ? `  ${face} ` : '    '}${ten(x)}${i === 0 ? 'u' : ' '}${ten(y)}      0.00`,
  ),
];

const hasFlanges = (shape: string | undefined): boolean =>
  shape !== undefined && shape !== 'rectangle' && shape !== 'round' && shape !== 'round hollow';
const hasLower = (shape: string | undefined): boolean => shape !== 'angle' && shape !== 'tee';

/**
 * The outlines of the faces of a piece, x along it from where it begins, y up its web from below and across its flanges from the front; the front
 * is seen with the piece running to the right.
 */
export function contours(section: KnownSection, shape: Shape, side: 1 | -1, low: number): string[] {
  const parts = outline('v', webOutline(section, shape, low)),
    kind = section.sizes?.shape;
  if (!hasFlanges(kind)) return parts;
  return [
    ...parts,
    ...outline('o', flangeOutline(section, shape, side, low, 'top')),
    ...(hasLower(kind) ? outline('u', flangeOutline(section, shape, side, low, 'bottom')) : []),
  ];
}

function webOutline({ h }: KnownSection, shape: Shape, low: number): Point[] {
  /** One end from below to above. */
  const end = (name: 'start' | 'end'): Point[] => {
    const k = name === 'start' ? 1 : -1,
      x = (y: number, back = 0) => cutAt(shape[name], [0, y - h / 2]) - low + k * back,
      notch = (side: 'top' | 'bottom') => shape.notches.find((n) => n.end === name && n.side === side),
      below = notch('bottom'),
      above = notch('top');
    return [
      ...(below
        ? ([
            [x(0, below.length), 0],
            [x(below.depth, below.length), below.depth],
            [x(below.depth), below.depth],
          ] as Point[])
        : [[x(0), 0] as Point]),
      ...(above
        ? ([
            [x(h - above.depth), h - above.depth],
            [x(h - above.depth, above.length), h - above.depth],
            [x(h, above.length), h],
          ] as Point[])
        : [[x(h), h] as Point]),
    ];
  };
  return [...end('end'), ...end('start').reverse()].map(([x, y]): Point => [x, y]);
}

function flangeOutline(
  { h, b }: KnownSection,
  shape: Shape,
  side: 1 | -1,
  low: number,
  face: 'top' | 'bottom',
): Point[] {
  const y = face === 'top' ? h / 2 : -h / 2,
    back = (name: 'start' | 'end') =>
      Math.max(0, ...shape.notches.filter((n) => n.end === name && n.side === face).map((n) => n.length)),
    at = (name: 'start' | 'end', across: number): Point => [
      cutAt(shape[name], [side * (b / 2 - across), y]) - low + (name === 'start' ? back(name) : -back(name)),
      across,
    ];
  return [at('start', 0), at('end', 0), at('end', b), at('start', b)];
}

/** The holes, face by face. */
export function holes({ h, b }: KnownSection, shape: Shape, side: 1 | -1, low: number): string[] {
  const faces = { web: 'v', top: 'o', bottom: 'u' } as const;
  return (['web', 'top', 'bottom'] as const).flatMap((through) => {
    const own = shape.holes.filter((hole) => hole.through === through);
    return own.length === 0
      ? []
      : [
          'BO',
          ...own.map(({ x, y, z, d }) => {
            const across = through === 'web' ? y + h / 2 : b / 2 - side * x;
            return `  ${faces[through]} ${ten(z - low)}u${ten(across)}${ten(d)}      0.00`;
          }),
        ];
  });
}
