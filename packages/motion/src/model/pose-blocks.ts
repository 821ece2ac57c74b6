import type { Globals } from './kinematics';
import type { Motion } from './motion';
import { POSE_BLOCK } from './pose-block-code';

/** Frames that are posed together: what they need stays in the processor's nearest memory. */
const BLOCK = 16;
/** Skeletons of more joints, and motions of fewer frames, are posed without: nothing would be won. */
const MOST_JOINTS = 512;
const FEWEST_FRAMES = 4;

interface Poser {
  readonly pose: (frames: number, joints: number, parents: number, offsets: number, local: number, places: number, world: number) => void;
  readonly singles: Float32Array;
  readonly doubles: Float64Array;
  readonly integers: Int32Array;
}

/** Where in the poser's memory things are, bytes. */
const PARENTS = 1024;
const OFFSETS = PARENTS + MOST_JOINTS * 4;
const LOCAL = OFFSETS + MOST_JOINTS * 48;
const WORLD = LOCAL + BLOCK * MOST_JOINTS * 16;
const PLACES = WORLD + BLOCK * MOST_JOINTS * 16;

let compiled: { readonly poser: Poser | null } | null = null;

/** Compiled when it is first asked for; null where a page's policy or an old browser does not allow it. */
const poser = (): Poser | null => (compiled ??= { poser: compile() }).poser;

function compile(): Poser | null {
  try {
    const code = Uint8Array.from(atob(POSE_BLOCK), (letter) => letter.charCodeAt(0));
    const { memory, pose } = new WebAssembly.Instance(new WebAssembly.Module(code)).exports;
    if (typeof pose !== 'function' || !(memory instanceof WebAssembly.Memory)) return null;
    const { buffer } = memory;
    return {
      pose: (frames, joints, parents, offsets, local, places, world) => void pose(frames, joints, parents, offsets, local, places, world),
      singles: new Float32Array(buffer),
      doubles: new Float64Array(buffer),
      integers: new Int32Array(buffer),
    };
  } catch {
    return null;
  }
}

/**
 * Forward kinematics in blocks of frames, two numbers at a time, where that is possible; to the bit what `forwardKinematics` gives without.
 *
 * @param offsets three numbers for each joint, which stay the same over all frames
 * @returns whether it was possible; otherwise nothing has been done
 */
export function poseInBlocks(
  { rotations, rootPositions, frames }: Motion,
  { parents, offsets }: { readonly parents: Int32Array; readonly offsets: Float64Array },
  globals: Globals,
): boolean {
  const joints = parents.length;
  const by = frames >= FEWEST_FRAMES && joints <= MOST_JOINTS ? poser() : null;
  if (!by) return false;
  by.integers.set(parents, PARENTS / 4);
  for (let j = 0; j < joints; j++) {
    const [x, y, z] = [offsets[j * 3], offsets[j * 3 + 1], offsets[j * 3 + 2]];
    const at = OFFSETS / 8 + j * 6;
    by.doubles[at] = x;
    by.doubles[at + 1] = y;
    by.doubles[at + 2] = z;
    by.doubles[at + 3] = x;
    by.doubles[at + 4] = y;
    by.doubles[at + 5] = z;
  }
  for (let f = 0; f < frames; f += BLOCK) {
    const count = Math.min(BLOCK, frames - f);
    by.singles.set(rotations.subarray(f * joints * 4, (f + count) * joints * 4), LOCAL / 4);
    for (let i = 0; i < count; i++)
      for (let k = 0; k < 3; k++) by.singles[PLACES / 4 + i * joints * 3 + k] = rootPositions[(f + i) * 3 + k];
    by.pose(count, joints, PARENTS, OFFSETS, LOCAL, PLACES, WORLD);
    globals.positions.set(by.singles.subarray(PLACES / 4, PLACES / 4 + count * joints * 3), f * joints * 3);
    globals.rotations.set(by.singles.subarray(WORLD / 4, WORLD / 4 + count * joints * 4), f * joints * 4);
  }
  return true;
}
