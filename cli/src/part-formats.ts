/** What a part is written as: its solid, the outline of its largest flat face (dxf), its views on paper (svg, pdf), its holes (csv). */
export const PART_FORMATS = ['step', 'stl', '3mf', 'glb', 'dxf', 'svg', 'pdf', 'csv'] as const;
export type PartFormat = (typeof PART_FORMATS)[number];
