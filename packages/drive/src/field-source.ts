import { addFoot, blendPoses, frameAt } from './blend';
import { FOOT, footTracks } from './legs';
import type { Memory } from './memory';
import { smoothing } from './smoothing';
import { normalize, type Numbers } from './quat';
import type { PlayClip, PlaySkeleton } from './play-set';
import type { Source } from './source';
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
  /** Its inputs are a speed and a direction in degrees to the left; its points are where they lead: metres a second to the left and ahead. */
  readonly isPolar?: boolean;
}

/** A field as a source of poses. */
export interface FieldSource extends Source {
  /** Of the clips, as they count now. */
  readonly weights: Float64Array;
  /** Whole strides that come round together. */
  readonly strides: number;
  /** In place: metres a second, and degrees a second to the left, that come of what is asked. */
  means(out: Float64Array): void;
  /** Asks for a point of the field; the weights go over to it with `ease`. */
  ask(x: number, y: number): void;
  ease(seconds: number): void;
  /** The weights are those of the asked point at once. */
  settle(): void;
}

/** The weights are nine tenths of the way to what was asked in this many seconds, and quiet on the way: their acceleration does not jump. */
const EASE = 0.18;
/** When feet lift and land goes over to what the weights mean more slowly: a foot in the air is not hurried through its swing. */
const EASE_STEPS = 0.4;

/** @throws Error with a sentence when a clip cannot be brought into step */
export function fieldSource(skeleton: PlaySkeleton, field: PlayField, memory: Memory): FieldSource {
  const { clips, pace } = field;
  const tables = clips.map(inStep);
  const strides = tables.reduce((all, { strides: own }) => leastCommon(all, own), 1);
  const halves = 2 * strides;
  const ways = clips.map(wayOf);
  const ends = tables.map(stanceEnds);
  const n = clips.length;
  const weights = memory.take(n);
  const wanted = memory.take(n);
  // Of each weight: value, velocity, acceleration.
  const eased = memory.take(n * 3);
  const easing = smoothing(EASE);
  // The same for what says when feet lift.
  const stepped = memory.take(n * 3);
  const stepping = smoothing(EASE_STEPS);
  // Half strides since the beginning of the cycle: which, and how far in it.
  const clock = memory.take(2);
  const at = new Float64Array(n);
  const tracks = clips.map((clip) => footTracks(skeleton, clip));
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
    for (let i = 0; i < n; i++) sum += stepped[i * 3] * ends[i][k % ends[i].length];
    return sum;
  };
  /** Where in their half strides feet leave the floor: the next one that is after now. */
  const nextLift = (): number => {
    let next = 1;
    for (let back = 0; back < 2; back++) {
      const lift = endsAt((clock[0] - back + halves) % halves) - back;
      if (lift > clock[1] + 1e-9 && lift < next) next = lift;
    }
    return next;
  };
  const readAt = (i: number): number => {
    const { starts, lengths } = tables[i];
    const k = clock[0] % starts.length;
    return starts[k] + clock[1] * lengths[k];
  };
  const heaviestOf = (): number => {
    let heaviest = 0;
    for (let i = 1; i < n; i++) if (weights[i] > weights[heaviest]) heaviest = i;
    return heaviest;
  };
  const pose: FieldSource['pose'] = (rotations, hips, posed, down) => {
    for (let i = 0; i < n; i++) at[i] = readAt(i);
    blendPoses(rotations, hips, clips, at, weights, heaviestOf());
    down[0] = down[1] = 0;
    for (let back = 0; back < 2; back++) {
      const k = (clock[0] - back + halves) % halves;
      if (clock[1] + back < endsAt(k) - 1e-9) down[k % 2] = 1;
    }
    for (let side = 0; side < 2; side++) poseFoot(posed, side);
  };
  /**
   * A foot as the pose wants it, every clip read where it is as far through its stance, or its swing, as the blend is: so that feet which stand are
   * blended with feet that stand, however long each stands.
   */
  const poseFoot = (posed: Numbers, side: number): void => {
    const back = clock[0] % 2 === side ? 0 : 1;
    const landed = (clock[0] - back + halves) % halves;
    const since = clock[1] + back;
    const end = endsAt(landed);
    const o = side * FOOT;
    posed.fill(0, o, o + FOOT);
    for (let i = 0; i < n; i++) {
      if (weights[i] === 0) continue;
      const { starts, lengths } = tables[i];
      const own = ends[i][landed % starts.length];
      const into = through(since, end, own);
      const k = (landed + Math.floor(into)) % starts.length;
      const at = starts[k] + (into - Math.floor(into)) * lengths[k];
      addFoot(posed, o, tracks[i], clips[i], side, at, weights[i], FOOT);
    }
    normalize(posed, o + 3);
    normalize(posed, o + 7);
  };
  const go = (seconds: number, portion: number, gone: Float64Array): void => {
    let [x, z, turn] = [0, 0, 0];
    for (let i = 0; i < n; i++) {
      if (weights[i] === 0) continue;
      const { starts, lengths } = tables[i];
      const k = clock[0] % starts.length;
      const own = ways[i];
      const [f] = frameAt(clips[i], starts[k] + (clock[1] + portion / 2) * lengths[k]);
      const gone = weights[i] * portion * lengths[k];
      x += own.velocity[f * 3] * gone;
      z += own.velocity[f * 3 + 1] * gone;
      turn += weights[i] * own.velocity[f * 3 + 2] * seconds;
    }
    gone[0] += x;
    gone[1] += z;
    gone[2] += turn;
  };
  const ease = (seconds: number): void => {
    easing.over(seconds);
    stepping.over(seconds);
    let sum = 0;
    for (let i = 0; i < n; i++) {
      easing.go(eased, i * 3, wanted[i]);
      stepping.go(stepped, i * 3, wanted[i]);
      // On its way to nothing a weight may be a little under it.
      weights[i] = eased[i * 3] < 1e-4 ? 0 : eased[i * 3];
      sum += weights[i];
    }
    for (let i = 0; i < n; i++) weights[i] /= sum;
  };
  const settle = (): void => {
    weights.set(wanted);
    eased.fill(0);
    stepped.fill(0);
    for (let i = 0; i < n; i++) eased[i * 3] = stepped[i * 3] = wanted[i];
  };
  const cycle = (): number => {
    let seconds = 0;
    for (let k = 0; k < halves; k++) seconds += lengthAt(k);
    return seconds / quickened();
  };
  const enter = (place: number): void => {
    const h = (place - Math.floor(place)) * halves;
    clock[0] = Math.min(halves - 1, Math.floor(h));
    clock[1] = h - clock[0];
  };
  fieldWeights(wanted, field, field.points[0], field.points[1]);
  settle();
  return {
    weights,
    strides,
    loops: true,
    enter,
    at: () => (clock[0] + clock[1]) / halves,
    phase: () => ((clock[0] + clock[1]) / 2) % 1,
    // Of several strides that come round together the first.
    atPhase: (phase) => (phase - Math.floor(phase)) / strides,
    seconds: cycle,
    clip: () => clips[heaviestOf()],
    clipSeconds: () => readAt(heaviestOf()) % ((clips[heaviestOf()].frames - 1) / clips[heaviestOf()].fps),
    pose,
    ease,
    ask(x, y) {
      fieldWeights(wanted, field, x, y);
    },
    settle,
    means(out) {
      out[0] = out[1] = 0;
      for (let i = 0; i < n; i++) {
        out[0] += wanted[i] * ways[i].mps;
        out[1] += wanted[i] * ways[i].turnDegS;
      }
    },
    advance(seconds, gone) {
      const length = lengthAt(clock[0]) / quickened();
      const stop = nextLift();
      const own = Math.min(seconds, (stop - clock[1]) * length);
      go(own, own / length, gone);
      clock[1] = own < seconds || clock[1] + own / length >= stop - 1e-9 ? stop : clock[1] + own / length;
      if (clock[1] >= 1 - 1e-9) {
        clock[1] = 0;
        clock[0] = (clock[0] + 1) % halves;
      }
      return own;
    },
  };
}

/**
 * How far a foot is in a clip in which it bears for `own` half strides, when it is so far in a blend in which it bears for `end`: where it lands and lifts in
 * the one it does in the other, and between them time goes on without a jump, by a monotone cubic.
 */
function through(since: number, end: number, own: number): number {
  const stance = own / end,
    swing = (2 - own) / (2 - end);
  // The harmonic mean keeps it from going backwards.
  const m = (2 * stance * swing) / (stance + swing);
  const stands = since < end;
  const width = stands ? end : 2 - end;
  const from = stands ? 0 : own,
    rise = stands ? own : 2 - own;
  const u = (stands ? since : since - end) / width;
  return from + rise * u * u * (3 - 2 * u) + width * m * u * (1 - u) * (1 - 2 * u);
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
  readonly turnDegS: number;
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
  const seconds = (frames - 1) / fps;
  const turned = root[(frames - 1) * 3 + 2] - root[2];
  return { velocity, metres, mps: metres / seconds, turnDegS: ((turned / seconds) * 180) / Math.PI };
}

function leastCommon(a: number, b: number): number {
  const common = (x: number, y: number): number => (y === 0 ? x : common(y, x % y));
  return (a * b) / common(a, b);
}
