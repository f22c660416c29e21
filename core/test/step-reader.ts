import { createRequire } from 'node:module';
import { enclosedBy } from '@calque/core/solids';

/** What the independent reader gives back of a file. */
export interface StepMesh {
  name: string;
  attributes: { position: { array: number[] } };
  index: { array: number[] };
}
export interface StepNode {
  name: string;
  meshes: number[];
  children: StepNode[];
}
export interface StepRead {
  success: boolean;
  root: StepNode;
  meshes: StepMesh[];
}
interface Reader {
  ReadStepFile(content: Uint8Array, how: object): StepRead;
}

/** A STEP file as an independent kernel reads it, round faces by fine chords. */
export async function readStep(text: string): Promise<StepRead> {
  const reader = await (createRequire(import.meta.url)('occt-import-js') as () => Promise<Reader>)();
  return reader.ReadStepFile(new TextEncoder().encode(text), {
    linearUnit: 'millimeter',
    linearDeflectionType: 'absolute_value',
    linearDeflection: 0.01,
    angularDeflection: 0.05,
  });
}

/** The volume of a solid that was read, and the corners of its triangles one after another. */
export function solidOf({ attributes, index }: StepMesh): { volume: number; triangles: number[] } {
  const p = attributes.position.array,
    triangles = index.array.flatMap((i) => [p[3 * i], p[3 * i + 1], p[3 * i + 2]]);
  return {
    volume: enclosedBy({ triangles: Float64Array.from(triangles), edges: new Float64Array() }),
    triangles,
  };
}
