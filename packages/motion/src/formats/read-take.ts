import { InputError } from '../error';
import type { Take } from '../model/take';
import { readBvh } from './bvh';

/** The largest file that is read, bytes. */
export const MOST_BYTES = 200_000_000;

/**
 * Reads a take from a file of any format that Old Lantern knows.
 *
 * @throws InputError that says what is wrong and where
 */
export function readTake(bytes: Uint8Array, name: string): Take {
  if (bytes.length === 0) throw new InputError('empty', 'The file is empty; a BVH file was expected.', { line: 1 });
  if (bytes.length > MOST_BYTES) {
    throw new InputError(
      'too-large',
      `The file has ${Math.round(bytes.length / 1e6)} MB; ${MOST_BYTES / 1e6} MB is the most that is read.`,
      { line: 1 },
    );
  }
  if (bytes.subarray(0, 1000).includes(0)) {
    throw new InputError('binary', 'This is not a text file; a BVH file was expected.', { line: 1 });
  }
  return readBvh(bytes, name.replace(/^.*[/\\]/, '').replace(/\.bvh$/i, ''));
}
