import type { Gap } from './gaps';

/** The rest of the body is compared from so long before a gap until so long after it, seconds. */
const BESIDE = 0.2;
/** On the mean the other joints may be turned so far from how they were, radians, for a moment to be alike. */
const ALIKE = 0.12;
/** So many moments tell enough. */
const MOST = 12;

/** What the sensors of a take say. */
export interface Heard {
  /** Quaternions, four numbers a joint, joint by joint and frame by frame. */
  readonly rotations: ArrayLike<number>;
  readonly joints: number;
  readonly frames: number;
  readonly fps: number;
  /** Whether a joint is not heard in a frame: what is not is not compared. */
  readonly silent: (joint: number, frame: number) => boolean;
}

/** Another moment of a take at which the body moves as it does about a gap of one joint, as far as the others tell. */
export interface LikeMoment {
  /** So many frames later, or, negative, earlier. */
  readonly shift: number;
  /** How far the other joints are turned from how they are at the gap, on the mean, radians. */
  readonly apart: number;
}

/** The frames beside a gap that are compared with other moments: from `first` to `last`, excluded. */
export function besideGap({ from, to }: Gap, frames: number, fps: number): { readonly first: number; readonly last: number } {
  const margin = Math.round(BESIDE * fps);
  return { first: Math.max(0, from - margin), last: Math.min(frames, to + margin) };
}

/** The moments of a take that are most alike a gap of one joint, the likest first, none of them on top of another. */
export function likeMoments({ rotations, joints, frames, fps, silent }: Heard, joint: number, gap: Gap): LikeMoment[] {
  const { first, last } = besideGap(gap, frames, fps);
  const margin = Math.round(BESIDE * fps);
  const others = Array.from({ length: joints }, (_, j) => j).filter((j) => j > 0 && j !== joint);
  if (others.length === 0) return [];
  const apart = (shift: number, step: number): number => {
    let [sum, count] = [0, 0];
    for (let f = first; f < last; f += step) {
      for (const j of others) {
        if (silent(j, f) || silent(j, f + shift)) continue;
        const [a, b] = [(f * joints + j) * 4, ((f + shift) * joints + j) * 4];
        const cos =
          rotations[a] * rotations[b] +
          rotations[a + 1] * rotations[b + 1] +
          rotations[a + 2] * rotations[b + 2] +
          rotations[a + 3] * rotations[b + 3];
        // For small angles: what the half angle's cosine lacks, eight times, is the angle squared; rounding may make the cosine more than one.
        sum += 8 * Math.max(0, 1 - Math.abs(cos));
        count++;
      }
    }
    return count > 0 ? Math.sqrt(sum / count) : Infinity;
  };
  // A take of half an hour has many moments; those that are near are looked at closely.
  const near: LikeMoment[] = [];
  for (let shift = -first; shift + last <= frames; shift++) {
    // The joint itself must be heard there.
    if (Math.abs(shift) < gap.to - gap.from + margin || isSilentIn(silent, joint, first + shift, last + shift)) continue;
    const coarse = apart(shift, 4);
    if (coarse < 1.5 * ALIKE) near.push({ shift, apart: coarse });
  }
  near.sort((a, b) => a.apart - b.apart);
  const chosen: LikeMoment[] = [];
  for (const { shift } of near) {
    if (chosen.length === MOST) break;
    if (chosen.some((other) => Math.abs(other.shift - shift) < margin)) continue;
    const own = apart(shift, 1);
    if (own < ALIKE) chosen.push({ shift, apart: own });
  }
  return chosen.sort((a, b) => a.apart - b.apart);
}

/** Whether a joint is not heard in some of the frames, the last excluded. */
export function isSilentIn(silent: Heard['silent'], joint: number, from: number, to: number): boolean {
  for (let f = from; f < to; f++) if (silent(joint, f)) return true;
  return false;
}
