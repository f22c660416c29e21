/** What a part is written as. */
export const PART_FORMATS = ['step', 'stl', '3mf', 'glb', 'dxf'] as const;
export type PartFormat = (typeof PART_FORMATS)[number];
