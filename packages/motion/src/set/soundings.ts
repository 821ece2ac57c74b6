import type { FieldPlayer } from '@lantern/drive';
import { DEGREES } from '../math/angles';
import { multiply, rotate, fromHeading } from '../math/quat';
import { hingeKinks, worstKink, type HingeKink } from '../measure/kink';
import { slides } from '../measure/slide';
import type { Body } from '../model/body';
import type { Contacts } from '../model/contacts';
import { followPoint } from '../model/fixed-point';
import { forwardKinematics } from '../model/kinematics';
import { createMotion, type Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { bodyOf } from '../anatomy/body-of';
import type { SetClip } from './coverage';
import { onHips } from './play-clip';
import type { PlayableField } from './play-field';
import { repeatLoop } from '../model/repeat';

/** What a field does at a point, measured by playing it. */
export interface Sounding {
  /** Values of the inputs that were asked. */
  readonly at: readonly number[];
  readonly weights: Readonly<Record<string, number>>;
  /** Of the worst contact, millimetres. */
  readonly slideMm: number;
  /** Metres a second and degrees a second that came. */
  readonly got: readonly [number, number];
  /** Knees: the largest change of angular velocity over the clips' own. */
  readonly kink: number;
  readonly isOut: boolean;
}

/** What a sounding may be at the most. */
export const FIELD_BOUNDS = { slideMm: 3, speed: 0.02, turnDegS: 2, kink: 1.5 } as const;

/** Cycles that are measured, after one that is played to get into it. */
const CYCLES = 3;
const FPS = 60;

/** Sounds a field: knows what its clips do by themselves. */
export interface Sounder {
  sound(at: readonly number[]): Sounding;
  /** So many seconds of the field at a point, in the world. */
  play(at: readonly number[], seconds: number): Motion;
}

/**
 * @param clips of the field, whose knees say what is usual
 */
export function sounder(playable: PlayableField, clips: readonly SetClip[]): Sounder {
  const { points, skeleton: own, field } = playable;
  const found = points.flatMap(({ id }) => clips.filter((clip) => clip.id === id));
  const first = onHips(found[0].clip.motion);
  const { skeleton } = first;
  const body = bodyOf(first);
  const player = playable.player();
  const usual = body ? kinksOf(found, body) : [];
  return {
    play: (at, seconds) => record(player, skeleton, playable.placeOf(at), Math.round(seconds * FPS)).motion,
    sound(at) {
      const place = playable.placeOf(at);
      player.ask(place[0], place[1]);
      player.reset();
      const cycle = player.cycle();
      const frames = Math.round((CYCLES + 1) * cycle * FPS);
      const { motion, down, way } = record(player, skeleton, place, frames);
      const first = Math.round(cycle * FPS);
      const globals = forwardKinematics(motion);
      const contacts = contactsOf(down, first, frames);
      const sole = (side: 'left' | 'right') => {
        const [heel, ball, tip] = own.soles[side].map(({ joint, x, y, z }) => followPoint(globals, { joint, local: [x, y, z] }));
        return { heel, ball: ball ?? heel, tip: tip ?? ball ?? heel };
      };
      const slid = slides({ floor: 0, left: sole('left'), right: sole('right') }, contacts);
      const slideMm = 10 * Math.max(0, ...slid.map(({ excursionCm }) => excursionCm));
      const seconds = (frames - first) / FPS;
      let metres = 0;
      for (let f = first + 1; f <= frames; f++) metres += Math.hypot(way[f * 3] - way[f * 3 - 3], way[f * 3 + 1] - way[f * 3 - 2]);
      const got: [number, number] = [metres / seconds, ((way[frames * 3 + 2] - way[first * 3 + 2]) / seconds) * DEGREES];
      const kinks = body ? hingeKinks(globals, body, FPS).filter(({ hinge }) => hinge.endsWith('knee')) : [];
      const kink = worstKink(kinks, usual)?.ratio ?? 0;
      const asked = { speed: at[0], turn: field.scale[1] === 1 ? 0 : (at[1] ?? 0) };
      const isOut =
        slideMm > FIELD_BOUNDS.slideMm ||
        Math.abs(got[0] - asked.speed) > FIELD_BOUNDS.speed * asked.speed ||
        Math.abs(got[1] - asked.turn) > FIELD_BOUNDS.turnDegS ||
        kink > FIELD_BOUNDS.kink;
      const weights: Record<string, number> = {};
      points.forEach(({ name }, i) => {
        if (player.weights[i] > 0.0005) weights[name] = Number(player.weights[i].toFixed(3));
      });
      return { at: [...at], weights, slideMm, got, kink, isOut };
    },
  };
}

/** The largest changes of the knees in any of the clips, as they play round. */
function kinksOf(clips: readonly SetClip[], body: Body): HingeKink[] {
  const worst = new Map<string, HingeKink>();
  for (const { clip } of clips) {
    for (const own of hingeKinks(forwardKinematics(onHips(repeatLoop(clip, 2))), body, clip.motion.fps)) {
      const known = worst.get(own.hinge);
      if (!known || own.degS > known.degS) worst.set(own.hinge, own);
    }
  }
  return [...worst.values()];
}

interface Recorded {
  readonly motion: Motion;
  /** Of the left and the right foot, frame by frame. */
  readonly down: Uint8Array;
  /** Of the root: x, z, heading. */
  readonly way: Float64Array;
}

/** Plays a field from phase 0 on at a point. */
function record(player: FieldPlayer, skeleton: Skeleton, place: readonly [number, number], frames: number): Recorded {
  player.ask(place[0], place[1]);
  player.reset();
  const motion = createMotion(skeleton, FPS, frames + 1);
  const down = new Uint8Array((frames + 1) * 2);
  const way = new Float64Array((frames + 1) * 3);
  const J = skeleton.joints.length;
  const at = [0, 0, 0];
  for (let f = 0; f <= frames; f++) {
    if (f > 0) player.tick(1 / FPS);
    const turn = fromHeading(player.root[2]);
    motion.rotations.set(player.rotations, f * J * 4);
    multiply(motion.rotations, f * J * 4, turn, 0, player.rotations, 0);
    rotate(at, 0, turn, 0, player.hips, 0);
    motion.rootPositions.set([at[0] + player.root[0], at[1], at[2] + player.root[1]], f * 3);
    down.set(player.down, f * 2);
    way.set(player.root, f * 3);
  }
  return { motion, down, way };
}

function contactsOf(down: Uint8Array, first: number, frames: number): Contacts {
  const of = (side: 0 | 1) => {
    const out: { from: number; to: number }[] = [];
    for (let f = 1; f <= frames; f++) {
      const [before, now] = [down[(f - 1) * 2 + side], down[f * 2 + side]];
      if (now && !before) out.push({ from: f, to: frames + 1 });
      const last = out.at(-1);
      if (!now && before && last) last.to = f;
    }
    // Those that begin once it goes, and end before it is over.
    return out.filter(({ from, to }) => from >= first / 2 && to <= frames);
  };
  return { fps: FPS, floorM: 0, left: of(0), right: of(1) };
}

/** A grid of values of two inputs (or of one) over the clips of a field, edge to edge. */
export function fieldGrid({ points, field }: PlayableField, columns: number, rows: number): number[][] {
  const axes = points[0].at.map((_, k) => [Math.min(...points.map(({ at }) => at[k])), Math.max(...points.map(({ at }) => at[k]))]);
  const along = ([from, to]: number[], i: number, count: number) => (count > 1 ? from + ((to - from) * i) / (count - 1) : (from + to) / 2);
  if (axes.length === 1) return Array.from({ length: columns }, (_, i) => [along(axes[0], i, columns)]);
  const inside = (at: readonly number[]) => isInside(field.triangles, field.points, at);
  const out: number[][] = [];
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const at = [along(axes[0], r, rows), along(axes[1], c, columns)];
      if (field.scale[1] === 1 || field.triangles.length === 0 || inside(at)) out.push(at);
    }
  return out;
}

/** Whether a point lies in one of some triangles, edges included. */
export function isInside(triangles: ArrayLike<number>, points: ArrayLike<number>, [x, y]: readonly number[]): boolean {
  for (let t = 0; t < triangles.length; t += 3) {
    const [ax, ay, bx, by, cx, cy] = [0, 1, 2].flatMap((k) => [points[triangles[t + k] * 2], points[triangles[t + k] * 2 + 1]]);
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    const v = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / area;
    const w = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / area;
    if (v >= -1e-6 && w >= -1e-6 && v + w <= 1 + 1e-6) return true;
  }
  return false;
}
