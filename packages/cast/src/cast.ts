import type { Build } from './build';
import { characterGlb } from './glb';
import type { CastName } from './names';
import { tallow } from './tallow';
import { wick } from './wick';

/** The characters that come with the program. */
export const CAST: Readonly<Record<CastName, () => Build>> = { wick, tallow };

/** The file of one of them. */
export const castGlb = (name: CastName): Promise<Uint8Array> => characterGlb(CAST[name]());
