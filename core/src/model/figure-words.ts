import { lengthOfPieces } from '../geometry/index.ts';
import { formatArea, formatLength, formatLengthWithUnit, formatNumber, type LengthStyle } from '../units/index.ts';
import { areaFigures } from './area-figures.ts';
import { measuredBy } from './dimension-lines.ts';
import type { Area, Dimension, Traced } from './entities.ts';
import { looseOf } from './assemblies.ts';
import { isCircle, piecesOf } from './shape-of.ts';

/** The figure of a dimension as it is written. */
export function dimensionWords(d: Pick<Dimension, 'measures' | 'points' | 'at' | 'height'>, style: LengthStyle): string {
  const value = measuredBy(d);
  if (d.measures === 'angle') return `${formatNumber((value * 180) / Math.PI, 1)}°`;
  return d.measures === 'radius' ? `R ${formatLength(value, style)}` : formatLength(value, style);
}

/** What is written in an area: its name, and its figure where it is shown. */
export const areaWords = (e: Area, style: LengthStyle): string[] => [e.name, e.figure ? formatArea(areaFigures(e).area, style.units) : ''].filter((t) => t !== '');

/** What an element is, in a word. */
export function kindWord(e: Traced): string {
  if (e.type === 'arc') return isCircle(e) ? 'circle' : 'arc';
  if (e.type === 'path') return e.closed ? 'closed path' : 'path';
  return e.type === 'spline' ? 'curve' : e.type === 'gridLine' ? 'grid line' : e.type === 'placed' ? 'group' : e.type;
}

/** Length of what is drawn of an element along its line; of an area round it; of a placed group, as it shows, of all in it. 0 for what has none. */
export function drawnLength(e: Traced): number {
  if (e.type === 'placed') return looseOf(e).reduce((sum, member) => sum + drawnLength(member), 0);
  return e.type === 'text' || e.type === 'dimension' ? 0 : lengthOfPieces(piecesOf(e));
}

/** An element in a few words: "Wall 4 000 mm". */
export function elementWords(e: Traced, style: LengthStyle): string {
  const kind = kindWord(e), name = kind[0].toUpperCase() + kind.slice(1);
  if (e.type === 'text') return `${name} "${e.text}"`;
  if (e.type === 'gridLine') return `${name} ${e.name}`;
  return `${name} ${e.type === 'dimension' ? dimensionWords(e, style) : formatLengthWithUnit(drawnLength(e), style)}`;
}
