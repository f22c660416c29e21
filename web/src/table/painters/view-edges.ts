import type { Brush } from '../brush';
import type { ViewEdges } from '../view-edges';

/** What is drawn on the other views of a part, as lines across the whole drawing. */
export function paintViewEdges(
  brush: Brush,
  { edges }: ViewEdges,
  size: { width: number; height: number },
): void {
  const { context, palette } = brush;
  context.save();
  context.strokeStyle = palette.ghost;
  context.globalAlpha = 0.55;
  context.lineWidth = 1;
  context.setLineDash([9, 5]);
  context.beginPath();
  for (const { axis, at } of edges) {
    const [x, y] = brush.at([at, at]);
    if (axis === 'x') {
      context.moveTo(x, 0);
      context.lineTo(x, size.height);
    } else {
      context.moveTo(0, y);
      context.lineTo(size.width, y);
    }
  }
  context.stroke();
  context.restore();
}
