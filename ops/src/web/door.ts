import type { IncomingHttpHeaders } from 'node:http';

/** What is known of a request before anything of it is done. */
export interface Knock {
  method: string;
  url: string;
  headers: IncomingHttpHeaders;
  /** Names and values in turn, as they came. */ rawHeaders: readonly string[];
}
/** Why a request is not let in: the status, a code for programs and words for people. */
export interface Refusal {
  status: number;
  code: string;
  message: string;
}

/** Names under which this machine alone reaches itself. */
const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
const LONGEST_ADDRESS = 8000;
const PAGE_METHODS = ['GET', 'HEAD'],
  ROUTE_METHODS = [...PAGE_METHODS, 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS'];
const LOOKING = [...PAGE_METHODS, 'OPTIONS'];

/** The names under which the installation may be reached: loopback, and those of a list such as "plans.example.org, 10.0.0.5:8443". */
export function allowedHosts(listed = ''): ReadonlySet<string> {
  const named = listed
    .split(',')
    .map((h) => h.trim().toLowerCase())
    .filter((h) => h !== '');
  const bad = named.find((h) => hostOf(h) === null);
  if (bad !== undefined)
    throw new Error(
      `CALQUE_HOSTS names ${JSON.stringify(bad)}, which is no host: write names or addresses with commas between, such as "plans.example.org, 10.0.0.5".`,
    );
  return new Set([...LOOPBACK, ...named]);
}

interface Host {
  /** Lower case, without the dot that may end it. */ name: string;
  /** As in the header; empty where none is said. */ port: string;
}

/** A Host header taken apart (RFC 9110, 7.2: name, or address, perhaps with a port); null where it is none. */
function hostOf(text: string): Host | null {
  const [, name, port = ''] =
    /^([a-z0-9_](?:[a-z0-9_.-]*[a-z0-9_])?\.?|\[[0-9a-f:.]+\])(?::(\d{1,5}))?$/i.exec(text) ?? [];
  return name === undefined ? null : { name: name.toLowerCase().replace(/\.$/, ''), port };
}

const isAllowed = (hosts: ReadonlySet<string>, { name, port }: Host): boolean =>
  hosts.has(name) || hosts.has(`${name}:${port}`);

/**
 * The one door of the web server. A page of another site must not reach it: not by a name of its own that leads to this machine
 * (any Host but the allowed ones is refused), not by forms and scripts (what writes must name an origin of ours), not by
 * embedding what the routes answer. What stands behind takes for granted that an address can be read.
 */
export function refusalOf(knock: Knock, hosts: ReadonlySet<string>): Refusal | null {
  return hostFault(knock, hosts) ?? addressFault(knock.url) ?? methodFault(knock) ?? siteFault(knock, hosts);
}

function hostFault({ headers, rawHeaders }: Knock, hosts: ReadonlySet<string>): Refusal | null {
  const said = rawHeaders.filter((h, i) => i % 2 === 0 && h.toLowerCase() === 'host').length;
  const host = said === 1 ? hostOf(headers.host ?? '') : null;
  if (!host)
    return {
      status: 400,
      code: 'invalid',
      message: 'This request does not say, once, which host it is for.',
    };
  if (isAllowed(hosts, host)) return null;
  return {
    status: 421,
    code: 'host',
    message: `This installation is not reached as ${host.name}. Whoever runs it can allow that name with CALQUE_HOSTS.`,
  };
}

function addressFault(url: string): Refusal | null {
  const refused = (status: number, message: string): Refusal => ({ status, code: 'invalid', message });
  if (url.length > LONGEST_ADDRESS) return refused(414, 'This address is longer than any here.');
  // Another server's address, or one that a browser would take for another server's.
  if (!url.startsWith('/') || /^\/[/\\]/.test(url))
    return refused(400, 'This is no address of this installation.');
  try {
    return decodeURIComponent(url).includes('\0')
      ? refused(400, 'This address holds what is no character.')
      : null;
  } catch {
    return refused(400, 'This address is written with escapes that are none.');
  }
}

export const isRoute = (url: string): boolean => /^\/api(\/|\?|$)/.test(url);

/** Pages and files are only looked at. */
function methodFault({ method, url }: Knock): Refusal | null {
  if (/^\/_next\/image(\/|\?|$)/.test(url))
    return { status: 404, code: 'not-found', message: 'There is nothing here.' };
  return (isRoute(url) ? ROUTE_METHODS : PAGE_METHODS).includes(method)
    ? null
    : { status: 405, code: 'method', message: `${method.slice(0, 20)} is not done here.` };
}

function siteFault({ method, url, headers }: Knock, hosts: ReadonlySet<string>): Refusal | null {
  const looks = LOOKING.includes(method),
    site = headers['sec-fetch-site'];
  // Pages may be linked to from anywhere; what routes answer is for our own pages.
  if (looks && !isRoute(url)) return null;
  const foreign: Refusal = {
    status: 403,
    code: 'foreign',
    message: 'This request comes from another site and was refused.',
  };
  if (headers.origin !== undefined) return isOurs(headers.origin, headers.host ?? '', hosts) ? null : foreign;
  if (site !== undefined && site !== 'same-origin' && !(site === 'none' && looks)) return foreign;
  if (looks || site === 'same-origin') return null;
  return {
    status: 403,
    code: 'foreign',
    message:
      'This request does not say where it comes from. A program that writes here names this address in an Origin header.',
  };
}

/** Is an origin the address that is asked, or one that the installation is told is its own? Another port of this machine is another site. */
function isOurs(origin: string, host: string, hosts: ReadonlySet<string>): boolean {
  const [, scheme, from = ''] = /^(https?):\/\/(.+)$/.exec(origin) ?? [];
  const there = hostOf(from),
    here = hostOf(host);
  if (!there || !here || !isAllowed(hosts, there)) return false;
  const usual = scheme === 'https' ? '443' : '80',
    port = there.port || usual;
  if (hosts.has(`${there.name}:${port}`)) return true;
  // Behind a proxy that speaks TLS for us, a Host without a port goes with the scheme of the page.
  return there.name === here.name && port === (here.port || usual);
}
