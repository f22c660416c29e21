import { fork, spawnSync } from 'node:child_process';
import { chownSync, mkdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { atEnd, endAll } from './ending.ts';
import { dataFolder, serviceUser } from './identity.ts';
import { serve, type PartName } from './serve.ts';
import { endsWithUs, root } from './shell.ts';

const FAULTS_PORT = 4497;
/** Disks of memory for data and temporary files, so that they can be filled without harm. */
const DISK = 'size=700m',
  TEMPORARY = 'size=8m';

type Order =
  { crash: PartName } | { fill: 'disk' | 'temporary folder' } | { free: 'disk' | 'temporary folder' };

/** Kills parts of the installation again and again under sessions of edits, and the browser too: nothing that was shown as saved or waiting may be missing. */
export async function faults(): Promise<void> {
  const folder = dataFolder('faults'),
    temporary = `${folder}-tmp`;
  const clean = () => {
    for (const place of [folder, temporary]) {
      spawnSync('umount', [place]);
      rmSync(place, { recursive: true, force: true });
    }
  };
  clean();
  const ownDisks = [
    [folder, DISK],
    [temporary, TEMPORARY],
  ].every(([place, size]) => {
    mkdirSync(place, { recursive: true });
    return spawnSync('mount', ['-t', 'tmpfs', '-o', `${size},mode=755`, 'tmpfs', place]).status === 0;
  });
  // Whoever runs the parts must be able to write there.
  const user = serviceUser();
  if (ownDisks && user) chownSync(temporary, user.uid, user.gid);
  const serving = await serve('faults', FAULTS_PORT, false, ownDisks ? { TMPDIR: temporary } : {});
  atEnd(() => serving.stop().then(clean));
  const places = { disk: folder, 'temporary folder': temporary };
  /** Does what is asked; false where this machine cannot. */
  const obey = async (order: Order): Promise<boolean> => {
    if ('crash' in order) await serving.crash(order.crash);
    else if (!ownDisks) return false;
    else if ('fill' in order) fill(places[order.fill]);
    else {
      rmSync(join(places[order.free], FILLER), { force: true });
      await serving.answers();
    }
    return true;
  };
  const child = fork(join(root, '.build/faults.mjs'), process.argv.slice(3), {
    env: { ...process.env, FAULTS_URL: serving.url },
    detached: true,
  });
  endsWithUs(child);
  child.on(
    'message',
    (order: Order) =>
      void obey(order)
        .catch((error: Error) => {
          console.error(error.message);
          return false;
        })
        .then((done) => child.connected && child.send(done)),
  );
  await endAll(await new Promise<number>((resolve) => child.on('exit', (code) => resolve(code ?? 1))));
}

const FILLER = 'filler';

/** Fills a disk to the last block. */
function fill(place: string): void {
  const { bavail, bsize } = statfsSync(place);
  try {
    writeFileSync(join(place, FILLER), Buffer.alloc(bavail * bsize, 1));
  } catch {
    // Full before it was all written: as wanted.
  }
}
