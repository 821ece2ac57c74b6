import { NAMING } from '@lantern/capture';
import { characterGlb, tallow, wick, type Build, type BuiltJoint } from '@lantern/cast';
import { PARTS, readCharacter, type Part, type Vec3 } from '@lantern/motion';
import { reaxed, renamed, without } from '../tests/odd-characters';

const joint = (name: string, parent: string, at: Vec3, to: Vec3): BuiltJoint => ({ name, parent, at, to });
const more = (build: Build, joints: readonly BuiltJoint[]): Build => ({ ...build, joints: [...build.joints, ...joints] });
const place = (build: Build, name: string): Vec3 => build.joints.find((other) => other.name === name)?.at ?? [0, 0, 0];

/** The names of the joints that oddities hang on, by character. */
interface Handles {
  readonly hips: string;
  readonly thighs: readonly string[];
  readonly head: string;
  readonly hand: string;
}

const ODDITIES: readonly (readonly [string, (build: Build, handles: Handles) => Build])[] = [
  ['as built', (build) => build],
  [
    'with a second joint of the hips over its legs',
    (build, { hips, thighs }) => {
      const lower = joint('hips_lower', hips, place(build, hips), place(build, hips));
      const first = build.joints.findIndex(({ name }) => thighs.includes(name));
      const moved = build.joints.map((j) => (thighs.includes(j.name) ? { ...j, parent: lower.name } : j));
      return { ...build, joints: [...moved.slice(0, first), lower, ...moved.slice(first)] };
    },
  ],
  [
    'with a tail that reaches the floor',
    (build, { hips }) =>
      more(
        build,
        Array.from({ length: 6 }, (_, i) =>
          joint(`appendage${i}`, i ? `appendage${i - 1}` : hips, [0, 0.9 - 0.12 * i, -0.12 - 0.05 * i], [0, 0.78 - 0.12 * i, -0.17]),
        ),
      ),
  ],
  [
    'with goals for hands and feet beside its body',
    (build) =>
      more(
        build,
        (['l', 'r'] as const).flatMap((side) => {
          const x = side === 'l' ? 1 : -1;
          const [top] = build.joints;
          return [
            joint(`ik_foot_${side}`, top.name, [0.1 * x, 0.08, 0], [0.1 * x, 0.08, 0.1]),
            joint(`ik_hand_${side}`, top.name, [0.7 * x, 1.4, 0], [0.75 * x, 1.4, 0]),
          ];
        }),
      ),
  ],
  [
    'with a lamp pole in its hand, hair, eyes and a jaw',
    (build, { head, hand }) => {
      const [h, p] = [place(build, head), place(build, hand)];
      return more(build, [
        joint('prop', hand, p, [p[0], p[1] + 0.5, p[2]]),
        joint('prop_end', 'prop', [p[0], p[1] + 0.5, p[2]], [p[0], p[1] + 0.6, p[2]]),
        joint('eye_l', head, [0.03, h[1] + 0.08, 0.08], [0.03, h[1] + 0.08, 0.1]),
        joint('eye_r', head, [-0.03, h[1] + 0.08, 0.08], [-0.03, h[1] + 0.08, 0.1]),
        joint('jaw', head, [0, h[1], 0.05], [0, h[1], 0.1]),
        ...Array.from({ length: 4 }, (_, i) =>
          joint(`hair${i}`, i ? `hair${i - 1}` : head, [0, h[1] + 0.15 - 0.1 * i, -0.1], [0, h[1] + 0.05 - 0.1 * i, -0.1]),
        ),
      ]);
    },
  ],
  ['without toes and fingers', (build) => without(build, (name) => /[Tt]oes|[Tt]humb|Index|Ring|knuck/.test(name))],
  ['without a neck, with a single spine', (build) => without(build, (name) => /neck|Neck|waist|ribs|Back[234]/.test(name))],
  ['without collars', (build) => without(build, (name) => /[Cc]ollar/.test(name))],
  ['with other axes', reaxed],
];

const CHARACTERS: readonly (readonly [string, () => Build, Handles])[] = [
  ['Wick', wick, { hips: 'hips', thighs: ['left_thigh', 'right_thigh'], head: 'head', hand: 'right_hand' }],
  ['Tallow', tallow, { hips: 'Pelvis', thighs: ['ThighL', 'ThighR'], head: 'Head', hand: 'HandR' }],
];

const read = async (build: Build) => readCharacter(await characterGlb(build), build.name);

describe.each(CHARACTERS)('%s', (_, make, handles) => {
  let truth = new Map<string, Part>();
  beforeAll(async () => {
    const { parts, skeleton } = await read(make());
    truth = new Map(PARTS.flatMap((part) => (parts.parts[part]?.joints ?? []).map((j) => [skeleton.joints[j].name, part] as const)));
  });

  test.each(ODDITIES)('%s: every part is what it is, whatever its joints are called', async (_, oddity) => {
    const odd = oddity(make(), handles);
    for (const [habit, call] of Object.entries(NAMING)) {
      const counts = new Map<Part, number>();
      const own = new Map<string, string>();
      const build = renamed(odd, ({ name }, n) => {
        const part = truth.get(name);
        const count = part ? (counts.get(part) ?? 0) : 0;
        if (part) counts.set(part, count + 1);
        const [, side = '', limb = part ?? ''] = /^(left|right)(.+)$/.exec(part ?? '') ?? [];
        const ownSide = side === 'left' || side === 'right' ? side : null;
        const given = habit === 'none' ? `n${n}` : part ? call({ part: limb, side: ownSide, index: count }) : name;
        own.set(given, name);
        return given;
      });
      const { parts, skeleton } = await read(build);
      const found = new Map(
        PARTS.flatMap((part) => (parts.parts[part]?.joints ?? []).map((j) => [own.get(skeleton.joints[j].name), part] as const)),
      );
      for (const { name } of odd.joints) {
        const expected = truth.get(name);
        // Two fingers besides the thumb may as well be called index and middle.
        const seen = habit === 'none' && expected?.endsWith('Ring') ? found.get(name)?.replace('Middle', 'Ring') : found.get(name);
        if (name !== 'hips_lower') expect([habit, name, seen]).toEqual([habit, name, expected]);
      }
      const sure = Object.values(parts.parts).map(({ confidence }) => confidence);
      expect(Math.min(...sure)).toBeGreaterThanOrEqual(habit === 'none' ? 0.75 : 0.55);
    }
  });
});
