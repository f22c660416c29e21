import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
  chownSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { asDatabaseUser, databaseUser, type Binaries } from './binaries.ts';
import type { Keys } from './keys.ts';

/** The role that made the cluster and may do everything in it; used only while starting. */
export const KEEPER = 'calque';

/** Who gets in: by loopback and password (SCRAM, both sides prove themselves), whoever else is on this machine. */
const ACCESS = [
  '# Written by Calque at each start.',
  '# TYPE  DATABASE  USER  ADDRESS  METHOD',
  'host  all  all  127.0.0.1/32  scram-sha-256',
  '',
].join('\n');

/** Makes a cluster with checksums of its data, into which nobody gets without a password. */
export async function makeCluster({ folder: bin }: Binaries, data: string, keys: Keys): Promise<void> {
  console.log('Making the database (once) …');
  const user = databaseUser(),
    place = mkdtempSync(join(dirname(data), 'making-')),
    file = join(place, 'key');
  try {
    writeFileSync(file, `${keys.keeper}\n`, { mode: 0o600 });
    if (user) for (const path of [place, file]) chownSync(path, user.uid, user.gid);
    mkdirSync(data, { mode: 0o700 });
    if (user) chownSync(data, user.uid, user.gid);
    await asDatabaseUser(join(bin, 'initdb'), [
      '-D',
      data,
      '-U',
      KEEPER,
      '--auth=scram-sha-256',
      `--pwfile=${file}`,
      '--data-checksums',
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
    ]);
  } catch (error) {
    // Half of a cluster would be taken for a whole one.
    rmSync(data, { recursive: true, force: true });
    throw error;
  } finally {
    rmSync(place, { recursive: true, force: true });
  }
}

/** Brings a cluster that stands still to what this version wants: nobody in without a password, checksums of its data. `unknown`: its passwords are not known. */
export async function readyCluster(
  { folder: bin }: Binaries,
  data: string,
  keys: Keys,
  unknown: boolean,
): Promise<void> {
  const access = join(data, 'pg_hba.conf');
  if (readFileSync(access, 'utf8') !== ACCESS) {
    writeFileSync(access, ACCESS, { mode: 0o600 });
    const user = databaseUser();
    if (user) chownSync(access, user.uid, user.gid);
    chmodSync(access, 0o600);
  }
  // With nobody connected: the server itself, for one sentence.
  if (unknown)
    await asDatabaseUser(
      join(bin, 'postgres'),
      ['--single', '-D', data, '-c', 'password_encryption=scram-sha-256', 'postgres'],
      `alter role ${KEEPER} password '${keys.keeper}'\n`,
    );
  const control = await asDatabaseUser(join(bin, 'pg_controldata'), ['-D', data]);
  const clean = /^Database cluster state:\s+shut down\s*$/m.test(control);
  if (
    clean &&
    /^Data page checksum version:\s+0\s*$/m.test(control) &&
    existsSync(join(bin, 'pg_checksums'))
  ) {
    console.log('Writing checksums into the database (once; about a minute for 10 GB) …');
    await asDatabaseUser(join(bin, 'pg_checksums'), ['--enable', '-D', data]);
  }
}
