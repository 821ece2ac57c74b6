import { InputError } from '../error';

const POWERS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

/**
 * Reads white-space separated decimal numbers straight from bytes; several times as quick as splitting text.
 *
 * @param bytes ASCII
 * @param start first byte to read
 * @param expected how many numbers there should be; a guess only, for the size of the first buffer
 * @returns all numbers up to the end of the bytes
 * @throws InputError `bvh-number` with the line
 */
export function scanNumbers(bytes: Uint8Array, start: number, expected: number): Float64Array {
  // A number and the space after it take two bytes at least, whatever a broken header promises.
  let values = new Float64Array(Math.min(expected, Math.ceil((bytes.length - start) / 2)) + 1);
  let count = 0;
  const n = bytes.length;
  let i = start;
  for (;;) {
    while (i < n && bytes[i] <= 32 && bytes[i] !== 0) i++;
    if (i >= n) return values.subarray(0, count);
    const value = numberAt(bytes, i, cursor);
    if (Number.isNaN(value)) throw notANumber(bytes, i);
    i = cursor.end;
    if (count === values.length) {
      const grown = new Float64Array(count * 2 + 64);
      grown.set(values);
      values = grown;
    }
    values[count++] = value;
  }
}

/** Where a number ended: the byte after it. */
export interface NumberEnd {
  end: number;
}
const cursor: NumberEnd = { end: 0 };

/**
 * The decimal number that begins at a byte and ends before white space or the end of the bytes.
 *
 * @param after told where it ended
 * @returns NaN when there is none, or none that is finite
 */
export function numberAt(bytes: Uint8Array, start: number, after: NumberEnd): number {
  let i = start;
  let c = bytes[i];
  const negative = c === 45;
  if (negative || c === 43) c = bytes[++i];
  let mantissa = 0;
  let scale = 0;
  const whole = i;
  while (c >= 48 && c <= 57) {
    mantissa = mantissa * 10 + (c - 48);
    c = bytes[++i];
  }
  let digits = i - whole;
  if (c === 46) {
    const point = i;
    c = bytes[++i];
    while (c >= 48 && c <= 57) {
      mantissa = mantissa * 10 + (c - 48);
      c = bytes[++i];
    }
    scale = point + 1 - i;
    digits -= scale;
  }
  // Past fifteen digits the product above is no longer exact: such numbers are read by the language's own reader.
  if (digits > 15) {
    mantissa = Number(String.fromCharCode(...bytes.subarray(whole, i)));
    scale = 0;
  }
  if (digits > 0 && (c === 101 || c === 69)) {
    c = bytes[++i];
    const down = c === 45;
    if (down || c === 43) c = bytes[++i];
    let exponent = 0;
    let any = false;
    while (c >= 48 && c <= 57) {
      exponent = Math.min(400, exponent * 10 + (c - 48));
      any = true;
      c = bytes[++i];
    }
    if (!any) digits = 0;
    scale += down ? -exponent : exponent;
  }
  if (digits === 0 || (i < bytes.length && (c > 32 || c === 0))) return NaN;
  after.end = i;
  let value = mantissa;
  if (scale < 0) value = scale >= -22 ? value / POWERS[-scale] : value * 10 ** scale;
  else if (scale > 0) value *= 10 ** scale;
  if (!Number.isFinite(value)) return NaN;
  return negative ? -value : value;
}

/** The line, counted from 1, on which a byte stands. CR LF, LF and lone CR all end a line. */
export function lineAt(bytes: Uint8Array, position: number): number {
  let line = 1;
  for (let i = 0; i < position && i < bytes.length; i++) {
    if (bytes[i] === 10 || (bytes[i] === 13 && bytes[i + 1] !== 10)) line++;
  }
  return line;
}

function notANumber(bytes: Uint8Array, begin: number): InputError {
  let end = begin;
  while (end < bytes.length && bytes[end] > 32 && end - begin < 40) end++;
  const word = String.fromCharCode(...bytes.subarray(begin, Math.max(end, begin + 1))).replace(/[^\x20-\x7e]/g, '?');
  return new InputError('bvh-number', `Expected a number, found "${word}".`, { line: lineAt(bytes, begin) });
}
