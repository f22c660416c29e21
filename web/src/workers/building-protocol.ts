import type { IfcView } from '@calque/core/exchange';
import type { Entity } from '@calque/core/model';
import type { Scene } from '@calque/core/solids';
import type { CountedTable } from '@calque/core/takeoff';

/** What is to be made of a building. */
export type BuildingTask =
  | { make: 'scene' }
  | { make: 'tables' }
  | { make: 'ifc'; view: IfcView; at: string; projectKey: string; storeyId: string | null }
  | { make: 'glb'; storeyId: string | null }
  | { make: 'xlsx'; storey: string | null };

export type ToBuilding = BuildingTask & {
  /** See buildingEntities. */
  entities: readonly Entity[];
};

export type FromBuilding =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | {
      type: 'done';
      scene?: Scene;
      tables?: CountedTable[];
      /** A file's bytes; null where there is nothing that it could hold. */
      bytes?: Uint8Array<ArrayBuffer> | null;
    };
