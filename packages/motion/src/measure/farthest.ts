import type { Globals } from '../model/kinematics';

/** The largest distance of a joint from itself in another motion of the same skeleton, metres; of frames that both have. */
export const farthest = (a: Globals, b: Globals): number => farthestPlace(a.positions, b.positions);

/** The same of places, three numbers each. */
export function farthestPlace(a: Float32Array, b: Float32Array): number {
  let most = 0;
  for (let i = 0; i < Math.min(a.length, b.length); i += 3)
    most = Math.max(most, (a[i] - b[i]) ** 2 + (a[i + 1] - b[i + 1]) ** 2 + (a[i + 2] - b[i + 2]) ** 2);
  return Math.sqrt(most);
}

/** The same with the frame and the joint where it is. */
export function farthestAt(a: Globals, b: Globals): { readonly metres: number; readonly frame: number; readonly joint: number } {
  let [most, at] = [0, 0];
  for (let i = 0; i < Math.min(a.positions.length, b.positions.length) / 3; i++) {
    const far =
      (a.positions[i * 3] - b.positions[i * 3]) ** 2 +
      (a.positions[i * 3 + 1] - b.positions[i * 3 + 1]) ** 2 +
      (a.positions[i * 3 + 2] - b.positions[i * 3 + 2]) ** 2;
    if (far > most) [most, at] = [far, i];
  }
  return { metres: Math.sqrt(most), frame: Math.floor(at / a.joints), joint: at % a.joints };
}
