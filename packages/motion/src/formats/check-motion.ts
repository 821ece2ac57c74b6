import { InputError } from '../error';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { firstBeyond } from './first-beyond';

/** Shortest and longest that all bones together may be, in units of a file: an ant in kilometres, a ship in micrometres. */
const EXTENT = [1e-5, 1e8] as const;
/** Farthest from the origin that anything may be, in units of a file: beyond it single floats step by metres. */
const FARTHEST = 1e9;

/** Frames times joints of a motion that is read in one piece: half an hour of sixty joints at 240 a second fits. */
const MOST_SAMPLES = 30_000_000;

/**
 * Refuses a motion that would need too much memory, before any is taken.
 *
 * @throws InputError `too-large`
 */
export function checkRoom(frames: number, joints: number): void {
  if (frames * joints <= MOST_SAMPLES) return;
  throw new InputError(
    'too-large',
    `${frames} frames of ${joints} joints are more than is read in one piece: ${Math.floor(MOST_SAMPLES / joints)} frames are.`,
    { line: 1 },
  );
}

/** Frames a second. */
const RATES = [0.1, 100_000] as const;

/**
 * Refuses what cannot be measured: a skeleton whose joints all lie in one place, or that is as large as nothing is, and places or rotations
 * that are no numbers, and a rate that is none. Whatever passes has a stature and a place in every frame.
 *
 * @param first number of the motion's first frame in its file
 * @throws InputError `no-extent`, `extent`, `rate` or `not-finite`, with joint and frame
 *
 * @example
 * checkMotion(motion); // undefined
 */
export function checkMotion(motion: Motion, first = 0): void {
  if (!(motion.fps >= RATES[0] && motion.fps <= RATES[1]))
    throw new InputError(
      'rate',
      `${motion.fps.toPrecision(3)} frames a second is no rate of a capture: ${RATES[0]} to ${RATES[1]} are read.`,
    );
  checkExtent(motion.skeleton);
  const { joints } = motion.skeleton;
  const bad = firstBeyond(motion.rotations, Infinity);
  if (bad >= 0) fail(Math.floor(bad / (joints.length * 4)), Math.floor(bad / 4) % joints.length, 'its rotation is no number');
  const far = firstBeyond(motion.rootPositions, FARTHEST);
  if (far >= 0) fail(Math.floor(far / 3), 0, Number.isFinite(motion.rootPositions[far]) ? 'it is too far away' : 'its place is no number');
  for (const [joint, places] of motion.translations ?? []) {
    const at = firstBeyond(places, FARTHEST);
    if (at >= 0) fail(Math.floor(at / 3), joint, 'its place is no number, or too far away');
  }

  function fail(frame: number, joint: number, what: string): never {
    const { name } = joints[joint];
    throw new InputError('not-finite', `Frame ${first + frame}, joint “${name}”: ${what}.`, { frame: first + frame, joint: name });
  }
}

/** @throws InputError `no-extent` or `extent` */
export function checkExtent({ joints }: Skeleton): void {
  let extent = 0;
  for (const { offset, parent } of joints) if (parent >= 0) extent += Math.hypot(...offset);
  if (extent === 0)
    throw new InputError('no-extent', 'All joints of the skeleton lie in one place: a figure without bones cannot be shown or measured.');
  if (!(extent >= EXTENT[0] && extent <= EXTENT[1]))
    throw new InputError(
      'extent',
      `All bones of the skeleton together are ${extent.toPrecision(2)} units long; between ${EXTENT[0]} and ${EXTENT[1]} can be measured.`,
    );
}
