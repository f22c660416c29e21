import { figuresOfForm, findSections, massOf, type TableSection } from '@calque/core/sections';
import { formatNumber } from '@calque/core/units';

export interface SectionsFlags {
  find?: string;
  json?: boolean;
}

/** The sections of the published tables, all or those that answer what is asked: figures from their outlines. */
export function sectionsCommand({ find = '', json }: SectionsFlags): string {
  const found = findSections(find).map(rowOf);
  if (json) return JSON.stringify(found);
  if (found.length === 0) return `No section answers "${find}".`;
  return [
    'name  standard  h x b  area cm²  mass kg/m  Iy cm⁴  Iz cm⁴  surface m²/m',
    ...found.map((s) =>
      [
        s.name,
        s.standard,
        `${formatNumber(s.h, 1)} x ${formatNumber(s.b, 1)}`,
        formatNumber(s.area, 2),
        formatNumber(s.mass, 2),
        formatNumber(s.iy, 1),
        formatNumber(s.iz, 1),
        formatNumber(s.surface, 3),
      ].join('  '),
    ),
  ].join('\n');
}

const rowOf = (s: TableSection) => {
  const f = figuresOfForm(s);
  return {
    name: s.name,
    standard: s.standard,
    family: s.family,
    material: s.material,
    shape: s.shape,
    h: s.h,
    b: s.b,
    tw: s.tw,
    tf: s.tf,
    r: s.r,
    area: f.area / 100,
    mass: massOf(s),
    iy: f.iy / 1e4,
    iz: f.iz / 1e4,
    surface: f.perimeter / 1000,
    published: s.published,
  };
};
