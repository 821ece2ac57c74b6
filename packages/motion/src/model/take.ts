import type { Warning } from '../error';
import type { Motion } from './motion';

/** Which axis of the file points up. */
export type UpAxis = '+y' | '-y' | '+z' | '-z' | '+x' | '-x';

/** One recording as it came in: file units, the file's own rate and axes. Never changed after import. */
export interface Take {
  readonly name: string;
  readonly format: 'bvh' | 'gltf' | 'asf-amc';
  /** The animation's name, of a file that has several. */
  readonly part?: string;
  readonly motion: Motion;
  readonly warnings: readonly Warning[];
}
