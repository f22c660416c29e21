import { PlacedFields } from './fields';
import type { Placed } from '@calque/core/model';
import type { Face } from '../face';

export const PLACED_FACE: Face<Placed> = {
  commands: () => [],
  Fields: PlacedFields,
};
