import { cross3, dot3, facing, type Frame, type ModelPoint, type Transform } from '../geometry/index.ts';

/** From where the model is looked at, without perspective: round it (radians, 0 from the east, a quarter turn from the north) and from above (radians). */
export interface Outlook {
  round: number;
  above: number;
}

/** The plane that one looks at from there: its x goes to the right, its y up, and what lies before it is nearer. Its origin is the model's. */
export function viewFrame({ round, above }: Outlook): Frame {
  const towards: ModelPoint = [
    Math.cos(above) * Math.cos(round),
    Math.cos(above) * Math.sin(round),
    Math.sin(above),
  ];
  const across: ModelPoint = [-Math.sin(round), Math.cos(round), 0];
  return { origin: [0, 0, 0], across, up: cross3(towards, across) };
}

/** How a plane shows in a view: a transform from its own millimetres to those of the view. A plane seen edge on has no area there. */
export const planeInView = ({ origin, across, up }: Frame, view: Frame): Transform => [
  dot3(across, view.across),
  dot3(across, view.up),
  dot3(up, view.across),
  dot3(up, view.up),
  dot3(origin, view.across),
  dot3(origin, view.up),
];

/** How near a place is to whoever looks: more is nearer, millimetres. */
export const nearness = (place: ModelPoint, view: Frame): number => dot3(place, facing(view));
