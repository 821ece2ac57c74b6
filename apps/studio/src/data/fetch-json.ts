import type { ZodType } from 'zod';

/** What the server says when it refuses: a sentence for people. */
export class RequestError extends Error {
  override readonly name = 'RequestError';
  constructor(
    message: string,
    readonly status: number,
    readonly body: Readonly<Record<string, unknown>>,
  ) {
    super(message);
  }
}

/**
 * Asks the server, where its answer does not matter.
 *
 * @throws RequestError with the server's own sentence, or one about the connection
 */
export async function fetchJson(url: string, init?: RequestInit): Promise<unknown> {
  const response = await fetch(url, init).catch(() => {
    throw new RequestError('The server cannot be reached.', 0, {});
  });
  const body: unknown = await response.json().catch(() => ({}));
  if (!response.ok) throw refusal(response.status, body);
  return body;
}

/**
 * Asks the server for something of a shape that both know.
 *
 * @throws RequestError as `fetchJson` does, and when the answer has another shape: then page and server are not of one version
 * @param shape or what fetches it, which it does while the answer is on its way
 * @example
 * const take = await fetchAs(takeInfoSchema, `/api/takes/${id}`, { method: 'PATCH', body });
 */
export async function fetchAs<T>(shape: ZodType<T> | (() => Promise<ZodType<T>>), url: string, init?: RequestInit): Promise<T> {
  const [schema, body] = await Promise.all([typeof shape === 'function' ? shape() : shape, fetchJson(url, init)]);
  return answerAs(schema, body);
}

/** What is sent with a request, as JSON. */
export const asJson = (method: string, body: object): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

/** An answer in its shape. @throws RequestError when it has another */
export function answerAs<T>(schema: ZodType<T>, body: unknown): T {
  const answer = schema.safeParse(body);
  if (answer.success) return answer.data;
  const [{ path, message }] = answer.error.issues;
  throw new RequestError(
    `The server answered otherwise than this page knows (${path.join('.')}: ${message}). Load the page again.`,
    500,
    {},
  );
}

/** What the server said when it refused. */
export function refusal(status: number, body: unknown): RequestError {
  const said: Readonly<Record<string, unknown>> = typeof body === 'object' && body !== null ? { ...body } : {};
  const line = typeof said.line === 'number' ? `line ${said.line}: ` : '';
  return new RequestError(`${line}${typeof said.message === 'string' ? said.message : `The server answered ${status}.`}`, status, said);
}
