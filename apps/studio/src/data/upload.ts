import type { TakeInfo } from './project';
import { RequestError } from './fetch-json';

/**
 * Sends a file; `progress` goes from 0 to 1 while it is on its way, and the answer comes when it has been read and stored.
 *
 * @throws RequestError with the server's sentence about the file
 */
export function uploadTake(project: string, file: File, progress: (share: number) => void, signal: AbortSignal): Promise<TakeInfo> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/projects/${project}/takes?file=${encodeURIComponent(file.name)}`);
    request.responseType = 'json';
    request.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0);
    request.onload = () => {
      if (request.status === 201) return resolve(request.response as TakeInfo);
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
