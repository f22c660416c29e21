export * from './drawing.ts';
export * from './dxf/write-dxf.ts';
export { dxfOfModel, type DxfDrawing, type PdfUnderlay } from './dxf/dxf-drawing.ts';
export * from './svg/write-svg.ts';
export * from './csv/csv-text.ts';
export * from './csv/write-walls.ts';
export * from './csv/write-openings.ts';
export { writeHolesCsv } from './csv/write-holes.ts';
export * from './package/package.ts';
export * from './package/renamed-files.ts';
export * from './from-model.ts';
export * from './from-linework.ts';
export { lineworkOfScene, type Scene } from './scene/scene.ts';
export { readDxf, DxfError } from './dxf/read-dxf.ts';
export { bulgeArc } from './dxf/bulges.ts';
export { readSvg, SvgError } from './svg/read-svg.ts';
export { parsePathData } from './svg/path-data.ts';
export { writeIfc, type IfcOptions } from './ifc/write-ifc.ts';
export type { IfcView } from './ifc/scope.ts';
export { writeGlb } from './gltf/write-glb.ts';
export { ncArchive, writeNc, type NcFile } from './nc/write-nc.ts';
export {
  frameArchive,
  frameDrawings,
  plateArchive,
  plateDrawings,
  type PlateDrawing,
} from './dxf/plate-drawings.ts';
export { writeStep } from './step/write-step.ts';
export {
  frameView,
  frameViews,
  partPage,
  pieceViews,
  plateViews,
  shopViews,
  type DrawnPart,
} from './shop/index.ts';
export { writeTableCsv } from './csv/write-table.ts';
export { writeXlsx } from './xlsx/write-xlsx.ts';
export { writeStl } from './part/stl.ts';
export { writeThreeMf } from './part/three-mf.ts';
export { writePartGlb } from './part/part-glb.ts';
export { welded, type PartSkin } from './part/skin.ts';
