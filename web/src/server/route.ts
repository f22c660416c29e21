import 'server-only';
import { FORM } from '@calque/core/formats';
import { isUuid } from '@calque/core/texts';
import {
  bringUp,
  findFile,
  findProject,
  type Database,
  type FileRow,
  type ProjectFacts,
} from '@calque/store';
import { mayDo, whoAsks, type Deed, type Person } from './access';
import { answering, notFound, problem } from './answers';
import { database } from './database';
import { counted } from './metrics';

/**
 * The one wrapper of all routes. It says who asks and what they may do, finds the project of the address and the file through the
 * project, and answers whatever goes wrong. A route that is made otherwise fails a test (web/test/routes.test.ts).
 */
type Given = Record<string, string>;
type Handler = (request: Request, context: { params: Promise<object> }) => Promise<Response>;

export interface Ask {
  request: Request;
  person: Person;
  database: Database;
  query: URLSearchParams;
  /** What stands in the address, unchecked. */ params: Given;
}
export interface ProjectAsk extends Ask {
  project: ProjectFacts;
}
export interface FileAsk extends ProjectAsk {
  file: FileRow;
}

/** Which projects a route is for: those in the bin are for nothing but taking out and removing. */
export type Lies = 'open' | 'binned' | 'either';

/** What routes answer is shown by nobody as a page of its own. */
const POLICY = "default-src 'none'; frame-ancestors 'none'";

const wrapped =
  (
    deed: Deed,
    found: (ask: Ask) => Promise<ProjectFacts | null | 'none'>,
    act: (ask: Ask, project: ProjectFacts | null) => Promise<Response>,
  ): Handler =>
  async (request, context) => {
    const answer = await counted(request, () =>
      answering(request, async () => {
        const person = await whoAsks(request);
        if (!person) return problem(401, 'who', 'Sign in first.');
        const ask: Ask = {
          request,
          person,
          database: database(),
          query: new URL(request.url).searchParams,
          params: ((await context.params) as Given) ?? {},
        };
        const project = await found(ask);
        // What somebody may not see is not there for them.
        if (project === 'none' || !mayDo(person, deed, project)) return notFound('project');
        return act(ask, project);
      }),
    );
    if (!answer.headers.has('content-security-policy')) answer.headers.set('Content-Security-Policy', POLICY);
    return answer;
  };

/** A route of the installation as a whole. */
export const installationRoute = (deed: Deed, act: (ask: Ask) => Promise<Response>): Handler =>
  wrapped(deed, () => Promise.resolve(null), act);

/** A route of the project that its address names by [id]. */
export const projectRoute = (
  deed: Deed,
  act: (ask: ProjectAsk) => Promise<Response>,
  lies: Lies = 'open',
): Handler =>
  wrapped(
    deed,
    async ({ database, params }) => {
      const project = isUuid(params.id) ? await findProject(database, params.id) : null;
      return project && (lies === 'either' || (project.deleted !== null) === (lies === 'binned'))
        ? project
        : 'none';
    },
    async (ask, project) => {
      // Written by an older version: it is put into this one's form before anything is said of it.
      if (project!.form !== FORM && lies === 'open') await bringUp(ask.database, project!.id);
      return act({ ...ask, project: project! });
    },
  );

/** A route of the file that its address names by [file], within the project that it names by [id]. */
export const fileRoute = (deed: Deed, act: (ask: FileAsk) => Promise<Response>): Handler =>
  projectRoute(deed, async (ask) => {
    const file = isUuid(ask.params.file)
      ? await findFile(ask.database, ask.project.id, ask.params.file)
      : null;
    return file ? act({ ...ask, file }) : notFound('file');
  });

/** A whole number in an address, of no more figures than any here has; null where it is none. */
export const smallNumber = (text: string | undefined): number | null =>
  text !== undefined && /^\d{1,6}$/.test(text) ? Number(text) : null;
