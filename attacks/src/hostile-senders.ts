import { randomUUID } from 'node:crypto';
import { connect } from 'node:net';
import { ask } from './hostile-requests.ts';
import type { Report } from './report.ts';

/** Sends bytes as they are and gives the status of the answer; 0 where the connection was closed without one. */
export function raw(base: string, text: string): Promise<number> {
  const { hostname, port } = new URL(base);
  return new Promise((resolve) => {
    const socket = connect(Number(port), hostname);
    let said = '';
    const end = () => {
      socket.destroy();
      resolve(Number(/^HTTP\/1\.[01] (\d{3})/.exec(said)?.[1] ?? 0));
    };
    socket.setTimeout(8000, end);
    socket.on('data', (d: Buffer) => {
      said += d.toString('latin1');
      if (said.includes('\r\n')) end();
    });
    socket.on('error', end).on('close', end);
    socket.write(text);
  });
}

/** Names that a page elsewhere could have lead here, and ways of writing them. */
const HOSTS = [
  'evil.example',
  'EVIL.example:4400',
  '127.0.0.1.evil.example',
  'localhost.evil.example',
  '127.1',
  '0.0.0.0',
  '[::ffff:127.0.0.1]',
  'localhost@evil.example',
  'localhost\tevil',
  '',
  ' ',
];
const ORIGINS = [
  'http://evil.example',
  'null',
  'http://localhost:1',
  'https://127.0.0.1',
  'file://',
  'chrome-extension://abc',
  'http://127.0.0.1:0',
  '',
];

/** Requests by other names, from other sites, in other forms than ours: none reads or writes anything. */
export async function senders(base: string, project: string, report: Report): Promise<void> {
  const { host } = new URL(base),
    own = { origin: base };
  const refused = async (name: string, status: Promise<number>) =>
    report.check(name, ((s) => (s === 0 || (s >= 400 && s < 500) ? null : `answered ${s}`))(await status));
  for (const name of HOSTS) {
    for (const path of [
      '/',
      '/api/projects',
      `/api/projects/${project}`,
      `/api/events?projects=${project}`,
      '/engine/pdfium.wasm',
      '/api/nothing',
    ])
      await refused(`host ${name} at ${path}`, raw(base, `GET ${path} HTTP/1.1\r\nHost: ${name}\r\n\r\n`));
    await refused(
      `writing as ${name}`,
      raw(
        base,
        `POST /api/projects/${project}/bin HTTP/1.1\r\nHost: ${name}\r\nOrigin: http://${name}\r\nSec-Fetch-Site: same-origin\r\nContent-Length: 0\r\n\r\n`,
      ),
    );
  }
  await refused('no host at all', raw(base, 'GET / HTTP/1.0\r\n\r\n'));
  await refused('two hosts', raw(base, `GET / HTTP/1.1\r\nHost: ${host}\r\nHost: evil.example\r\n\r\n`));
  await refused(
    "another server's address",
    raw(base, `GET http://evil.example/api/projects HTTP/1.1\r\nHost: ${host}\r\n\r\n`),
  );
  await refused(
    'a forwarded host',
    raw(base, `GET /api/projects HTTP/1.1\r\nHost: evil.example\r\nX-Forwarded-Host: ${host}\r\n\r\n`),
  );
  await refused(
    'two lengths',
    raw(
      base,
      `POST /api/projects HTTP/1.1\r\nHost: ${host}\r\nOrigin: ${base}\r\nContent-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n`,
    ),
  );

  const writes: [string, string, string | undefined][] = [
    ['POST', '/api/projects', '{"name":"x","units":"mm","precision":0}'],
    ['POST', `/api/projects/${project}/bin`, undefined],
    ['PUT', `/api/projects/${project}/bin`, undefined],
    ['DELETE', `/api/projects/${project}/bin`, undefined],
    ['POST', `/api/projects/${project}/changes`, '{"clientId":"x","steps":[]}'],
    ['POST', `/api/projects/${project}/files?name=x`, 'x'],
    ['POST', '/api/packages', 'x'],
    ['POST', `/api/projects/${project}/files/${randomUUID()}`, '{"action":"read"}'],
    ['DELETE', `/api/projects/${project}/files/${randomUUID()}`, undefined],
  ];
  for (const [method, path, body] of writes) {
    const length = Buffer.byteLength(body ?? ''),
      head = `${method} ${path} HTTP/1.1\r\nHost: ${host}\r\nContent-Type: application/json\r\nContent-Length: ${length}\r\n`;
    for (const origin of ORIGINS)
      await refused(
        `${method} ${path} from ${origin}`,
        raw(base, `${head}Origin: ${origin}\r\n\r\n${body ?? ''}`),
      );
    await refused(`${method} ${path} from nowhere`, raw(base, `${head}\r\n${body ?? ''}`));
    for (const site of ['cross-site', 'same-site', 'none'])
      await refused(
        `${method} ${path}, ${site}`,
        raw(base, `${head}Sec-Fetch-Site: ${site}\r\n\r\n${body ?? ''}`),
      );
  }
  // What a form can send without being asked about it first.
  for (const type of [
    'text/plain',
    'application/x-www-form-urlencoded',
    'multipart/form-data; boundary=x',
    '',
    'text/json',
    'application/jsonp',
    'application/json+x',
  ]) {
    const { status } = await ask(`${base}/api/projects`, 'POST', '{"name":"x","units":"mm","precision":0}', {
      ...own,
      'content-type': type,
    });
    report.check(`JSON as ${type || 'nothing'}`, status === 415 ? null : `answered ${status}`);
  }
  await others(base, project, report);
}

/** Of another project, nothing is reached by its ids; of one in the bin, nothing at all. */
async function others(base: string, project: string, report: Report): Promise<void> {
  const make = async (name: string) =>
    (
      JSON.parse(
        (await ask(`${base}/api/projects`, 'POST', JSON.stringify({ name, units: 'mm', precision: 0 }))).body,
      ) as { id: string }
    ).id;
  const owner = await make('Owner');
  const { id: file } = JSON.parse(
    (
      await ask(
        `${base}/api/projects/${owner}/files?name=a.svg`,
        'POST',
        '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm"><path d="M1 1H80V70"/></svg>',
        { 'content-type': 'application/octet-stream' },
      )
    ).body,
  ) as { id: string };
  for (let i = 0; i < 100; i++) {
    if (
      (JSON.parse((await ask(`${base}/api/projects/${owner}/files`)).body) as { status: string }[])[0]
        .status === 'ready'
    )
      break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  const places = (of: string) =>
    [
      `/files/${file}/bytes`,
      `/files/${file}/bytes?for=drawing`,
      `/files/${file}/password`,
      `/files/${file}/pages/1/linework`,
      `/files/${file}/pages/1/picture`,
      `/files/${file}/pages/1/tiles/0/0_0`,
    ].map((p) => `/api/projects/${of}${p}`);
  const reached = await Promise.all(places(owner).map((p) => ask(base + p).then((a) => a.status)));
  report.check(
    'its own project reaches a file',
    reached[0] === 200 && reached[3] === 200 && reached[4] === 200 ? null : `answered ${reached.join(', ')}`,
  );
  const none = async (name: string, of: string) => {
    for (const p of places(of))
      report.check(
        `${name}: ${p.slice(-24)}`,
        ((s) => (s === 404 ? null : `answered ${s}`))((await ask(base + p)).status),
      );
    for (const method of ['POST', 'DELETE'])
      report.check(
        `${name}: ${method}`,
        ((s) => (s === 404 ? null : `answered ${s}`))(
          (
            await ask(
              `${base}/api/projects/${of}/files/${file}`,
              method,
              method === 'POST' ? '{"action":"cancel"}' : undefined,
            )
          ).status,
        ),
      );
  };
  await none('another project', project);
  await ask(`${base}/api/projects/${owner}/bin`, 'POST');
  await none('one in the bin', owner);
  for (const [method, path, body] of [
    ['GET', '', undefined],
    ['GET', '/files', undefined],
    ['GET', '/changes', undefined],
    ['GET', '/picture', undefined],
    ['GET', '/package', undefined],
    ['GET', '/find?words=a', undefined],
    ['GET', '/room?bytes=1', undefined],
    ['POST', '/files?name=b', 'x'],
    [
      'POST',
      '/changes',
      JSON.stringify({
        clientId: 't',
        steps: [
          { id: randomUUID(), label: 'x', kind: 'do', of: null, change: { type: 'group', changes: [] } },
        ],
      }),
    ],
  ] as const) {
    report.check(
      `one in the bin: ${method} ${path}`,
      ((s) => (s === 404 ? null : `answered ${s}`))(
        (await ask(`${base}/api/projects/${owner}${path}`, method, body)).status,
      ),
    );
  }
  report.check(
    'one in the bin goes for good',
    ((s) => (s === 200 ? null : `answered ${s}`))(
      (await ask(`${base}/api/projects/${owner}/bin`, 'DELETE')).status,
    ),
  );
}
