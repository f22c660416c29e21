export * from './sound-text.ts';
