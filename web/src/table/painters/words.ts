import { layerOfKind, type Loose } from '@calque/core/model';
import type { LengthStyle } from '@calque/core/units';
import { painterOf } from '@/kinds/painters';
import type { TraceOfPlane } from '../trace-cache';
import type { Brush } from '../brush';
import { cssColour } from '../palette';

/** What is enclosed now; null until that is known again after a change. */
const roomsNow = ({ walls, rooms }: TraceOfPlane) => (walls.length === 0 ? [] : rooms);

function paintEach(
  brush: Brush,
  trace: TraceOfPlane,
  style: LengthStyle,
  alpha: number,
  elements: Iterable<Loose>,
  where: 'below' | 'above',
  seekRoom?: boolean,
): void {
  const { context } = brush;
  for (const e of elements) {
    if (seekRoom !== undefined && (painterOf(e).seeksRoom ?? false) !== seekRoom) continue;
    const layer = e.layerId ? trace.layers.get(e.layerId) : undefined,
      own = alpha * (1 - (layer?.fade ?? 0)),
      colour = cssColour(layer?.colour ?? layerOfKind(e.type).colour);
    context.fillStyle = context.strokeStyle = colour;
    context.globalAlpha = own;
    painterOf(e)[where]?.({ brush, alpha: own, colour, style, rooms: roomsNow(trace) }, e);
  }
}

/** The insides of areas, below all lines. */
export const paintBelow = (brush: Brush, trace: TraceOfPlane, style: LengthStyle, alpha: number): void =>
  paintEach(brush, trace, style, alpha, trace.painted.below(), 'below');

/** Texts, figures of dimensions and what is written in areas, above all lines. */
export function paintAbove(brush: Brush, trace: TraceOfPlane, style: LengthStyle, alpha: number): void {
  for (const seekRoom of [false, true])
    paintEach(brush, trace, style, alpha, trace.painted.above(), 'above', seekRoom);
}
