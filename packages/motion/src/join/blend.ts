import { dot, exp, log, makeContinuous, multiply, multiplyInverse, slerp } from '../math/quat';
import { copyMotion, type Motion } from '../model/motion';

/**
 * Two motions of as many frames, one over the other: frame by frame the one's pose with a share of the other's.
 *
 * @param weights of the coming one, 0 to 1
 */
export function blendMotions(leaving: Motion, coming: Motion, weights: ArrayLike<number>): Motion {
  const out = copyMotion(leaving);
  const J = leaving.skeleton.joints.length;
  for (let f = 0; f < leaving.frames; f++) {
    const w = weights[f];
    for (let k = 0; k < 3; k++)
      out.rootPositions[f * 3 + k] = (1 - w) * leaving.rootPositions[f * 3 + k] + w * coming.rootPositions[f * 3 + k];
    for (let j = 0; j < J; j++) {
      const at = (f * J + j) * 4;
      slerp(out.rotations, at, leaving.rotations, at, coming.rotations, at, w);
    }
    out.translations?.forEach((own, j) => {
      const other = coming.translations?.get(j);
      if (other) for (let k = 0; k < 3; k++) own[f * 3 + k] = (1 - w) * own[f * 3 + k] + w * other[f * 3 + k];
    });
  }
  return out;
}

/**
 * A motion that begins with the pose and the velocity of another's end: the difference of both dies out over some frames, by a quintic.
 *
 * @param before the frame that leads to the coming motion's first, and the one before that
 */
export function carryOver(coming: Motion, before: Motion, frames: number): Motion {
  const out = copyMotion(coming);
  const J = coming.skeleton.joints.length;
  const last = Math.min(frames, coming.frames - 1);
  if (last < 1) return out;
  const offsets = new Float64Array(8);
  const [now, then] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  const turn = [0, 0, 0, 1];
  for (let j = 0; j < J; j++) {
    // What the other's last frame and the one before it are turned by against this one's first, and against what it would have been before that.
    for (const [i, f] of [
      [0, 1],
      [1, 0],
    ] as const) {
      const own = Math.min(i, coming.frames - 1);
      multiplyInverse(offsets, i * 4, coming.rotations, 0 * J * 4 + j * 4, before.rotations, (f * J + j) * 4);
      if (i === 1) {
        // The frame before the first: as far back as the second is ahead.
        multiplyInverse(turn, 0, coming.rotations, j * 4, coming.rotations, (own * J + j) * 4);
        multiply(offsets, 4, turn, 0, offsets, 4);
      }
    }
    makeContinuous(offsets, 0, 2, 4);
    if (dot(offsets, 0, [0, 0, 0, 1], 0) < 0) for (let k = 0; k < 8; k++) offsets[k] = -offsets[k];
    log(now, 0, offsets, 0);
    log(then, 0, offsets, 4);
    for (let f = 0; f <= last; f++) {
      const v = [0, 1, 2].map((k) => decay(now[k], now[k] - then[k], f, last));
      exp(turn, 0, v, 0);
      multiply(out.rotations, (f * J + j) * 4, coming.rotations, (f * J + j) * 4, turn, 0);
    }
  }
  const p = coming.rootPositions;
  for (let k = 0; k < 3; k++) {
    const here = before.rootPositions[3 + k] - p[k];
    const earlier = before.rootPositions[k] - (2 * p[k] - p[3 + k]);
    for (let f = 0; f <= last; f++) out.rootPositions[f * 3 + k] += decay(here, here - earlier, f, last);
  }
  return out;
}

/** What is left of a difference after some frames: a quintic that begins with its value and its change a frame, and ends with nothing of either. */
function decay(value: number, slope: number, frame: number, frames: number): number {
  const t = frame / frames;
  const v = slope * frames;
  // Begun and ended without acceleration.
  return value * (1 - t * t * t * (10 - 15 * t + 6 * t * t)) + v * (t - 6 * t ** 3 + 8 * t ** 4 - 3 * t ** 5);
}
