import type { Vec3 } from '../math/quat';
import { norm, turned, vecAt } from '../math/vec';
import type { Leg, Side } from '../model/body';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { kneeAxis, reachWithLeg } from '../model/leg-ik';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { FINGERS, partOf, type Parts } from './parts';
import type { FitPlan } from './plan';

/** A hand that was this far below the floor in the take reached down beside it: there the floor is no bound, metres. */
const BESIDE = 0.05;

/**
 * In place: brings hands that would go through the floor up to it, wrists in closed form, the hands keeping their rotations. What a wrist has below it, to
 * the tips of the fingers, counts.
 *
 * @param source of the take, in which hands may be below the floor on purpose
 * @param ground level that the soles stand on, metres
 */
export function keepHandsOut(
  motion: Motion,
  { plan, source }: { readonly plan: FitPlan; readonly source: Globals },
  floorM: number,
  ground: number,
): void {
  const globals = forwardKinematics(motion);
  for (const side of ['left', 'right'] as const) {
    const { shoulder, elbow, wrist } = plan.targetBody.arms[side];
    if (wrist < 0 || elbow < 0) continue;
    const arm: Leg = { hip: shoulder, knee: elbow, ankle: wrist, toe: -1 };
    const points = handPoints(motion.skeleton, plan.targetParts.parts, side);
    const reach = handLength(motion.skeleton, wrist, points);
    let bend: Vec3 | null = null;
    for (let f = 0; f < motion.frames; f++) {
      if (globals.positions[(f * globals.joints + wrist) * 3 + 1] - ground > reach) continue;
      const depth = ground - lowest(globals, f, points);
      if (depth <= 0 || wasBeside(plan, source, side, f, floorM)) continue;
      bend ??= kneeAxis(globals, arm);
      const [x, y, z] = vecAt(globals.positions, f * globals.joints + wrist);
      reachWithLeg(motion, globals, f, arm, [x, y + depth, z], bend);
    }
  }
}

interface HandPoint {
  readonly joint: number;
  readonly local: Vec3;
}

/** The joints of a hand and the tips of its fingers; what it holds is not the hand. */
function handPoints({ joints }: Skeleton, parts: Parts['parts'], side: Side): HandPoint[] {
  const own = (['Hand', ...FINGERS] as const).flatMap((part) => parts[partOf(side, part)]?.joints ?? []);
  return own.flatMap((joint) => [[0, 0, 0] as Vec3, ...joints[joint].endSites].map((local) => ({ joint, local })));
}

/** No point of a hand is further from its wrist, however it bends. */
function handLength({ joints }: Skeleton, wrist: number, points: readonly HandPoint[]): number {
  const along = (joint: number): number => (joint === wrist || joint < 0 ? 0 : norm(joints[joint].offset) + along(joints[joint].parent));
  return Math.max(...points.map(({ joint, local }) => along(joint) + norm(local)));
}

function lowest({ positions, rotations, joints }: Globals, f: number, points: readonly HandPoint[]): number {
  let low = Infinity;
  for (const { joint, local } of points) {
    const at = f * joints + joint;
    low = Math.min(low, positions[at * 3 + 1] + turned(rotations, at * 4, local)[1]);
  }
  return low;
}

function wasBeside({ sourceBody }: FitPlan, { positions, joints }: Globals, side: Side, f: number, floorM: number): boolean {
  const { wrist } = sourceBody.arms[side];
  return wrist >= 0 && positions[(f * joints + wrist) * 3 + 1] < floorM - BESIDE;
}
