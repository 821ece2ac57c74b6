import type { Side } from '@lantern/motion';

/** What a joint of the zoo is, from which every habit makes a name of its own. */
export interface RigPart {
  /** Of the body: "hips", "spine", "UpperArm", …; of what is not of it: "twist", "eye", "root", … */
  readonly part: string;
  readonly side: Side | null;
  /** Counted from 0 where a part has several joints. */
  readonly index: number;
}

type Habit = (part: RigPart) => string;

const WORDS: Readonly<Record<string, string>> = {
  hips: 'pelvis',
  Collar: 'clavicle',
  UpperArm: 'upperarm',
  Forearm: 'lowerarm',
  Shin: 'calf',
  Toes: 'ball',
  Little: 'pinky',
};
/** The shoulder is where the collar begins here, and arm and leg alone are the upper and the lower one. */
const SHORT: Readonly<Record<string, string>> = {
  hips: 'Hips',
  Collar: 'Shoulder',
  UpperArm: 'Arm',
  Forearm: 'ForeArm',
  Thigh: 'UpLeg',
  Shin: 'Leg',
  Toes: 'ToeBase',
};
const PLAIN: Readonly<Record<string, string>> = {
  hips: 'Hips',
  Collar: 'Shoulder',
  UpperArm: 'Upper Arm',
  Forearm: 'Lower Arm',
  Thigh: 'Upper Leg',
  Shin: 'Lower Leg',
  Toes: 'Toe',
};

const word = (part: string) => WORDS[part] ?? part.toLowerCase();
const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);
const letter = (side: Side | null) => side?.slice(0, 1) ?? '';
const number = (index: number) => (index > 0 ? String(index) : '');

/** Nine ways in which joints are called, and none. */
export const NAMING: Readonly<Record<string, Habit>> = {
  'short words': ({ part, side, index }) => `${side ? capital(side) : ''}${SHORT[part] ?? capital(part)}${number(index)}`,
  'side behind': ({ part, side, index }) => `${word(part)}_0${index + 1}${side ? `_${letter(side)}` : ''}`,
  'side in front': ({ part, side, index }) => `${side ? capital(side) : ''}${capital(word(part))}${number(index)}`,
  'a prefix with a colon': ({ part, side, index }) => `gull:${side ?? ''}${capital(word(part))}${number(index)}`,
  dots: ({ part, side, index }) => `${capital(word(part))}${side ? `.${letter(side).toUpperCase()}` : ''}.00${index}`,
  'side in the middle': ({ part, side, index }) => `body_${letter(side) || 'c'}_${word(part)}_${index}_jnt`,
  'a letter grown on': ({ part, side, index }) => `${letter(side)}${word(part)}${index}`,
  capitals: ({ part, side, index }) => `${word(part).toUpperCase()}${side ? `_${side.toUpperCase()}` : ''}_${index}`,
  words: ({ part, side, index }) => `${side ? `${capital(side)} ` : ''}${PLAIN[part] ?? capital(word(part))}${index ? ` ${index}` : ''}`,
  none: () => '',
};
