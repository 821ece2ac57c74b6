import { alignSigns, createMotion, type Motion } from './motion';
import { series } from '../math/series';

/** How frames beyond the ends are found: a loop comes round (its travel added), anything else holds its slope. */
export interface ResampleOptions {
  /** Last frame is the first, one cycle on. */
  readonly loop?: boolean;
  /** Frames of the source from one frame of the result to the next; without it they are spread from the first to the last. */
  readonly step?: number;
}

/**
 * The motion at `frames` instants spread evenly from its first frame to its last, both kept exactly.
 * Cubic (Catmull–Rom) through the neighbouring samples, on sign-aligned quaternion components, normalised.
 *
 * @param fps the rate the result is declared to have
 */
export function resample(motion: Motion, frames: number, fps: number, options: ResampleOptions = {}): Motion {
  const n = motion.frames;
  if (frames === n && options.step === undefined) return { ...motion, fps };
  const step = options.step ?? (frames === 1 ? 0 : (n - 1) / (frames - 1));
  return resampleAt(
    motion,
    series(frames, (f) => Math.min(n - 1, f * step)),
    fps,
    options,
  );
}

/**
 * The motion at any instants, in frames of it (fractional, within its length), in the same way.
 *
 * @param fps the rate the result is declared to have
 */
export function resampleAt(motion: Motion, instants: ArrayLike<number>, fps: number, options: Pick<ResampleOptions, 'loop'> = {}): Motion {
  const n = motion.frames;
  const frames = instants.length;
  const joints = motion.skeleton.joints.length;
  const out: Motion = {
    ...createMotion(motion.skeleton, fps, frames),
    translations: motion.translations && new Map([...motion.translations.keys()].map((j) => [j, new Float32Array(frames * 3)])),
  };
  const cycle = [0, 1, 2].map((k) => motion.rootPositions[(n - 1) * 3 + k] - motion.rootPositions[k]);
  const vectors = (source: Float32Array, target: Float32Array, at: Sample, f: number, carry: readonly number[]) => {
    for (let k = 0; k < 3; k++) {
      let sum = 0;
      for (let m = 0; m < 4; m++) sum += at.weights[m] * (source[at.index[m] * 3 + k] + at.turns[m] * carry[k]);
      target[f * 3 + k] = sum;
    }
  };
  const at: Sample = { index: new Int32Array(4), turns: new Int32Array(4), weights: new Float64Array(4) };
  const { index, weights } = at;
  const [r, target] = [motion.rotations, out.rotations];
  for (let f = 0; f < frames; f++) {
    sampleAt(at, instants[f], n, options.loop ?? false);
    vectors(motion.rootPositions, out.rootPositions, at, f, cycle);
    motion.translations?.forEach((t, j) => vectors(t, out.translations?.get(j) ?? t, at, f, [0, 0, 0]));
    for (let j = 0; j < joints; j++) {
      // About eighty multiplications; the four quaternions are brought to the sign of the second.
      const q = (index[1] * joints + j) * 4;
      const [ax, ay, az, aw] = [r[q], r[q + 1], r[q + 2], r[q + 3]];
      let x = weights[1] * ax;
      let y = weights[1] * ay;
      let z = weights[1] * az;
      let w = weights[1] * aw;
      for (let m = 0; m < 4; m++) {
        if (m === 1 || weights[m] === 0) continue;
        const p = (index[m] * joints + j) * 4;
        const by = ax * r[p] + ay * r[p + 1] + az * r[p + 2] + aw * r[p + 3] < 0 ? -weights[m] : weights[m];
        x += by * r[p];
        y += by * r[p + 1];
        z += by * r[p + 2];
        w += by * r[p + 3];
      }
      const n = 1 / Math.sqrt(x * x + y * y + z * z + w * w);
      const o = (f * joints + j) * 4;
      target[o] = x * n;
      target[o + 1] = y * n;
      target[o + 2] = z * n;
      target[o + 3] = w * n;
    }
  }
  alignSigns(out);
  return out;
}

interface Sample {
  readonly index: Int32Array;
  readonly turns: Int32Array;
  readonly weights: Float64Array;
}

/** The four frames around instant `t` (in frames of the source) and their Catmull–Rom weights. */
function sampleAt(out: Sample, t: number, n: number, loop: boolean): void {
  const nearest = Math.round(t);
  const exact = Math.abs(t - nearest) < 1e-9;
  const i = exact ? Math.min(n - 1, nearest) : Math.floor(t);
  const u = exact ? 0 : t - i;
  const u2 = u * u;
  const u3 = u2 * u;
  out.weights[0] = (-u3 + 2 * u2 - u) / 2;
  out.weights[1] = (3 * u3 - 5 * u2 + 2) / 2;
  out.weights[2] = (-3 * u3 + 4 * u2 + u) / 2;
  out.weights[3] = (u3 - u2) / 2;
  for (let m = 0; m < 4; m++) {
    let k = i - 1 + m;
    let turns = 0;
    if (loop && n > 1) {
      while (k < 0) {
        k += n - 1;
        turns--;
      }
      while (k > n - 1) {
        k -= n - 1;
        turns++;
      }
    }
    out.index[m] = Math.min(n - 1, Math.max(0, k));
    out.turns[m] = turns;
  }
}
