import { heldFeet } from './feet';
import { FOOT } from './legs';
import type { Memory } from './memory';
import type { PlayClip, PlaySkeleton } from './play-set';

/** A character as it stands in the world: its pose, its root, its feet. */
export interface PlayBody {
  /** `x y z w` for each joint against its parent, joint 0 in the root's axes. */
  readonly rotations: Float32Array;
  /** Joint 0 in the root's axes, metres. */
  readonly hips: Float64Array;
  /** x and z in metres, heading in radians. */
  readonly root: Float64Array;
  /** The left and the right foot as the pose wants them, in the root's axes. */
  readonly posed: Float64Array;
  /** 1 while the left, and the right foot bears. */
  readonly down: Float64Array;
  /** Height of the ground under the left, and the right foot, metres; a game that has other than flat ground writes it before every tick. */
  readonly ground: Float64Array;
  /** The root goes on: metres to the left and ahead in the axes half-way through the turn, and radians. */
  move(gone: ArrayLike<number>): void;
  /** In place: the pose with its feet held, so many seconds after the last one; as it is where feet are not held. */
  hold(seconds: number): void;
  /** Put somewhere, its feet forgotten. */
  put(x: number, z: number, facing: number): void;
}

/**
 * @param like a clip of the skeleton that knees are read off; null: feet are not held
 * @param mayStep a foot that cannot stay where it is held, or stands far aside, takes a step of its own
 */
export function playBody(skeleton: PlaySkeleton, like: PlayClip | null, memory: Memory, mayStep = false): PlayBody {
  const feet = like && heldFeet(skeleton, like, memory, mayStep);
  const rotations = new Float32Array(skeleton.names.length * 4);
  const hips = new Float64Array(3);
  const root = memory.take(3);
  const posed = new Float64Array(2 * FOOT);
  const down = memory.take(2);
  return {
    rotations,
    hips,
    root,
    posed,
    down,
    ground: feet?.ground ?? new Float64Array(2),
    move(gone) {
      const facing = root[2] + gone[2] / 2;
      const c = Math.cos(facing),
        s = Math.sin(facing);
      root[0] += c * gone[0] + s * gone[1];
      root[1] += c * gone[1] - s * gone[0];
      root[2] += gone[2];
    },
    hold(seconds) {
      feet?.hold(rotations, hips, root, posed, down, seconds);
    },
    put(x, z, facing) {
      root[0] = x;
      root[1] = z;
      root[2] = facing;
      feet?.reset();
    },
  };
}
