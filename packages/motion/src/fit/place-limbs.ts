import { lowPass } from '../math/filter';
import { median } from '../math/statistics';
import type { Vec3 } from '../math/quat';
import { minus, mixed, plus, times, vecAt } from '../math/vec';
import type { Leg, Side } from '../model/body';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { kneeAxis, reachWithLeg } from '../anatomy/leg-ik';
import type { Motion } from '../model/motion';
import { reachFeet } from '../edit/reach-feet';
import type { Interval } from '../model/contacts';
import { limbWeights } from './limb-weights';
import type { FitPlan } from './plan';
import { LIMBS, type FitSettings, type Limb, type Placement } from './settings';
import type { TransferSpace } from './transfer';
import { series } from '../math/series';

/** The hips give way no quicker than this, hertz. */
const GIVE_HERTZ = 2;
/** An arm reaches this share of its length without the body's help. */
const EASY_REACH = 0.97;
const SIDES = ['left', 'right'] as const;

/** What limbs are placed by: the source, what came of it, and where it is put. */
export interface PlacingInput {
  readonly plan: FitPlan;
  readonly source: Globals;
  readonly settings: FitSettings;
  readonly space: TransferSpace;
  /** The frame of the clip at which the motion begins. */
  readonly start: number;
}

/** A limb's kept places in the target's world, three numbers a frame, and how much of them is kept. */
export interface KeptPlaces {
  readonly places: Float64Array;
  readonly weights: Float64Array;
}

/** In place: brings feet with a placement weight to their kept places. Whether any has one. */
export function placeFeet(motion: Motion, input: PlacingInput): boolean {
  const { plan, settings } = input;
  const kept = { left: keptPlaces('leftFoot', motion, null, input), right: keptPlaces('rightFoot', motion, null, input) };
  if (!kept.left && !kept.right) return false;
  const globals = forwardKinematics(motion);
  const target = (side: Side) => blended(globals, plan.targetBody.legs[side].ankle, kept[side]);
  reachFeet(
    motion,
    globals,
    plan.targetBody,
    { left: target('left'), right: target('right') },
    settings.planted === 'held' || settings.give > 0,
  );
  return true;
}

/** In place: moves the hips towards what the hands lack, by the factor, smoothly. */
export function giveWay(motion: Motion, input: PlacingInput, handContacts: HandContacts): void {
  const { plan, settings } = input;
  if (settings.give === 0) return;
  // Most hands keep no place: then nothing has to be known of where they are.
  let posed: Globals | null = null;
  const shift = [0, 1, 2].map(() => new Float64Array(motion.frames));
  let gives = false;
  for (const side of SIDES) {
    const arm = plan.targetBody.arms[side];
    const kept = keptPlaces(`${side}Hand`, motion, handContacts, input);
    if (!kept || arm.wrist < 0) continue;
    const globals: Globals = (posed ??= forwardKinematics(motion));
    const length = armLength(globals, arm);
    for (let f = 0; f < motion.frames; f++) {
      const at = (f * globals.joints + arm.shoulder) * 3;
      const to = [0, 1, 2].map((k) => kept.places[f * 3 + k] - globals.positions[at + k]);
      const far = Math.hypot(...to);
      const lacks = kept.weights[f] * Math.max(0, far - EASY_REACH * length);
      if (lacks <= 0) continue;
      gives = true;
      for (let k = 0; k < 3; k++) shift[k][f] += (settings.give * lacks * to[k]) / far;
    }
  }
  if (!gives) return;
  shift.forEach((values, k) => {
    const smooth = lowPass(values, GIVE_HERTZ, motion.fps);
    for (let f = 0; f < motion.frames; f++) motion.rootPositions[f * 3 + k] += smooth[f];
  });
}

/** In place: brings hands to their kept places. @returns for each hand that has any how far it stays off, metres, at the most */
export function placeHands(motion: Motion, input: PlacingInput, handContacts: HandContacts): Partial<Record<Limb, number>> {
  const lacks: Partial<Record<Limb, number>> = {};
  // A hand that follows the other comes after it.
  const order = [...SIDES].sort((a, b) => Number(isToOther(input, a)) - Number(isToOther(input, b)));
  for (const side of order) {
    const arm = input.plan.targetBody.arms[side];
    if (arm.wrist < 0 || arm.elbow < 0) continue;
    const kept = keptPlaces(`${side}Hand`, motion, handContacts, input);
    if (!kept) continue;
    const globals = forwardKinematics(motion);
    const leg: Leg = { hip: arm.shoulder, knee: arm.elbow, ankle: arm.wrist, toe: -1 };
    const bend = kneeAxis(globals, leg);
    const target = blended(globals, arm.wrist, kept);
    let most = 0;
    for (let f = 0; f < motion.frames; f++) {
      if (kept.weights[f] === 0) continue;
      most = Math.max(
        most,
        kept.weights[f] * reachWithLeg(motion, globals, f, leg, [target[f * 3], target[f * 3 + 1], target[f * 3 + 2]], bend),
      );
    }
    lacks[`${side}Hand`] = most;
  }
  return lacks;
}

export type HandContacts = Readonly<Record<Side, readonly Interval[]>>;

const isToOther = ({ settings }: PlacingInput, side: Side) => settings.placement[`${side}Hand`]?.to === 'other-hand';
const otherSide = (side: Side): Side => (side === 'left' ? 'right' : 'left');

function armLength(
  { positions }: Globals,
  { shoulder, elbow, wrist }: { readonly shoulder: number; readonly elbow: number; readonly wrist: number },
): number {
  const between = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((k) => positions[a * 3 + k] - positions[b * 3 + k]));
  return between(shoulder, elbow) + between(elbow, wrist);
}

function blended(globals: Globals, joint: number, kept: KeptPlaces | null): Float64Array {
  const out = new Float64Array(globals.frames * 3);
  for (let f = 0; f < globals.frames; f++) {
    const w = kept ? kept.weights[f] : 0;
    for (let k = 0; k < 3; k++) {
      const here = globals.positions[(f * globals.joints + joint) * 3 + k];
      out[f * 3 + k] = kept && w > 0 ? here + (kept.places[f * 3 + k] - here) * w : here;
    }
  }
  return out;
}

/** Where a limb is to be, frame by frame; null when nothing is asked of it. */
function keptPlaces(
  limb: Limb,
  motion: Motion,
  rests: HandContacts | null,
  { plan, source, settings, space, start }: PlacingInput,
): KeptPlaces | null {
  const isHand = limb === LIMBS[0] || limb === LIMBS[1];
  const side: Side = limb.startsWith('left') ? 'left' : 'right';
  const joint = isHand ? plan.sourceBody.arms[side].wrist : plan.sourceBody.legs[side].ankle;
  const placement = settings.placement[limb];
  const resting = rests && settings.planted === 'held' ? rests[side] : [];
  if (joint < 0 || (!placement && resting.length === 0)) return null;
  const weights = placement ? limbWeights(placement, motion.frames, motion.fps, start) : new Float64Array(motion.frames);
  if (resting.length === 0 && weights.every((w) => w === 0)) return null;
  const captured = (j: number, f: number): Vec3 => vecAt(source.positions, f * source.joints + j);
  const onFloor = ([x, y, z]: Vec3): Vec3 => [
    space.alongScale * x,
    space.floorM + space.heightScale * (y - space.floorM) + (isHand ? 0 : space.heightM),
    space.alongScale * z,
  ];
  const places = new Float64Array(motion.frames * 3);
  const against =
    placement && weights.some((w) => w > 0) ? placeAgainst(placement, side, isHand, motion, plan, source, captured, onFloor, space) : null;
  for (let f = 0; f < motion.frames; f++) places.set((against ?? ((n: number) => onFloor(captured(joint, n))))(f), f * 3);
  if (resting.length > 0) holdRests(places, weights, resting, motion, (f) => onFloor(captured(joint, f)));
  return { places, weights };
}

function placeAgainst(
  { to, prop }: Placement,
  side: Side,
  isHand: boolean,
  motion: Motion,
  plan: FitPlan,
  source: Globals,
  captured: (joint: number, f: number) => Vec3,
  onFloor: (place: Vec3) => Vec3,
  { alongScale, floorM }: TransferSpace,
): (f: number) => Vec3 {
  const body = plan.sourceBody;
  const own = isHand ? body.arms[side].wrist : body.legs[side].ankle;
  if (to === 'prop' && prop) {
    // Props keep their size; they stand where the way over the floor has moved them.
    return (f) => {
      const [x, y, z] = captured(own, f);
      return [x + (alongScale - 1) * prop.x, y, z + (alongScale - 1) * prop.z];
    };
  }
  if (to === 'hips' || (to === 'other-hand' && isHand)) {
    const globals = forwardKinematics(motion);
    const other = to === 'other-hand' ? plan.targetBody.arms[otherSide(side)].wrist : -1;
    const [base, ratio] = other >= 0 ? [body.arms[otherSide(side)].wrist, 1] : [-1, isHand ? plan.armRatio : plan.legRatio];
    const middle = (g: Globals, { left, right }: FitPlan['sourceBody']['legs'], f: number): Vec3 =>
      mixed(vecAt(g.positions, f * g.joints + left.hip), vecAt(g.positions, f * g.joints + right.hip), 0.5);
    return (f) => {
      const from = base >= 0 ? captured(base, f) : middle(source, body.legs, f);
      const onto = other >= 0 ? vecAt(globals.positions, f * globals.joints + other) : middle(globals, plan.targetBody.legs, f);
      return plus(onto, times(minus(captured(own, f), from), ratio));
    };
  }
  return (f) => {
    const [x, y, z] = onFloor(captured(own, f));
    return [x, Math.max(floorM, y), z];
  };
}

/** In place: while a hand rests on something it stays where it does, scaled like the floor. */
function holdRests(
  places: Float64Array,
  weights: Float64Array,
  rests: readonly Interval[],
  { frames, fps }: Motion,
  place: (f: number) => Vec3,
): void {
  const fade = Math.max(2, Math.round(0.2 * fps));
  for (const { from, to } of rests) {
    const held = [0, 1, 2].map((k) => median(series(Math.max(1, to - from), (i) => place(Math.min(frames - 1, from + i))[k])));
    const own = limbWeights({ weight: 0, holds: [{ from, to: to - 1, weight: 1, fade: fade / fps }] }, frames, fps, 0);
    for (let f = 0; f < frames; f++) {
      if (own[f] === 0) continue;
      // Between the kept place and the rest's, by how much each counts.
      const share = own[f] / Math.max(own[f], weights[f] || 0, 1e-9);
      for (let k = 0; k < 3; k++) places[f * 3 + k] += (held[k] - places[f * 3 + k]) * Math.min(1, share);
      weights[f] = Math.max(weights[f], own[f]);
    }
  }
}
