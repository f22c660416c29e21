import { memberAxis, memberLook, type Member } from '@calque/core/model';
import { kept } from '@/table/painters/kept';
import type { Painter } from '@/table/painters/painter';
import { PlanePath } from '@/table/painters/plane-path';

const FILL_ALPHA = 0.22;
/** Lines that the section itself hides, CSS pixels. */
const HIDDEN = [4, 3];
/** A member shorter than this on the screen shows no mark at its start, CSS pixels. */
const LEAST_MARKED = 60,
  MARK = 3;

const fillOf = kept((e: Member) => {
  const path = new PlanePath();
  for (const ring of memberLook(e).rings) path.ring(ring);
  return path;
});
const hiddenOf = kept((e: Member) => {
  const path = new PlanePath();
  for (const piece of memberLook(e).hidden) path.piece(piece);
  return path;
});

/** Its section's edges are its lines; what it covers is tinted, what it hides is dashed, and a dot says where it begins. */
export const MEMBER_PAINTER: Painter<Member> = {
  strokes: true,
  below({ brush, alpha }, e) {
    brush.context.globalAlpha = alpha * FILL_ALPHA;
    fillOf(e).fill(brush, 'evenodd');
  },
  above({ brush, alpha, colour }, e) {
    const { context, view } = brush,
      { endOn, length } = memberAxis(e);
    if (endOn !== 0) return;
    context.save();
    context.globalAlpha = alpha;
    context.strokeStyle = context.fillStyle = colour;
    context.setLineDash(HIDDEN);
    hiddenOf(e).stroke(brush, 1);
    if (length * view.scale > LEAST_MARKED) {
      context.beginPath();
      context.arc(view.x + view.scale * e.from[0], view.y - view.scale * e.from[1], MARK, 0, 2 * Math.PI);
      context.fill();
    }
    context.restore();
  },
};
