import type { Globals } from './kinematics';

/**
 * One coordinate of a joint's place in the world, for every frame.
 *
 * @param axis 0 for x, 1 for y (up), 2 for z
 */
export function trackOf(
  { frames, joints, positions }: Pick<Globals, 'frames' | 'joints' | 'positions'>,
  joint: number,
  axis: number,
): Float64Array {
  const track = new Float64Array(frames);
  for (let f = 0, i = joint * 3 + axis; f < frames; f++, i += joints * 3) track[f] = positions[i];
  return track;
}
