import type pg from 'pg';

/** What an installation holds, as it is compared after it was restored. */
export interface Portrait {
  projects: number;
  files: number;
  steps: number;
  entities: number;
  blobs: number;
  /** Of every project its id, sequence and name, and of every blob its checksum, in one. */ digest: string;
}

const QUESTION = `select (select count(*) from projects)::int as projects, (select count(*) from files)::int as files, (select count(*) from changes)::int as steps, (select count(*) from entities)::int as entities,
  (select count(*) from blobs)::int as blobs,
  md5(coalesce((select string_agg(id::text || seq || name || coalesce(deleted::text, ''), '|' order by id) from projects), '') || coalesce((select string_agg(b.id::text || coalesce(b.sha256, '') || b.size, '|' order by b.id) from blobs b), '')
    || coalesce((select string_agg(project_id::text || id || md5(data::text), '|' order by project_id, id) from entities), '')
    || coalesce((select string_agg(project_id::text || seq || md5(change::text), '|' order by project_id, seq) from changes), '')
    || coalesce((select string_agg(blob_id::text || n || md5(bytes), '|' order by blob_id, n) from blob_chunks), '')) as digest`;

export async function portraitOf(client: pg.Client): Promise<Portrait> {
  await client.query("set timezone = 'UTC'");
  return (await client.query<Portrait>(QUESTION)).rows[0];
}

export const sameInstallation = (a: Portrait, b: Portrait): boolean =>
  (Object.keys(a) as (keyof Portrait)[]).every((k) => a[k] === b[k]);

const plural = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
export const portraitWords = ({ projects, files, steps }: Portrait): string =>
  `${plural(projects, 'project', 'projects')}, ${plural(files, 'file', 'files')}, ${plural(steps, 'step', 'steps')} of history`;
