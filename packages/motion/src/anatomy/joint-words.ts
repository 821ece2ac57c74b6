import type { Side } from '../model/body';
import type { LimbPart } from './parts';

/** What a joint's name says. */
export interface JointWords {
  readonly side: Side | null;
  /** A part of the trunk or of a limb. */
  readonly part: 'hips' | 'spine' | 'neck' | 'head' | LimbPart | null;
  /** Not a part of the body's chain: takes up twist, marks the end of a bone, or serves something else. */
  readonly helper: 'twist' | 'tip' | 'other' | null;
}

const HELPERS =
  /^(ik|fk|pole|poles|target|goal|ctrl|control|helper|help|aim|aux|prop|weapon|socket|attach|skirt|cape|cloak|coat|tail|wing|dyn|jiggle|cloth|null|dummy|marker)$/;
/** Joints of the face, and what grows or sits on the head: never the head itself. */
const FACE =
  /^(ears?|eye|brow|jaw|chin|tongue|teeth|tooth|lips?|lid|lash|mouth|cheek|nose|nostril|face|facial|forehead|temple|hair|fringe|beard|moustache|hat|cap|helmet)(s|ball|balls|lid|lids|brow|brows|lash|lashes)?$/;
const TIP = /^(end|nub|tip|site|top)$/;
const TWIST = /^(twist|twister|roll|rolls|ribbon|bendy)$/;

/** Words of the body, the longest first where one begins another; tried on the name without its side. */
const WORDS: readonly (readonly [RegExp, Exclude<JointWords['part'], null>])[] = [
  [/thumb|pollex/, 'Thumb'],
  [/index|pointer|forefinger/, 'Index'],
  [/middle|midfinger/, 'Middle'],
  [/pinky|pinkie|little/, 'Little'],
  [/ring/, 'Ring'],
  [/toe|ballof|^ball|ball$/, 'Toes'],
  [/foot|ankle/, 'Foot'],
  [/shin|calf|lowerleg|lowleg|leglow|knee|shank|crus/, 'Shin'],
  [/thigh|upperleg|upleg|legup|femur|hipjoint/, 'Thigh'],
  [/forearm|lowerarm|lowarm|armlow|elbow|ulna/, 'Forearm'],
  [/hand(?!le)|wrist|palm/, 'Hand'],
  [/clavicle|collar|scapula/, 'Collar'],
  [/upperarm|uparm|armup|bicep|humerus/, 'UpperArm'],
  [/neck/, 'neck'],
  [/head|skull/, 'head'],
  [/pelvis|hips$|^hip$|^hips/, 'hips'],
  [/spine|chest|torso|thorax|ribs?$|ribcage|waist|belly|abdomen|back|breast(?!s)|trunk|lumbar/, 'spine'],
];

/**
 * Reads a joint's name: sides as a word or a letter before, after or within it, in several habits of writing; numbers and what stands before
 * a colon do not count.
 *
 * @example
 * jointWords('LeftUpLeg').side; // 'left'
 */
export function jointWords(name: string): JointWords {
  const known = READ.get(name);
  if (known) return known;
  const words = name
    .replace(/^.*[:|]/, '')
    .replace(/(left|right)/gi, ' $1 ')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2')
    .replace(/[^A-Za-z]+/g, ' ')
    .toLowerCase()
    .trim()
    .split(' ');
  let side: Side | null = null;
  const rest: string[] = [];
  words.forEach((word, i) => {
    const meant =
      word === 'left' || word === 'l' || word === 'lft'
        ? 'left'
        : word === 'right' || word === 'r' || word === 'rgt' || word === 'rt'
          ? 'right'
          : null;
    if (meant && !side) side = meant;
    else if (!meant || i === 0) rest.push(word);
  });
  // "lthigh", "thighl": a letter grown to a word of the body.
  if (!side) {
    const joined = rest.join('');
    const glued =
      /^([lr])(thigh|shin|calf|foot|toes?|arm|forearm|hand|leg|knee|ankle|elbow|wrist|shoulder|collar|clavicle|upperarm|lowerarm|upleg|hip|thumb|index|finger)/.exec(
        joined,
      );
    const trailing = /(thigh|shin|calf|foot|toes?|arm|hand|leg|knee|ankle|elbow|wrist|shoulder|collar|clavicle)([lr])$/.exec(joined);
    const letter = glued?.[1] ?? trailing?.[2];
    if (letter) side = letter === 'l' ? 'left' : 'right';
    if (glued) rest.splice(0, rest.length, joined.slice(1));
    else if (trailing) rest.splice(0, rest.length, joined.slice(0, -1));
  }
  const out: JointWords = { side, part: partIn(rest, side), helper: helperIn(rest) };
  READ.set(name, out);
  return out;
}

const READ = new Map<string, JointWords>();

function helperIn(words: readonly string[]): JointWords['helper'] {
  if (words.some((word) => TWIST.test(word))) return 'twist';
  if (words.some((word) => HELPERS.test(word) || FACE.test(word))) return 'other';
  return words.some((word) => TIP.test(word)) ? 'tip' : null;
}

function partIn(words: readonly string[], side: Side | null): JointWords['part'] {
  const joined = words.join('');
  for (const [pattern, part] of WORDS) if (pattern.test(joined)) return part;
  // A hip with a side is where a thigh begins; an arm or a leg of which no more is said is its upper part.
  if (side && /hip/.test(joined)) return 'Thigh';
  if (side && /shoulder/.test(joined)) return 'Collar';
  if (side && /arm/.test(joined)) return 'UpperArm';
  return side && /leg/.test(joined) ? 'Shin' : null;
}
