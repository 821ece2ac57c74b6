import type { Skeleton } from './skeleton';

/**
 * What tells one suit's or program's skeletons from another's: names and hierarchy, not lengths, so that two performers in the same suit
 * have the same. 64 bits (FNV-1a, two halves) as 16 hexadecimal digits.
 */
export function skeletonSignature(skeleton: Skeleton): string {
  const text = skeleton.joints.map(({ name, parent }) => `${name}\t${parent}`).join('\n');
  return [0x811c9dc5, 0x2f0b4a37].map((seed) => fnv(text, seed).toString(16).padStart(8, '0')).join('');
}

function fnv(text: string, seed: number): number {
  let hash = seed >>> 0;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return hash;
}
