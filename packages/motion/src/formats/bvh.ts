import { InputError, type Warning } from '../error';
import type { Take } from '../model/take';
import { readBvhHeader } from './bvh-header';
import { checkRoom } from './check-motion';
import { addedOffsets, addOffsets, motionOfRows, rowNumbers } from './bvh-rows';
import { beyondNesting } from './nesting';
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
 * readBvh(bytes, 'walk').motion.frames === motion.frames; // true
 */
export function readBvh(bytes: Uint8Array, name: string): Take {
  const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  const rowsAt = findRows(bytes, start);
  checkHierarchy(bytes, start, rowsAt);
  const text = new TextDecoder('utf-8').decode(bytes.subarray(start, rowsAt));
  const header = readBvhHeader(text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n'));
  const warnings: Warning[] = header.warnings;
  const width = rowNumbers(header);
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
  checkRoom(frames, header.skeleton.joints.length);
  const motion = motionOfRows(header, values, frames);
  addOffsets(motion, addedOffsets(motion, header, warnings));
  return { name, format: 'bvh', motion, warnings };
}

/** A joint and each of its ends has a pair of braces; nobody's chain of joints is longer than this. */
const BRACES = { deepest: 400, most: 10_000 };

/** @throws InputError when no skeleton can be meant */
export function checkHierarchy(bytes: Uint8Array, from: number, to: number): void {
  const beyond = beyondNesting(bytes, from, to, BRACES, false);
  if (!beyond) return;
  const message =
    beyond.what === 'deep'
      ? `Joints are nested more than ${BRACES.deepest} deep; no skeleton is.`
      : `The hierarchy has more than ${BRACES.most} joints and end sites; no skeleton has.`;
  throw new InputError('bvh-header', message, { line: beyond.line });
}

/** The byte after the "Frame Time:" line, or the end of a file that has none. */
export function findRows(bytes: Uint8Array, start: number): number {
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
