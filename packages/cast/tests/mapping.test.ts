import { capture } from '@lantern/capture';
import { characterGlb, tallow, wick, type Build } from '@lantern/cast';
import {
  findParts,
  InputError,
  jointWords,
  matchChain,
  PARTS,
  poseAt,
  readCharacter,
  restPose,
  swapSides,
  writeBvh,
  type Part,
  type Parts,
} from '@lantern/motion';
import fc from 'fast-check';
import { renamed, underArmature, without } from './odd-characters';

const read = async (build: Build) => readCharacter(await characterGlb(build), build.name);
const first = ({ parts }: Parts, part: Part) => parts[part]?.joints[0];

test.each([
  ['LeftUpLeg', 'left', 'Thigh'],
  ['thigh_l', 'left', 'Thigh'],
  ['R.Thigh.001', 'right', 'Thigh'],
  ['crew:rightLowerLeg', 'right', 'Shin'],
  ['lShin', 'left', 'Shin'],
  ['calf-R', 'right', 'Shin'],
  ['arm_left_lower', 'left', 'Forearm'],
  ['RightForeArm', 'right', 'Forearm'],
  ['l_clavicle', 'left', 'Collar'],
  ['HandL', 'left', 'Hand'],
  ['Pelvis', null, 'hips'],
  ['Spine2', null, 'spine'],
  ['upper_neck', null, 'neck'],
  ['lthigh', 'left', 'Thigh'],
  ['footr', 'right', 'Foot'],
])('%s is read as %s %s', (name, side, part) => {
  expect(jointWords(name)).toMatchObject({ side, part });
});

test.each([
  ['ArmLowTwistL', 'twist'],
  ['coat_tail_1', 'other'],
  ['Head_end', 'tip'],
  ['LeftFoot', null],
])('%s serves as %s', (name, helper) => {
  expect(jointWords(name).helper).toBe(helper);
});

/** What a whole character has: fingers depend on the hand. */
const WHOLE = PARTS.filter((part) => !/Thumb|Index|Middle|Ring|Little/.test(part));

test.each<[string, () => Build, number]>([
  ['Wick', wick, 0.98],
  ['Tallow', tallow, 0.98],
  ['Tallow with numbers for names', () => renamed(tallow(), (_, n) => `bone ${n}`), 0.75],
])('%s: every part is found, at least as sure as that', async (_, build, sure) => {
  const { parts } = await read(build());
  for (const part of WHOLE) expect([part, parts.parts[part]?.confidence]).toEqual([part, expect.any(Number)]);
  expect(Math.min(...WHOLE.map((part) => parts.parts[part]?.confidence ?? 0))).toBeCloseTo(sure, 2);
});

test('several spines, two necks, twist joints in line and beside, three fingers, a tail: each is what it is', async () => {
  const { parts, skeleton } = await read(tallow());
  const names = (part: Part) => parts.parts[part]?.joints.map((j) => skeleton.joints[j].name);
  expect(names('spine')).toEqual(['Back1', 'Back2', 'Back3', 'Back4']);
  expect(names('neck')).toEqual(['NeckLow', 'NeckHigh']);
  expect(names('leftThigh')).toEqual(['ThighL', 'ThighTwistL']);
  expect(names('rightThumb')).toEqual(['Thumb1R', 'Thumb2R']);
  expect(names('rightRing')).toEqual(['Ring1R', 'Ring2R']);
  expect(parts.leftOut.map(({ joint }) => skeleton.joints[joint].name).sort()).toEqual([
    'ArmLowTwistL',
    'ArmLowTwistR',
    'ArmUpTwistL',
    'ArmUpTwistR',
  ]);
  const other = await read(wick());
  expect(other.parts.leftOut.map(({ joint }) => other.skeleton.joints[joint].name)).toEqual(['coat_tail_1', 'coat_tail_2']);
  expect(other.outside).toEqual(['root']);
});

test('missing toes and fingers are missing parts, nothing else', async () => {
  const { parts } = await read(without(tallow(), (name) => /Toes|Thumb|Index|Ring/.test(name)));
  expect(parts.parts.leftToes).toBeUndefined();
  expect(parts.parts.leftIndex).toBeUndefined();
  expect(parts.parts.leftFoot?.confidence).toBeCloseTo(0.98, 2);
});

test('left and right mixed up are found from where the feet point, and said', async () => {
  const build = renamed(wick(), ({ name }) => swapSides(name));
  const { parts, skeleton } = await read(build);
  expect(parts.sidesSwapped).toBe(true);
  const thigh = first(parts, 'leftThigh') ?? -1;
  expect(skeleton.joints[thigh].name).toBe('right_thigh');
  // Her own left is where X grows.
  expect(restPose(skeleton).positions[thigh * 3]).toBeGreaterThan(0);
  expect(parts.parts.leftThigh?.reason).toContain('other way round');
});

test('the suit is found from a frame of a walk as from its rest pose', () => {
  const { motion } = capture('walk', { seed: 3, seconds: 4, fps: 60 });
  const [atRest, walking] = [restPose(motion.skeleton), poseAt(motion, 77)].map((pose) => findParts(motion.skeleton, pose));
  for (const part of WHOLE) expect(walking?.parts[part]?.joints).toEqual(atRest?.parts[part]?.joints);
});

test('a file without a skin, one with one leg, and one that is cut short are refused with a sentence', async () => {
  const bytes = await characterGlb(tallow());
  expect(() => readCharacter(bytes.subarray(0, 2000), 'x')).toThrow(InputError);
  expect(() => readCharacter(new TextEncoder().encode(writeBvh(capture('walk', { seconds: 1 }).motion)), 'x')).toThrow(/GLB|JSON/);
  const legless = await characterGlb(without(tallow(), (name) => /Thigh|Shin|Foot|Toes/.test(name)));
  expect(() => readCharacter(legless, 'x')).toThrow(/legs/);
});

test('a character in centimetres under a lying armature has the size and the parts of the plain one', async () => {
  const [plain, odd] = [await read(tallow()), readCharacter(await underArmature(tallow()), 'odd')];
  expect(odd.statureM).toBeCloseTo(plain.statureM, 3);
  expect(odd.soles.left.heel.local.map((v) => v.toFixed(3))).toEqual(plain.soles.left.heel.local.map((v) => v.toFixed(3)));
});

describe('chains of different counts', () => {
  const chain = fc
    .uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 7 })
    .map((list) => list.sort((a, b) => a - b).map((v) => v / 100));

  test('of the same count are one to one', () => {
    fc.assert(fc.property(chain, (where) => matchChain(where, where).every(({ a, b }, i) => a === i && b === i)));
  });

  test('the last follows the last, and joints follow in order', () => {
    fc.assert(
      fc.property(chain, chain, (source, target) => {
        const shares = matchChain(source, target);
        const last = shares[shares.length - 1];
        if (last.a !== source.length - 1 || last.b !== source.length - 1) return false;
        return shares.every(({ a, b, u }, i) => a <= b && u >= 0 && u <= 1 && (i === 0 || b >= shares[i - 1].b));
      }),
    );
  });

  test('onto a longer one and back each joint is its own again', () => {
    fc.assert(
      fc.property(chain, chain, (a, b) => {
        const [short, long] = a.length <= b.length ? [a, b] : [b, a];
        const there = matchChain(short, long);
        const back = matchChain(long, short);
        return back.every(({ a: from, b: to }, i) => from === to && there[from].a === i && there[from].b === i);
      }),
    );
  });
});
