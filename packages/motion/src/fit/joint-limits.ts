import { DEGREES } from '../math/angles';
import { angleBetween, multiply, multiplyInverse, type Vec3 } from '../math/quat';
import { cross, inner, minus, turned, unit, vecAt } from '../math/vec';
import type { Globals } from '../model/kinematics';
import { firstOf, type Part } from '../anatomy/parts';
import type { FitPlan } from './plan';

/** How far a joint goes beyond what such joints do, and where that is worst. */
export interface BeyondLimit {
  readonly part: Part;
  readonly degrees: number;
  readonly frame: number;
}

/** Hinges: degrees from straight, beyond straight negative. Generous: a tired limb is no fault. */
const HINGES = { Shin: [-6, 160], Forearm: [-10, 160] } as const;
/** Others: degrees that one part may turn from where it stands to its neighbour in the reference. */
const TURNS = { Hand: 100, Foot: 85 } as const;
const HEAD_TURN = 110;

/**
 * Where knees and elbows bend backwards or too far, and hands, feet and head turn further than theirs do; the worst of each part first. About
 * the range of healthy joints (Winter, 2009), with room.
 *
 * @example
 * beyondLimits(plan, forwardKinematics(fitMotion(motion, character, settings).motion)); // []
 */
export function beyondLimits({ targetParts: { parts }, targetReference, character }: FitPlan, globals: Globals): BeyondLimit[] {
  const out: BeyondLimit[] = [];
  const note = (part: Part, angle: (f: number) => number, [least, most]: readonly [number, number]) => {
    let worst = 0;
    let frame = 0;
    for (let f = 0; f < globals.frames; f++) {
      const a = angle(f);
      const over = Math.max(least - a, a - most);
      if (over <= worst) continue;
      worst = over;
      frame = f;
    }
    if (worst > 0) out.push({ part, degrees: worst, frame });
  };
  const J = globals.joints;
  const at = (f: number, j: number) => vecAt(globals.positions, f * J + j);
  for (const side of ['left', 'right'] as const) {
    for (const [part, upper, end] of [
      ['Shin', 'Thigh', 'Foot'],
      ['Forearm', 'UpperArm', 'Hand'],
    ] as const) {
      const [a, b, c] = [firstOf(parts, `${side}${upper}`), firstOf(parts, `${side}${part}`), firstOf(parts, `${side}${end}`)];
      if (a < 0 || b < 0 || c < 0) continue;
      const ref = (j: number) => vecAt(targetReference.positions, j);
      // In the reference both bend a little, in the plane they bend in.
      const hinge = unit(cross(minus(ref(b), ref(a)), minus(ref(c), ref(b))));
      const q = targetReference.rotations.subarray(a * 4, a * 4 + 4);
      const local = turned([-q[0], -q[1], -q[2], q[3]], 0, hinge);
      note(
        `${side}${part}`,
        (f) => {
          const axis: Vec3 = turned(globals.rotations, (f * J + a) * 4, local);
          const [u, l] = [unit(minus(at(f, b), at(f, a))), unit(minus(at(f, c), at(f, b)))];
          return Math.atan2(inner(cross(u, l), axis), inner(u, l)) * DEGREES;
        },
        HINGES[part],
      );
    }
    for (const part of ['Hand', 'Foot'] as const) {
      const joint = firstOf(parts, `${side}${part}`);
      if (joint >= 0)
        note(`${side}${part}`, against(globals, targetReference.rotations, joint, character.skeleton.joints[joint].parent), [
          0,
          TURNS[part],
        ]);
    }
  }
  const head = firstOf(parts, 'head');
  const chest = parts.spine?.joints.at(-1) ?? -1;
  if (head >= 0 && chest >= 0) note('head', against(globals, targetReference.rotations, head, chest), [0, HEAD_TURN]);
  return out.sort((a, b) => b.degrees - a.degrees);
}

/** How far a joint is turned against another from where it stands to it in the reference, degrees. */
function against(globals: Globals, reference: Float64Array, joint: number, other: number): (f: number) => number {
  const rest = [0, 0, 0, 1];
  const now = [0, 0, 0, 1];
  multiplyInverse(rest, 0, reference, other * 4, reference, joint * 4);
  const identity = [0, 0, 0, 1];
  return (f) => {
    multiplyInverse(now, 0, globals.rotations, (f * globals.joints + other) * 4, globals.rotations, (f * globals.joints + joint) * 4);
    multiply(now, 0, now, 0, [-rest[0], -rest[1], -rest[2], rest[3]], 0);
    return angleBetween(now, 0, identity, 0) * DEGREES;
  };
}
