import { RULER } from '@/timeline/deck-layout';

/** Where the rows of the deck lie, pixels from its top. */
export interface JoinRows {
  readonly marks: number;
  /** Full weight, and none. */
  readonly full: number;
  readonly none: number;
  readonly plaques: number;
  readonly height: number;
  readonly ground: number;
  readonly bottom: number;
}

const MARKS = 24;
export const PLAQUE = 52;

export function joinRows(height: number): JoinRows {
  const full = RULER + MARKS + 8;
  const ground = Math.max(28, height * 0.1);
  const trace = Math.max(32, height * 0.15);
  const none = Math.max(full + 64, height - ground - trace - PLAQUE - 18);
  return {
    marks: RULER,
    full,
    none,
    plaques: none + 10,
    height: none + 14 + PLAQUE,
    ground: height - ground,
    bottom: height,
  };
}
