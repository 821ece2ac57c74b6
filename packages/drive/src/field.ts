import { addFoot, blendPoses, frameAt } from './blend';
import { heldFeet } from './feet';
import { FOOT, footTracks } from './legs';
import { normalize } from './quat';
import type { PlayClip, PlaySkeleton } from './play-set';
import { strideTable, type StrideTable } from './strides';
import { fieldWeights, type FieldPoints } from './weights';

/** Clips that are blended by one or two inputs. */
export interface PlayField extends FieldPoints {
  readonly name: string;
  /** Loops in step with one another, in the order of the points. */
  readonly clips: readonly PlayClip[];
  /** Feet that bear stay where they came down. */
  readonly holdFeet: boolean;
  /** As far as time gives way so that the speed that comes is the speed that the weights mean: 0.06 is six hundredths, 0 not at all. */
  readonly pace: number;
}

/** A blend field being played. Nothing is allocated after it is made; the arrays are the same ones all the time. */
export interface FieldPlayer {
  /** Of the pose as it is now: `x y z w` for each joint against its parent, joint 0 in the root's axes. */
  readonly rotations: Float32Array;
  /** Joint 0 in the root's axes, metres. */
  readonly hips: Float64Array;
  /** The root: x and z in metres, heading in radians. */
  readonly root: Float64Array;
  /** 1 while the left, and the right foot bears. */
  readonly down: Uint8Array;
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

/** The weights are nine tenths of the way to what was asked in about this many seconds. */
const EASE = 0.12;

/**
 * @throws Error with a sentence when a clip cannot be brought into step
 *
 * @example
 * const player = fieldPlayer(skeleton, field);
 * player.ask(2.1, 0);
 * player.tick(1 / 60); // player.rotations, player.hips and player.root are the pose
 */
export function fieldPlayer(skeleton: PlaySkeleton, field: PlayField): FieldPlayer {
  const { clips, holdFeet, pace } = field;
  const tables = clips.map(inStep);
  const strides = tables.reduce((all, { strides: own }) => leastCommon(all, own), 1);
  const halves = 2 * strides;
  const ways = clips.map(wayOf);
  const ends = tables.map(stanceEnds);
  const n = clips.length;
  const rotations = new Float32Array(skeleton.names.length * 4);
  const hips = new Float64Array(3);
  const root = new Float64Array(3);
  const step = new Float64Array(3);
  const down = new Uint8Array(2);
  const weights = new Float64Array(n);
  const wanted = new Float64Array(n);
  const at = new Float64Array(n);
  const feet = holdFeet ? heldFeet(skeleton, clips[0]) : null;
  const tracks = clips.map((clip) => footTracks(skeleton, clip));
  const posed = new Float64Array(2 * FOOT);
  // Half strides since the beginning of the cycle: which, and how far in it.
  let half = 0;
  let share = 0;
  const logs = tables.map(({ lengths }) => lengths.map(Math.log));
  const lengthAt = (k: number): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) if (weights[i] > 0) sum += weights[i] * logs[i][k % logs[i].length];
    return Math.exp(sum);
  };
  /** How much quicker time runs so that the speed is what the weights mean. */
  const quickened = (): number => {
    if (pace === 0) return 1;
    let [seconds, metres, speed] = [0, 0, 0];
    for (let k = 0; k < halves; k++) seconds += lengthAt(k);
    for (let i = 0; i < n; i++) {
      metres += weights[i] * ways[i].metres * (strides / tables[i].strides);
      speed += weights[i] * ways[i].mps;
    }
    if (metres < 1e-6) return 1;
    return Math.max(1 / (1 + pace), Math.min(1 + pace, (speed * seconds) / metres));
  };
  const endsAt = (k: number): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) if (weights[i] > 0) sum += weights[i] * ends[i][k % ends[i].length];
    return sum;
  };
  /** Where in their half strides feet leave the floor: the next one that is after now. */
  const nextLift = (): number => {
    let next = 1;
    for (let back = 0; back < 2; back++) {
      const lift = endsAt((half - back + halves) % halves) - back;
      if (lift > share + 1e-9 && lift < next) next = lift;
    }
    return next;
  };
  const pose = (seconds: number): void => {
    let heaviest = 0;
    for (let i = 0; i < n; i++) {
      if (weights[i] > weights[heaviest]) heaviest = i;
      const { starts, lengths } = tables[i];
      const k = half % starts.length;
      at[i] = starts[k] + share * lengths[k];
    }
    blendPoses(rotations, hips, clips, at, weights, heaviest);
    down[0] = down[1] = 0;
    for (let back = 0; back < 2; back++) {
      const k = (half - back + halves) % halves;
      if (share + back < endsAt(k) - 1e-9) down[k % 2] = 1;
    }
    if (!feet) return;
    for (let side = 0; side < 2; side++) poseFoot(side);
    feet.hold(rotations, hips, root, posed, down, seconds);
  };
  /**
   * A foot as the pose wants it, every clip read where it is as far through its stance, or its swing, as the blend is: so that feet which stand are
   * blended with feet that stand, however long each stands.
   */
  const poseFoot = (side: number): void => {
    const back = half % 2 === side ? 0 : 1;
    const landed = (half - back + halves) % halves;
    const since = share + back;
    const end = endsAt(landed);
    const o = side * FOOT;
    posed.fill(0, o, o + FOOT);
    for (let i = 0; i < n; i++) {
      if (weights[i] === 0) continue;
      const { starts, lengths } = tables[i];
      const own = ends[i][landed % starts.length];
      const into = since < end ? (since * own) / end : own + ((since - end) * (2 - own)) / (2 - end);
      const k = (landed + Math.floor(into)) % starts.length;
      const at = starts[k] + (into - Math.floor(into)) * lengths[k];
      addFoot(posed, o, tracks[i], clips[i], side, at, weights[i], FOOT);
    }
    normalize(posed, o + 3);
    normalize(posed, o + 7);
  };
  const go = (seconds: number, portion: number): void => {
    let [x, z, turn] = [0, 0, 0];
    for (let i = 0; i < n; i++) {
      if (weights[i] === 0) continue;
      const { starts, lengths } = tables[i];
      const k = half % starts.length;
      const own = ways[i];
      const [f] = frameAt(clips[i], starts[k] + (share + portion / 2) * lengths[k]);
      const gone = weights[i] * portion * lengths[k];
      x += own.velocity[f * 3] * gone;
      z += own.velocity[f * 3 + 1] * gone;
      turn += weights[i] * own.velocity[f * 3 + 2] * seconds;
    }
    const facing = root[2] + turn / 2;
    const [c, s] = [Math.cos(facing), Math.sin(facing)];
    const [dx, dz] = [c * x + s * z, c * z - s * x];
    root[0] += dx;
    root[1] += dz;
    root[2] += turn;
    step[0] += dx;
    step[1] += dz;
    step[2] += turn;
  };
  const ease = (seconds: number): void => {
    const u = 1 - Math.exp((-2.3 * seconds) / EASE);
    for (let i = 0; i < n; i++) {
      const next = weights[i] + (wanted[i] - weights[i]) * u;
      weights[i] = next < 1e-4 && wanted[i] === 0 ? 0 : next;
    }
    let sum = 0;
    for (let i = 0; i < n; i++) sum += weights[i];
    for (let i = 0; i < n; i++) weights[i] /= sum;
  };
  const player: FieldPlayer = {
    rotations,
    hips,
    root,
    down,
    weights,
    step,
    strides,
    phase: () => (((half + share) / 2) % strides) - Math.floor(((half + share) / 2) % strides),
    cycle: () => {
      let seconds = 0;
      for (let k = 0; k < halves; k++) seconds += lengthAt(k);
      return seconds / quickened();
    },
    ask: (x, y = 0) => {
      fieldWeights(wanted, field, x, y);
    },
    reset: (phase = 0, x = 0, z = 0, facing = 0) => {
      weights.set(wanted);
      const h = (phase - Math.floor(phase)) * 2;
      half = Math.floor(h);
      share = h - half;
      root[0] = x;
      root[1] = z;
      root[2] = facing;
      step.fill(0);
      feet?.reset();
      pose(0);
    },
    tick: (seconds) => {
      step.fill(0);
      ease(seconds);
      const quick = quickened();
      let left = seconds;
      // From landing to landing, and to where a foot leaves the floor: so that it is all the same how long a tick is.
      for (let guard = 0; guard < 64 && left > 1e-9; guard++) {
        const length = lengthAt(half) / quick;
        const stop = nextLift();
        const own = Math.min(left, (stop - share) * length);
        go(own, own / length);
        share = own < left || share + own / length >= stop - 1e-9 ? stop : share + own / length;
        left -= own;
        if (share >= 1 - 1e-9) {
          share = 0;
          half = (half + 1) % halves;
        }
        pose(own);
      }
    },
  };
  fieldWeights(wanted, field, field.points[0], field.points[1]);
  player.reset();
  return player;
}

function inStep(clip: PlayClip): StrideTable {
  const table = strideTable(clip);
  if ('why' in table) throw new Error(table.why);
  return table;
}

/** For each half stride how long the foot that lands at its beginning stays down, in half strides. */
function stanceEnds({ lengths, stances }: StrideTable): Float64Array {
  return stances.map((stance, k) => {
    const own = lengths[k];
    return stance <= own ? stance / own : 1 + Math.min(0.98, (stance - own) / lengths[(k + 1) % lengths.length]);
  });
}

interface Way {
  /** From each key to the next: metres a second to the left and ahead in the root's axes, radians a second. */
  readonly velocity: Float64Array;
  /** Metres along the path in a cycle, and a second. */
  readonly metres: number;
  readonly mps: number;
}

function wayOf({ root, frames, fps }: PlayClip): Way {
  const velocity = new Float64Array(frames * 3);
  let metres = 0;
  for (let f = 0; f < frames - 1; f++) {
    const [dx, dz, turn] = [0, 1, 2].map((k) => root[(f + 1) * 3 + k] - root[f * 3 + k]);
    const facing = root[f * 3 + 2] + turn / 2;
    const [c, s] = [Math.cos(facing), Math.sin(facing)];
    velocity[f * 3] = (c * dx - s * dz) * fps;
    velocity[f * 3 + 1] = (s * dx + c * dz) * fps;
    velocity[f * 3 + 2] = turn * fps;
    metres += Math.hypot(dx, dz);
  }
  return { velocity, metres, mps: (metres * fps) / (frames - 1) };
}

function leastCommon(a: number, b: number): number {
  const common = (x: number, y: number): number => (y === 0 ? x : common(y, x % y));
  return (a * b) / common(a, b);
}
