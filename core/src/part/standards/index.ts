export { minorDiameter, THREADS, threadNamed, type Thread } from './threads.ts';
export { FITS, headFor, SCREW_SIZES, screwSize, USUAL_TIP, type Fit, type ScrewSize } from './holes.ts';
export { STOCK_MATERIALS, stockMaterial, type StockMaterial } from './materials.ts';
