/** Degrees in a radian. */
export const DEGREES = 180 / Math.PI;
/** Radians in a degree. */
export const RADIANS = Math.PI / 180;

/** Into (−π, π]. */
export function wrapAngle(radians: number): number {
  const turn = 2 * Math.PI;
  const r = radians - turn * Math.floor(radians / turn);
  return r > Math.PI ? r - turn : r;
}

/** In place: adds whole turns so that no two neighbours differ by more than half a turn. */
export function unwrap(angles: Float64Array): Float64Array {
  for (let i = 1; i < angles.length; i++) angles[i] = angles[i - 1] + wrapAngle(angles[i] - angles[i - 1]);
  return angles;
}
