import type { OpeningRow } from '../../takeoff/index.ts';
import type { UnitSystem } from '../../units/index.ts';
import { csvText } from './csv-text.ts';
import { csvUnits } from './units.ts';

const EDGES = { from: 'first edge', to: 'second edge' } as const;

/** Doors, windows and gaps as CSV, with what of each is assumed. */
export function writeOpeningsCsv(rows: readonly OpeningRow[], units: UnitSystem): string {
  const { unit, areaUnit, length, area } = csvUnits(units);
  const head = [
    'opening',
    'kind',
    'storey',
    `width (${unit})`,
    `height (${unit})`,
    `sill (${unit})`,
    `area (${areaUnit})`,
    'leaves',
    'hung at',
    'opens to the',
    'type',
    'material',
    'wall',
    'assumed',
  ];
  const lines = rows.map((r, i) => [
    r.tag || String(i + 1),
    r.kind,
    r.storey,
    length(r.width),
    length(r.height),
    length(r.sill),
    area(r.width * r.height),
    String(r.leaves),
    r.hung ? EDGES[r.hung.edge] : '',
    r.hung?.opens ?? '',
    r.type,
    r.material,
    r.wall,
    r.assumed.join(' '),
  ]);
  return csvText([head, ...lines]);
}
