/** Where a text goes beyond a bound on its braces; lines are counted from 1. */
export interface TooMany {
  readonly what: 'deep' | 'many';
  readonly line: number;
}

export interface NestingBounds {
  /** Braces and brackets within each other, at the most. */
  readonly deepest: number;
  /** Opening braces altogether, at the most. */
  readonly most: number;
}

const [QUOTE, BACKSLASH, NEWLINE] = [34, 92, 10];
const [OPEN, CLOSE, OPEN_LIST, CLOSE_LIST] = [123, 125, 91, 93];

/**
 * Counts the braces of a text before anybody reads it, so that a file that nobody can mean is refused before work is done on it. Stops at the
 * first brace too many: a pass over the bytes, nothing is allocated.
 *
 * @param quoted whether braces between double quotes are text, as in JSON
 * @returns null when the text keeps within the bounds
 *
 * @example
 * beyondNesting(new TextEncoder().encode('{{{'), 0, 3, { deepest: 2, most: 10 }, true); // { what: 'deep', line: 1 }
 */
export function beyondNesting(bytes: Uint8Array, from: number, to: number, bounds: NestingBounds, quoted: boolean): TooMany | null {
  let [depth, count, line] = [0, 0, 1];
  let isText = false;
  for (let i = from; i < to; i++) {
    const byte = bytes[i];
    if (byte === NEWLINE) line++;
    else if (quoted && byte === QUOTE) isText = !isText;
    else if (isText && byte === BACKSLASH) i++;
    else if (isText) continue;
    else if (byte === CLOSE || byte === CLOSE_LIST) depth--;
    else if (byte === OPEN || byte === OPEN_LIST) {
      if (++depth > bounds.deepest) return { what: 'deep', line };
      if (byte === OPEN && ++count > bounds.most) return { what: 'many', line };
    }
  }
  return null;
}
