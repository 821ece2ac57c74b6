export type { Build, BuiltJoint } from './build';
export { CAST, castGlb } from './cast';
export { characterGlb } from './glb';
export { CAST_NAMES, type CastName } from './names';
export { tallow } from './tallow';
export { wick } from './wick';
