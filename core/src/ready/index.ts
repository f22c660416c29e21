export {
  layPaper,
  shownOf,
  sizeOfPaper,
  windowsOf,
  type LaidPaper,
  type LaidView,
  type SheetBeneath,
} from './laid-paper.ts';
export { CAPTION, fitted, marksOf, type PaperMarks, type PaperText } from './title-block.ts';
export { doubtsOf } from './doubts.ts';
export { freePlace } from './free-place.ts';
export { EDGE, writeReadySvg, type PartOfView, type PictureOf } from './write-svg.ts';
