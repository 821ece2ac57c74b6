import { multiply, rotate } from './quat';
import { SIDES, type PlayClip, type PlaySkeleton } from './play-set';

/** Places and rotations in the world of the joints that feet hang on; others are left alone. */
export interface LegChain {
  /** Joints in the order in which they are worked out, each after its parent. */
  readonly order: Int32Array;
  readonly place: Float64Array;
  readonly world: Float64Array;
}

/** The joints from joint 0 down to the toes. */
export function legChain({ parents, legs, names }: PlaySkeleton): LegChain {
  const needed = new Set<number>();
  for (const side of SIDES) for (let j = legs[side].toe >= 0 ? legs[side].toe : legs[side].ankle; j >= 0; j = parents[j]) needed.add(j);
  return {
    order: Int32Array.from([...needed].sort((a, b) => a - b)),
    place: new Float64Array(names.length * 3),
    world: new Float64Array(names.length * 4),
  };
}

/** All joints. */
export const wholeChain = ({ names }: PlaySkeleton): LegChain => ({
  order: Int32Array.from(names, (_, j) => j),
  place: new Float64Array(names.length * 3),
  world: new Float64Array(names.length * 4),
});

/** In place: the chain of a pose, joint 0 put on the root. */
export function followChain(
  { order, place, world }: LegChain,
  { parents, offsets }: PlaySkeleton,
  rotations: ArrayLike<number>,
  hips: ArrayLike<number>,
  root: ArrayLike<number>,
  rootTurn: Float64Array,
): void {
  for (let i = 0; i < order.length; i++) {
    const j = order[i];
    const p = parents[j];
    if (p < 0) {
      multiply(world, j * 4, rootTurn, 0, rotations, j * 4);
      rotate(place, j * 3, rootTurn, 0, hips[0], hips[1], hips[2]);
      place[j * 3] += root[0];
      place[j * 3 + 2] += root[1];
      continue;
    }
    multiply(world, j * 4, world, p * 4, rotations, j * 4);
    rotate(place, j * 3, world, p * 4, offsets[j * 3], offsets[j * 3 + 1], offsets[j * 3 + 2]);
    for (let k = 0; k < 3; k++) place[j * 3 + k] += place[p * 3 + k];
  }
}

/** Numbers of a foot in a frame of its track: the ankle's place, and its turn, in the root's axes; the turn of the toe against the foot. */
export const FOOT = 11;

/** The feet of a clip in the root's axes, the left one and the right one, frame by frame. */
export function footTracks(skeleton: PlaySkeleton, clip: PlayClip): Float32Array {
  const known = TRACKS.get(clip);
  if (known?.skeleton === skeleton) return known.tracks;
  const tracks = workOutTracks(skeleton, clip);
  TRACKS.set(clip, { skeleton, tracks });
  return tracks;
}

/** Several players play the same clips, which never change. */
const TRACKS = new WeakMap<PlayClip, { readonly skeleton: PlaySkeleton; readonly tracks: Float32Array }>();

function workOutTracks(skeleton: PlaySkeleton, clip: PlayClip): Float32Array {
  const chain = legChain(skeleton);
  const J = skeleton.names.length;
  const upright = Float64Array.of(0, 0, 0, 1);
  const out = new Float32Array(clip.frames * 2 * FOOT);
  for (let f = 0; f < clip.frames; f++) {
    followChain(
      chain,
      skeleton,
      clip.rotations.subarray(f * J * 4, (f + 1) * J * 4),
      clip.hips.subarray(f * 3, f * 3 + 3),
      [0, 0],
      upright,
    );
    SIDES.forEach((side, s) => {
      const { ankle, toe } = skeleton.legs[side];
      const o = (f * 2 + s) * FOOT;
      out.set(chain.place.subarray(ankle * 3, ankle * 3 + 3), o);
      out.set(chain.world.subarray(ankle * 4, ankle * 4 + 4), o + 3);
      const at = (f * J + toe) * 4;
      out.set(toe >= 0 ? clip.rotations.subarray(at, at + 4) : [0, 0, 0, 1], o + 7);
    });
  }
  return out;
}

/** For each side the axis that the knee bends about, in the thigh's axes: the mean over a clip, the frames in which it is bent most counting most. */
export function kneeAxes(skeleton: PlaySkeleton, clip: PlayClip): Readonly<Record<'left' | 'right', Float64Array>> {
  const chain = legChain(skeleton);
  const J = skeleton.names.length;
  const upright = Float64Array.of(0, 0, 0, 1);
  const sums = { left: new Float64Array(3), right: new Float64Array(3) };
  const v = new Float64Array(3);
  for (let f = 0; f < clip.frames; f++) {
    followChain(
      chain,
      skeleton,
      clip.rotations.subarray(f * J * 4, (f + 1) * J * 4),
      clip.hips.subarray(f * 3, f * 3 + 3),
      [0, 0],
      upright,
    );
    for (const side of SIDES) {
      const { hip, knee, ankle } = skeleton.legs[side];
      const at = (j: number, k: number) => chain.place[j * 3 + k];
      const [ux, uy, uz] = [0, 1, 2].map((k) => at(knee, k) - at(hip, k));
      const [lx, ly, lz] = [0, 1, 2].map((k) => at(ankle, k) - at(knee, k));
      const q = chain.world.subarray(hip * 4, hip * 4 + 4);
      rotate(v, 0, [-q[0], -q[1], -q[2], q[3]], 0, uy * lz - uz * ly, uz * lx - ux * lz, ux * ly - uy * lx);
      for (let k = 0; k < 3; k++) sums[side][k] += v[k];
    }
  }
  for (const side of SIDES) {
    const n = Math.hypot(...sums[side]) || 1;
    for (let k = 0; k < 3; k++) sums[side][k] /= n;
  }
  return sums;
}
