import type { IfcView } from '@calque/core/exchange';
import type { Entity } from '@calque/core/model';
import type { Scene, Seen } from '@calque/core/solids';
import type { CountedTable } from '@calque/core/takeoff';

/** What is to be made of a building. */
export type BuildingTask =
  /** `partly`: storeys are told as they are done. */
  | { make: 'scene'; partly: boolean }
  | { make: 'tables' }
  | { make: 'seen'; planeId: string }
  /** Looked at from round it and from above, radians; one storey, or all. */
  | { make: 'outlook'; round: number; above: number; storeyId: string | null }
  | { make: 'ifc'; view: IfcView; at: string; projectKey: string; storeyId: string | null }
  | { make: 'glb'; storeyId: string | null }
  | { make: 'step'; at: string }
  /** Drawings for the shop, with the day they are of. */
  | { make: 'shop'; date: string }
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
      /** There is more of the scene to come. */
      more?: boolean;
      tables?: CountedTable[];
      seen?: Seen;
      /** A file's bytes; null where there is nothing that it could hold. */
      bytes?: Uint8Array<ArrayBuffer> | null;
    };
