import { inner, minus, norm, plus, times, vecAt } from '../math/vec';
import type { Vec3 } from '../math/quat';
import type { Body, Side } from '../model/body';
import type { FixedPoint } from '../model/fixed-point';
import { restPose, type Skeleton } from '../model/skeleton';
import type { CharacterSkin } from './character';
import { fixedAt } from './fixed-at';

/** A round bar about a line between two points that are fixed to joints, metres. */
export interface Capsule {
  readonly part: string;
  readonly from: FixedPoint;
  readonly to: FixedPoint;
  readonly radius: number;
}

/** The capsules of a body: those that can be moved out of others, and those that they can go into. */
export interface BodyCapsules {
  readonly trunk: readonly Capsule[];
  readonly thighs: Readonly<Record<Side, Capsule>>;
  readonly shins: Readonly<Record<Side, Capsule>>;
  /** Forearm and hand; none of an arm that is not whole. */
  readonly arms: Readonly<Record<Side, readonly Capsule[]>>;
}

/** Radii as shares of the leg's length, where no skin tells better: half-depth of the trunk, thigh, shin, forearm, hand. */
const SHARES = { trunk: 0.115, thigh: 0.085, shin: 0.052, forearm: 0.042, hand: 0.04 } as const;
/** Of the distances of a skin's vertices from a bone this share is nearer: a belt or a cuff sticks out. */
const NEARER = 0.6;

/**
 * Capsules fitted to a skeleton by body proportion, or to a character's own skin.
 *
 * @param skin of a character with this skeleton
 */
export function bodyCapsules(skeleton: Skeleton, body: Body, skin: CharacterSkin | null = null): BodyCapsules {
  // A skin goes by where its joints stood when it was bound.
  const rest = skin ? { positions: skin.bindPositions, rotations: skin.bindRotations } : restPose(skeleton);
  const at = (j: number) => vecAt(rest.positions, j);
  const leg = body.legs.left;
  const length = norm(minus(at(leg.knee), at(leg.hip))) + norm(minus(at(leg.ankle), at(leg.knee)));
  const fixed = (joint: number, place: Vec3): FixedPoint => fixedAt(rest, joint, place);
  const make = (
    part: string,
    from: FixedPoint,
    to: FixedPoint,
    share: number,
    lines: readonly Line[],
    joints: readonly number[],
  ): Capsule => ({
    part,
    from,
    to,
    radius: (skin && radiusIn(skin, lines, joints)) ?? share * length,
  });
  const bone = (part: string, a: number, b: number, share: number): Capsule =>
    make(part, fixed(a, at(a)), { joint: b, local: [0, 0, 0] }, share, [[at(a), at(b)]], between(skeleton, a, b));
  const bySide = <Of>(of: (side: Side) => Of): Record<Side, Of> => ({ left: of('left'), right: of('right') });
  const neck = at(body.chest);
  const shoulders = bySide((side) => (body.arms[side].shoulder >= 0 ? at(body.arms[side].shoulder) : neck));
  // The trunk is wider than deep: a bar on either side, from the socket of the leg to within the shoulder.
  const middle = times(plus(shoulders.left, shoulders.right), 0.5);
  const bars = bySide((side): Line => {
    const high = plus(middle, times(minus(shoulders[side], middle), 0.45));
    return [at(body.legs[side].hip), [high[0], high[1] - 0.06 * length, high[2]]];
  });
  const trunk = (['left', 'right'] as const).map((side) => {
    const [low, top] = bars[side];
    return make('trunk', fixed(body.hips, low), fixed(body.chest, top), SHARES.trunk, [bars.left, bars.right], trunkJoints(skeleton, body));
  });
  return {
    trunk,
    thighs: bySide((side) => bone('thigh', body.legs[side].hip, body.legs[side].knee, SHARES.thigh)),
    shins: bySide((side) => bone('shin', body.legs[side].knee, body.legs[side].ankle, SHARES.shin)),
    arms: bySide((side) => {
      const { elbow, wrist } = body.arms[side];
      if (elbow < 0 || wrist < 0) return [];
      const tip = tipOf(skeleton, rest.positions, wrist);
      return [
        bone('forearm', elbow, wrist, SHARES.forearm),
        make('hand', { joint: wrist, local: [0, 0, 0] }, fixed(wrist, tip), SHARES.hand, [[at(wrist), tip]], [wrist]),
      ];
    }),
  };
}

/** Joints on the way from one to another, the last left out. */
function between({ joints }: Skeleton, a: number, b: number): number[] {
  const out: number[] = [];
  for (let j = joints[b].parent; j >= 0; j = joints[j].parent) {
    out.push(j);
    if (j === a) return out;
  }
  return [a];
}

function trunkJoints(skeleton: Skeleton, { hips, chest }: Body): number[] {
  return [...between(skeleton, hips, chest), chest];
}

/** Two thirds of the way to where the hand ends. */
function tipOf({ joints }: Skeleton, positions: ArrayLike<number>, wrist: number): Vec3 {
  const here = vecAt(positions, wrist);
  let far: Vec3 = here;
  joints.forEach((joint, j) => {
    for (let up = j; up >= 0; up = joints[up].parent) {
      if (up !== wrist) continue;
      for (const place of [vecAt(positions, j), ...joint.endSites.map((site) => plus(vecAt(positions, j), site))])
        if (norm(minus(place, here)) > norm(minus(far, here))) far = place;
      break;
    }
  });
  return plus(here, times(minus(far, here), 0.66));
}

type Line = readonly [Vec3, Vec3];

/** How far the skin of some joints is from the nearest of some lines, metres, by the distance that most are nearer than; null where there is none. */
function radiusIn({ positions, joints, weights }: CharacterSkin, lines: readonly Line[], of: readonly number[]): number | null {
  const own = new Set(of);
  const all: number[] = [];
  for (let v = 0; v < positions.length / 3; v++) {
    let most = v * 4;
    for (let i = v * 4; i < v * 4 + 4; i++) if (weights[i] > weights[most]) most = i;
    if (!own.has(joints[most])) continue;
    const away = Math.min(...lines.map((line) => besideLine(vecAt(positions, v), line)));
    if (Number.isFinite(away)) all.push(away);
  }
  if (all.length < 12) return null;
  return all.sort((p, q) => p - q)[Math.floor(NEARER * (all.length - 1))];
}

/** How far a place is from a line, of what lies beside it and not beyond its ends. */
function besideLine(place: Vec3, [a, b]: Line): number {
  const line = minus(b, a);
  const to = minus(place, a);
  const t = inner(to, line) / (inner(line, line) || 1);
  return t >= 0.1 && t <= 0.9 ? norm(minus(to, times(line, t))) : Infinity;
}
