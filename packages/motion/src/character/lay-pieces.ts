import type { Vec3 } from '../math/quat';
import { minus, norm, plus, times, unit, vecAt } from '../math/vec';
import type { Body, Side } from '../model/body';
import type { Skeleton } from '../model/skeleton';
import type { StandingPose } from './canonical-pose';
import { areApart, type Fingers } from './lay-fingers';

/** A rounded piece of a body: from one place to another, thick at both ends, wider or flatter across; carried by a joint. */
export interface Piece {
  readonly joint: number;
  readonly from: Vec3;
  readonly to: Vec3;
  readonly thick: readonly [number, number];
  /** Front to back over side to side. */
  readonly deep: number;
  /** Side to side at both ends, over its thickness; 1 where it is round. */
  readonly wide?: readonly [number, number];
  readonly tone: number;
}

/**
 * The pieces that a lay figure is made of, on a body as it stands: trunk and head, thighs to toes, upper arms to hands.
 *
 * @param hands what fingers there are; without any, a hand is a mitten
 * @param scale of the body, 1 for a stature of 1.78 m
 */
export const layPieces = (
  skeleton: Skeleton,
  body: Body,
  hands: Readonly<Record<Side, Fingers>>,
  pose: StandingPose,
  scale: number,
): Piece[] => [...trunkOf(skeleton, body, pose, scale), ...limbsOf(body, hands, pose, scale)];

/** Pelvis, waist, chest, neck and head. */
function trunkOf(skeleton: Skeleton, body: Body, pose: StandingPose, scale: number): Piece[] {
  const at = (j: number): Vec3 => vecAt(pose.positions, j);
  const s = (v: number) => v * scale;
  const [left, right] = [at(body.legs.left.hip), at(body.legs.right.hip)];
  const sockets = times(plus(left, right), 0.5);
  const shoulders = shoulderMiddle(body, at) ?? plus(at(body.chest), [0, s(0.2), 0]);
  const neck = headBase(body, at, shoulders, scale);
  const head = neck;
  const wide = Math.max(s(0.08), norm(minus(left, right)) / 2);
  const chestWide = Math.max(s(0.1), shoulderHalf(body, at) ?? s(0.16));
  const waist = plus(times(sockets, 0.55), times(shoulders, 0.45));
  const chest = plus(times(sockets, 0.22), times(shoulders, 0.78));
  const across = (joint: number, middle: Vec3, half: number, thick: number, deep: number): Piece => ({
    joint,
    from: plus(middle, [half, 0, 0]),
    to: plus(middle, [-half, 0, 0]),
    thick: [thick, thick],
    deep,
    tone: 0,
  });
  /** A stretch of the trunk: where it begins and ends, half as wide and half as deep as what. */
  const stretch = (joint: number, from: Vec3, to: Vec3, halves: readonly [number, number], thick: readonly [number, number]): Piece => ({
    joint,
    from,
    to,
    thick,
    deep: 1.02,
    wide: [halves[0] / thick[0], halves[1] / thick[1]],
    tone: 0,
  });
  const [ribs, top] = [plus(chest, [0, -s(0.02), 0]), plus(shoulders, [0, -s(0.062), -s(0.004)])];
  const halves = { waist: s(0.128), ribs: chestWide * 0.8, top: chestWide * 0.86 };
  const belly = plus(sockets, [0, s(0.075), 0]);
  return [
    across(body.hips, plus(sockets, [0, s(0.04), -s(0.004)]), wide * 0.6, s(0.094), 1),
    stretch(jointNear(skeleton, body, at, belly), belly, waist, [wide * 0.6 + s(0.082), halves.waist], [s(0.09), s(0.085)]),
    stretch(jointNear(skeleton, body, at, waist), waist, ribs, [halves.waist, halves.ribs], [s(0.085), s(0.102)]),
    stretch(body.chest, ribs, top, [halves.ribs, halves.top], [s(0.102), s(0.066)]),
    { joint: body.chest, from: plus(shoulders, [0, -s(0.02), -s(0.008)]), to: neck, thick: [s(0.058), s(0.047)], deep: 1, tone: 0 },
    // The skull, the face before and below it, and a nose.
    {
      joint: body.head,
      from: plus(head, [0, s(0.105), -s(0.012)]),
      to: plus(head, [0, s(0.12), s(0.006)]),
      thick: [s(0.082), s(0.079)],
      deep: 1.14,
      tone: 0,
    },
    {
      joint: body.head,
      from: plus(head, [0, s(0.088), s(0.036)]),
      to: plus(head, [0, s(0.032), s(0.052)]),
      thick: [s(0.058), s(0.037)],
      deep: 1,
      tone: 0,
    },
    {
      joint: body.head,
      from: plus(head, [0, s(0.092), s(0.096)]),
      to: plus(head, [0, s(0.07), s(0.104)]),
      thick: [s(0.008), s(0.012)],
      deep: 1,
      tone: 1,
    },
  ];
}

/** Thighs to toes, and upper arms to hands. */
function limbsOf(body: Body, hands: Readonly<Record<Side, Fingers>>, pose: StandingPose, scale: number): Piece[] {
  const at = (j: number): Vec3 => vecAt(pose.positions, j);
  const s = (v: number) => v * scale;
  const piece = (joint: number, from: Vec3, to: Vec3, a: number, b: number, tone = 1, deep = 1): Piece => ({
    joint,
    from,
    to,
    thick: [s(a), s(b)],
    deep,
    tone,
  });
  return (['left', 'right'] as const).flatMap((side): Piece[] => {
    const { hip, knee, ankle, toe } = body.legs[side];
    const [h, k, a] = [at(hip), at(knee), at(ankle)];
    const ahead = unit([side === 'left' ? 0.1 : -0.1, 0, 1]);
    const sole = a[1] - s(0.07);
    const ball: Vec3 = toe >= 0 ? at(toe) : plus(a, times(ahead, s(0.13)));
    const level = (p: Vec3, y: number): Vec3 => [p[0], y, p[2]];
    const legs = [
      piece(hip, h, plus(times(h, 0.4), times(k, 0.6)), 0.082, 0.064),
      piece(hip, plus(times(h, 0.4), times(k, 0.6)), k, 0.064, 0.05),
      piece(knee, k, plus(times(k, 0.7), times(a, 0.3)), 0.05, 0.053),
      piece(knee, plus(times(k, 0.7), times(a, 0.3)), a, 0.053, 0.033),
      // Heel, instep and toes.
      piece(ankle, level(minus(a, times(ahead, s(0.045))), sole + s(0.03)), level(a, sole + s(0.034)), 0.03, 0.034, 0),
      piece(ankle, level(a, sole + s(0.045)), level(ball, sole + s(0.027)), 0.036, 0.03, 0),
      piece(
        toe >= 0 ? toe : ankle,
        level(ball, sole + s(0.025)),
        level(plus(ball, times(ahead, s(0.065))), sole + s(0.018)),
        0.034,
        0.022,
        0,
      ),
    ];
    return [...legs, ...armOf(body, side, hands[side], pose, piece, s)];
  });
}

function armOf(
  body: Body,
  side: Side,
  fingers: Fingers,
  pose: StandingPose,
  piece: (joint: number, from: Vec3, to: Vec3, a: number, b: number, tone?: number, deep?: number) => Piece,
  s: (v: number) => number,
): Piece[] {
  const { shoulder, elbow, wrist } = body.arms[side];
  if (shoulder < 0 || elbow < 0) return [];
  const at = (j: number): Vec3 => vecAt(pose.positions, j);
  const [b, e] = [at(shoulder), at(elbow)];
  const upper = [piece(shoulder, b, e, 0.051, 0.038)];
  if (wrist < 0) return upper;
  const w = at(wrist);
  const along = unit(minus(w, e));
  const middle = plus(times(e, 0.72), times(w, 0.28));
  const out = (far: number) => plus(w, times(along, s(far)));
  // The thumb points ahead of somebody whose arms hang half down.
  const thumb = plus(out(0.06), [0, 0, s(0.045)]);
  // All fingers in one bend where their joint is.
  const [rest = wrist] = fingers.get('Middle') ?? [];
  return [
    ...upper,
    piece(elbow, e, middle, 0.038, 0.04),
    piece(elbow, middle, w, 0.04, 0.025),
    ...(areApart(fingers)
      ? [piece(wrist, out(0.018), out(0.082), 0.021, 0.02, 0, 1.75)]
      : [piece(wrist, out(0.02), out(0.085), 0.026, 0.031, 0, 1.15), piece(rest, out(0.085), out(0.155), 0.028, 0.016, 0, 1.15)]),
    ...(fingers.has('Thumb') ? [] : [piece(wrist, out(0.025), thumb, 0.016, 0.012, 0)]),
  ];
}

const shoulderMiddle = ({ arms }: Body, at: (j: number) => Vec3): Vec3 | null =>
  arms.left.shoulder < 0 || arms.right.shoulder < 0 ? null : times(plus(at(arms.left.shoulder), at(arms.right.shoulder)), 0.5);

const shoulderHalf = ({ arms }: Body, at: (j: number) => Vec3): number | null =>
  arms.left.shoulder < 0 || arms.right.shoulder < 0 ? null : norm(minus(at(arms.left.shoulder), at(arms.right.shoulder))) / 2;

/** Longest neck from between the shoulders to the base of the skull, metres for a stature of 1.78. */
const NECK = 0.17;

/** Where the head sits on the neck: above the shoulders and no higher than a neck is long, whatever the skeleton calls its head. */
function headBase(body: Body, at: (j: number) => Vec3, shoulders: Vec3, scale: number): Vec3 {
  const up = minus(at(body.head), shoulders);
  if (up[1] <= 0) return plus(shoulders, [0, 0.02, 0]);
  return plus(shoulders, times(unit(up), Math.min(norm(up), NECK * scale)));
}

/** Of the joints between hips and chest the one that is nearest to a place. */
function jointNear({ joints }: Skeleton, { hips, chest }: Body, at: (j: number) => Vec3, place: Vec3): number {
  let best = chest;
  for (let j = chest; j >= 0; j = j === hips ? -1 : joints[j].parent)
    if (norm(minus(at(j), place)) < norm(minus(at(best), place))) best = j;
  return best;
}
