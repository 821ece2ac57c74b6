import type { Motion } from '@lantern/motion';

/** A motion as it goes between threads: it is plain data and typed arrays, and goes as it is. */
export interface WireMotion extends Motion {
  /**
   * Of a motion that comes in parts: the part that has a frame, and which of its frames that is; null while it is on its way.
   * Without it the motion has all its frames.
   */
  readonly part?: (frame: number) => Located | null;
}

export interface Located {
  readonly motion: Motion;
  readonly frame: number;
}

/** Where a frame of a motion is to be read, whole or in parts. */
export const locate = (motion: WireMotion, frame: number): Located | null => (motion.part ? motion.part(frame) : { motion, frame });
