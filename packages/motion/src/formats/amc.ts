import { RADIANS } from '../math/angles';
import { InputError, type Warning } from '../error';
import { rotate, type Quat } from '../math/quat';
import { alignSigns, createMotion } from '../model/motion';
import { checkRoom } from './check-motion';
import type { Take } from '../model/take';
import type { AsfSkeleton } from './asf';
import { numberAt, type NumberEnd } from './number-scanner';

/** AMC files do not say their rate; this is taken until somebody knows better. */
export const AMC_FPS = 120;

/** Names of bones and how many numbers each has, from a motion's first frame; null when it has none. */
export function amcBones(bytes: Uint8Array): ReadonlyMap<string, number> | null {
  const bones = new Map<string, number>();
  let inFrame = false;
  for (const text of new TextDecoder('utf-8').decode(bytes.subarray(0, 200_000)).split(/\r\n?|\n/)) {
    const words = text.trim().split(/\s+/);
    if (words[0] === '' || /^[#:]/.test(words[0])) continue;
    if (/^\d+$/.test(words[0]) && words.length === 1) {
      if (inFrame) return bones;
      inFrame = true;
    } else if (inFrame) bones.set(words[0], words.length - 1);
  }
  return bones.size > 0 ? bones : null;
}

/** Why a motion does not fit a skeleton: the first bone that is not there, or has another count of numbers; null when it fits. */
export function misfit(asf: AsfSkeleton, bones: ReadonlyMap<string, number>): string | null {
  const known = new Map(asf.skeleton.joints.map(({ name }, j) => [name, asf.freedoms[j].length]));
  for (const [name, count] of bones) {
    const freedoms = known.get(name);
    const bone = name.slice(0, 40);
    if (freedoms === undefined) return `"${asf.name}" has no bone "${bone}"`;
    if (freedoms !== count) return `"${bone}" has ${count} numbers, in "${asf.name}" it has ${freedoms} degrees of freedom`;
  }
  return null;
}

export const fits = (asf: AsfSkeleton, bones: ReadonlyMap<string, number>): boolean => misfit(asf, bones) === null;

/**
 * Reads an AMC motion for a skeleton: bone by bone, angles about the bone's own axes, in the order that the skeleton gives.
 *
 * @throws InputError `amc` with the line
 */
export function readAmc(bytes: Uint8Array, name: string, asf: AsfSkeleton): Take {
  const { skeleton, freedoms, axes } = asf;
  const joints = skeleton.joints.length;
  const widths = freedoms.map((list) => list.length);
  const first = widths.map((_, j) => widths.slice(0, j).reduce((sum, n) => sum + n, 0));
  const width = widths.reduce((sum, n) => sum + n, 0);
  const { values, frames, isRadians } = readFrames(
    bytes,
    new Map(skeleton.joints.map((joint, j) => [joint.name, j])),
    widths,
    first,
    width,
  );
  const warnings: Warning[] = [
    ...asf.warnings,
    { code: 'rate-unknown', message: `AMC files do not say their rate: ${AMC_FPS} frames a second are assumed until it is set.` },
  ];
  checkRoom(frames, skeleton.joints.length);
  const motion = createMotion(skeleton, AMC_FPS, frames);
  const toRadians = isRadians === null ? asf.toRadians : isRadians ? 1 : RADIANS;
  const translations = new Map<number, Float32Array>();
  for (let j = 0; j < joints; j++) {
    const moves = freedoms[j].some((freedom) => freedom >= 0 && freedom < 3);
    if (j > 0 && moves) translations.set(j, new Float32Array(frames * 3));
    if (freedoms[j].includes(-1) && !warnings.some(({ code }) => code === 'bone-length')) {
      warnings.push({ code: 'bone-length', message: `"${skeleton.joints[j].name}" changes its length, which is left out.` });
    }
    const place = j === 0 ? motion.rootPositions : translations.get(j);
    const { offset } = skeleton.joints[j];
    const own = Int8Array.from(freedoms[j]);
    if (place) {
      const from = j === 0 && moves ? [0, 0, 0] : offset;
      for (let f = 0; f < frames; f++) {
        for (let k = 0; k < 3; k++) place[f * 3 + k] = from[k];
        for (let k = 0; k < own.length; k++) {
          if (own[k] >= 0 && own[k] < 3) place[f * 3 + own[k]] += values[f * width + first[j] + k];
        }
      }
    }
    turnJoint(motion.rotations, j * 4, joints * 4, values, first[j], width, frames, own, toRadians / 2, axes[j]);
  }
  alignSigns(motion);
  return { name, format: 'asf-amc', motion: translations.size > 0 ? { ...motion, translations } : motion, warnings };
}

/**
 * Writes a joint's rotation for every frame: from `o`, `step` apart, out of the angles that stand from `v`, `width` apart.
 *
 * @param own what each number is: 3, 4 and 5 are turns about x, y and z; others are none of this function's
 * @param half what makes half an angle in radians of a number
 * @param axis how the bone's own axes are turned against the world's
 */
function turnJoint(
  out: Float32Array,
  o: number,
  step: number,
  values: Float64Array,
  v: number,
  width: number,
  frames: number,
  own: Int8Array,
  half: number,
  axis: Quat,
): void {
  // C · M · C⁻¹: the same angle about the axis as C turns it.
  const bend = asMatrix(axis);
  for (let f = 0; f < frames; f++) {
    let x = 0.0;
    let y = 0.0;
    let z = 0.0;
    let w = 1.0;
    for (let k = 0; k < own.length; k++) {
      const freedom = own[k];
      if (freedom < 3) continue;
      const angle = half * values[f * width + v + k];
      const sin = Math.sin(angle);
      const cos = Math.cos(angle);
      const bx = x;
      const by = y;
      const bz = z;
      // Fixed axes, the first written applied first: a turn about one of them times what is there.
      if (freedom === 3) {
        x = cos * bx + sin * w;
        y = cos * by - sin * bz;
        z = cos * bz + sin * by;
        w = cos * w - sin * bx;
      } else if (freedom === 4) {
        x = cos * bx + sin * bz;
        y = cos * by + sin * w;
        z = cos * bz - sin * bx;
        w = cos * w - sin * by;
      } else {
        x = cos * bx - sin * by;
        y = cos * by + sin * bx;
        z = cos * bz + sin * w;
        w = cos * w - sin * bz;
      }
    }
    const at = o + f * step;
    out[at] = bend[0] * x + bend[1] * y + bend[2] * z;
    out[at + 1] = bend[3] * x + bend[4] * y + bend[5] * z;
    out[at + 2] = bend[6] * x + bend[7] * y + bend[8] * z;
    out[at + 3] = w;
  }
}

/** A rotation as a matrix, row by row. */
function asMatrix(turn: Quat): Float64Array {
  const out = new Float64Array(9);
  const column = [0, 0, 0];
  for (let c = 0; c < 3; c++) {
    rotate(column, 0, turn, 0, [Number(c === 0), Number(c === 1), Number(c === 2)], 0);
    for (let r = 0; r < 3; r++) out[r * 3 + c] = column[r];
  }
  return out;
}

/** Longer lines are no motion, bytes. */
const MOST_LINE = 1 << 20;

/** All numbers, frame by frame in the order of the skeleton's joints; a bone that a frame leaves out keeps its last. */
function readFrames(
  bytes: Uint8Array,
  jointOf: ReadonlyMap<string, number>,
  widths: readonly number[],
  first: readonly number[],
  width: number,
): { values: Float64Array; frames: number; isRadians: boolean | null } {
  let values = new Float64Array(1024 * width);
  let frames = 0;
  let isRadians: boolean | null = null;
  let line = 0;
  const decoder = new TextDecoder('utf-8');
  const fail = (message: string): never => {
    throw new InputError('amc', message, { line });
  };
  const textOf = (from: number, to: number) => decoder.decode(bytes.subarray(from, to)).trim();
  const startFrame = () => {
    frames++;
    if (frames * width > values.length) {
      const grown = new Float64Array(values.length * 2);
      grown.set(values);
      values = grown;
    }
    if (frames > 1) values.copyWithin((frames - 1) * width, (frames - 2) * width, (frames - 1) * width);
  };
  // Bones come in the same order in every frame: the one that followed last time is looked at first.
  const names = [...jointOf.keys()].map((bone) => new TextEncoder().encode(bone));
  const joints = [...jointOf.values()];
  const next = names.map((_, i) => i + 1);
  let before = -1;
  const boneAt = (from: number, to: number): number => {
    const guess = before < 0 ? 0 : next[before];
    if (guess < names.length && isSame(bytes, from, to, names[guess])) return guess;
    return names.findIndex((name) => isSame(bytes, from, to, name));
  };
  const after: NumberEnd = { end: 0 };
  const readLine = (start: number, end: number) => {
    let i = start;
    while (i < end && isBlank(bytes[i])) i++;
    if (i === end || bytes[i] === HASH) return;
    if (bytes[i] === COLON) {
      const keyword = textOf(i, end);
      if (/^:rad/i.test(keyword)) isRadians = true;
      if (/^:deg/i.test(keyword)) isRadians = false;
      return;
    }
    let to = i;
    let isNumber = true;
    for (; to < end && !isBlank(bytes[to]); to++) isNumber &&= bytes[to] >= 48 && bytes[to] <= 57;
    let k = to;
    while (k < end && isBlank(bytes[k])) k++;
    if (isNumber && k === end) {
      before = -1;
      return startFrame();
    }
    if (frames === 0) return fail(`Expected the number of the first frame, found "${textOf(i, end).slice(0, 40)}".`);
    const bone = boneAt(i, to);
    if (bone < 0) return fail(`The skeleton has no bone "${textOf(i, to).slice(0, 40)}".`);
    if (before >= 0) next[before] = bone;
    before = bone;
    const j = joints[bone];
    const at = (frames - 1) * width + first[j];
    let count = 0;
    for (; k < end; count++) {
      const value = numberAt(bytes, k, after);
      if (Number.isNaN(value)) break;
      if (count < widths[j]) values[at + count] = value;
      k = after.end;
      while (k < end && isBlank(bytes[k])) k++;
    }
    if (k < end) fail(`Expected a number, found "${textOf(k, end).split(/\s/, 1)[0].slice(0, 40)}".`);
    if (count !== widths[j]) fail(`"${textOf(i, to)}" has ${count} numbers; its skeleton has ${widths[j]} degrees of freedom.`);
  };
  /** A line that says what nearly all do, the bone that is expected and its numbers, each after one space: where the next one starts; else −1. */
  const quickLine = (start: number): number => {
    const bone = before < 0 ? 0 : next[before];
    if (frames === 0 || bone >= names.length || widths[joints[bone]] === 0) return -1;
    const name = names[bone];
    for (let i = 0; i < name.length; i++) if (bytes[start + i] !== name[i]) return -1;
    const j = joints[bone];
    const at = (frames - 1) * width + first[j];
    let k = start + name.length;
    for (let count = 0; count < widths[j]; count++) {
      if (bytes[k] !== SPACE) return -1;
      const value = numberAt(bytes, k + 1, after);
      if (Number.isNaN(value)) return -1;
      values[at + count] = value;
      k = after.end;
    }
    if (bytes[k] !== LF) return -1;
    before = bone;
    return k + 1;
  };
  for (let start = 0; start < bytes.length;) {
    const then = quickLine(start);
    if (then >= 0) {
      line++;
      start = then;
      continue;
    }
    let end = start;
    while (end < bytes.length && bytes[end] !== LF && bytes[end] !== CR) end++;
    line++;
    if (end - start > MOST_LINE) fail('A line is longer than a million characters.');
    readLine(start, end);
    start = end + (bytes[end] === CR && bytes[end + 1] === LF ? 2 : 1);
  }
  if (frames === 0) fail('The file has no frames of motion.');
  return { values: values.subarray(0, frames * width), frames, isRadians };
}

const [LF, CR, SPACE, HASH, COLON] = [10, 13, 32, 35, 58];
/** White space within a line; a zero byte is none. */
const isBlank = (byte: number) => byte <= 32 && byte !== 0;

function isSame(bytes: Uint8Array, from: number, to: number, name: Uint8Array): boolean {
  if (to - from !== name.length) return false;
  for (let i = 0; i < name.length; i++) if (bytes[from + i] !== name[i]) return false;
  return true;
}
