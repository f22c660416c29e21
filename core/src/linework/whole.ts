/** Header of a page's linework: are its hatches and dimensions told apart (`yes`), will they be, or did reading break off? */
export const WHOLE = 'Calque-Whole';
export type Whole = 'yes' | 'later' | 'never';
