/** What `calque deliver --to` writes. */
export const DELIVERED = [
  'ifc',
  'glb',
  'dxf',
  'svg',
  'pdf',
  'xlsx',
  'csv',
  'json',
  'nc',
  'step',
  'plates',
  'shop',
  'frames',
  'stl',
  '3mf',
] as const;
