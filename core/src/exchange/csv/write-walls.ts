import { MM_PER, type UnitSystem } from '../../units/index.ts';
import type { WallRow } from '../../building/index.ts';
import { csvText } from './csv-text.ts';

/**
 * The walls as CSV, full figures in the project's unit so that
 * a spreadsheet can add them up. Feet and inches are written as decimal feet.
 */
export function writeWallsCsv(rows: readonly WallRow[], units: UnitSystem): string {
  const unit = units === 'ft-in' ? 'ft' : units;
  const per = MM_PER[unit];
  const imperial = unit === 'ft' || unit === 'in';
  const areaPer = imperial ? MM_PER.ft ** 2 : 1e6;
  const areaUnit = imperial ? 'sq ft' : 'm2';
  const length = (mm: number) => figure(mm / per);
  const head = [
    'wall',
    'storey',
    `length (${unit})`,
    `thickness (${unit})`,
    `height (${unit})`,
    'height is',
    `area of one face (${areaUnit})`,
    'drawn along',
    `from x (${unit})`,
    `from y (${unit})`,
    `to x (${unit})`,
    `to y (${unit})`,
  ];
  const lines = rows.map(({ wall, storey, length: l, area }, i) => [
    String(i + 1),
    storey?.name ?? '',
    length(l),
    length(wall.thickness),
    length(wall.height),
    wall.heightAssumed ? 'assumed' : 'stated',
    figure(area / areaPer),
    wall.alignment === 'centre' ? 'centre' : `${wall.alignment} face`,
    ...[...wall.from, ...wall.to].map(length),
  ]);
  return csvText([head, ...lines]);
}

const figure = (n: number) => String(Math.round(n * 1e6) / 1e6 + 0);
