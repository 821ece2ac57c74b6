import { arrivedSchema, type Arrived } from '@/http/project';
import { answerAs, refusal, RequestError } from './fetch-json';

export type { Arrived };

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
  });
}
