import { capture, type ScriptName } from '@lantern/capture';
import { castGlb, characterGlb, tallow, wick } from '@lantern/cast';
import {
  angleBetween,
  createMotion,
  fitMotion,
  fitSettingsSchema,
  forwardKinematics,
  PARTS,
  readCharacter,
  slides,
  soleTracks,
  writeGlb,
  cutClip,
  scaleSkeleton,
  type Character,
  type FitSettingsInput,
  type Motion,
} from '@lantern/motion';
import { reaxed, renamed, underArmature, without } from '../tests/odd-characters';

/** A take of the suit in metres. */
function take(script: ScriptName, seconds = 6, faults = 1): Motion {
  const { motion } = capture(script, { seed: 21, seconds, fps: 60, faults });
  return { ...motion, skeleton: scaleSkeleton(motion.skeleton, 1) };
}

const settings = (input: FitSettingsInput = {}) => fitSettingsSchema.parse(input);
const read = async (build: Parameters<typeof characterGlb>[0]) => readCharacter(await characterGlb(build), build.name);

/** The suit itself as a character. */
async function suitCharacter(motion: Motion): Promise<Character> {
  const still = createMotion(motion.skeleton, 60, 2);
  for (const f of [0, 1]) still.rootPositions.set(motion.skeleton.joints[0].offset, f * 3);
  return readCharacter(await writeGlb([{ name: 'still', clip: cutClip(still, 0, 1) }]), 'suit');
}

/** A motion without some joints at the ends of its chains. */
function withoutLeaves(motion: Motion, drop: RegExp): Motion {
  const J = motion.skeleton.joints.length;
  const kept = motion.skeleton.joints.flatMap(({ name }, j) => (drop.test(name) ? [] : [j]));
  const joints = kept.map((j) => ({ ...motion.skeleton.joints[j], parent: kept.indexOf(motion.skeleton.joints[j].parent) }));
  const rotations = new Float32Array(motion.frames * kept.length * 4);
  for (let f = 0; f < motion.frames; f++)
    kept.forEach((j, i) => rotations.set(motion.rotations.subarray((f * J + j) * 4, (f * J + j) * 4 + 4), (f * kept.length + i) * 4));
  return { ...motion, skeleton: { joints }, rotations };
}

/** The farthest that a joint of one motion is from its own in the other, millimetres. @param name of a joint, as the other calls it */
function apartMm(a: Motion, b: Motion, name: (own: string, index: number) => string = (own) => own): number {
  const [p, q] = [forwardKinematics(a), forwardKinematics(b)];
  let most = 0;
  a.skeleton.joints.forEach((joint, j) => {
    const k = b.skeleton.joints.findIndex((other) => other.name === name(joint.name, j));
    for (let f = 0; f < a.frames; f++) {
      const [x, y] = [(f * p.joints + j) * 3, (f * q.joints + k) * 3];
      most = Math.max(most, Math.hypot(...[0, 1, 2].map((i) => p.positions[x + i] - q.positions[y + i])));
    }
  });
  return most * 1000;
}

describe('laws of a fit', () => {
  test.each<ScriptName>(['walk', 'rounds', 'hop', 'lean'])('onto itself a %s is what it was', async (script) => {
    const motion = take(script);
    const { motion: out } = fitMotion(motion, await suitCharacter(motion), settings());
    expect(apartMm(out, motion)).toBeLessThan(0.01);
  });

  test.each([
    ['Wick', wick],
    ['Tallow', tallow],
  ])('to %s and back no mapped rotation changes', async (_, build) => {
    const motion = take('rounds', 8);
    const there = fitMotion(motion, await read(build()), settings({ planted: 'free' }));
    const back = fitMotion(there.motion, await suitCharacter(motion), settings({ planted: 'free' })).motion;
    const [p, q] = [forwardKinematics(motion), forwardKinematics(back)];
    let most = 0;
    for (let i = 0; i < p.rotations.length; i += 4) most = Math.max(most, angleBetween(p.rotations, i, q.rotations, i));
    expect((most * 180) / Math.PI).toBeLessThan(0.1);
  });

  test('other axes of the joints change no place in the world', async () => {
    const motion = take('walk');
    for (const build of [wick(), tallow()]) {
      const plain = fitMotion(motion, await read(build), settings());
      const turned = fitMotion(motion, await read(reaxed(build)), settings());
      expect(apartMm(plain.motion, turned.motion)).toBeLessThan(0.02);
    }
  });

  test.each<[string, (name: string, index: number) => string]>([
    ['numbers only', (_, n) => `j${String(n).padStart(3, '0')}`],
    ['a prefix with a colon', (name) => `crew:${name}`],
  ])('other names (%s) change no place in the world', async (_, name) => {
    const motion = take('walk');
    const build = tallow();
    const plain = fitMotion(motion, await read(build), settings());
    const other = fitMotion(motion, await read(renamed(build, (joint, n) => name(joint.name, n))), settings());
    const whole = build.joints.map((joint, n) => [joint.name, name(joint.name, n)] as const);
    expect(apartMm(plain.motion, other.motion, (own) => new Map(whole).get(own) ?? own)).toBeLessThan(0.02);
  });

  test('an armature that is scaled and lies down, with nodes between the joints, changes nothing', async () => {
    const motion = take('walk');
    const plain = fitMotion(motion, await read(tallow()), settings());
    const odd = readCharacter(await underArmature(tallow()), 'odd');
    expect(odd.statureM).toBeCloseTo(1.5, 2);
    expect(apartMm(plain.motion, fitMotion(motion, odd, settings()).motion)).toBeLessThan(0.05);
  });
});

describe('feet after a fit', () => {
  test('toes that were not captured lie flat while the heel comes up', async () => {
    const whole = take('walk');
    const character = readCharacter(await castGlb('tallow'), 'tallow');
    const { motion, contacts } = fitMotion(withoutLeaves(whole, /Toes$/), character, settings());
    const globals = forwardKinematics(motion);
    const { left } = soleTracks(character, globals, contacts.floorM);
    let raised = 0;
    for (const { from, to } of contacts.left) {
      for (let f = from + 4; f < to - 4; f++) {
        const [heel, ball, tip] = [left.heel, left.ball, left.tip].map((track) => track[f * 3 + 1] - contacts.floorM);
        if (heel - ball < 0.02) continue;
        raised++;
        expect(Math.abs(tip - ball)).toBeLessThan(0.005);
      }
    }
    expect(raised).toBeGreaterThan(20);
  });

  test.each([13, 14, 16, 23])('at 30 a second too, from a suit without toes, feet stay where they were put: walk %i', async (seed) => {
    const { motion } = capture('walk', { seed, seconds: 4, fps: 30, stature: 1.55 });
    const { contacts, ...fitted } = fitMotion(withoutLeaves(motion, /Toes$/), readCharacter(await castGlb('tallow'), 'tallow'), settings());
    const soles = soleTracks(fitted.plan.character, forwardKinematics(fitted.motion), fitted.groundM);
    expect(Math.max(...slides(soles, contacts).map(({ excursionCm }) => excursionCm))).toBeLessThan(0.1);
  });

  test.each([tallow, wick])('what is turned aside by next to nothing is carried as what is not turned aside', async (build) => {
    const character = await read(build());
    const motion = take('rounds');
    // Parts with a turn of their own are multiplied out one by one, the others in one go. Ten metres off, floats are 0.001 mm apart.
    const aside = Object.fromEntries(PARTS.map((part) => [part, [1e-7, 0, 0] as [number, number, number]]));
    const plain = fitMotion(motion, character, settings({ planted: 'free' })).motion;
    expect(apartMm(fitMotion(motion, character, settings({ planted: 'free', offsets: aside })).motion, plain)).toBeLessThan(0.01);
  });

  test('someone without toe joints is fitted too', async () => {
    const character = await read(without(tallow(), (name) => name.startsWith('Toes')));
    const { motion, contacts } = fitMotion(take('walk'), character, settings());
    const soles = soleTracks(character, forwardKinematics(motion), contacts.floorM);
    for (const { excursionCm } of slides(soles, contacts)) expect(excursionCm).toBeLessThan(0.2);
  });
});
