import { InputError } from '../error';
import type { Take } from '../model/take';
import { amcBones, fits, misfit, readAmc } from './amc';
import { checkMotion } from './check-motion';
import { readAsf, type AsfSkeleton } from './asf';
import { readBvh } from './bvh';
import { readGltf } from './gltf';
import type { Resources } from './gltf-container';

/** The largest file that is read, bytes. */
export const MOST_BYTES = 280_000_000;

export type FileKind = 'bvh' | 'gltf' | 'asf' | 'amc';

/** What reading a file may need from other files. */
export interface Beside {
  /** Skeletons that an AMC motion may fit; the first that fits is taken. */
  readonly skeletons?: readonly AsfSkeleton[];
  /** The bytes of a file that a .gltf names. */
  readonly resources?: Resources;
}

/**
 * What kind of file this is, from its first bytes (its name only tells the two text formats without a header apart).
 *
 * @throws InputError that says what it is instead
 *
 * @example
 * fileKind(bytes, 'walk.bvh'); // 'bvh'
 */
export function fileKind(bytes: Uint8Array, name: string): FileKind {
  const fail = (code: string, message: string): never => {
    throw new InputError(code, message, { line: 1 });
  };
  const expected = 'a BVH, glTF, GLB, ASF or AMC file was expected';
  if (bytes.length === 0) fail('empty', `The file is empty; ${expected}.`);
  if (bytes.length > MOST_BYTES) {
    fail('too-large', `The file has ${Math.round(bytes.length / 1e6)} MB; ${MOST_BYTES / 1e6} MB is the most that is read.`);
  }
  const head = String.fromCharCode(...bytes.subarray(0, 4000));
  if (head.startsWith('glTF')) return 'gltf';
  if (head.startsWith('PK\u0003\u0004')) fail('zip', `This is a ZIP archive, whatever its name says: unpack it first; ${expected}.`);
  if (head.slice(0, 1000).includes('\0')) fail('binary', `This is not a text file; ${expected}.`);
  const text = head.replace(/^\u00ef\u00bb\u00bf/, '').replace(/^(\s|#[^\n]*\n)+/, '');
  if (text.startsWith('{')) return 'gltf';
  if (/^hierarchy/i.test(text)) return 'bvh';
  if (/^:(fully-specified|degrees|radians)/i.test(text) || (/\.amc$/i.test(name) && !text.startsWith(':version'))) return 'amc';
  if (/^:(version|name|units|documentation|root|bonedata)/i.test(text)) return 'asf';
  return 'bvh';
}

/**
 * A file's name without folders and ending.
 *
 * @example
 * bareName('quay/walk 01.bvh'); // 'walk 01'
 */
export const bareName = (file: string): string => file.replace(/^.*[/\\]/, '').replace(/\.(bvh|glb|gltf|amc|asf)$/i, '');

/**
 * Reads all takes of a file of any format that Old Lantern knows: a glTF file has as many as it has animations, the others one.
 *
 * @throws InputError that says what is wrong and where
 *
 * @example
 * readTakes(bytes, 'walk.bvh').map(({ name }) => name); // ['walk']
 */
export function readTakes(bytes: Uint8Array, file: string, beside: Beside = {}): Take[] {
  const takes = readAny(bytes, file, beside);
  for (const { motion } of takes) checkMotion(motion);
  return takes;
}

function readAny(bytes: Uint8Array, file: string, beside: Beside): Take[] {
  const name = bareName(file);
  switch (fileKind(bytes, file)) {
    case 'bvh':
      return [readBvh(bytes, name)];
    case 'gltf':
      return readGltf(bytes, name, beside.resources);
    case 'amc':
      return [readAmc(bytes, name, skeletonFor(bytes, beside.skeletons ?? []))];
    case 'asf': {
      const { skeleton } = readAsf(bytes, name);
      throw new InputError(
        'skeleton-only',
        `This is a skeleton of ${skeleton.joints.length} joints without motion: bring in its AMC files too.`,
        { line: 1 },
      );
    }
  }
}

/**
 * The first take of a file, or the one whose animation is called `part`.
 *
 * @example
 * readTake(bytes, 'walk.bvh').motion.frames === motion.frames; // true
 */
export function readTake(bytes: Uint8Array, file: string, beside: Beside = {}, part?: string): Take {
  const takes = readTakes(bytes, file, beside);
  const found = part === undefined ? takes[0] : takes.find((take) => take.part === part);
  if (found) return found;
  throw new InputError(
    'animation',
    `The file has no animation "${part}"; it has ${takes.map((take) => `"${take.part ?? take.name}"`).join(', ')}.`,
    { line: 1 },
  );
}

function skeletonFor(bytes: Uint8Array, skeletons: readonly AsfSkeleton[]): AsfSkeleton {
  const bones = amcBones(bytes);
  if (!bones) throw new InputError('amc', 'The file has no frames of motion.', { line: 1 });
  const found = skeletons.find((asf) => fits(asf, bones));
  if (found) return found;
  throw new InputError(
    'no-skeleton',
    skeletons.length === 0
      ? 'An AMC file needs its skeleton: bring in the ASF file too.'
      : `None of the ${skeletons.length} skeletons at hand fits (${misfit(skeletons[0], bones)}): bring in the ASF file that belongs to it.`,
    { line: 1 },
  );
}
