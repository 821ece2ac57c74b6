import type { Groundwork } from '../measure/groundwork';
import { forwardKinematics } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { overlaidStrides, type CapturedStride } from './typical-cycle';

/** A joint's height above the floor over the strides of a typical cycle. */
export interface StrideTraces {
  readonly joint: string;
  /** Per stride, metres, one entry per frame of the cycle. */
  readonly strides: readonly Float32Array[];
  readonly average: Float32Array;
  /** Standard deviation over the strides that count, metres. */
  readonly spread: Float32Array;
  readonly about: readonly CapturedStride[];
}

/**
 * What the strides of a cut do with a joint, over each other, and their average with its spread.
 *
 * @param exclude as for `typicalCycle`
 * @throws InputError `strides` when there are not two strides
 *
 * @example
 * strideTraces(ground, 'LeftFoot').strides.length > 2; // true
 */
export function strideTraces(ground: Groundwork, joint: string, exclude: readonly number[] | 'auto' = 'auto'): StrideTraces {
  const { samples, average, strides } = overlaidStrides(ground, exclude);
  const index = Math.max(
    0,
    ground.motion.skeleton.joints.findIndex(({ name }) => name === joint),
  );
  const heightOf = (motion: Motion) => {
    const { positions, joints, frames } = forwardKinematics(motion);
    return Float32Array.from({ length: frames }, (_, f) => positions[(f * joints + index) * 3 + 1]);
  };
  const traces = samples.map(heightOf);
  const middle = heightOf(average);
  const counted = traces.filter((_, i) => !strides[i].isOut);
  return {
    joint: ground.motion.skeleton.joints[index].name,
    strides: traces,
    average: middle,
    spread: middle.map((value, f) => Math.sqrt(counted.reduce((sum, trace) => sum + (trace[f] - value) ** 2, 0) / counted.length)),
    about: strides,
  };
}
