import { NAMING } from './names';
import { buildRig, type Rig, type RigHabits } from './rig';

/** A rig of the zoo and how takes of it come in. */
export interface ZooMember {
  readonly name: string;
  readonly rig: Rig;
  /** Which axis of its files points up, where the format leaves it open. */
  readonly up: 'y' | 'z';
  readonly fps: number;
  /** Units of its files in a metre. */
  readonly unitsPerMetre: number;
}

type More = Partial<Omit<ZooMember, 'name' | 'rig'>> & { readonly stature?: number };

const member = (name: string, habits: RigHabits, { stature = 1.78, ...more }: More = {}): ZooMember => ({
  name,
  rig: buildRig(habits, stature),
  up: 'y',
  fps: 60,
  unitsPerMetre: 100,
  ...more,
});

const CHOICES = {
  collars: ['usual', 'neck', 'long', 'none'],
  spines: [1, 2, 3, 5],
  necks: [0, 1, 2],
  twist: [undefined, 'in-line', 'beside'],
  zero: [undefined, 'hips', 'limbs'],
  face: [false, true],
  fingers: ['none', 'thumb', 'all'],
  toes: [true, false],
  root: ['hips', 'travelling', 'still', 'two'],
  rest: ['T', 'A', 'zero', 'seated', 'lying', 'turned'],
  axes: ['world', 'own'],
  naming: Object.keys(NAMING),
} as const;

/** Some sixty skeletons: every habit alone, then habits mixed by seed. Quick to make: no motion is made here. */
export function zoo(): ZooMember[] {
  const alone: ZooMember[] = [
    member('as the suit', {}),
    member('collars from the neck', { collars: 'neck' }),
    member('collars from the neck, short words, fingers', { collars: 'neck', fingers: 'all', naming: 'short words' }),
    member('collars from the neck, no names', { collars: 'neck', naming: 'none' }),
    member('long collars', { collars: 'long' }),
    member('long collars, short forearms, short words, thumbs', {
      collars: 'long',
      forearms: 0.75,
      naming: 'short words',
      fingers: 'thumb',
    }),
    member('long collars, short forearms, no names', { collars: 'long', forearms: 0.75, naming: 'none', fingers: 'all' }),
    member('no collars', { collars: 'none' }),
    member('one spine', { spines: 1 }),
    member('three spines', { spines: 3 }),
    member('five spines', { spines: 5 }),
    member('no neck', { necks: 0 }),
    member('two necks', { necks: 2 }),
    member('twist in line', { twist: 'in-line' }),
    member('twist beside', { twist: 'beside' }),
    member('hip joints of no length', { zero: 'hips', naming: 'short words' }),
    member('hip joints of no length, no names', { zero: 'hips', naming: 'none' }),
    member('joints of no length in limbs', { zero: 'limbs' }),
    member('joints of no length in limbs, no names', { zero: 'limbs', naming: 'none' }),
    member('a face', { face: true }),
    member('a face, two necks, dots', { face: true, necks: 2, naming: 'dots' }),
    member('thumbs only', { fingers: 'thumb' }),
    member('fingers', { fingers: 'all' }),
    member('fingers, no names', { fingers: 'all', naming: 'none' }),
    member('no toes', { toes: false }),
    member('no feet', { feet: 'none' }),
    member('feet called toes', { feet: 'called-toes' }),
    member('a root that travels', { root: 'travelling' }),
    member('a root that stays', { root: 'still' }),
    member('a root with a goal', { root: 'two' }),
    member('rest in an A', { rest: 'A' }),
    member('rest at zero', { rest: 'zero' }),
    member('rest seated', { rest: 'seated' }),
    member('rest lying', { rest: 'lying' }),
    member('rest facing elsewhere', { rest: 'turned' }),
    member('axes of its own', { axes: 'own' }),
    member('axes of its own, rest at zero', { axes: 'own', rest: 'zero' }),
    member('Z up', {}, { up: 'z' }),
    member('Z up, metres', {}, { up: 'z', unitsPerMetre: 1 }),
    member('24 a second', {}, { fps: 24 }),
    member('30 a second', {}, { fps: 30 }),
    member('120 a second', {}, { fps: 120 }),
    member('small', {}, { stature: 1.5 }),
    member('large', {}, { stature: 1.98 }),
    ...Object.keys(NAMING).map((naming) => member(`names: ${naming}`, { naming, fingers: 'thumb' })),
  ];
  return [...alone, ...Array.from({ length: 64 - alone.length }, (_, i) => mixed(i + 1))];
}

/** Habits drawn by a seed. */
function mixed(seed: number): ZooMember {
  let state = (seed * 2654435761 + 97) >>> 0;
  const pick = <T>(options: readonly T[]): T => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return options[Math.floor((state / 4294967296) * options.length)];
  };
  const habits: RigHabits = {
    collars: pick(CHOICES.collars),
    spines: pick(CHOICES.spines),
    necks: pick(CHOICES.necks),
    twist: pick(CHOICES.twist),
    zero: pick(CHOICES.zero),
    face: pick(CHOICES.face),
    fingers: pick(CHOICES.fingers),
    toes: pick(CHOICES.toes),
    root: pick(CHOICES.root),
    rest: pick(CHOICES.rest),
    axes: pick(CHOICES.axes),
    naming: pick(CHOICES.naming),
  };
  return member(`mixed ${seed}`, habits, { fps: pick([24, 30, 60, 120]), stature: pick([1.55, 1.78, 1.9]) });
}
