import { playBody } from './body';
import { fieldSource, type PlayField } from './field-source';
import { playMemory } from './memory';
import type { PlaySkeleton } from './play-set';

/** A blend field being played. Nothing is allocated after it is made; the arrays are the same ones all the time. */
export interface FieldPlayer {
  /** Of the pose as it is now: `x y z w` for each joint against its parent, joint 0 in the root's axes. */
  readonly rotations: Float32Array;
  /** Joint 0 in the root's axes, metres. */
  readonly hips: Float64Array;
  /** The root: x and z in metres, heading in radians. */
  readonly root: Float64Array;
  /** 1 while the left, and the right foot bears. */
  readonly down: Float64Array;
  /** Height of the ground under the left, and the right foot, metres: written by a game whose ground is not flat, before every tick. */
  readonly ground: Float64Array;
  /** Of the clips, as they count now. */
  readonly weights: Float64Array;
  /** Metres and radians that the root went, and turned by, in the last tick. */
  readonly step: Float64Array;
  /** Whole strides that come round together. */
  readonly strides: number;
  /** Position in the stride, 0 to 1, 0 at a left landing. */
  phase(): number;
  /** Seconds that a cycle of all strides lasts with the weights as they are. */
  cycle(): number;
  /** Asks for a point of the field; the weights go over to it smoothly. */
  ask(x: number, y?: number): void;
  /** Begins anew at a place and phase, with the weights of the asked point at once. */
  reset(phase?: number, x?: number, z?: number, heading?: number): void;
  /** Plays on, at most a twentieth of a second at a time. */
  tick(seconds: number): void;
}

/**
 * @throws Error with a sentence when a clip cannot be brought into step
 *
 * @example
 * const player = fieldPlayer(skeleton, field);
 * player.ask(2.1, 0);
 * player.tick(1 / 60); // player.rotations, player.hips and player.root are the pose
 */
export function fieldPlayer(skeleton: PlaySkeleton, field: PlayField): FieldPlayer {
  const memory = playMemory();
  const source = fieldSource(skeleton, field, memory);
  const body = playBody(skeleton, field.holdFeet ? field.clips[0] : null, memory);
  const { rotations, hips, root, posed, down } = body;
  const step = new Float64Array(3);
  const gone = new Float64Array(3);
  const pose = (seconds: number): void => {
    source.pose(rotations, hips, posed, down);
    body.hold(seconds);
  };
  const player: FieldPlayer = {
    rotations,
    hips,
    root,
    down,
    ground: body.ground,
    weights: source.weights,
    step,
    strides: source.strides,
    phase: source.phase,
    cycle: source.seconds,
    ask: (x, y = 0) => source.ask(x, y),
    reset: (phase = 0, x = 0, z = 0, facing = 0) => {
      source.settle();
      source.enter(source.atPhase(phase));
      body.put(x, z, facing);
      step.fill(0);
      pose(0);
    },
    tick: (seconds) => {
      for (let k = 0; k < 3; k++) step[k] = -root[k];
      source.ease(seconds);
      let left = seconds;
      // From landing to landing, and to where a foot leaves the floor: so that it is all the same how long a tick is.
      for (let guard = 0; guard < 64 && left > 1e-9; guard++) {
        gone.fill(0);
        const own = source.advance(left, gone);
        left -= own;
        body.move(gone);
        pose(own);
      }
      for (let k = 0; k < 3; k++) step[k] += root[k];
    },
  };
  player.reset();
  return player;
}
