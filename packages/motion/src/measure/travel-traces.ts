import { DEGREES } from '../math/angles';
import { worldMotion, type Clip } from '../model/clip';
import { headings } from './heading';
import { groundwork } from './groundwork';

/** Speed and heading over a clip, of its root and of its hips, an entry per frame: metres a second, degrees from the root's first heading. */
export interface TravelTraces {
  readonly rootSpeed: Float32Array;
  readonly hipsSpeed: Float32Array;
  readonly rootHeading: Float32Array;
  readonly hipsHeading: Float32Array;
}

/**
 * @returns null for a clip whose travel is not the root's, or without a body
 *
 * @example
 * const stroll = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'travel' }]) });
 * travelTraces(stroll).rootSpeed.length === stroll.motion.frames; // true
 */
export function travelTraces(clip: Pick<Clip, 'motion' | 'travel'>): TravelTraces | null {
  const { travel } = clip;
  const world = worldMotion(clip);
  const found = groundwork(world);
  if (!travel || !found) return null;
  const { fps, frames } = world;
  const hips = found.globals.positions;
  const speed = (place: (f: number) => readonly [number, number]) =>
    Float32Array.from({ length: frames }, (_, f) => {
      const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
      const [p, q] = [place(a), place(b)];
      return b > a ? (Math.hypot(q[0] - p[0], q[1] - p[1]) * fps) / (b - a) : 0;
    });
  const hipsAt = (f: number): readonly [number, number] => {
    const at = (f * found.globals.joints + found.body.hips) * 3;
    return [hips[at], hips[at + 2]];
  };
  const facing = headings(found.globals, found.body);
  const first = travel.heading[0];
  return {
    rootSpeed: speed((f) => [travel.x[f], travel.z[f]]),
    hipsSpeed: speed(hipsAt),
    rootHeading: Float32Array.from(travel.heading, (h) => (h - first) * DEGREES),
    hipsHeading: Float32Array.from(facing, (h) => (h - first) * DEGREES),
  };
}
