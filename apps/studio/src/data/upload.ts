import { arrivedSchema, type Arrived } from '@/http/project';
import { answerAs, fetchJson, refusal, RequestError } from './fetch-json';

export type { Arrived };

/** So often it is asked how much has been read, ms. */
const ASK_MS = 400;

/**
 * Sends a file; `progress` goes from 0 to 1 while it is on its way, and again while it is read; the answer comes when it is stored. Stopping ends it
 * in both: then nothing is stored.
 *
 * @throws RequestError with the server's sentence about the file
 */
export function uploadFile(
  project: string,
  file: File,
  progress: (share: number, isRead: boolean) => void,
  signal: AbortSignal,
): Promise<Arrived> {
  const arrival = crypto.randomUUID();
  let asking: ReturnType<typeof setInterval> | undefined;
  const ask = async () => {
    const { share } = (await fetchJson(`/api/arrivals/${arrival}`).catch(() => ({}))) as { share?: unknown };
    if (typeof share === 'number' && asking) progress(share, true);
  };
  return new Promise<Arrived>((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/projects/${project}/takes?file=${encodeURIComponent(file.name)}&arrival=${arrival}`);
    request.responseType = 'json';
    request.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0, false);
    request.upload.onload = () => {
      progress(0, true);
      asking = setInterval(() => void ask(), ASK_MS);
    };
    request.onload = () => {
      try {
        if (request.status !== 201) throw refusal(request.status, request.response);
        resolve(answerAs(arrivedSchema, request.response));
      } catch (error) {
        reject(error);
      }
    };
    request.onerror = () => reject(new RequestError('The server cannot be reached.', 0, {}));
    request.onabort = () => reject(new RequestError('Stopped.', 0, {}));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  }).finally(() => {
    clearInterval(asking);
    asking = undefined;
  });
}
