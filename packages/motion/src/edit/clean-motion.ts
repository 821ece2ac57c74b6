import { copyMotion, type Motion } from '../model/motion';
import { denoise } from '../math/denoise';
import { fillGap, findGaps, LONGEST_FILLED, type Gap } from './gaps';
import { likeCourse } from './like-course';
import { likeMoments } from './like-moment';
import { logChannels, writeChannels, type LogChannels } from './log-channels';
import { noiseFloor } from '../math/noise-floor';
import { bridgeSpike, findSpikes, type Spike } from '../math/spikes';
import { series } from '../math/series';

/** Spikes of fewer degrees, or of the root fewer metres, are left to the smoothing. */
const LEAST_TURN = 0.02;
const LEAST_WAY = 0.01;
/** Less noise than this, in radians and in metres, is rounding. */
const ROUNDING = 2e-6;

/** What a motion's sensors got wrong, joint by joint; `root` is the way of the hips. */
export interface Flaws {
  readonly joints: readonly JointFlaws[];
  readonly root: { readonly values: readonly Float64Array[]; readonly noise: readonly number[]; readonly spikes: readonly Spike[] };
}

export interface JointFlaws {
  readonly channels: LogChannels;
  /** Standard deviation, radians, of one of the three. */
  readonly noise: number;
  readonly spikes: readonly Spike[];
  readonly gaps: readonly Gap[];
}

/** What is to be taken out of a motion. */
export interface CleanWish {
  /** Whether a spike of a joint (−1: the root) is to be set right. */
  readonly spike: (joint: number, spike: Spike) => boolean;
  readonly gaps: boolean;
  /** How much noise is believed in, as a factor of what was found; 0 leaves it. */
  readonly jitter: number;
}

const known = new WeakMap<Motion, Flaws>();

/** What is wrong with a motion; worked out once. @param motion metres */
export function flawsOf(motion: Motion): Flaws {
  const held = known.get(motion);
  if (held) return held;
  const { frames, fps, rotations, skeleton } = motion;
  const stride = skeleton.joints.length * 4;
  const joints = skeleton.joints.map((_, j): JointFlaws => {
    const channels = logChannels(rotations, j * 4, stride, frames, fps);
    const gaps = findGaps(rotations, j * 4, stride, frames, fps);
    const noise = heard(noiseFloor(channels.values, fps));
    // A gap begins and ends with a jump: that is no spike.
    const spikes = findSpikes(channels.values, noise, fps, LEAST_TURN).filter(
      (spike) => !gaps.some((gap) => spike.from <= gap.to + 1 && spike.to >= gap.from - 1),
    );
    return { channels, noise, spikes, gaps };
  });
  const values = [0, 1, 2].map((k) => series(frames, (f) => motion.rootPositions[f * 3 + k]));
  const noise = values.map((curve) => heard(noiseFloor([curve], fps)));
  const flaws = { joints, root: { values, noise, spikes: findSpikes(values, Math.max(...noise), fps, LEAST_WAY) } };
  known.set(motion, flaws);
  return flaws;
}

const heard = (noise: number): number => (noise < ROUNDING ? 0 : noise);

/** The motion with its spikes set right, its gaps filled and its noise taken out, as far as it is wished; in that order. */
export function cleanMotion(motion: Motion, wish: CleanWish): Motion {
  const { frames, fps, skeleton } = motion;
  const flaws = flawsOf(motion);
  const out = copyMotion(motion);
  const count = skeleton.joints.length;
  const stride = count * 4;
  const silent = (joint: number, frame: number) => flaws.joints[joint].gaps.some(({ from, to }) => frame >= from && frame < to);
  const sensors = { rotations: motion.rotations, joints: count, frames, fps, silent };
  flaws.joints.forEach(({ channels, noise, spikes, gaps }, j) => {
    const wanted = spikes.filter((spike) => wish.spike(j, spike));
    const filled = wish.gaps ? gaps.filter((gap) => isFilled(gap, fps)) : [];
    const isSmooth = wish.jitter > 0 && noise > 0;
    const isMended = wanted.length > 0 || filled.length > 0;
    if (!isMended && !isSmooth) return;
    const values = isMended ? (channels.values.map((curve) => curve.slice()) as unknown as LogChannels['values']) : channels.values;
    for (const spike of wanted) bridgeSpike(values, spike);
    for (const gap of filled) {
      const moments = likeMoments(sensors, j, gap);
      const like = moments.length > 0 ? likeCourse(sensors, channels, j, gap, moments) : null;
      fillGap(values, gap, fps, like);
    }
    const smooth = isSmooth
      ? (values.map((curve) => denoise(curve, wish.jitter * noise, fps)) as unknown as LogChannels['values'])
      : values;
    if (isSmooth) writeChannels(channels, smooth, out.rotations, j * 4, stride);
    // Frames that nothing was done to stay what they are, to the bit.
    else for (const { from, to } of [...wanted, ...filled]) writeChannels(channels, smooth, out.rotations, j * 4, stride, from, to);
  });
  const { values, noise, spikes } = flaws.root;
  const wanted = spikes.filter((spike) => wish.spike(-1, spike));
  const curves = wanted.length > 0 ? values.map((curve) => curve.slice()) : values;
  for (const spike of wanted) bridgeSpike(curves, spike);
  curves.forEach((curve, k) => {
    const smooth = wish.jitter > 0 ? denoise(curve, wish.jitter * noise[k], fps) : curve;
    for (let f = 0; f < frames; f++) if (smooth[f] !== values[k][f]) out.rootPositions[f * 3 + k] = smooth[f];
  });
  return out;
}

/** Whether a gap is short enough to be filled. */
export const isFilled = ({ from, to }: Gap, fps: number): boolean => to - from <= Math.round(LONGEST_FILLED * fps) + 1;
