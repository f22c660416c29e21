export * from './sound-text.ts';
export { isUuid } from './ids.ts';
