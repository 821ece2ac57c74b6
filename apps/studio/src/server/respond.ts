import { InputError } from '@lantern/motion';
import { ZodError, type ZodType } from 'zod';
import { guardOf, hasSession, isServed, NOT_SERVED } from './guard';
import { log } from './log';
import { toLog, troubleOf } from './trouble';

/** What a failed request answers: a code for programs and a sentence for people. */
export interface Problem {
  readonly code: string;
  readonly message: string;
  readonly line?: number;
}

export const problem = (status: number, body: Problem, headers: Readonly<Record<string, string>> = {}) =>
  Response.json(body, { status, headers });

/**
 * Runs a route: refuses requests to names that are not ours, without a session, and changes from other sites; turns errors into answers.
 *
 * @param open the route is outside of sessions
 */
export async function respond(request: Request, run: () => Promise<Response>, { open = false } = {}): Promise<Response> {
  const response = refusalOf(request, open) ?? (await answer(run));
  for (const [name, value] of Object.entries(SAFETY)) response.headers.set(name, value);
  return response;
}

/** What browsers are told about every answer. */
const SAFETY = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
} as const;

function refusalOf(request: Request, open: boolean): Response | null {
  const guard = guardOf();
  if (!isServed(request.headers.get('host'), guard)) return problem(421, { code: 'host', message: NOT_SERVED });
  if (!open && !hasSession(request.headers.get('cookie'), guard)) {
    return problem(401, { code: 'session', message: 'This studio asks for its passphrase first: load the page again.' });
  }
  if (request.method !== 'GET' && !isSameOrigin(request)) {
    return problem(403, { code: 'origin', message: 'Changes are only taken from the application itself.' });
  }
  return null;
}

async function answer(run: () => Promise<Response>): Promise<Response> {
  try {
    return await run();
  } catch (error) {
    if (error instanceof InputError) return problem(422, { code: error.code, message: error.message, line: error.place.line });
    if (error instanceof ZodError) {
      const [issue] = error.issues;
      return problem(400, { code: 'request', message: `${issue.path.join('.') || 'The request'}: ${issue.message}` });
    }
    const { status, code, message } = troubleOf(error);
    if (status !== 400) log.error(toLog(error), 'request failed');
    return problem(status, { code, message }, status === 503 ? { 'retry-after': '2' } : {});
  }
}

export const missing = (what: string) => problem(404, { code: 'missing', message: `There is no such ${what}.` });
export const conflict = (code: string, message: string, extra: object = {}) => Response.json({ code, message, ...extra }, { status: 409 });

function isSameOrigin(request: Request): boolean {
  const origin = request.headers.get('origin');
  if (!origin) return request.headers.get('sec-fetch-site') === 'same-origin';
  return URL.canParse(origin) && new URL(origin).host === request.headers.get('host');
}

/** The parts of a request's body as they come, refused as soon as they are more than `most` bytes. */
export async function* bodyParts(request: Request, most: number): AsyncGenerator<Uint8Array> {
  let size = 0;
  const tooLarge = () => new InputError('too-large', `The file is larger than ${Math.round(most / 1e6)} MB, the most that is read.`);
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge();
  const reader = request.body?.getReader();
  while (reader) {
    const { done, value } = await reader.read();
    if (done) return;
    size += value.length;
    if (size > most) {
      await reader.cancel();
      throw tooLarge();
    }
    yield value;
  }
}

/** The bytes of a request, refused as soon as they are more than `most`. */
export async function readBody(request: Request, most: number): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  for await (const part of bodyParts(request, most)) parts.push(part);
  return Buffer.concat(parts);
}

/** The most that a request in JSON may hold, bytes, where nothing else is said. */
const MOST_JSON = 8_000_000;

/**
 * What a request says in JSON, in its shape; refused as soon as it is more than `most` bytes.
 *
 * @throws InputError when it is no JSON or too long, ZodError when it has another shape
 */
export async function readJson<T>(request: Request, schema: ZodType<T>, most = MOST_JSON): Promise<T> {
  const text = new TextDecoder().decode(await readBody(request, most));
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new InputError('json', 'The request is not JSON.');
  }
  return schema.parse(value);
}
