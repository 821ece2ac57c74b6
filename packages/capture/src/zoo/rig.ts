import type { Side, Vec3 } from '@lantern/motion';
import { figure, jointNumber, type JointName } from '../figure';
import { NAMING, type RigPart } from './names';

/** How a rig differs from the suit's own skeleton. Left out is as the suit has it. */
export interface RigHabits {
  /** `neck`: both collars start in one point with the neck; `long`: in one point low in the chest, as long as a forearm; `none`: arms hang on the chest. */
  readonly collars?: 'usual' | 'neck' | 'long' | 'none';
  /** The forearms' length as a share of the suit's. */
  readonly forearms?: number;
  readonly spines?: 1 | 2 | 3 | 5;
  readonly necks?: 0 | 1 | 2;
  /** Joints that take up twist: in line with the limbs, or beside them. */
  readonly twist?: 'in-line' | 'beside';
  /** Joints of no length: between the hips and the thighs, and over the spine; or in the middle of limbs. */
  readonly zero?: 'hips' | 'limbs';
  /** Lips, jaw, eyes and hair. */
  readonly face?: boolean;
  readonly fingers?: 'none' | 'thumb' | 'all';
  readonly toes?: boolean;
  /** The foot ends in the ankle: no foot at all, or toes that hang from the shin. */
  readonly feet?: 'usual' | 'none' | 'called-toes';
  /** What carries the hips: nothing, a joint on the floor under them, one that stays at the origin, or one that has a second child. */
  readonly root?: 'hips' | 'travelling' | 'still' | 'two';
  /** The pose that the rest pose shows. */
  readonly rest?: 'T' | 'A' | 'zero' | 'seated' | 'lying' | 'turned';
  /** `own`: every joint's axes are turned somehow of its own. */
  readonly axes?: 'world' | 'own';
  readonly naming?: string;
}

/** A joint of a rig as the T-pose has it, and the segment of the suit that it is fixed to. */
export interface RigJoint extends RigPart {
  readonly name: string;
  readonly parent: number;
  /** In the T-pose, metres. */
  readonly place: Vec3;
  /** It turns as this joint of the suit does, or `share` of the way from it to another. */
  readonly rides: JointName | null;
  readonly to?: JointName;
  readonly share?: number;
  /** Ends of bones, in the T-pose. */
  readonly ends: readonly Vec3[];
}

export interface Rig {
  readonly joints: readonly RigJoint[];
  readonly habits: RigHabits;
  /** Stature of the suit's performer who wears it, metres. */
  readonly stature: number;
}

interface Draft extends Partial<Omit<RigJoint, 'parent' | 'name'>> {
  readonly part: string;
  readonly place: Vec3;
}

const SIDES = [
  ['left', 'Left', 1],
  ['right', 'Right', -1],
] as const;

/** Builds the rig of somebody of a stature: the suit's own proportions, with other joints. */
export function buildRig(habits: RigHabits, stature = 1.78): Rig {
  const { skeleton } = figure(stature);
  const suit: Vec3[] = [];
  skeleton.joints.forEach(({ parent, offset }, j) => {
    suit[j] = parent < 0 ? offset : add(suit[parent], offset);
  });
  const at = (name: JointName) => suit[jointNumber(name)];
  const joints: RigJoint[] = [];
  const call = NAMING[habits.naming ?? 'side in front'];
  const put = (parent: number, { part, side = null, index = 0, place, rides = null, ends = [], ...more }: Draft): number => {
    const name = call({ part, side, index }) || `joint${joints.length}`;
    joints.push({ name, parent, part, side, index, place, rides, ends, ...more });
    return joints.length - 1;
  };
  const zeros = habits.zero === 'limbs';

  let root = -1;
  if (habits.root && habits.root !== 'hips') root = put(-1, { part: 'root', place: [0, 0, 0] });
  if (habits.root === 'two') put(root, { part: 'goal', place: [0, 0, 0.3], ends: [[0, 0, 0.5]] });
  const hips = put(root, { part: 'hips', place: at('Hips'), rides: 'Hips' });

  const trunk = spine(put, hips, habits, at);
  const head = neckAndHead(put, trunk, habits, at, stature);
  if (habits.face) face(put, head, at('Head'), stature / 1.78);
  for (const [side, Name, sign] of SIDES) {
    arm(put, side, Name, sign, trunk, habits, at, stature / 1.78);
  }
  for (const [side, Name, sign] of SIDES) {
    const top = habits.zero === 'hips' ? put(hips, { part: 'HipJoint', side, place: at('Hips'), rides: 'Hips' }) : hips;
    leg(put, side, Name, sign, top, habits, at, zeros, stature / 1.78);
  }
  return { joints, habits, stature };
}

type Put = (parent: number, draft: Draft) => number;
type At = (name: JointName) => Vec3;

function spine(put: Put, hips: number, { spines = 2, zero }: RigHabits, at: At): number {
  const [low, high, top] = [at('Waist'), at('Ribs'), at('Neck')];
  const base = zero === 'hips' ? put(hips, { part: 'LowerBack', place: at('Hips'), rides: 'Hips' }) : hips;
  if (spines === 1) return put(base, { part: 'spine', place: low, rides: 'Ribs' });
  const between: readonly (readonly [Vec3, Pick<RigJoint, 'rides' | 'to' | 'share'>])[] =
    spines === 2
      ? [
          [low, { rides: 'Waist' }],
          [high, { rides: 'Ribs' }],
        ]
      : spines === 3
        ? [
            [low, { rides: 'Waist' }],
            [mix(low, high, 0.5), { rides: 'Waist', to: 'Ribs', share: 0.5 }],
            [high, { rides: 'Ribs' }],
          ]
        : [
            [mix(at('Hips'), low, 0.5), { rides: 'Hips', to: 'Waist', share: 0.5 }],
            [low, { rides: 'Waist' }],
            [mix(low, high, 0.5), { rides: 'Waist', to: 'Ribs', share: 0.5 }],
            [high, { rides: 'Ribs' }],
            [mix(high, top, 0.35), { rides: 'Ribs' }],
          ];
  return between.reduce((parent, [place, rides], index) => put(parent, { part: 'spine', index, place, ...rides }), base);
}

function neckAndHead(put: Put, chest: number, { necks = 1 }: RigHabits, at: At, stature: number): number {
  const crown: Vec3 = [at('Head')[0], stature, at('Head')[2]];
  let parent = chest;
  if (necks > 0) parent = put(parent, { part: 'neck', place: at('Neck'), rides: 'Neck' });
  if (necks > 1)
    parent = put(parent, { part: 'neck', index: 1, place: mix(at('Neck'), at('Head'), 0.5), rides: 'Neck', to: 'Head', share: 0.5 });
  return put(parent, { part: 'head', place: necks > 0 ? at('Head') : mix(at('Neck'), at('Head'), 0.3), rides: 'Head', ends: [crown] });
}

/** All of them turn with the head; hair reaches above the crown. */
function face(put: Put, head: number, place: Vec3, h: number): void {
  const near = (x: number, y: number, z: number): Vec3 => add(place, [x * h, y * h, z * h]);
  const jaw = put(head, { part: 'jaw', place: near(0, 0.02, 0.02), rides: 'Head', ends: [near(0, -0.02, 0.1)] });
  put(jaw, { part: 'lips', place: near(0, 0.02, 0.11), rides: 'Head' });
  for (const [side, , sign] of SIDES) {
    put(head, { part: 'eye', side, place: near(0.035 * sign, 0.1, 0.09), rides: 'Head', ends: [near(0.035 * sign, 0.1, 0.12)] });
  }
  const hair = put(head, { part: 'hair', place: near(0, 0.2, 0), rides: 'Head' });
  put(hair, { part: 'hair', index: 1, place: near(0, 0.28, -0.04), rides: 'Head', ends: [near(0, 0.34, -0.08)] });
}

function arm(put: Put, side: Side, Name: 'Left' | 'Right', sign: number, chest: number, habits: RigHabits, at: At, h: number): void {
  const [shoulder, elbow] = [at(`${Name}Arm`), at(`${Name}Forearm`)];
  const wrist = mix(elbow, at(`${Name}Hand`), habits.forearms ?? 1);
  const { collars = 'usual', fingers = 'none', twist } = habits;
  const zeros = habits.zero === 'limbs';
  let parent = chest;
  if (collars !== 'none') {
    const place = collars === 'neck' ? at('Neck') : collars === 'long' ? at('Ribs') : at(`${Name}Collar`);
    parent = put(parent, { part: 'Collar', side, place, rides: `${Name}Collar` });
  }
  if (zeros) parent = put(parent, { part: 'zero', side, index: 0, place: shoulder, rides: `${Name}Collar` });
  const upper = put(parent, { part: 'UpperArm', side, place: shoulder, rides: `${Name}Arm` });
  const twisted = (part: string, from: Vec3, to: Vec3, on: number, rides: JointName) => {
    if (!twist) return on;
    const made = put(on, { part, side, place: mix(from, to, 0.5), rides });
    return twist === 'in-line' ? made : on;
  };
  const overElbow = twisted('UpperArmTwist', shoulder, elbow, upper, `${Name}Arm`);
  const onElbow = zeros ? put(overElbow, { part: 'zero', side, index: 1, place: elbow, rides: `${Name}Arm` }) : overElbow;
  const fore = put(onElbow, { part: 'Forearm', side, place: elbow, rides: `${Name}Forearm` });
  const overHand = twisted('ForearmTwist', elbow, wrist, fore, `${Name}Forearm`);
  const tip: Vec3 = [wrist[0] + 0.18 * h * sign, wrist[1], wrist[2]];
  const hand = put(overHand, { part: 'Hand', side, place: wrist, rides: `${Name}Hand`, ends: fingers === 'none' ? [tip] : [] });
  const digit = (part: string, dx: number, dz: number, out: number, aside: number) => {
    let on = hand;
    for (let i = 0; i < 3; i++) {
      const place: Vec3 = [wrist[0] + (dx + i * out) * h * sign, wrist[1], wrist[2] + (dz + i * aside) * h];
      const end: Vec3 = [place[0] + out * h * sign, place[1], place[2] + aside * h];
      on = put(on, { part, side, index: i, place, rides: `${Name}Hand`, ends: i === 2 ? [end] : [] });
    }
  };
  if (fingers !== 'none') digit('Thumb', 0.03, 0.02, 0.02, 0.025);
  if (fingers === 'all')
    (['Index', 'Middle', 'Ring', 'Little'] as const).forEach((part, i) => digit(part, 0.09, 0.03 - i * 0.02, 0.028, 0));
}

function leg(
  put: Put,
  side: Side,
  Name: 'Left' | 'Right',
  sign: number,
  top: number,
  habits: RigHabits,
  at: At,
  zeros: boolean,
  h: number,
): void {
  const [socket, knee, ankle, ball] = [at(`${Name}Thigh`), at(`${Name}Shin`), at(`${Name}Foot`), at(`${Name}Toes`)];
  const { toes = true, feet = 'usual', twist } = habits;
  const upper = put(top, { part: 'Thigh', side, place: socket, rides: `${Name}Thigh` });
  const turning = twist && put(upper, { part: 'ThighTwist', side, place: mix(socket, knee, 0.5), rides: `${Name}Thigh` });
  const overKnee = twist === 'in-line' && turning ? turning : upper;
  const onKnee = zeros ? put(overKnee, { part: 'zero', side, index: 2, place: knee, rides: `${Name}Thigh` }) : overKnee;
  const shin = put(onKnee, { part: 'Shin', side, place: knee, rides: `${Name}Shin` });
  const tip: Vec3 = [ball[0], 0, ball[2] + 0.07 * h];
  if (feet === 'none') {
    put(shin, { part: 'Foot', side, place: ankle, rides: `${Name}Foot` });
    return;
  }
  const part = feet === 'called-toes' ? 'Toes' : 'Foot';
  const withToes = toes && feet === 'usual';
  const sole: Vec3 = [ankle[0] + 0.01 * sign * h, 0.01 * h, ball[2] + 0.05 * h];
  const foot = put(shin, { part, side, place: ankle, rides: `${Name}Foot`, ends: withToes ? [] : [sole] });
  if (withToes) put(foot, { part: 'Toes', side, place: ball, rides: `${Name}Toes`, ends: [tip] });
}

const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const mix = (a: Vec3, b: Vec3, u: number): Vec3 => [a[0] + (b[0] - a[0]) * u, a[1] + (b[1] - a[1]) * u, a[2] + (b[2] - a[2]) * u];
