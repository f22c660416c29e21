import { fuzz } from './fuzz.ts';
import { HOSTILE_FILES, type HostileFile } from './hostile-files.ts';
import { addresses, ask, greed, steps } from './hostile-requests.ts';
import { senders } from './hostile-senders.ts';
import { Random } from './random.ts';
import { Report } from './report.ts';

/**
 * Attacks on a running installation, each with how it must end: `attacks.mjs [mutations] [seed]`. Its address is in ATTACKS_URL.
 */
const [MUTATIONS, SEED] = [300, Date.now() % 1e6].map((usual, i) => Number(process.argv[2 + i] ?? usual));
const base = process.env.ATTACKS_URL!,
  root = process.env.CALQUE_ROOT ?? process.cwd();
const random = new Random(SEED),
  report = new Report();
/** A file must come to an end within this time, whoever else's are read. */
const ENDS_WITHIN_MS = 150000;

const made = async (name: string) =>
  (
    JSON.parse(
      (await ask(`${base}/api/projects`, 'POST', JSON.stringify({ name, units: 'mm', precision: 0 }))).body,
    ) as { id: string }
  ).id;
interface Listed {
  id: string;
  name: string;
  status: string;
  message: string | null;
}
const filesOf = async (project: string) =>
  JSON.parse((await ask(`${base}/api/projects/${project}/files`)).body) as Listed[];
const attach = (project: string, name: string, bytes: Uint8Array) =>
  ask(`${base}/api/projects/${project}/files?name=${encodeURIComponent(name)}`, 'POST', bytes, {
    'content-type': 'application/octet-stream',
  });

/** All hostile files into one project, an ordinary one into another: each ends as it must, and the other is not kept waiting. */
async function files(): Promise<void> {
  const hostile = await made('Hostile files'),
    ordinary = await made('Ordinary');
  const sent = new Map<string, HostileFile>();
  for (const file of HOSTILE_FILES) {
    const bytes = await file.bytes();
    const { status, body } = await attach(hostile, file.name, bytes);
    if (bytes.length === 0)
      report.check(`file ${file.name}`, status === 400 ? null : `was taken with ${status}`);
    else if (status === 201) sent.set((JSON.parse(body) as { id: string }).id, file);
    else report.check(`file ${file.name}`, `was not taken: ${status} ${body.slice(0, 100)}`);
  }
  const began = Date.now();
  const good = await HOSTILE_FILES.find((f) => f.name === 'arcs to nowhere.dxf')!.bytes();
  const { id } = JSON.parse((await attach(ordinary, 'plan.dxf', good)).body) as { id: string };
  let turn: number | null = null;
  for (; Date.now() - began < ENDS_WITHIN_MS; await new Promise((resolve) => setTimeout(resolve, 500))) {
    if (turn === null && (await filesOf(ordinary)).find((f) => f.id === id)?.status === 'ready')
      turn = Date.now() - began;
    if (
      turn !== null &&
      (await filesOf(hostile)).every((f) => f.status !== 'waiting' && f.status !== 'reading')
    )
      break;
  }
  for (const f of await filesOf(hostile)) {
    const file = sent.get(f.id);
    if (!file) continue;
    const right = (file.ends as readonly string[]).includes(f.status),
      words = f.status === 'ready' || (f.message ?? '').length > 15;
    report.check(`file ${file.name}`, right && words ? null : `is ${f.status}: ${f.message}`);
  }
  report.check(
    "another project's file is read in its turn",
    turn !== null && turn < 20000 ? null : `took ${turn} ms`,
  );
  console.log(
    `${sent.size} hostile files read to an end in ${Math.round((Date.now() - began) / 1000)} s; another project's file among them after ${turn} ms.`,
  );
}

const project = await made('Attacked');
const before = JSON.parse((await ask(`${base}/api/projects/${project}`)).body) as {
  entities: { id: string }[];
};
console.log(`Attacks with seed ${SEED}.`);
await addresses(base, project, random, report);
await senders(base, project, report);
await steps(base, project, report);
await greed(base, project, report);
await files();
await fuzz(root, MUTATIONS, SEED, report);
const after = JSON.parse((await ask(`${base}/api/projects/${project}`)).body) as {
  entities: { id: string }[];
};
report.check(
  'what was there is there',
  before.entities.every((e) => after.entities.some((f) => f.id === e.id)) &&
    after.entities.every((e) => !e.id.endsWith('x'))
    ? null
    : 'something is missing or too much',
);
report.check(
  'the installation works',
  (
    JSON.parse((await ask(`${base}/api/health`)).body) as { ok: boolean; parts: { state: string }[] }
  ).parts.every((p) => p.state === 'running')
    ? null
    : 'a part does not run',
);
// Everything is as before for whoever comes next.
await ask(`${base}/api/projects/${project}/bin`, 'POST', '{}');
process.exit(report.end() === 0 ? 0 : 1);
