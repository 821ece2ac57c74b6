import type { Build } from './build';
import { characterGlb } from './glb';
import { tallow } from './tallow';
import { wick } from './wick';

export { characterGlb } from './glb';
export type { Build, BuiltJoint } from './build';
export { tallow } from './tallow';
export { wick } from './wick';

/** The characters that come with the program. */
export const CAST: Readonly<Record<'wick' | 'tallow', () => Build>> = { wick, tallow };

/** The file of one of them. */
export const castGlb = (id: keyof typeof CAST): Promise<Uint8Array> => characterGlb(CAST[id]());
