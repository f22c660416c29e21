export { radius95 } from './circular.ts';
export * from './lengths.ts';
export * from './stated-error.ts';
export * from './choose-model.ts';
export * from './place.ts';
export * from './best-next.ts';
