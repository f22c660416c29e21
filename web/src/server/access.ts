import 'server-only';
import type { ProjectFacts } from '@calque/store';

/** Who asks. Today whoever may reach the address of the installation: signing in is put here, and nowhere else. */
export interface Person {
  name: string;
}

/** What somebody may do: look at what there is, change it, or see how the installation is. */
export type Deed = 'look' | 'change' | 'oversee';

const ANYONE: Person = { name: 'anyone who reaches this address' };

/** Who sends a request; null where nobody is known by it. */
export const whoAsks = (_: Request): Promise<Person | null> => Promise.resolve(ANYONE);

/** May this person do that, to this project or, where none is given, to the installation? */
export const mayDo = (person: Person, _deed: Deed, _project: ProjectFacts | null): boolean =>
  person === ANYONE;
