import { randomUUID } from 'node:crypto';
import { connect } from 'node:net';
import type { Random } from './random.ts';
import type { Report } from './report.ts';

export interface Asked {
  status: number;
  body: string;
  ms: number;
}

/** Everything must be answered within this time. */
const SOON_MS = 15000;

export async function ask(
  url: string,
  method = 'GET',
  body?: string | Uint8Array,
  headers: Record<string, string> = body === undefined ? {} : { 'content-type': 'application/json' },
): Promise<Asked> {
  // As a program that writes here says who it is; what says otherwise is tried in hostile-senders.ts.
  const origin: Record<string, string> =
    method !== 'GET' && method !== 'HEAD' ? { origin: new URL(url).origin } : {};
  const began = Date.now();
  const send = (more: Record<string, string>) =>
    fetch(url, {
      method,
      body: body as never,
      headers: { ...origin, ...headers, ...more },
      signal: AbortSignal.timeout(SOON_MS),
      redirect: 'manual',
    });
  // A connection that was kept may be let go by the server just as it is used again: on a new one there is no such chance, and a server that
  // has died answers on none.
  const response = await send({}).catch((error: unknown) => {
    if (!wasLetGo(error)) throw error;
    return send({ connection: 'close' });
  });
  return { status: response.status, body: await response.text(), ms: Date.now() - began };
}

const wasLetGo = (error: unknown): boolean =>
  ((error as { cause?: { code?: string } }).cause?.code ?? '') === 'UND_ERR_SOCKET';

/** An answer must say yes, or no in words; what the server did not foresee is a fault. */
function faultOf({ status, body }: Asked): string | null {
  if (status >= 500) return `answered ${status}: ${body.slice(0, 200)}`;
  if (status >= 400 && body.startsWith('{') && !(JSON.parse(body) as { message?: string }).message)
    return `refused with ${status} and no words`;
  return null;
}

const ODD = [
  '0',
  '-1',
  '1e9',
  '99999999999999999999',
  'NaN',
  'null',
  '%00',
  '%F0%9F%98%80',
  '%ED%A0%80',
  "'; drop table projects; --",
  '../../etc/passwd',
  '..%2f..%2fetc',
  'a'.repeat(3000),
  '[]',
  '{}',
  'true',
  ' ',
  '%',
  '\\',
];
const METHODS = ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'HEAD', 'OPTIONS'];

/** Odd ids, queries, methods and bodies at every address. */
export async function addresses(
  base: string,
  project: string,
  random: Random,
  report: Report,
): Promise<void> {
  const ids = [project, randomUUID(), ...ODD];
  const places = (id: string) => [
    `/api/projects/${id}`,
    `/api/projects/${id}/changes?after=${random.pick(ODD)}`,
    `/api/projects/${id}/changes?after=0&last=${random.pick(ODD)}&before=${random.pick(ODD)}`,
    `/api/projects/${id}/files?name=${random.pick(ODD)}`,
    `/api/projects/${id}/find?words=${random.pick(ODD)}`,
    `/api/projects/${id}/room?bytes=${random.pick(ODD)}`,
    `/api/projects/${id}/picture`,
    `/api/projects/${id}/package`,
    `/api/events?projects=${random.pick(ODD)}`,
    ...[project, id].flatMap((of) => [
      `/api/projects/${of}/files/${id}`,
      `/api/projects/${of}/files/${id}/bytes?for=${random.pick(ODD)}`,
      `/api/projects/${of}/files/${id}/password`,
      `/api/projects/${of}/files/${id}/pages/${random.pick(ODD)}/linework`,
      `/api/projects/${of}/files/${id}/pages/1/picture`,
      `/api/projects/${of}/files/${id}/pages/${random.pick(ODD)}/tiles/${random.pick(ODD)}/${random.pick(ODD)}`,
    ]),
    `/api/health?x=${random.pick(ODD)}`,
    '/api/metrics',
    `/project/${id}`,
    `/?x=${random.pick(ODD)}`,
  ];
  for (const id of ids)
    for (const place of places(id)) {
      const method = random.pick(METHODS);
      // What is meant for the project itself must not remove it.
      if (id === project && method !== 'GET' && method !== 'HEAD') continue;
      const body =
        method === 'GET' || method === 'HEAD'
          ? undefined
          : random.pick([
              '',
              '{}',
              '[]',
              'null',
              '{"a":',
              '"\\ud800"',
              '{"action":"read","password":"\\u0000"}',
              '{"action":"cancel"}',
              'x'.repeat(100000),
            ]);
      await attempt(`${method} ${place.slice(0, 90)}`, report, () =>
        ask(base + encodeURI(place).replace(/%25/g, '%'), method, body),
      );
    }
}

async function attempt(
  name: string,
  report: Report,
  work: () => Promise<Asked>,
  more: (asked: Asked) => string | null = () => null,
): Promise<void> {
  try {
    const asked = await work();
    report.check(name, faultOf(asked) ?? more(asked));
  } catch (error) {
    // An address that is none, or a request that the server refuses to read.
    const text = String((error as Error).cause ?? error);
    report.check(
      name,
      /Invalid URL|Failed to parse URL|other side closed|ECONNRESET|EPIPE/.test(text) ? null : text,
    );
  }
}

const wall = (id: string) => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [0, 0],
  to: [1000, 0],
  thickness: 100,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});
const deep = (n: number) => '['.repeat(n) + ']'.repeat(n);

/** Malformed steps among good ones: the good ones before are taken, the bad one is named, nothing else happens. */
export async function steps(base: string, project: string, report: Report): Promise<void> {
  const url = `${base}/api/projects/${project}/changes`;
  const step = (change: unknown, label: unknown = 'x', id: unknown = randomUUID()) => ({
    id,
    label,
    kind: 'do',
    of: null,
    change,
  });
  const bad: [string, unknown][] = [
    ['no change', null],
    ['a text', 'add'],
    ['an unknown kind', { type: 'drop' }],
    ['an entity of no type', { type: 'add', entity: { id: 'q' } }],
    ['an entity of an odd type', { type: 'add', entity: { ...wall('q'), type: '__proto__' } }],
    ['an infinite length', { type: 'add', entity: { ...wall('q'), thickness: 1e999 } }],
    ['a negative one', { type: 'add', entity: { ...wall('q'), thickness: -1 } }],
    ['a text for a number', { type: 'add', entity: { ...wall('q'), height: '2700' } }],
    ['an id that is none', { type: 'add', entity: wall('a b') }],
    ['an id that is long', { type: 'add', entity: wall('x'.repeat(65)) }],
    ['no storey', { type: 'add', entity: { ...wall('q'), planeId: 'attic' } }],
    ['a field too many', { type: 'add', entity: { ...wall('q'), colour: 1 } }],
    [
      'a zero in a text',
      { type: 'add', entity: { ...wall('q'), source: { ...wall('q').source, sheet: 'a\0b' } } },
    ],
    [
      'half a pair',
      { type: 'add', entity: { ...wall('q'), source: { ...wall('q').source, sheet: '\ud800' } } },
    ],
    [
      'the settings removed',
      {
        type: 'remove',
        entity: { type: 'settings', id: 'settings', name: 'Attacked', units: 'mm', precision: 0 },
      },
    ],
    ['a missing one set', { type: 'set', id: 'none', before: {}, after: { thickness: 5 } }],
    ['its type set', { type: 'set', id: 'ground', before: {}, after: { type: 'wall' } }],
    ['a zero in a key', { type: 'set', id: 'ground', before: { 'a\0': null }, after: { height: 3000 } }],
    [
      'groups too deep',
      {
        type: 'group',
        changes: [
          {
            type: 'group',
            changes: [
              { type: 'group', changes: [{ type: 'group', changes: [{ type: 'group', changes: [] }] }] },
            ],
          },
        ],
      },
    ],
    [
      'an underlay of no file',
      {
        type: 'add',
        entity: {
          type: 'underlay',
          id: 'u',
          name: 'x',
          fileId: randomUUID(),
          page: 1,
          planeId: 'ground',
          crop: [0, 0, 1, 1],
          placement: [1, 0, 0, 1, 0, 0],
          scaleState: 'paper',
          calibration: null,
          visible: true,
          fade: 0,
          locked: false,
          snap: true,
          order: 1,
        },
      },
    ],
    [
      'a prototype',
      { type: 'set', id: 'ground', before: {}, after: JSON.parse('{"__proto__": {"name": "x"}}') as object },
    ],
    [
      'more parts than a step has',
      {
        type: 'group',
        changes: Array.from({ length: 250001 }, () => ({ type: 'set', id: 'ground', before: {}, after: {} })),
      },
    ],
  ];
  let n = 0;
  for (const [name, change] of bad) {
    const before = `g${Date.now()}-${n++}`,
      at = step(change),
      body = JSON.stringify({
        clientId: 't',
        steps: [
          step({ type: 'add', entity: wall(before) }),
          at,
          step({ type: 'add', entity: wall(`${before}x`) }),
        ],
      });
    await attempt(
      `a step: ${name}`,
      report,
      () =>
        ask(
          url,
          'POST',
          name === 'an infinite length' ? body.replace('"thickness":null', '"thickness":1e999') : body,
        ),
      ({ status, body: said }) => {
        const answer = JSON.parse(said) as { stepId?: string; message?: string };
        return status === 409 && answer.stepId === at.id && (answer.message ?? '').length > 5
          ? null
          : `answered ${status} ${said.slice(0, 200)}`;
      },
    );
  }
  const whole: [string, string][] = [
    ['no JSON', '{'],
    ['nested without end', `{"clientId":"t","steps":${deep(200000)}}`],
    [
      'a label without end',
      JSON.stringify({ clientId: 't', steps: [step({ type: 'group', changes: [] }, 'x'.repeat(1e6))] }),
    ],
    [
      'an id that is none',
      JSON.stringify({ clientId: 't', steps: [step({ type: 'group', changes: [] }, 'x', 'no-uuid')] }),
    ],
    ['no steps', '{"clientId":"t","steps":[]}'],
    [
      'too many steps',
      JSON.stringify({
        clientId: 't',
        steps: Array.from({ length: 501 }, () => step({ type: 'group', changes: [] })),
      }),
    ],
    [
      'a change nested without end',
      `{"clientId":"t","steps":[{"id":"${randomUUID()}","label":"x","kind":"do","of":null,"change":{"type":"set","id":"ground","before":{"name":${deep(50000)}},"after":{}}}]}`,
    ],
    [
      'an entity nested without end',
      `{"clientId":"t","steps":[{"id":"${randomUUID()}","label":"x","kind":"do","of":null,"change":{"type":"add","entity":{"type":"line","id":"z","from":${deep(50000)}}}}]}`,
    ],
  ];
  for (const [name, body] of whole)
    await attempt(
      `a request: ${name}`,
      report,
      () => ask(url, 'POST', body),
      ({ status }) => (status >= 400 ? null : `was taken with ${status}`),
    );
}

/** Bodies without end, headers without end, readers that read nothing, a great many at once: others are served meanwhile. */
export async function greed(base: string, project: string, report: Report): Promise<void> {
  const { hostname, port } = new URL(base);
  const open = (head: string) => {
    const socket = connect(Number(port), hostname);
    socket.on('error', () => {});
    socket.write(head);
    return socket;
  };
  const waiting = [
    ...Array.from({ length: 40 }, () =>
      open(`GET /api/projects/${project}/package HTTP/1.1\r\nHost: ${hostname}\r\n\r\n`),
    ),
    ...Array.from({ length: 60 }, () => open(`GET /api/projects HTTP/1.1\r\nHost: ${hostname}\r\nX-Slow: `)),
    ...Array.from({ length: 40 }, () =>
      open(
        `POST /api/projects/${project}/files?name=a HTTP/1.1\r\nHost: ${hostname}:${port}\r\nOrigin: ${base}\r\nContent-Length: 1000000\r\n\r\nabc`,
      ),
    ),
    ...Array.from({ length: 40 }, () =>
      open(`GET /api/events?projects=${project} HTTP/1.1\r\nHost: ${hostname}\r\n\r\n`),
    ),
  ];
  waiting.forEach((s) => s.pause());
  await new Promise((resolve) => setTimeout(resolve, 1500));
  await attempt(
    'others while many stand still',
    report,
    () => ask(`${base}/api/projects`),
    ({ status, ms }) => (status === 200 && ms < 3000 ? null : `answered ${status} after ${ms} ms`),
  );
  await attempt(
    "others' steps meanwhile",
    report,
    () =>
      ask(
        `${base}/api/projects/${project}/changes`,
        'POST',
        JSON.stringify({
          clientId: 't',
          steps: [
            {
              id: randomUUID(),
              label: 'x',
              kind: 'do',
              of: null,
              change: { type: 'add', entity: wall(`m${Date.now()}`) },
            },
          ],
        }),
      ),
    ({ status, ms }) => (status === 200 && ms < 3000 ? null : `answered ${status} after ${ms} ms`),
  );
  waiting.forEach((s) => s.destroy());
  await attempt(
    'a body beyond what is taken',
    report,
    () => ask(`${base}/api/projects`, 'POST', `{"name":"${'x'.repeat(3e6)}"}`),
    ({ status }) => (status === 413 ? null : `answered ${status}`),
  );
}
