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

/** @throws RequestError with the server's own sentence, or one about the connection */
export async function fetchJson<T>(url: string, init?: RequestInit): Promise<T> {
  const response = await fetch(url, init).catch(() => {
    throw new RequestError('The server cannot be reached.', 0, {});
  });
  const body: unknown = await response.json().catch(() => ({}));
  if (!response.ok) {
    const said = typeof body === 'object' && body !== null ? (body as Record<string, unknown>) : {};
    throw new RequestError(
      typeof said.message === 'string' ? said.message : `The server answered ${response.status}.`,
      response.status,
      said,
    );
  }
  return body as T;
}
