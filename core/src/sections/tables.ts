import type { TableSection } from './section.ts';
import { american } from './tables/american.ts';
import { BARS, TIMBER } from './tables/bars.ts';
import { EN_10056 } from './tables/en-10056.ts';
import { EN_10365 } from './tables/en-10365.ts';
import { HOLLOW } from './tables/hollow.ts';

let all: readonly TableSection[] | null = null,
  named: ReadonlyMap<string, TableSection> | null = null;

/** All sections of all tables, family by family. */
export const allSections = (): readonly TableSection[] =>
  (all ??= [...EN_10365, ...EN_10056, ...HOLLOW, ...BARS, ...american(), ...TIMBER]);

/** The section of a name; undefined where no table has it. */
export const sectionNamed = (name: string): TableSection | undefined =>
  (named ??= new Map(allSections().map((s) => [s.name, s]))).get(name);
