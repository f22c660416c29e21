import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { quantile } from './quantile.ts';
import { ours } from './ours.ts';

/**
 * Many tabs on many projects, editing: each has its event stream, sends a step now and then, and fetches what others did.
 * `load.mjs [minutes] [tabs] [projects]`; the address is in LOAD_URL, the processes whose memory is told in LOAD_PIDS.
 */
const [MINUTES, TABS, PROJECTS] = [10, 200, 40].map((usual, i) => Number(process.argv[2 + i] ?? usual));
const base = process.env.LOAD_URL!;
/** A person makes a step every few seconds. */
const PAUSE_MS = 3000;
const json = { ...ours(base), 'content-type': 'application/json' };

const projects = await Promise.all(
  Array.from(
    { length: PROJECTS },
    async (_, i) =>
      (
        (await (
          await fetch(`${base}/api/projects`, {
            method: 'POST',
            headers: json,
            body: JSON.stringify({ name: `Load ${i}`, units: 'mm', precision: 0 }),
          })
        ).json()) as { id: string }
      ).id,
  ),
);

const latencies: number[] = [],
  told: number[] = [];
let failures = 0,
  notices = 0;
const began = Date.now(),
  until = began + MINUTES * 60000;
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function tab(n: number): Promise<void> {
  const project = projects[n % PROJECTS];
  let seq = 0,
    count = 0;
  const closed = new AbortController();
  const stream = await fetch(`${base}/api/events?projects=${project}`, { signal: closed.signal });
  void (async () => {
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return;
      notices += value.split('data:').length - 1;
    }
  })().catch(() => {});
  await wait(Math.random() * PAUSE_MS);
  while (Date.now() < until) {
    const id = `t${n}-${count++}`;
    const change = {
      type: 'add',
      entity: {
        type: 'wall',
        id,
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
    const start = performance.now();
    const answer = await fetch(`${base}/api/projects/${project}/changes`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({
        clientId: `tab${n}`,
        steps: [{ id: randomUUID(), label: 'Wall', kind: 'do', of: null, change }],
      }),
    }).catch(() => null);
    if (answer?.ok) {
      latencies.push(performance.now() - start);
      await answer.arrayBuffer();
    } else failures++;
    const asked = performance.now();
    const steps = (await fetch(`${base}/api/projects/${project}/changes?after=${seq}`).then(
      (r) => r.json(),
      () => ({ steps: [] }),
    )) as { steps: { seq: number }[] };
    told.push(performance.now() - asked);
    seq = steps.steps.at(-1)?.seq ?? seq;
    await wait(PAUSE_MS * (0.5 + Math.random()));
  }
  closed.abort();
}

const megabytes = () =>
  (process.env.LOAD_PIDS ?? '')
    .split(',')
    .filter(Boolean)
    .map((pid) => {
      try {
        return Math.round(
          Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024,
        );
      } catch {
        return 0;
      }
    });
const figures = (list: number[]) => {
  const sorted = [...list].sort((a, b) => a - b);
  return `median ${quantile(sorted, 0.5).toFixed(0)}, 95th ${quantile(sorted, 0.95).toFixed(0)}, 99th ${quantile(sorted, 0.99).toFixed(0)}, slowest ${(sorted.at(-1) ?? 0).toFixed(0)} ms`;
};
const say = setInterval(
  () =>
    console.log(
      `${Math.round((Date.now() - began) / 1000)} s: ${latencies.length} edits, ${figures(latencies.slice(-2000))}; memory ${megabytes().join(' + ')} MB`,
    ),
  60000,
);
await Promise.all(Array.from({ length: TABS }, (_, n) => tab(n)));
clearInterval(say);
console.log(
  `${TABS} tabs on ${PROJECTS} projects for ${MINUTES} minutes: ${latencies.length} edits acknowledged (${figures(latencies)}), ${failures} failed; others' steps fetched (${figures(told)}); ${notices} notices; memory at the end ${megabytes().join(' + ')} MB.`,
);
process.exit(failures === 0 ? 0 : 1);
