import { InputError, type Warning } from '../error';
import { rotate } from '../math/quat';
import { median } from '../math/statistics';
import { forwardKinematics } from '../model/kinematics';
import { alignSigns, createMotion, cutMotion, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import type { Take } from '../model/take';
import { readBvhHeader, type BvhHeader, type Channel } from './bvh-header';
import { snapFrameRate } from './frame-rate';
import { lineAt, scanNumbers } from './number-scanner';

/**
 * Reads a BVH file: every channel order, position channels on any joint, CR LF, tabs, a byte-order mark, exponents and
 * rows wrapped over lines. Rotations are the product of the channels in their written order, degrees in the file.
 *
 * @param bytes the file
 * @param name what to call the take
 * @returns the take in the file's own units, axes and rate (the rate snapped to the usual one that was meant)
 * @throws InputError with the line; a wrong frame count alone is a warning `frame-count`
 *
 * @example
 * const take = readBvh(await readFile('walk.bvh'), 'walk');
 * take.motion.frames;
 */
export function readBvh(bytes: Uint8Array, name: string): Take {
  const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  const rowsAt = findRows(bytes, start);
  const text = new TextDecoder('utf-8').decode(bytes.subarray(start, rowsAt));
  const header = readBvhHeader(text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n'));
  const warnings: Warning[] = header.warnings;
  const width = header.channels.reduce((sum, list) => sum + list.length, 0);
  if (width === 0) throw new InputError('bvh-channels', 'No joint has a channel: there is no motion.', { line: header.framesLine });

  const values = scanNumbers(bytes, rowsAt, Math.min(1e9, header.frames * width));
  const frames = Math.floor(values.length / width);
  if (values.length !== frames * width) {
    throw new InputError(
      'bvh-row',
      `The last row has ${values.length - frames * width} of ${width} numbers: the file is cut short or the channels do not match.`,
      { line: lineAt(bytes, lastNumber(bytes)) },
    );
  }
  if (frames === 0) throw new InputError('bvh-empty', 'The file has no frames of motion.', { line: header.framesLine });
  if (frames !== header.frames) {
    warnings.push({
      code: 'frame-count',
      line: header.framesLine,
      message: `The file says ${header.frames} frames and has ${frames}; all ${frames} are used.`,
    });
  }
  return { name, format: 'bvh', motion: toMotion(header, values, width, frames, warnings), warnings };
}

/** The byte after the "Frame Time:" line, or the end of a file that has none. */
function findRows(bytes: Uint8Array, start: number): number {
  // "Frame Time" is looked for in the first megabytes only: a header is never longer, a binary file never has one.
  const limit = Math.min(bytes.length, 4_000_000);
  for (let i = start; i < limit; i++) {
    if ((bytes[i] | 32) !== 116 /* t */ || (bytes[i + 1] | 32) !== 105 || (bytes[i + 2] | 32) !== 109) continue;
    if ((bytes[i + 3] | 32) !== 101) continue;
    let j = i + 4;
    while (bytes[j] === 32 || bytes[j] === 9) j++;
    let k = i - 1;
    while (bytes[k] === 32 || bytes[k] === 9) k--;
    const word = String.fromCharCode(...bytes.subarray(Math.max(0, k - 4), k + 1)).toLowerCase();
    if (bytes[j] !== 58 || word !== 'frame') continue;
    while (j < bytes.length && bytes[j] !== 10 && bytes[j] !== 13) j++;
    return j;
  }
  return limit;
}

function lastNumber(bytes: Uint8Array): number {
  let i = bytes.length - 1;
  while (i > 0 && bytes[i] <= 32) i--;
  return i;
}

function toMotion(header: BvhHeader, values: Float64Array, width: number, frames: number, warnings: Warning[]): Motion {
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
  const result = translations.size > 0 ? motion : { ...motion, translations: undefined };
  settleOffsets(
    result,
    channels[0].some((c) => c >= 0 && c < 3),
    warnings,
  );
  return result;
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
 */
function settleOffsets(motion: Motion, rootMoves: boolean, warnings: Warning[]): void {
  const { joints } = motion.skeleton;
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
    if (added < replaced) addOffset(t, o);
    if (Math.min(added, replaced) > 0.1 * length * motion.frames) {
      warnings.push({
        code: 'joint-position',
        message: `The position channels of "${joints[j].name}" ${added < replaced ? 'are added to' : 'replace'} its offset; the bone's length changes either way.`,
      });
    }
  });
  const offset = joints[0].offset;
  if (!rootMoves) {
    addOffset(motion.rootPositions, offset);
    return;
  }
  if (Math.hypot(...offset) < 1e-6) return;
  const lowest = lowestPoint(motion);
  const direct = Math.abs(lowest);
  const shifted = Math.abs(lowest + offset[1]);
  if (shifted < direct && direct > 0.02 * skeletonReach(motion.skeleton)) {
    addOffset(motion.rootPositions, offset);
    warnings.push({
      code: 'root-offset',
      message: `The position of "${joints[0].name}" is read as added to its offset, which puts the feet on the floor.`,
    });
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
