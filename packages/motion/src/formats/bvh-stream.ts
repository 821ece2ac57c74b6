import { InputError, type Warning } from '../error';
import { dot } from '../math/quat';
import { joinMotions } from '../model/join';
import type { Motion } from '../model/motion';
import { checkHierarchy, findRows } from './bvh';
import { readBvhHeader, type BvhHeader } from './bvh-header';
import { addedOffsets, addOffsets, motionOfRows, rowNumbers } from './bvh-rows';
import { scanNumbers } from './number-scanner';

/** Text is read in pieces of this size, bytes. */
const PIECE = 2_000_000;
/** How the offsets are meant is decided on this many frames. */
const DECIDED_ON = 2000;

/** A BVH that arrives piece by piece. */
export interface BvhStream {
  /** Takes more of the text and gives the frames that are complete. */
  push(bytes: Uint8Array): Motion[];
  /** The rest of the frames, and what was odd. */
  end(): { motions: Motion[]; warnings: readonly Warning[] };
}

/**
 * Reads a BVH of any length in bounded memory: the same frames as `readBvh`, in blocks.
 *
 * @throws InputError (from `push` and `end`) with the line, as `readBvh` does
 */
export function bvhStream(): BvhStream {
  let header: BvhHeader | null = null;
  let pending: Uint8Array[] = [];
  let pendingBytes = 0;
  let linesBefore = 0;
  let left = new Float64Array(0);
  let frames = 0;
  let offsets: number[] | null = null;
  let undecided: Motion[] = [];
  let last: Float32Array | null = null;
  const warnings: Warning[] = [];

  const take = (): Uint8Array => {
    const out = new Uint8Array(pendingBytes);
    let at = 0;
    for (const part of pending) {
      out.set(part, at);
      at += part.length;
    }
    pending = [];
    pendingBytes = 0;
    return out;
  };
  const keep = (bytes: Uint8Array) => {
    if (bytes.length === 0) return;
    pending.push(bytes);
    pendingBytes += bytes.length;
  };

  /** Whole lines of numbers into whole frames; numbers of a row that is not complete wait for the next piece. */
  const read = (bytes: Uint8Array): Motion[] => {
    if (!header) {
      const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
      const rowsAt = findRows(bytes, start);
      checkHierarchy(bytes, start, rowsAt);
      const text = new TextDecoder('utf-8').decode(bytes.subarray(start, rowsAt));
      header = readBvhHeader(text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n'));
      warnings.push(...header.warnings);
      if (rowNumbers(header) === 0) {
        throw new InputError('bvh-channels', 'No joint has a channel: there is no motion.', { line: header.framesLine });
      }
      linesBefore = countLines(bytes.subarray(0, rowsAt));
      return read(bytes.subarray(rowsAt));
    }
    const width = rowNumbers(header);
    let numbers: Float64Array;
    try {
      numbers = scanNumbers(bytes, 0, Math.ceil(bytes.length / 6));
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      throw new InputError(error.code, error.message, { ...error.place, line: (error.place.line ?? 1) + linesBefore });
    }
    linesBefore += countLines(bytes);
    const all = new Float64Array(left.length + numbers.length);
    all.set(left);
    all.set(numbers, left.length);
    const count = Math.floor(all.length / width);
    left = all.slice(count * width);
    if (count === 0) return [];
    frames += count;
    return [motionOfRows(header, all, count)];
  };

  /** Puts the offsets where they belong, once there are frames enough to tell; signs go on from block to block. */
  const settle = (blocks: Motion[], isEnd: boolean): Motion[] => {
    if (!header) return [];
    if (!offsets) {
      undecided.push(...blocks);
      if (undecided.length === 0 || (!isEnd && undecided.reduce((sum, block) => sum + block.frames, 0) < DECIDED_ON)) return [];
      offsets = addedOffsets(joinMotions(undecided), header, warnings);
      blocks = undecided;
      undecided = [];
    }
    for (const block of blocks) {
      addOffsets(block, offsets);
      last = goOn(block, last);
    }
    return blocks;
  };

  return {
    push(bytes) {
      keep(bytes);
      if (pendingBytes < PIECE) return [];
      const text = take();
      // After an LF if there is any: between a CR and its LF a piece must not end.
      const feed = text.lastIndexOf(10);
      const cut = feed >= 0 ? feed : text.lastIndexOf(13, text.length - 2);
      if (cut < 0) {
        keep(text);
        if (pendingBytes > 8 * PIECE) throw new InputError('bvh-line', 'A line is longer than 16 MB.', { line: linesBefore + 1 });
        return [];
      }
      keep(text.slice(cut + 1));
      return settle(read(text.subarray(0, cut + 1)), false);
    },
    end() {
      const motions = settle(read(take()), true);
      const width = header ? rowNumbers(header) : 0;
      if (left.length > 0) {
        throw new InputError(
          'bvh-row',
          `The last row has ${left.length} of ${width} numbers: the file is cut short or the channels do not match.`,
          { line: linesBefore },
        );
      }
      if (!header || frames === 0)
        throw new InputError('bvh-empty', 'The file has no frames of motion.', { line: header?.framesLine ?? 1 });
      if (frames !== header.frames) {
        warnings.push({
          code: 'frame-count',
          line: header.framesLine,
          message: `The file says ${header.frames} frames and has ${frames}; all ${frames} are used.`,
        });
      }
      return { motions, warnings };
    },
  };
}

/** In place: the signs of a block as they go on from the frame before it. Returns its last frame's rotations. */
function goOn(block: Motion, before: Float32Array | null): Float32Array {
  const width = block.skeleton.joints.length * 4;
  for (let j = 0; before && j < width; j += 4) {
    if (dot(before, j, block.rotations, j) >= 0) continue;
    for (let f = 0; f < block.frames; f++) for (let k = 0; k < 4; k++) block.rotations[f * width + j + k] *= -1;
  }
  return block.rotations.slice((block.frames - 1) * width);
}

/** Ends of lines: LF, CR LF, or a lone CR. */
function countLines(bytes: Uint8Array): number {
  let lines = 0;
  for (let i = 0; i < bytes.length; i++) if (bytes[i] === 10 || (bytes[i] === 13 && bytes[i + 1] !== 10)) lines++;
  return lines;
}
