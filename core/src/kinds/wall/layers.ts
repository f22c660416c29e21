/** What a layer of a wall is for. Structure is its core; what lies outside of all structure is finish, by which a wall may be drawn too. */
export type LayerPurpose = 'structure' | 'insulation' | 'cavity' | 'membrane' | 'lining' | 'finish';
export const LAYER_PURPOSES: readonly LayerPurpose[] = [
  'structure',
  'insulation',
  'cavity',
  'membrane',
  'lining',
  'finish',
];

/** A layer of a wall type; its thickness in millimetres. */
export interface WallLayer {
  material: string;
  purpose: LayerPurpose;
  thickness: number;
}

/** More layers than a wall has. */
export const MOST_LAYERS = 30;

export const thicknessOfLayers = (layers: readonly WallLayer[]): number =>
  layers.reduce((sum, l) => sum + l.thickness, 0);

/** How deep the core lies behind the first and behind the last face, millimetres; null for layers without structure. */
export function coreDepths(layers: readonly WallLayer[]): { first: number; last: number } | null {
  const structure = layers.flatMap((l, i) => (l.purpose === 'structure' ? [i] : []));
  if (structure.length === 0) return null;
  return {
    first: thicknessOfLayers(layers.slice(0, structure[0])),
    last: thicknessOfLayers(layers.slice(structure.at(-1)! + 1)),
  };
}
