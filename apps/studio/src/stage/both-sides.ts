import * as THREE from 'three';

/**
 * What can be seen from both sides and lies flat, or in one colour. Without the second word the library draws such a thing twice when
 * it is transparent, its far side first, with a compiled program for each.
 */
export const BOTH_SIDES = { side: THREE.DoubleSide, forceSinglePass: true } as const;
