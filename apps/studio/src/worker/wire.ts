import type { Motion } from '@lantern/motion';

/** A motion as it goes between threads: it is plain data and typed arrays, and goes as it is. */
export type WireMotion = Motion;
