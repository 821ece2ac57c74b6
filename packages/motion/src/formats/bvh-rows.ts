import type { Warning } from '../error';
import { rotate } from '../math/quat';
import { median } from '../math/statistics';
import { forwardKinematics } from '../model/kinematics';
import { alignSigns, createMotion, cutMotion, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import type { BvhHeader, Channel } from './bvh-header';
import { snapFrameRate } from './frame-rate';

/** Numbers in a row. */
export const rowNumbers = (header: BvhHeader): number => header.channels.reduce((sum, list) => sum + list.length, 0);

/** The motion of whole rows of numbers, as they stand: offsets are not settled yet. */
export function motionOfRows(header: BvhHeader, values: Float64Array, frames: number): Motion {
  const width = rowNumbers(header);
  const { skeleton, channels } = header;
  const joints = skeleton.joints.length;
  const translations = new Map<number, Float32Array>();
  const motion: Motion = {
    ...createMotion(skeleton, snapFrameRate(header.frameTime), frames),
    translations,
  };
  let column = 0;
  channels.forEach((list, j) => {
    fillRotations(motion.rotations, j, joints, list, values, column, width, frames);
    const moves = list.some((channel) => channel >= 0 && channel < 3);
    if (moves || j === 0) {
      const target = j === 0 ? motion.rootPositions : new Float32Array(frames * 3);
      fillPositions(target, list, values, column, width, frames);
      if (j > 0) translations.set(j, target);
    }
    column += list.length;
  });
  alignSigns(motion);
  return translations.size > 0 ? motion : { ...motion, translations: undefined };
}

const RIGHT = Math.PI / 2;

function fillRotations(
  out: Float32Array,
  joint: number,
  joints: number,
  list: readonly Channel[],
  values: Float64Array,
  column: number,
  width: number,
  frames: number,
): void {
  const half = Math.PI / 360;
  const axes: number[] = [];
  const columns: number[] = [];
  list.forEach((channel, k) => {
    if (channel < 3) return;
    axes.push(channel - 3);
    columns.push(column + k);
  });
  const count = axes.length;
  if (count === 0) return;
  for (let f = 0, at = joint * 4, row = 0; f < frames; f++, at += joints * 4, row += width) {
    let x = 0,
      y = 0,
      z = 0,
      w = 1;
    for (let k = 0; k < count; k++) {
      const angle = values[row + columns[k]] * half;
      const s = Math.sin(angle);
      // One root instead of a second call: within ±180° the half angle's cosine is not negative, and float32 is all that is kept.
      const c = angle <= RIGHT && angle >= -RIGHT ? Math.sqrt(1 - s * s) : Math.cos(angle);
      const ax = x,
        ay = y,
        az = z,
        aw = w;
      // q ← q · (turn about one axis), each axis written out.
      if (axes[k] === 0) {
        x = aw * s + ax * c;
        y = ay * c + az * s;
        z = az * c - ay * s;
        w = aw * c - ax * s;
      } else if (axes[k] === 1) {
        x = ax * c - az * s;
        y = aw * s + ay * c;
        z = az * c + ax * s;
        w = aw * c - ay * s;
      } else {
        x = ax * c + ay * s;
        y = ay * c - ax * s;
        z = aw * s + az * c;
        w = aw * c - az * s;
      }
    }
    out[at] = x;
    out[at + 1] = y;
    out[at + 2] = z;
    out[at + 3] = w;
  }
}

function fillPositions(
  out: Float32Array,
  list: readonly Channel[],
  values: Float64Array,
  column: number,
  width: number,
  frames: number,
): void {
  list.forEach((channel, k) => {
    if (channel < 0 || channel > 2) return;
    for (let f = 0; f < frames; f++) out[f * 3 + channel] = values[f * width + column + k];
  });
}

/**
 * Decides once per joint whether its position channels replace the OFFSET or add to it. A bone keeps its length, so the
 * reading nearer to the offset's length wins; for the root it is the reading that puts the lowest point nearer to the floor.
 *
 * @returns the joints whose offset is added
 */
export function addedOffsets(motion: Motion, header: BvhHeader, warnings: Warning[]): number[] {
  const { joints } = motion.skeleton;
  const rootMoves = header.channels[0].some((c) => c >= 0 && c < 3);
  const out: number[] = [];
  motion.translations?.forEach((t, j) => {
    const o = joints[j].offset;
    const length = Math.hypot(...o);
    if (length < 1e-9) return;
    let replaced = 0;
    let added = 0;
    for (let f = 0; f < motion.frames; f++) {
      const x = t[f * 3],
        y = t[f * 3 + 1],
        z = t[f * 3 + 2];
      replaced += Math.abs(Math.hypot(x, y, z) - length);
      added += Math.abs(Math.hypot(x + o[0], y + o[1], z + o[2]) - length);
    }
    if (added < replaced) out.push(j);
    if (Math.min(added, replaced) > 0.1 * length * motion.frames) {
      warnings.push({
        code: 'joint-position',
        message: `The position channels of "${joints[j].name}" ${added < replaced ? 'are added to' : 'replace'} its offset; the bone's length changes either way.`,
      });
    }
  });
  const offset = joints[0].offset;
  if (!rootMoves) return [0, ...out];
  if (Math.hypot(...offset) < 1e-6) return out;
  const lowest = lowestPoint(motion);
  const direct = Math.abs(lowest);
  const shifted = Math.abs(lowest + offset[1]);
  if (shifted < direct && direct > 0.02 * skeletonReach(motion.skeleton)) {
    out.unshift(0);
    warnings.push({
      code: 'root-offset',
      message: `The position of "${joints[0].name}" is read as added to its offset, which puts the feet on the floor.`,
    });
  }
  return out;
}

/** In place: the offsets of some joints onto their positions. */
export function addOffsets(motion: Motion, joints: readonly number[]): void {
  for (const j of joints) {
    const t = j === 0 ? motion.rootPositions : motion.translations?.get(j);
    if (t) addOffset(t, motion.skeleton.joints[j].offset);
  }
}

function addOffset(t: Float32Array, o: readonly number[]): void {
  for (let i = 0; i < t.length; i += 3) for (let k = 0; k < 3; k++) t[i + k] += o[k];
}

/** The middle, over some frames, of the height of the lowest joint or end site. */
function lowestPoint(motion: Motion): number {
  const lows: number[] = [];
  const step = Math.max(1, Math.floor(motion.frames / 40));
  const tip = [0, 0, 0];
  for (let f = 0; f < motion.frames; f += step) {
    const { positions, rotations } = forwardKinematics(cutMotion(motion, f, f));
    let low = Infinity;
    motion.skeleton.joints.forEach(({ endSites }, j) => {
      low = Math.min(low, positions[j * 3 + 1]);
      for (const site of endSites) {
        rotate(tip, 0, rotations, j * 4, site, 0);
        low = Math.min(low, positions[j * 3 + 1] + tip[1]);
      }
    });
    lows.push(low);
  }
  return median(lows);
}

function skeletonReach(skeleton: Skeleton): number {
  return skeleton.joints.reduce((sum, joint, j) => sum + (j === 0 ? 0 : Math.hypot(...joint.offset)), 0) / 4;
}
