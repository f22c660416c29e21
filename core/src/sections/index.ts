export { figuresOf, piecesOfRing, type SectionFigures } from './properties.ts';
export { reversed, roundedRing, type SectionRing, type SectionSizes } from './outline.ts';
export * from './section.ts';
export { allSections, sectionNamed } from './tables.ts';
export { DENSITY, findSections, massOf } from './find.ts';
