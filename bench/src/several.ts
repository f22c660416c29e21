import { randomUUID } from 'node:crypto';
import { ours } from './ours.ts';
import { quantile } from './quantile.ts';

/**
 * Sessions that edit and attach files through a proxy while one or another web server, reader, the proxy or the database is killed:
 * `several.mjs [seconds] [sessions]`. Nothing that was acknowledged may be missing, and nothing may be there twice.
 */
const [SECONDS, SESSIONS] = [120, 50].map((usual, i) => Number(process.argv[2 + i] ?? usual));
const base = process.env.SEVERAL_URL!,
  PARTS = process.env.SEVERAL_PARTS!.split(',');
const PROJECTS = 10,
  PAUSE_MS = 500,
  KILL_EVERY_MS = 3000,
  FILE_EVERY = 25;
const json = { ...ours(base), 'content-type': 'application/json' };
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks until there is an answer that is no failing of the moment, as a page does. */
async function asked<T>(url: string, init: RequestInit = {}): Promise<T> {
  for (;;) {
    // An answer that breaks off is none.
    const answer = await fetch(base + url, { ...init, signal: AbortSignal.timeout(20000) })
      .then(
        async (r) => ({ status: r.status, text: await r.text() }),
        () => null,
      )
      .catch(() => null);
    if (answer && answer.status < 500) return JSON.parse(answer.text) as T;
    again++;
    await wait(150 + Math.random() * 300);
  }
}

let again = 0,
  notices = 0,
  streams = 0;
const projects: string[] = [];
for (let i = 0; i < PROJECTS; i++)
  projects.push(
    (
      await asked<{ id: string }>('/api/projects', {
        method: 'POST',
        headers: json,
        body: JSON.stringify({ name: `Several ${i}`, units: 'mm', precision: 0 }),
      })
    ).id,
  );

interface Done {
  project: string;
  element: string;
  step: string;
}
const done: Done[] = [],
  attached: { project: string; file: string }[] = [],
  latencies: number[] = [];
const until = Date.now() + SECONDS * 1000;

async function session(n: number): Promise<void> {
  const project = projects[n % PROJECTS];
  void listen(project);
  await wait(Math.random() * PAUSE_MS * 2);
  for (let count = 0; Date.now() < until; count++) {
    const element = `s${n}-${count}`,
      step = randomUUID(),
      began = performance.now();
    const change = {
      type: 'add',
      entity: {
        type: 'wall',
        id: element,
        planeId: 'ground',
        from: [count, n],
        to: [count + 1000, n],
        thickness: 100,
        alignment: 'centre',
        height: 2700,
        heightAssumed: true,
        source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      },
    };
    const said = await asked<{ ok: boolean }>(`/api/projects/${project}/changes`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({
        clientId: `session${n}`,
        steps: [{ id: step, label: 'Wall', kind: 'do', of: null, change }],
      }),
    });
    if (!said.ok) throw new Error(`A step was refused: ${JSON.stringify(said)}`);
    latencies.push(performance.now() - began);
    done.push({ project, element, step });
    if (count % FILE_EVERY === n % FILE_EVERY) {
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm"><path d="M1 1H80V${n + 1}"/><text x="5" y="9">${element}</text></svg>`;
      const { id } = await asked<{ id: string }>(`/api/projects/${project}/files?name=${element}.svg`, {
        method: 'POST',
        headers: { ...ours(base), 'content-type': 'application/octet-stream' },
        body: svg,
      });
      attached.push({ project, file: id });
    }
    await wait(PAUSE_MS * (0.5 + Math.random()));
  }
}

/** As a page listens: when its stream breaks it is opened anew. */
async function listen(project: string): Promise<void> {
  while (Date.now() < until) {
    try {
      const stream = await fetch(`${base}/api/events?projects=${project}`);
      if (!stream.ok || !stream.body) throw new Error(String(stream.status));
      streams++;
      const reader = stream.body.pipeThrough(new TextDecoderStream()).getReader();
      for (;;) {
        const { value, done: over } = await reader.read();
        if (over) break;
        notices += value.split('data:').length - 1;
      }
    } catch {
      // It broke.
    }
    await wait(300);
  }
}

const kills: Record<string, number> = {};
async function killing(): Promise<void> {
  while (Date.now() < until - 5000) {
    await wait(KILL_EVERY_MS * (0.6 + Math.random() * 0.8));
    const part = PARTS[Math.floor(Math.random() * PARTS.length)];
    process.send!({ kill: part });
    kills[part] = (kills[part] ?? 0) + 1;
  }
}

await Promise.all([...Array.from({ length: SESSIONS }, (_, n) => session(n)), killing()]);
const faults: string[] = [];
for (const project of projects) {
  const { entities, seq } = await asked<{ entities: { id: string }[]; seq: number }>(
    `/api/projects/${project}`,
  );
  const there = new Set(entities.map((e) => e.id)),
    mine = done.filter((d) => d.project === project);
  faults.push(...mine.filter((d) => !there.has(d.element)).map((d) => `${d.element} is missing`));
  if (there.size !== entities.length) faults.push('an element is there twice');
  const steps: { id: string; seq: number }[] = [];
  for (;;) {
    const part = await asked<{ steps: { id: string; seq: number }[]; more: boolean }>(
      `/api/projects/${project}/changes?after=${steps.at(-1)?.seq ?? 0}`,
    );
    steps.push(...part.steps);
    if (!part.more) break;
  }
  if (
    new Set(steps.map((s) => s.id)).size !== steps.length ||
    steps.some((s, i) => s.seq !== i + 1) ||
    steps.length !== seq
  )
    faults.push(`the history of ${project} is not whole`);
  for (const d of mine)
    if (!steps.some((s) => s.id === d.step)) faults.push(`the step of ${d.element} is missing`);
}
// Files that a killed reader read are taken up by another.
const unread = async () =>
  (
    await Promise.all(
      projects.map((p) => asked<{ id: string; status: string }[]>(`/api/projects/${p}/files`)),
    )
  )
    .flat()
    .filter((f) => attached.some((a) => a.file === f.id) && f.status !== 'ready');
const READ_WITHIN_MS = 120000;
for (const began = Date.now(); (await unread()).length > 0 && Date.now() - began < READ_WITHIN_MS;)
  await wait(1000);
const left = await unread();
if (left.length > 0)
  faults.push(`${left.length} files were not read: ${left.map((f) => f.status).join(', ')}`);
const sorted = [...latencies].sort((a, b) => a - b);
console.log(
  `${SESSIONS} sessions on ${PROJECTS} projects for ${SECONDS} s: ${done.length} edits and ${attached.length} files acknowledged; killed ${Object.entries(
    kills,
  )
    .map(([p, n]) => `${p} ${n}`)
    .join(
      ', ',
    )}; ${again} requests were asked again, streams opened ${streams} times, ${notices} notices; from the first try to the acknowledgement median ${quantile(sorted, 0.5).toFixed(0)}, 95th ${quantile(sorted, 0.95).toFixed(0)}, slowest ${(sorted.at(-1) ?? 0).toFixed(0)} ms.`,
);
console.log(
  faults.length === 0
    ? 'No edit and no file is missing, none is there twice.'
    : faults.slice(0, 20).join('\n'),
);
process.exit(faults.length === 0 ? 0 : 1);
