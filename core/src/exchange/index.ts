export * from './drawing.ts';
export * from './dxf/write-dxf.ts';
export * from './svg/write-svg.ts';
export * from './csv/write-walls.ts';
export * from './package/package.ts';
export * from './from-model.ts';
export * from './from-linework.ts';
