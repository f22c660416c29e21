import { renameSync, writeFileSync } from 'node:fs';
import type { PartState } from './supervise.ts';

/** How the parts are, in a file that the web server reads: it is there when the database is not. */
export class Parts {
  private readonly states = new Map<string, PartState>();

  constructor(private readonly path: string) {}

  readonly tell = (state: PartState): void => {
    this.states.set(state.name, state);
    const next = `${this.path}.next`;
    try {
      writeFileSync(next, JSON.stringify([...this.states.values()]));
      renameSync(next, this.path);
    } catch {
      // A full disk: what is shown of the parts is old then.
    }
  };
}
