import type { UnitSystem } from '../../units/index.ts';
import type { WallRow } from '../../building/index.ts';
import { csvText } from './csv-text.ts';
import { csvUnits } from './units.ts';

/**
 * The walls as CSV, full figures in the project's unit so that
 * a spreadsheet can add them up. Feet and inches are written as decimal feet.
 */
export function writeWallsCsv(rows: readonly WallRow[], units: UnitSystem): string {
  const { unit, areaUnit, length, area: areaOf } = csvUnits(units);
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
    areaOf(area),
    wall.alignment === 'centre' ? 'centre' : `${wall.alignment} face`,
    ...[...wall.from, ...wall.to].map(length),
  ]);
  return csvText([head, ...lines]);
}
