export * from './trim-tool';
export * from './corner-tool';
export * from './offset-tool';
export * from './split-tool';
export * from './stretch-tool';
