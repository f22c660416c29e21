import 'server-only';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { queueFacts } from '@calque/store';
import { database } from './database';

/** Figures of this web server and of the queue, in the text form of the OpenMetrics standard. */
interface Metrics {
  registry: Registry;
  requests: Histogram<'method' | 'route' | 'status'>;
  streams: Gauge;
}
const holder = globalThis as { calqueMetrics?: Metrics };

const SECONDS = [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10, 60];

function metrics(): Metrics {
  if (holder.calqueMetrics) return holder.calqueMetrics;
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const requests = new Histogram({
    name: 'calque_request_seconds',
    help: 'Requests to routes until their answer begins.',
    labelNames: ['method', 'route', 'status'] as const,
    buckets: SECONDS,
    registers: [registry],
  });
  const streams = new Gauge({
    name: 'calque_event_streams',
    help: 'Browsers that listen for what is new.',
    registers: [registry],
  });
  const queue = (name: string, help: string, of: (facts: Awaited<ReturnType<typeof queueFacts>>) => number) =>
    new Gauge({
      name,
      help,
      registers: [registry],
      async collect() {
        const facts = await factsNow().catch(() => null);
        if (facts) this.set(of(facts));
        else this.remove();
      },
    });
  queue('calque_files_waiting', 'Files that wait to be read.', (f) => f.waiting);
  queue('calque_files_reading', 'Files that are being read.', (f) => f.reading);
  queue('calque_oldest_waiting_seconds', 'How long the oldest waiting file waits.', (f) => f.oldestSeconds);
  queue('calque_database_bytes', 'Size of the database.', (f) => f.bytes);
  holder.calqueMetrics = { registry, requests, streams };
  return holder.calqueMetrics;
}

/** One question to the database for all figures of one answer. */
let asked: { at: number; facts: ReturnType<typeof queueFacts> } | null = null;
const FRESH_MS = 1000;
function factsNow(): ReturnType<typeof queueFacts> {
  if (!asked || Date.now() - asked.at > FRESH_MS) asked = { at: Date.now(), facts: queueFacts(database()) };
  return asked.facts;
}

/** The words of our addresses: there are no more routes in the figures than there are here, whatever is asked for. */
const WORDS = new Set([
  '',
  'api',
  'bin',
  'bytes',
  'changes',
  'events',
  'files',
  'find',
  'health',
  'linework',
  'metrics',
  'package',
  'packages',
  'pages',
  'password',
  'picture',
  'projects',
  'room',
  'tiles',
]);
/** An address without what only one project or file has. */
export const routeOf = (url: string): string =>
  new URL(url).pathname
    .split('/')
    .slice(0, 12)
    .map((part) => (WORDS.has(part) ? part : ':'))
    .join('/');

export async function counted(request: Request, work: () => Promise<Response>): Promise<Response> {
  const end = metrics().requests.startTimer();
  const answer = await work();
  end({ method: request.method, route: routeOf(request.url), status: String(answer.status) });
  return answer;
}

export const streamsOpen = (by: 1 | -1): void => metrics().streams.inc(by);

export const metricsText = async (): Promise<{ type: string; text: string }> => ({
  type: metrics().registry.contentType,
  text: await metrics().registry.metrics(),
});
