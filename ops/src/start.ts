import { allowedHosts } from './web/door.ts';
import { existsSync } from 'node:fs';
import { dataPlace } from './identity.ts';
import { serve } from './serve.ts';

const DEFAULT_PORT = 4400;

/** Starts everything and keeps it running until a signal ends it. */
export async function start(): Promise<void> {
  const port = Number(process.env.PORT ?? DEFAULT_PORT);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Error(`PORT is ${process.env.PORT}: it must be a number from 1 to 65535.`);
  allowedHosts(process.env.CALQUE_HOSTS);
  const { folder, why } = dataPlace();
  console.log(`Data lies in ${folder}${why ? `: ${why}` : ''}.`);
  const serving = await serve('main', port, true);
  if (serving.rights)
    console.log(`Take note: web server and reader run with root's rights, because ${serving.rights}.`);
  const walls = serving.walls();
  if (walls !== null && walls !== 'walls')
    console.log(
      `Take note: files are read ${walls === 'none' ? 'without walls around what reads them' : 'without network, but with sight of what this user may see'}; bubblewrap ${existsSync('/usr/bin/bwrap') ? 'is here, but this system does not let it build them' : 'is not installed'} (docs/security.md).`,
    );
  console.log(`Calque is ready: ${serving.url}\nIts journal is ${serving.journal}. Ctrl+C stops it.`);
}
