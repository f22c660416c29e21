/** Straight lines x0, y0, x1, y1 each, in sheet points. */
export type Lines = Float64Array;

/** Tells how far a long piece of work is, 0 to 1; throwing stops it. */
export type Progress = (share: number) => void;
