import { InputError } from '@lantern/motion';
import { ZodError } from 'zod';
import { log } from './log';

/** What a failed request answers: a code for programs and a sentence for people. */
export interface Problem {
  readonly code: string;
  readonly message: string;
  readonly line?: number;
}

const problem = (status: number, body: Problem) => Response.json(body, { status });

/** Runs a route: refuses changes from other sites, and turns errors into answers. */
export async function respond(request: Request, run: () => Promise<Response>): Promise<Response> {
  if (request.method !== 'GET' && !isSameOrigin(request)) {
    return problem(403, { code: 'origin', message: 'Changes are only taken from the application itself.' });
  }
  try {
    return await run();
  } catch (error) {
    if (error instanceof InputError) return problem(422, { code: error.code, message: error.message, line: error.place.line });
    if (error instanceof ZodError) {
      const [issue] = error.issues;
      return problem(400, { code: 'request', message: `${issue.path.join('.') || 'The request'}: ${issue.message}` });
    }
    log.error({ err: error }, 'request failed');
    return problem(500, { code: 'ours', message: 'Something went wrong on our side; nothing was changed.' });
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
