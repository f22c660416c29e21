import 'server-only';
import { NewerForm } from '@calque/core/formats';
import { journal, type Journal } from '@calque/journal';
import { ThreadFailure } from '@calque/limits';
import { faultOf } from '@calque/store';
import { ValidationError } from 'yup';
import { databaseTrouble } from './parts';
import type { ErrorAnswer } from '@/project/wire';

/** Answers as JSON; problems carry a code for the program and words for the person. */
export const json = (value: unknown, status = 200): Response =>
  Response.json(value, { status, headers: { 'Cache-Control': 'no-store' } });

/** As json, for what is JSON text already. */
export const jsonText = (text: string): Response =>
  new Response(text, { headers: { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' } });

export const problem = (status: number, code: string, message: string): Response =>
  json({ code, message } satisfies ErrorAnswer, status);

export const notFound = (what: string): Response =>
  problem(404, 'not-found', `This ${what} does not exist any more.`);

/** A refusal to take a request as it came, thrown where that is found. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/**
 * Runs a handler; what it refuses by validation becomes a 400 with the words; what the installation cannot do now a 503, which the page
 * tries again; what was not foreseen a 500 without inner details.
 */
export async function answering(request: Request, work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Refused) return problem(error.status, error.code, error.message);
    if (error instanceof ValidationError) return problem(400, 'invalid', error.errors.join(' '));
    if (error instanceof SyntaxError) return problem(400, 'invalid', 'The request is not readable JSON.');
    const fault = faultOf(error);
    if (
      fault.kind === 'away' ||
      (error instanceof ThreadFailure && (error.why === 'busy' || error.code?.startsWith('away')))
    ) {
      return problem(
        503,
        'away',
        fault.kind === 'away'
          ? `${fault.words}${await databaseTrouble()}`
          : 'The server has more to do than it can at the moment.',
      );
    }
    if (error instanceof NewerForm) return problem(426, 'newer-form', error.message);
    if (error instanceof ThreadFailure && error.code === 'newer-form')
      return problem(426, 'newer-form', error.message);
    if (fault.kind === 'refused') return problem(400, 'invalid', 'This holds something that cannot be kept.');
    const id = reported(request, error, 'a request failed');
    return problem(
      500,
      'server',
      `The server could not do this. Nothing saved is lost; try again in a moment. Whoever runs it finds the reason in its journal under ${id}.`,
    );
  }
}

const holder = globalThis as { calqueJournal?: Journal };

/** Writes down what went wrong with a request; gives the id under which it stands. */
export function reported(request: Request, error: unknown, what: string): string {
  holder.calqueJournal ??= journal('web');
  const id = request.headers.get('x-request-id') ?? 'no id';
  holder.calqueJournal.error(
    { request: id, path: new URL(request.url).pathname.slice(0, 300), err: error },
    what,
  );
  return id;
}
