import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  angleBetween,
  cutMotion,
  fitMotion,
  fitReport,
  fitSettingsSchema,
  forwardKinematics,
  InputError,
  limbWeights,
  matchChain,
  multiply,
  readCharacter,
  withMapping,
  type Character,
  type Fitted,
  type FitSettingsInput,
  type Motion,
} from '@lantern/motion';
import fc from 'fast-check';

// What a fit consists of, each on a second or two of a take.
let tallow: Character;
let wick: Character;
beforeAll(async () => {
  tallow = readCharacter(await castGlb('tallow'), 'tallow');
  wick = readCharacter(await castGlb('wick'), 'wick');
});

const take = (script: ScriptName, seconds = 2): Motion => capture(script, { seed: 5, seconds, fps: 60 }).motion;
const onto = (motion: Motion, input: FitSettingsInput = {}, character = tallow, start = 0) =>
  fitMotion(motion, character, fitSettingsSchema.parse(input), start);
const placeOf = (motion: Motion, joint: number, frame: number) => {
  const { positions, joints } = forwardKinematics(motion);
  return [...positions.subarray((frame * joints + joint) * 3, (frame * joints + joint) * 3 + 3)];
};
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, k) => v - b[k]));
const named = (motion: Motion, name: string) => motion.skeleton.joints.findIndex((joint) => joint.name === name);
/** A motion in which the root stands otherwise. */
const moved = (motion: Motion, by: (frame: number) => readonly [number, number, number]): Motion => {
  const rootPositions = motion.rootPositions.map((value, i) => value + by(Math.floor(i / 3))[i % 3]);
  return { ...motion, rootPositions };
};

describe('rotations', () => {
  test('each mapped joint turns from its reference as the source’s does from its own', () => {
    const motion = take('walk');
    const { motion: out, plan } = onto(motion, { planted: 'free' });
    const [from, to] = [forwardKinematics(motion), forwardKinematics(out)];
    let compared = 0;
    plan.drives.forEach((drive, joint) => {
      if (drive.kind !== 'turn' || drive.a !== drive.b) return;
      for (const f of [0, 31, 77]) {
        const turn = (rotations: ArrayLike<number>, at: number, rest: Float64Array, j: number) => {
          const made = [0, 0, 0, 1];
          const [x, y, z, w] = rest.subarray(j * 4, j * 4 + 4);
          multiply(made, 0, rotations, at * 4, [-x, -y, -z, w], 0);
          return made;
        };
        const own = turn(to.rotations, f * to.joints + joint, plan.targetReference.rotations, joint);
        const source = turn(from.rotations, f * from.joints + drive.a, plan.sourceReference.rotations, drive.a);
        expect(angleBetween(own, 0, source, 0)).toBeLessThan(1e-3);
        compared++;
      }
    });
    expect(compared).toBeGreaterThan(40);
  });

  test('the way over the floor is that of the hip sockets, scaled by the legs', () => {
    const motion = take('walk');
    const { motion: out, plan, space } = onto(motion, { planted: 'free' });
    const middle = (m: Motion, { left, right }: { left: { hip: number }; right: { hip: number } }, f: number) =>
      placeOf(m, left.hip, f).map((v, k) => (v + placeOf(m, right.hip, f)[k]) / 2);
    for (const f of [0, 60, 119]) {
      const [a, b] = [middle(motion, plan.sourceBody.legs, f), middle(out, plan.targetBody.legs, f)];
      expect(b[0]).toBeCloseTo(plan.legRatio * a[0], 4);
      expect(b[2]).toBeCloseTo(plan.legRatio * a[2], 4);
      expect(b[1]).toBeCloseTo(space.floorM + space.heightScale * (a[1] - space.floorM) + space.heightM, 4);
    }
  });

  test('fingers that were not captured are bent by the curl, towards the palm', () => {
    const motion = take('idle');
    const [open, curled] = [0, 40].map((curlDeg) => onto(motion, { curlDeg, planted: 'free' }));
    const { joints } = open.motion.skeleton;
    const hand = open.plan.targetBody.arms.left.wrist;
    const finger = open.plan.targetParts.parts.leftIndex?.joints.at(-1) ?? -1;
    expect(joints[finger].parent).toBeGreaterThanOrEqual(hand);
    const reach = ({ motion: m }: Fitted) => apart(placeOf(m, finger, 10), placeOf(m, hand, 10));
    expect(reach(curled)).toBeLessThan(reach(open) - 0.002);
  });
});

describe('chains of unlike length', () => {
  const chain = fc
    .uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 9 })
    .map((all) => [...all].sort((a, b) => a - b).map((v) => v / 100));

  test('every joint has its share, in order, and as many as the shorter chain has are matched one to one', () => {
    fc.assert(
      fc.property(chain, chain, (source, target) => {
        const shares = matchChain(source, target);
        expect(shares).toHaveLength(target.length);
        const exact = shares.filter(({ a, b }) => a === b && a >= 0);
        expect(new Set(exact.map(({ a }) => a)).size).toBeGreaterThanOrEqual(Math.min(source.length, target.length));
        const ways = shares.map(({ a, b, u }) => a + (b - a) * u);
        ways.slice(1).forEach((way, i) => expect(way).toBeGreaterThanOrEqual(ways[i] - 1e-9));
        for (const { u } of shares) expect(u).toBeGreaterThanOrEqual(0);
      }),
      { seed: 4, numRuns: 300 },
    );
  });

  test('there and back again a matched joint is its own', () => {
    fc.assert(
      fc.property(chain, chain, (source, target) => {
        const [there, back] = [matchChain(source, target), matchChain(target, source)];
        there.forEach(({ a, b, u }, t) => {
          if (a === b && u === 0 && back[a].a === back[a].b && source.length === target.length) expect(back[a].a).toBe(t);
        });
        expect(there.at(-1)?.b).toBe(source.length - 1);
      }),
      { seed: 4, numRuns: 300 },
    );
  });
});

describe('places of limbs', () => {
  test('a weight between nothing and all is between the two places', () => {
    const motion = take('walk');
    const hand = ({ motion: m, plan }: Fitted) => placeOf(m, plan.targetBody.arms.left.wrist, 70);
    const at = [0, 0.5, 1].map((weight) => hand(onto(motion, { give: 0, placement: { leftHand: { weight } } })));
    expect(apart(at[0], at[2])).toBeGreaterThan(0.01);
    expect(apart(at[0], at[1])).toBeLessThan(apart(at[0], at[2]));
    expect(apart(at[1], at[2])).toBeLessThan(apart(at[0], at[2]));
  });

  test('a foot keeps its captured place over the floor where it is asked to', () => {
    const motion = take('sideways');
    const { motion: out, plan, space } = onto(motion, { planted: 'free', travel: 'captured', placement: { leftFoot: { weight: 1 } } });
    const [from, to] = [plan.sourceBody.legs.left.ankle, plan.targetBody.legs.left.ankle];
    for (const f of [10, 60, 110]) {
      const [x, , z] = placeOf(motion, from, f);
      const [a, , b] = placeOf(out, to, f);
      expect(Math.hypot(a - space.alongScale * x, b - space.alongScale * z)).toBeLessThan(0.002);
    }
  });

  test('what a hand lacks, the body gives by its factor', () => {
    const motion = take('lean');
    const asked = { leftHand: { weight: 1 }, rightHand: { weight: 1 } };
    const far = (give: number) => {
      const { lacks } = onto(motion, { give, travel: 1.15, placement: asked });
      return Math.max(lacks.leftHand ?? 0, lacks.rightHand ?? 0);
    };
    const [none, half, all] = [0, 0.5, 1].map(far);
    expect(none).toBeGreaterThan(0.01);
    expect(half).toBeLessThan(none);
    expect(all).toBeLessThan(half);
  });

  test('a hand that is kept by the hips goes with them', () => {
    const motion = take('walk');
    const [kept, captured] = [onto(motion, { placement: { leftHand: { weight: 1, to: 'hips' } } }), motion];
    const { plan } = kept;
    const off = (m: Motion, wrist: number, { left, right }: Fitted['plan']['sourceBody']['legs'], f: number) =>
      placeOf(m, wrist, f).map((v, k) => v - (placeOf(m, left.hip, f)[k] + placeOf(m, right.hip, f)[k]) / 2);
    const source = off(captured, plan.sourceBody.arms.left.wrist, plan.sourceBody.legs, 80).map((v) => v * plan.armRatio);
    expect(apart(off(kept.motion, plan.targetBody.arms.left.wrist, plan.targetBody.legs, 80), source)).toBeLessThan(
      (kept.lacks.leftHand ?? 0) + 0.01,
    );
  });

  test('a hand by a prop is where it was by the prop, which keeps its size and stands where the way puts it', () => {
    const motion = take('lean');
    const prop = { x: 0.2, y: 0.9, z: 0.6 };
    const fitted = onto(motion, { give: 1, placement: { leftHand: { weight: 1, to: 'prop', prop } } });
    const { plan, space } = fitted;
    const [x, y, z] = placeOf(motion, plan.sourceBody.arms.left.wrist, 60);
    const wanted = [x + (space.alongScale - 1) * prop.x, y, z + (space.alongScale - 1) * prop.z];
    expect(apart(placeOf(fitted.motion, plan.targetBody.arms.left.wrist, 60), wanted)).toBeLessThan((fitted.lacks.leftHand ?? 0) + 0.03);
  });

  test('weights lie between those asked for, wherever holds meet', () => {
    const hold = fc.record({
      from: fc.integer({ min: -20, max: 80 }),
      to: fc.integer({ min: 0, max: 100 }),
      weight: fc.double({ min: 0, max: 1, noNaN: true }),
      fade: fc.double({ min: 0, max: 2, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.array(hold, { maxLength: 4 }), (weight, holds) => {
        const all = [weight, ...holds.map((h) => h.weight)];
        for (const value of limbWeights({ weight, holds }, 90, 60, 0)) {
          expect(value).toBeGreaterThanOrEqual(Math.min(...all) - 1e-9);
          expect(value).toBeLessThanOrEqual(Math.max(...all) + 1e-9);
        }
      }),
      { seed: 9, numRuns: 60 },
    );
  });
});

describe('the floor', () => {
  test('planted feet stay where they came down and on the floor, left free they need not', () => {
    const motion = take('walk', 4);
    const [held, free] = (['held', 'free'] as const).map((planted) => fitReport(onto(motion, { planted })));
    expect(held.slideCm).toBeLessThan(0.2);
    expect(held.sinkCm).toBeLessThan(0.5);
    expect(held.contacts).toBe(free.contacts);
    expect(free.slideCm).toBeGreaterThan(held.slideCm);
  });

  test('a floor at another height is the same motion there', () => {
    const motion = take('walk', 3);
    const [low, high] = [onto(motion), onto(moved(motion, () => [0, 2, 0]))];
    expect(high.groundM - low.groundM).toBeCloseTo(2, 3);
    const { joints } = low.motion.skeleton;
    for (const f of [20, 100])
      joints.forEach((_, j) => expect(placeOf(high.motion, j, f)[1] - placeOf(low.motion, j, f)[1]).toBeCloseTo(2, 2));
  });

  test('who sits on the floor is lifted no more than is needed, and who stands not at all', () => {
    const sitting = take('idle');
    const thighs = ['LeftThigh', 'RightThigh'].map((name) => named(sitting, name));
    const J = sitting.skeleton.joints.length;
    for (let f = 0; f < sitting.frames; f++)
      for (const j of thighs)
        multiply(sitting.rotations, (f * J + j) * 4, [-Math.SQRT1_2, 0, 0, Math.SQRT1_2], 0, sitting.rotations, (f * J + j) * 4);
    const low = moved(sitting, () => [0, -0.93, 0]);
    const [free, out] = (['free', 'out'] as const).map((seat) => onto(low, { planted: 'free', seat }));
    const deep = fitReport(free).seatCm;
    expect(deep).toBeGreaterThan(3);
    const lift = Array.from({ length: low.frames }, (_, f) => out.motion.rootPositions[f * 3 + 1] - free.motion.rootPositions[f * 3 + 1]);
    expect(Math.max(...lift) * 100).toBeLessThan(1.5 * deep);
    expect(fitReport(out).seatCm).toBeLessThan(0.5);
    const standing = take('idle');
    const [a, b] = (['free', 'out'] as const).map((seat) => onto(standing, { seat }));
    expect([...a.motion.rootPositions]).toEqual([...b.motion.rootPositions]);
  });
});

describe('odd sources', () => {
  test('a single frame is fitted', () => {
    const one = cutMotion(take('walk'), 40, 40);
    const { motion: out } = onto(one);
    expect(out.frames).toBe(1);
    expect(out.rotations.every(Number.isFinite)).toBe(true);
  });

  test('somebody without arms is fitted with the character’s arms at rest', () => {
    const motion = take('walk');
    const J = motion.skeleton.joints.length;
    const kept = motion.skeleton.joints.flatMap(({ name }, j) => (/Arm|Forearm|Hand|Collar/.test(name) ? [] : [j]));
    const joints = kept.map((j) => ({ ...motion.skeleton.joints[j], parent: kept.indexOf(motion.skeleton.joints[j].parent) }));
    const rotations = new Float32Array(motion.frames * kept.length * 4);
    for (let f = 0; f < motion.frames; f++)
      kept.forEach((j, i) => rotations.set(motion.rotations.subarray((f * J + j) * 4, (f * J + j) * 4 + 4), (f * kept.length + i) * 4));
    const { motion: out, plan } = onto({ ...motion, skeleton: { joints }, rotations });
    expect(out.rotations.every(Number.isFinite)).toBe(true);
    expect(plan.drives[plan.targetBody.arms.left.shoulder].kind).toBe('follow');
  });

  test('a body with no extent between hips and knees cannot be fitted, and it is said', () => {
    const motion = take('idle');
    const { joints } = motion.skeleton;
    const flat = {
      ...motion,
      skeleton: { joints: joints.filter((_, j) => j < 3) },
      rotations: new Float32Array(motion.frames * 12).fill(1),
    };
    expect(() => onto(flat)).toThrow(InputError);
  });

  test('legs that are left out of the mapping leave nobody to fit', () => {
    expect(() => onto(take('walk'), { mapping: { target: { leftShin: [] } } })).toThrow(/hips and two legs/);
    expect(() => onto(take('walk'), { mapping: { source: { rightFoot: [] } } })).toThrow(/the take/);
  });

  test('names that are not there are passed over; a joint that is given away is taken from its part', () => {
    const motion = take('walk');
    expect(withMapping(motion, { leftHand: ['Nothing of the kind'] }).skeleton.body?.arms.left.wrist).toBe(named(motion, 'LeftHand'));
    const { plan } = onto(motion, { mapping: { source: { head: ['Neck', 'Head'] } } });
    expect(plan.sourceParts.parts.neck).toBeUndefined();
    expect(plan.sourceParts.parts.head).toMatchObject({ joints: [named(motion, 'Neck'), named(motion, 'Head')], confidence: 1 });
  });
});

test('onto Wick, who is as tall as the suit, places differ less than onto Tallow, who is not', () => {
  const motion = take('rounds', 3);
  const likeness = (character: Character) => fitReport(onto(motion, {}, character)).likeness?.medianCm ?? Infinity;
  expect(likeness(wick)).toBeLessThan(likeness(tallow));
});
