import { RequestError } from './fetch-json';
import type { TakeInfo } from './project';

/** What became of a file. */
export interface Arrived {
  readonly takes: readonly TakeInfo[];
  /** Names of takes with the same content that were here already. */
  readonly duplicates: readonly string[];
  /** A skeleton, kept for the motions that fit it. */
  readonly skeleton: string | null;
}

/**
 * Sends a file; `progress` goes from 0 to 1 while it is on its way, and the answer comes when it has been read and stored.
 *
 * @throws RequestError with the server's sentence about the file
 */
export function uploadFile(project: string, file: File, progress: (share: number) => void, signal: AbortSignal): Promise<Arrived> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/projects/${project}/takes?file=${encodeURIComponent(file.name)}`);
    request.responseType = 'json';
    request.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0);
    request.onload = () => {
      if (request.status === 201) return resolve(request.response as Arrived);
      const body = (request.response ?? {}) as Record<string, unknown>;
      const line = typeof body.line === 'number' ? `line ${body.line}: ` : '';
      reject(
        new RequestError(
          `${line}${typeof body.message === 'string' ? body.message : `The server answered ${request.status}.`}`,
          request.status,
          body,
        ),
      );
    };
    request.onerror = () => reject(new RequestError('The server cannot be reached.', 0, {}));
    request.onabort = () => reject(new RequestError('Stopped.', 0, {}));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
