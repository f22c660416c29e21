/** What was started and must not outlive this program; ended together, once, whichever way it ends. */
type End = () => void | Promise<void>;
const ends = new Set<End>();
let ending: Promise<void> | null = null;

/** All is ended within this time, or this program goes without. */
const PATIENCE_MS = 1800;
const SIGNALS = { SIGINT: 130, SIGTERM: 143, SIGHUP: 129 } as const;

/** Has this program an end of its own before everything: what it started is then ended too. Gives what takes it off again. */
export function atEnd(end: End): () => void {
  ends.add(end);
  return () => void ends.delete(end);
}

/** What is done in the very last moment, whatever else was not: it must not wait for anything. Gives what takes it off again. */
export function atLast(act: () => void): () => void {
  process.on('exit', act);
  return () => void process.off('exit', act);
}

export const isEnding = (): boolean => ending !== null;

/** Thrown where work stops because the program ends. */
export class Ending extends Error {
  override readonly name = 'Ending';
  constructor() {
    super('Stopped.');
  }
}

/** Ends all that was started, the latest first, and this program with a status. */
export function endAll(status: number): Promise<void> {
  ending ??= (async () => {
    const patience = setTimeout(() => process.exit(status), PATIENCE_MS);
    await Promise.all(
      [...ends]
        .reverse()
        .map(async (end) => end())
        .map((p) =>
          p.catch((error: unknown) => console.error(error instanceof Error ? error.message : error)),
        ),
    );
    clearTimeout(patience);
    process.exit(status);
  })();
  return ending;
}

/** From the first moment a signal is heard, whatever is being done. A terminal that closes takes its output along: nobody hears of that. */
export function hearSignals(): void {
  for (const [name, status] of Object.entries(SIGNALS)) {
    process.on(name, () => {
      if (!isEnding() && name === 'SIGINT') console.log('\nStopping …');
      void endAll(status);
    });
  }
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {});
}
