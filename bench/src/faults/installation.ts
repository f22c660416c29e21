/** What the one that started this and the installation does when it is asked to. */
export type Order =
  | { crash: 'web server' | 'reader' | 'database' }
  | { fill: 'disk' | 'temporary folder' }
  | { free: 'disk' | 'temporary folder' };

let busy: Promise<boolean> | null = null;

/** Gives an order; resolves when it is done and the installation answers again: true, or false where this machine cannot do it. One at a time. */
export function order(what: Order): Promise<boolean> {
  busy = (busy ?? Promise.resolve(true)).then(
    () =>
      new Promise<boolean>((resolve) => {
        process.once('message', (done: boolean) => resolve(done));
        process.send!(what);
      }),
  );
  return busy;
}

/** Resolves when nothing is being done any more. */
export const settled = async (): Promise<void> => void (await busy);
