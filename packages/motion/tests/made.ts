import { capture, type CaptureOptions, type ScriptName } from '@lantern/capture';
import { forwardKinematics, groundwork, rotate, type Groundwork, type Interval, type Motion } from '@lantern/motion';

/** A take from the simulated suit with its truth, and its gait as the core sees it. */
export function suit(script: ScriptName, options: CaptureOptions = {}) {
  const made = capture(script, { seconds: 8, seed: 3, ...options });
  return { ...made, gait: gaitOf(made.motion) };
}

export function gaitOf(motion: Motion): Groundwork {
  const found = groundwork(motion);
  if (!found) throw new Error('no legs found');
  return found;
}

/** Share of frames on which found and true contacts agree, as F1. */
export function agreement(found: readonly Interval[], truth: readonly Interval[], frames: number): number {
  const mask = (intervals: readonly Interval[]) => {
    const out = new Uint8Array(frames);
    for (const { from, to } of intervals) out.fill(1, from, to);
    return out;
  };
  const a = mask(found);
  const b = mask(truth);
  let both = 0;
  let one = 0;
  for (let f = 0; f < frames; f++) {
    both += a[f] & b[f];
    one += a[f] ^ b[f];
  }
  return (2 * both) / (2 * both + one);
}

/** Greatest distance between the same joints of two motions, metres, over all frames. */
export function farthest(a: Motion, b: Motion): number {
  const p = forwardKinematics(a).positions;
  const q = forwardKinematics(b).positions;
  let most = 0;
  for (let i = 0; i < p.length; i += 3) most = Math.max(most, Math.hypot(p[i] - q[i], p[i + 1] - q[i + 1], p[i + 2] - q[i + 2]));
  return most;
}

/** A point fixed to a joint, in the world. */
export function pointOn(
  motion: Motion,
  globals: ReturnType<typeof forwardKinematics>,
  name: string,
  frame: number,
  local: readonly number[],
): number[] {
  const j = motion.skeleton.joints.findIndex((joint) => joint.name === name);
  const at = frame * globals.joints + j;
  const out = [0, 0, 0];
  rotate(out, 0, globals.rotations, at * 4, local, 0);
  return out.map((value, k) => value + globals.positions[at * 3 + k]);
}

export const bytesOf = (text: string) => new TextEncoder().encode(text);
