export { LARGEST_ASSEMBLY, parseEntity } from './entity-schemas.ts';
export { LONGEST_TEXT } from '../../kinds/fields.ts';
export { LARGEST_STEP, parseChange } from './parse-change.ts';
export { soundChange, soundEntity } from './sound-entity.ts';
