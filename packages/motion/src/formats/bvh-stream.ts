import { InputError, type Warning } from '../error';
import { dot } from '../math/quat';
import { joinMotions } from '../model/join';
import type { Motion } from '../model/motion';
import { checkHierarchy, findRows } from './bvh';
import { readBvhHeader, type BvhHeader } from './bvh-header';
import { addedOffsets, addOffsets, motionOfRows, rowNumbers } from './bvh-rows';
import { checkMotion } from './check-motion';
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
 *
 * @example
 * const stream = bvhStream();
 * const blocks = stream.push(bytes);
 * [...blocks, ...stream.end().motions].reduce((sum, { frames }) => sum + frames, 0) === motion.frames; // true
 */
export const bvhStream = (): BvhStream => new Reading();

class Reading implements BvhStream {
  private header: BvhHeader | null = null;
  private readonly pending = new Pending();
  /** Lines read so far. */
  private lines = 0;
  /** Numbers of a row that is not complete. */
  private left = new Float64Array(0);
  private frames = 0;
  private offsets: number[] | null = null;
  /** Frames from before it was decided how the offsets are meant. */
  private undecided: Motion[] = [];
  private last: Float32Array | null = null;
  /** Frames given out so far. */
  private given = 0;
  private readonly warnings: Warning[] = [];

  push(bytes: Uint8Array): Motion[] {
    this.pending.keep(bytes);
    if (this.pending.bytes < PIECE) return [];
    const text = this.pending.take();
    // After an LF if there is any: between a CR and its LF a piece must not end.
    const feed = text.lastIndexOf(10);
    const cut = feed >= 0 ? feed : text.lastIndexOf(13, text.length - 2);
    if (cut < 0) {
      this.pending.keep(text);
      if (this.pending.bytes > 8 * PIECE) throw new InputError('bvh-line', 'A line is longer than 16 MB.', { line: this.lines + 1 });
      return [];
    }
    this.pending.keep(text.slice(cut + 1));
    return this.settle(this.read(text.subarray(0, cut + 1)), false);
  }

  end(): { motions: Motion[]; warnings: readonly Warning[] } {
    const motions = this.settle(this.read(this.pending.take()), true);
    const { header, left, frames, warnings } = this;
    if (left.length > 0) {
      const width = header ? rowNumbers(header) : 0;
      throw new InputError(
        'bvh-row',
        `The last row has ${left.length} of ${width} numbers: the file is cut short or the channels do not match.`,
        { line: this.lines },
      );
    }
    if (!header || frames === 0) throw new InputError('bvh-empty', 'The file has no frames of motion.', { line: header?.framesLine ?? 1 });
    if (frames !== header.frames) {
      warnings.push({
        code: 'frame-count',
        line: header.framesLine,
        message: `The file says ${header.frames} frames and has ${frames}; all ${frames} are used.`,
      });
    }
    return { motions, warnings };
  }

  /** Whole lines of numbers into whole frames; numbers of a row that is not complete wait for the next piece. */
  private read(bytes: Uint8Array): Motion[] {
    if (!this.header) return this.read(this.readHeader(bytes));
    const width = rowNumbers(this.header);
    const numbers = this.scan(bytes);
    this.lines += countLines(bytes);
    const all = new Float64Array(this.left.length + numbers.length);
    all.set(this.left);
    all.set(numbers, this.left.length);
    const count = Math.floor(all.length / width);
    this.left = all.slice(count * width);
    if (count === 0) return [];
    this.frames += count;
    return [motionOfRows(this.header, all, count)];
  }

  /** What comes before the rows; returns the rows. */
  private readHeader(bytes: Uint8Array): Uint8Array {
    const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
    const rowsAt = findRows(bytes, start);
    checkHierarchy(bytes, start, rowsAt);
    const text = new TextDecoder('utf-8').decode(bytes.subarray(start, rowsAt));
    const header = readBvhHeader(text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n'));
    this.warnings.push(...header.warnings);
    if (rowNumbers(header) === 0) {
      throw new InputError('bvh-channels', 'No joint has a channel: there is no motion.', { line: header.framesLine });
    }
    this.header = header;
    this.lines = countLines(bytes.subarray(0, rowsAt));
    return bytes.subarray(rowsAt);
  }

  private scan(bytes: Uint8Array): Float64Array | Float32Array {
    try {
      return scanNumbers(bytes, 0, Math.ceil(bytes.length / 6));
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      throw new InputError(error.code, error.message, { ...error.place, line: (error.place.line ?? 1) + this.lines });
    }
  }

  /** Puts the offsets where they belong, once there are frames enough to tell; signs go on from block to block. */
  private settle(blocks: Motion[], isEnd: boolean): Motion[] {
    if (!this.header) return [];
    if (!this.offsets) {
      this.undecided.push(...blocks);
      const held = this.undecided.reduce((sum, block) => sum + block.frames, 0);
      if (held === 0 || (!isEnd && held < DECIDED_ON)) return [];
      this.offsets = addedOffsets(joinMotions(this.undecided), this.header, this.warnings);
      return this.settle(this.undecided.splice(0), isEnd);
    }
    for (const block of blocks) {
      addOffsets(block, this.offsets);
      this.last = goOn(block, this.last);
      checkMotion(block, this.given);
      this.given += block.frames;
    }
    return blocks;
  }
}

/** Bytes that wait for the end of their line. */
class Pending {
  private parts: Uint8Array[] = [];
  bytes = 0;

  keep(part: Uint8Array): void {
    if (part.length === 0) return;
    this.parts.push(part);
    this.bytes += part.length;
  }

  take(): Uint8Array {
    const out = new Uint8Array(this.bytes);
    let at = 0;
    for (const part of this.parts) {
      out.set(part, at);
      at += part.length;
    }
    this.parts = [];
    this.bytes = 0;
    return out;
  }
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
