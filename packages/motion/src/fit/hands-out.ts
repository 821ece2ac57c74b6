import type { Vec3 } from '../math/quat';
import { lowPass } from '../math/filter';
import { spreadOut } from '../math/spread-out';
import { minus, norm, plus, turned, vecAt } from '../math/vec';
import type { Leg, Side } from '../model/body';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { kneeAxis, reachWithLeg } from '../anatomy/leg-ik';
import type { Motion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { FINGERS, partOf, type Parts } from '../anatomy/parts';
import type { FitPlan } from './plan';
import { series } from '../math/series';

/** A hand that was this far below the floor in the take reached down beside it: there the floor is no bound, metres. */
const BESIDE = 0.05;

/**
 * In place: brings hands that would go through the floor up to it, smoothly, the arms turned about their shoulders so that elbows keep their angles as
 * far as that goes; the hands keep their rotations. What a wrist has below it, to the tips of the fingers, counts.
 *
 * @param source of the take, in which hands may be below the floor on purpose
 * @param globals of the motion; toes may have been bent since
 * @param ground level that the soles stand on, metres
 */
export function keepHandsOut(
  motion: Motion,
  { plan, source }: { readonly plan: FitPlan; readonly source: Globals },
  floorM: number,
  ground: number,
  globals: Globals = forwardKinematics(motion),
): void {
  for (const side of ['left', 'right'] as const) {
    const { shoulder, elbow, wrist } = plan.targetBody.arms[side];
    if (wrist < 0 || elbow < 0) continue;
    const arm: Leg = { hip: shoulder, knee: elbow, ankle: wrist, toe: -1 };
    const points = handPoints(motion.skeleton, plan.targetParts.parts, side);
    const reach = handLength(motion.skeleton, wrist, points);
    const lifts = liftsOf(globals, points, wrist, reach, ground, (f) => wasBeside(plan, source, side, f, floorM));
    if (lifts.every((lift) => lift === 0)) continue;
    const smooth = lowPass(spreadOut(lifts, Math.round(SPREAD_SECONDS * motion.fps)), HERTZ, motion.fps);
    const bend = kneeAxis(globals, arm);
    for (let f = 0; f < motion.frames; f++) {
      if (smooth[f] < 1e-5) continue;
      const [from, at] = [vecAt(globals.positions, f * globals.joints + shoulder), vecAt(globals.positions, f * globals.joints + wrist)];
      reachWithLeg(motion, globals, f, arm, raised(from, at, smooth[f]), bend);
    }
  }
}

/** Hands come up no quicker than this, hertz, and begin to so long before they must, seconds: an elbow never pops. */
const HERTZ = 2;
const SPREAD_SECONDS = 0.2;

/** How far a wrist must come up in every frame for the hand to be out of the floor, metres. */
function liftsOf(
  globals: Globals,
  points: readonly HandPoint[],
  wrist: number,
  reach: number,
  ground: number,
  isBeside: (f: number) => boolean,
): Float64Array {
  return series(globals.frames, (f) => {
    if (globals.positions[(f * globals.joints + wrist) * 3 + 1] - ground > reach) return 0;
    const depth = ground - lowest(globals, f, points);
    return depth > 0 && !isBeside(f) ? depth : 0;
  });
}

/** A wrist raised about its shoulder, outwards, so that the elbow keeps its angle; straight up where the arm hangs nearly straight down. */
function raised(shoulder: Vec3, wrist: Vec3, lift: number): Vec3 {
  const [x, y, z] = minus(wrist, shoulder);
  const [flat, up] = [Math.hypot(x, z), y + lift];
  const out = Math.sqrt(Math.max(0, x * x + y * y + z * z - up * up));
  // No hand goes further aside than it is raised: what is left bends the elbow.
  const aside = Math.min(out, flat + lift);
  return flat < 1e-4 ? [wrist[0], wrist[1] + lift, wrist[2]] : plus(shoulder, [(x * aside) / flat, up, (z * aside) / flat]);
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
