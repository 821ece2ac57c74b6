import type { Gap } from './gaps';

/** The rest of the body is compared from so long before a gap until so long after it, seconds. */
const BESIDE = 0.2;
/** On the mean the other joints may be turned so far from how they were, radians, for the moment to be alike. */
const ALIKE = 0.12;

/**
 * Another moment of a take in which the body moves as it does about a gap of one joint, as far as the others tell.
 *
 * @param silent for every joint whether it is heard in a frame; what is not is not compared
 * @returns how many frames later (or, negative, earlier) it is; null when there is none
 */
export function likeMoment(
  rotations: ArrayLike<number>,
  joints: number,
  frames: number,
  joint: number,
  { from, to }: Gap,
  silent: (joint: number, frame: number) => boolean,
  fps: number,
): number | null {
  const margin = Math.round(BESIDE * fps);
  const [first, last] = [Math.max(0, from - margin), Math.min(frames, to + margin)];
  const others = Array.from({ length: joints }, (_, j) => j).filter((j) => j > 0 && j !== joint);
  if (others.length === 0) return null;
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
        // For small angles: four times what the half angle's cosine lacks, squared, is the angle.
        sum += 8 * (1 - Math.abs(cos));
        count++;
      }
    }
    return count > 0 ? Math.sqrt(sum / count) : Infinity;
  };
  let [best, least] = [0, Infinity];
  for (let shift = -first; shift + last <= frames; shift++) {
    // The joint itself must be heard there.
    if (Math.abs(shift) < to - from + margin || isSilent(silent, joint, first + shift, last + shift)) continue;
    const coarse = apart(shift, 4);
    if (coarse >= least) continue;
    [best, least] = [shift, coarse];
  }
  return best !== 0 && apart(best, 1) < ALIKE ? best : null;
}

function isSilent(silent: (joint: number, frame: number) => boolean, joint: number, from: number, to: number): boolean {
  for (let f = from; f < to; f++) if (silent(joint, f)) return true;
  return false;
}
