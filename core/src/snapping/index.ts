export * from './items.ts';
