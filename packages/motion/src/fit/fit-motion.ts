import { quantile } from '../math/statistics';
import { vecAt } from '../math/vec';
import type { Contacts, Interval } from '../model/contacts';
import { addBelt, type Belt } from '../measure/belt';
import { groundwork, onTheWay } from '../measure/groundwork';
import { handContacts } from '../measure/hand-contacts';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { lockFeet } from '../edit/lock-feet';
import type { Motion } from '../model/motion';
import { keepSeatOut, seatDepths, seatPoints } from './body-out';
import type { Character } from '../character/character';
import { giveWay, placeFeet, placeHands, type HandContacts, type PlacingInput } from './place-limbs';
import { keepHandsOut } from './hands-out';
import { fitPlan, type FitPlan } from './plan';
import type { FitSettings, Limb } from './settings';
import { soleTracks } from './sole-tracks';
import { bendToes } from './toes';
import { transfer, type TransferSpace } from './transfer';
import { trackOf } from '../model/track';

/** A motion on a character's joints. */
export interface Fitted {
  readonly motion: Motion;
  /** What it was made of. */
  readonly source: Motion;
  readonly plan: FitPlan;
  readonly space: TransferSpace;
  /** The level that the soles of the skin stand on, metres. */
  readonly groundM: number;
  /** When feet and hands bear, as found in the source and kept in the target. */
  readonly contacts: Contacts;
  /** How far hands stay off the places that they were to keep, metres, at the most. */
  readonly lacks: Partial<Record<Limb, number>>;
  /** Of someone who walks on the spot: how fast the floor goes under the target. */
  readonly belt: Belt | null;
}

/** A toe tip that trembles into the floor by less is left, metres. */
const SLACK = 0.002;
/** Seconds that a foot takes into and out of a held contact. */
const BLEND = 0.2;

/**
 * Carries a motion onto a character: world rotations against a common reference, the way scaled by the legs, hands and feet brought to the
 * places they are to keep, planted feet held, toes out of the floor. Onto someone built alike it changes nothing.
 *
 * Ideas: Gleicher, *Retargetting Motion to New Characters*, 1998; Shin, Lee, Shin, Gleicher, *Computer Puppetry*, 2001.
 *
 * @param motion metres, Y up
 * @param start the frame of the clip at which the motion begins: where stretches of placement weights count from
 * @throws InputError `fit` when the source has no two legs
 *
 * @example
 * fitMotion(motion, character, settings).motion.skeleton.joints.length === character.skeleton.joints.length; // true
 */
export function fitMotion(
  motion: Motion,
  character: Character,
  settings: FitSettings,
  start = 0,
  plan: FitPlan = fitPlan(motion, character, settings),
): Fitted {
  const found = groundwork(motion);
  // Feet on a floor that moves are planted as if they went, and the way is taken out again.
  if (found?.belt) return onTheSpot(found.belt, fitMotion(onTheWay(motion, found.belt), character, settings, start, plan));
  const globals = found?.globals ?? forwardKinematics(motion);
  const floorM = found?.soles.floor ?? 0;
  const contacts = contactsOf(plan, found?.contacts ?? { fps: motion.fps, floorM, left: [], right: [] }, found?.body.legs.left.hip);
  const space = spaceOf(plan, globals, floorM, settings);
  const out = transfer(plan, motion, globals, settings, space);
  const isPlain = settings.planted === 'free' || (plan.sameBuild && Object.keys(settings.offsets).length === 0 && settings.soleCm === 0);
  const hands: HandContacts = isPlain ? { left: [], right: [] } : handContacts(globals, plan.sourceBody, motion.fps);
  const input: PlacingInput = { plan, source: globals, settings, space, start };
  giveWay(out, input, hands);
  if (settings.seat === 'out')
    keepSeatOut(out, seatDepths(forwardKinematics(out), seatPoints(character), plan.targetBody.hips, floorM + settings.soleCm / 100));
  placeFeet(out, input);
  const ground = floorM + settings.soleCm / 100;
  const solesIn = (_: Motion, g: Globals) => soleTracks(character, g, ground);
  let held = out;
  let posed: Globals | undefined;
  if (!isPlain) {
    bendToes(held, plan, contacts, ground, 0);
    const before = forwardKinematics(held);
    held = lockFeet(
      { motion: held, globals: before, body: plan.targetBody, soles: solesIn(held, before) },
      contacts,
      { blend: BLEND, hips: true, level: true },
      2,
      solesIn,
    );
    posed = bendToes(held, plan, contacts, ground, SLACK);
  }
  const lacks = placeHands(held, input, hands);
  // Bent toes move no hand.
  if (!isPlain) keepHandsOut(held, input, floorM, ground, Object.keys(lacks).length > 0 ? undefined : posed);
  return { motion: held, source: motion, plan, space, groundM: ground, contacts: { ...contacts, ...named(hands) }, lacks, belt: null };
}

function onTheSpot({ x, z }: Belt, fitted: Fitted): Fitted {
  const belt = { x: x * fitted.space.alongScale, z: z * fitted.space.alongScale };
  addBelt(fitted.motion.rootPositions, belt, fitted.motion.fps, -1);
  return { ...fitted, belt };
}

const named = ({ left, right }: HandContacts): Partial<Contacts> => ({
  ...(left.length > 0 && { leftHand: left }),
  ...(right.length > 0 && { rightHand: right }),
});

/** Contacts by the feet as they are mapped, whatever their names say. */
function contactsOf({ sourceBody }: FitPlan, contacts: Contacts, leftHip: number | undefined): Contacts {
  const isSwapped = leftHip !== undefined && leftHip === sourceBody.legs.right.hip;
  const { left, right }: { left: readonly Interval[]; right: readonly Interval[] } = contacts;
  return { fps: contacts.fps, floorM: contacts.floorM, left: [...(isSwapped ? right : left)], right: [...(isSwapped ? left : right)] };
}

function spaceOf(plan: FitPlan, globals: Globals, floorM: number, { travel, soleCm }: FitSettings): TransferSpace {
  const alongScale = travel === 'legs' ? plan.legRatio : travel === 'captured' ? 1 : travel;
  const { legs } = plan.sourceBody;
  const sole = soleCm / 100;
  if (plan.sameBuild) return { floorM, alongScale, heightScale: plan.legRatio, heightM: sole };
  const standing = (ankle: number) => quantile(trackOf(globals, ankle, 1), 0.1) - floorM;
  const own = (standing(legs.left.ankle) + standing(legs.right.ankle)) / 2;
  const heightM = ankleHeight(plan) - plan.legRatio * own + sole;
  return { floorM, alongScale, heightScale: plan.legRatio, heightM };
}

/** Of the target's ankles over its soles as it stands in the reference, the mean of both. */
function ankleHeight({ character, targetReference, targetBody }: FitPlan): number {
  const one: Globals = {
    frames: 1,
    joints: character.skeleton.joints.length,
    positions: Float32Array.from(targetReference.positions),
    rotations: Float32Array.from(targetReference.rotations),
  };
  const { left, right } = soleTracks(character, one, 0);
  const over = (ankle: number, heel: Float32Array) => vecAt(targetReference.positions, ankle)[1] - heel[1];
  return (over(targetBody.legs.left.ankle, left.heel) + over(targetBody.legs.right.ankle, right.heel)) / 2;
}
