export * from './page-objects.ts';
export * from './types.ts';
export { PageInterpreter, type InterpretOptions } from './interpret.ts';
export { flattenPath } from './flatten-path.ts';
export { recogniseRun, isStraight, type Recognised } from './recognise-arcs.ts';
export { isPaper } from './paint.ts';
export { joinTexts } from './texts.ts';
export { scaleNotes, type ScaleNote } from './scale-notes.ts';
export { encodeLinework, decodeLinework, LINEWORK_VERSION } from './binary.ts';
