import type { ModelPoint } from '../../geometry/index.ts';

/** What checks need to know of a solid; @calque/core/forming gives it. Millimetres; normals point out of the part. */
export interface SolidFacts {
  skin: {
    corners: ArrayLike<number>;
    triangles: ArrayLike<number>;
    /** Of the triangles, from which figure on and how many. */
    faces: readonly FactFace[];
  };
  edges: readonly {
    between: readonly [string, string];
    middle: ModelPoint;
    length: number;
    radius: number | null;
  }[];
  measures: { volume: number; box: readonly number[] };
  holes: readonly {
    at: ModelPoint;
    axis: ModelPoint;
    diameter: number;
    depth: number | null;
    head: { diameter: number } | null;
    faces: readonly string[];
  }[];
}
export interface FactFace {
  name: string;
  area: number;
  start: number;
  count: number;
  form:
    | { kind: 'plane'; at: ModelPoint; normal: ModelPoint }
    | { kind: 'cylinder'; at: ModelPoint; axis: ModelPoint; radius: number; hollow: boolean }
    | { kind: 'cone' | 'sphere' | 'torus' | 'free' };
}

/** Something that cannot be made so, or not easily. */
export interface Check {
  kind:
    | 'corner'
    | 'depth'
    | 'wall'
    | 'hole'
    | 'entry'
    | 'undercut'
    | 'thread'
    | 'tolerance'
    | 'sheet'
    | 'turning';
  at: ModelPoint;
  /** Why, in words. */
  words: string;
  /** Faces that are lit up. */
  faces: string[];
}
