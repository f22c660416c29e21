import type { Box } from '../geometry/index.ts';
import { MARGIN, TITLE_STRIP } from '../papers/index.ts';
import type { LaidPaper, LaidView } from './laid-paper.ts';
import { overlaps } from './free-place.ts';
import { CAPTION } from './title-block.ts';

/** What will not print as somebody may expect, in words; nothing of it is refused. */
export function doubtsOf(laid: LaidPaper): string[] {
  const room: Box = [MARGIN, MARGIN + TITLE_STRIP - 3, laid.width - MARGIN, laid.height - MARGIN],
    out: string[] = laid.missing.map(({ view, why }) => `${view.caption || 'A view'} is not drawn. ${why}`);
  laid.views.forEach((one, i) => {
    const [x0, y0, x1, y1] = withCaption(one);
    if (x0 < 0 || y0 < 0 || x1 > laid.width || y1 > laid.height)
      out.push(`${nameOf(one)} runs over the edge of the paper: move it, or take a smaller scale.`);
    else if (x0 < room[0] || y0 < room[1] || x1 > room[2] || y1 > room[3])
      out.push(`${nameOf(one)} lies over the frame or the title block.`);
    for (const other of laid.views.slice(i + 1))
      if (overlaps(withCaption(one), withCaption(other)))
        out.push(`${nameOf(one)} and ${nameOf(other)} lie over one another: move one, or take larger paper.`);
    for (const { underlay } of [...one.beneath, ...one.above]) {
      if (underlay.scaleState === 'paper')
        out.push(`${underlay.name}, beneath ${nameOf(one)}, is not to scale yet: it cannot be measured.`);
      if (underlay.scaleState === 'stated')
        out.push(`${underlay.name}, beneath ${nameOf(one)}, lies at a scale that nobody has checked.`);
    }
  });
  return [...new Set(out)];
}

const nameOf = ({ caption, page }: LaidView) => caption || (page ? `page ${page.page}` : 'a view');

const withCaption = ({ box, caption, scaleText }: LaidView): Box =>
  caption || scaleText ? [box[0], box[1] - CAPTION, box[2], box[3]] : box;
