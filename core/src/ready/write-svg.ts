import { CAPITALS, escapeXml, layersSvg, plainNumber } from '../exchange/index.ts';
import type { Model, PaperDrawing } from '../model/index.ts';
import { layPaper, shownOf, type LaidView } from './laid-paper.ts';
import { fitted, marksOf } from './title-block.ts';

/** What a view shows of sheets: all beneath the trace, all above it, or its page; covers its window. */
export type PartOfView = 'beneath' | 'above' | 'page';
/** A picture of a part of a view as an address that stands in the SVG; null where there is none. */
export type PictureOf = (view: LaidView, part: PartOfView) => string | null;

const INK = '#17273a';

/** A ready drawing as SVG 1.1: one user unit is one millimetre of paper, so that it prints true. Sheets are pictures. */
export function writeReadySvg(
  model: Model,
  drawing: PaperDrawing,
  date: string,
  pictureOf: PictureOf,
): string {
  const laid = layPaper(model, drawing),
    { width, height } = laid,
    marks = marksOf(model, drawing, laid, date),
    n = (v: number) => plainNumber(v, 4),
    up = (v: number) => n(height - v);
  const views = laid.views.map((view, i) => {
    const { box, window, unit } = view,
      x = (v: number) => n(box[0] + (v - window[0]) * unit),
      y = (v: number) => up(box[1] + (v - window[1]) * unit),
      shown = shownOf(model, view),
      clip = `view-${i + 1}`;
    const picture = (part: PartOfView) => {
      const address = pictureOf(view, part);
      return address === null
        ? ''
        : `<image x="${n(box[0])}" y="${up(box[3])}" width="${n(box[2] - box[0])}" height="${n(box[3] - box[1])}" preserveAspectRatio="none" href="${escapeXml(address)}"/>\n`;
    };
    // What lies on the edge of the window is drawn with its whole width.
    const clipped = `<clipPath id="${clip}"><rect x="${n(box[0] - EDGE)}" y="${up(box[3] + EDGE)}" width="${n(box[2] - box[0] + 2 * EDGE)}" height="${n(box[3] - box[1] + 2 * EDGE)}"/></clipPath>`;
    const within = view.page
      ? picture('page')
      : `${picture('beneath')}${shown ? layersSvg(shown, x, y, unit, `${clip}-`) : ''}${picture('above')}`;
    return `${clipped}\n<g clip-path="url(#${clip})">\n${within}</g>\n`;
  });
  const lines = marks.lines.map(([p, q]) => `M${n(p[0])} ${up(p[1])}L${n(q[0])} ${up(q[1])}`).join(''),
    texts = marks.texts
      .map(
        (t) =>
          `<text x="${n(t.at[0])}" y="${up(t.at[1])}" font-size="${n(t.height / CAPITALS)}">${escapeXml(fitted(t))}</text>`,
      )
      .join('\n');
  return (
    `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">\n` +
    `<title>${escapeXml(drawing.name)}</title>\n<desc>One user unit is one millimetre of paper.</desc>\n<rect width="${n(width)}" height="${n(height)}" fill="#ffffff"/>\n` +
    `${views.join('')}<path d="${lines}" stroke="${INK}" stroke-width="0.25" fill="none"/>\n<g font-family="Helvetica, Arial, sans-serif" fill="${INK}">\n${texts}\n</g>\n</svg>\n`
  );
}

/** Half the width of the broadest usual pen, and a little. */
export const EDGE = 0.5;
