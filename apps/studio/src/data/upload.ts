import type { ZodType } from 'zod';
import type { Arrived } from '@/http/project';
import { answerAs, fetchJson, refusal, RequestError } from './fetch-json';
import { loadLate } from './late';

export type { Arrived };

/** So often it is asked how much has been read, ms. */
const ASK_MS = 400;

/** Hears how much is done, 0 to 1: on its way, then read. */
export type Progress = (share: number, isRead: boolean) => void;

/** Asks again and again how much of an arrival has been read; returns what ends the asking. */
export function askShare(arrival: string, progress: Progress): () => void {
  let isAsked = true;
  const asking = setInterval(() => {
    void fetchJson(`/api/arrivals/${arrival}`)
      .then((answer) => {
        const { share } = answer as { share?: unknown };
        if (typeof share === 'number' && isAsked) progress(share, true);
      })
      .catch(() => {});
  }, ASK_MS);
  return () => {
    isAsked = false;
    clearInterval(asking);
  };
}

/**
 * Sends a file to be a take; `progress` goes from 0 to 1 while it is on its way, and again while it is read; the answer comes when it is stored.
 * Stopping ends it in both: then nothing is stored.
 *
 * @throws RequestError with the server's sentence about the file
 */
export const uploadFile = (project: string, file: File, progress: Progress, signal: AbortSignal): Promise<Arrived> =>
  send(
    `/api/projects/${project}/takes?file=${encodeURIComponent(file.name)}`,
    file,
    async () => (await loadLate()).arrivedSchema,
    progress,
    signal,
  );

/** Sends the archive of a project, as `uploadFile` does a take; the answer is what it goes by here. */
export const uploadArchive = (file: File, progress: Progress, signal: AbortSignal): Promise<{ id: string }> =>
  send('/api/archives?', file, async () => (await import('@/http/projects')).projectBegunSchema, progress, signal);

async function send<T>(address: string, file: File, shape: () => Promise<ZodType<T>>, progress: Progress, signal: AbortSignal): Promise<T> {
  const arrival = crypto.randomUUID();
  let endAsking = () => {};
  const sent = new Promise<unknown>((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `${address}&arrival=${arrival}`);
    request.responseType = 'json';
    request.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0, false);
    request.upload.onload = () => {
      progress(0, true);
      endAsking = askShare(arrival, progress);
    };
    request.onload = () => (request.status === 201 ? resolve(request.response) : reject(refusal(request.status, request.response)));
    request.onerror = () => reject(new RequestError('The server cannot be reached.', 0, {}));
    request.onabort = () => reject(new RequestError('Stopped.', 0, {}));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
  try {
    const [schema, body] = await Promise.all([shape(), sent]);
    return answerAs(schema, body);
  } finally {
    endAsking();
  }
}
