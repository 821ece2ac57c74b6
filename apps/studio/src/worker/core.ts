import { wrap, type Remote } from 'comlink';
import type { CoreWorker } from './core.worker';

let remote: Remote<CoreWorker> | null = null;

/** The one worker that runs the core; started when first asked for. */
export function core(): Remote<CoreWorker> {
  remote ??= wrap<CoreWorker>(new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module', name: 'core' }));
  return remote;
}
