import { capture, expressOn, zoo } from '@lantern/capture';
import {
  angleBetween,
  applyStep,
  bodyOf,
  clipFigures,
  copyMotion,
  cutClip,
  findLoops,
  forwardKinematics,
  fromAxisAngle,
  grab,
  groundwork,
  handTurned,
  layerCourse,
  layerSchema,
  limbPlace,
  mergeLayers,
  minus,
  multiply,
  pegsOf,
  pinnedLimb,
  plus,
  recipeRunner,
  recipeSchema,
  splitLayer,
  stepsAtRate,
  stepsOfOtherSide,
  stepSchema,
  swungOut,
  troublesOf,
  turned,
  turnInWorld,
  unit,
  withPegAt,
  worldMotion,
  type Clip,
  type Grabbed,
  type Layer,
  type Motion,
  type RecipeStepInput,
  type StepOfKind,
} from '@lantern/motion';
import { z } from 'zod';

type LayerInput = Partial<z.input<typeof layerSchema>>;
type TouchInput = NonNullable<LayerInput['touches']>[number];

const { motion: walk } = capture('walk', { seconds: 8, seed: 71 });
const ground = groundwork(walk);
if (!ground) throw new Error('nobody walks');
const { body } = ground;
const [best] = findLoops(ground).candidates;
const run = recipeRunner(walk);
const cut = (from: number, to: number, ...steps: RecipeStepInput[]) => run({ from, to, steps: recipeSchema.parse(steps) });
const corrections = (...layers: LayerInput[]) =>
  stepSchema.parse({
    kind: 'corrections',
    layers: layers.map((layer, i) => ({ ...layer, name: layer.name ?? `${i}` })),
  }) as StepOfKind<'corrections'>;
const laid = (clip: Clip, ...layers: LayerInput[]) => applyStep(clip, corrections(...layers));
const plain = cut(60, 260);
const loop = cut(best.from, best.to, { kind: 'loop' }, { kind: 'foot-lock' });
const nameOf = (joint: number, motion: Motion = walk) => motion.skeleton.joints[joint].name;
const [HEAD, WRIST] = [nameOf(body.head), nameOf(body.arms.left.wrist)];
const ELBOW = nameOf(body.arms.left.elbow);

/** Where a joint is in every frame of a clip, in the world, and how far two clips are apart there, metres. */
const placesOf = (clip: Clip, joint: number) => {
  const { positions, joints } = forwardKinematics(worldMotion(clip));
  return (f: number): [number, number, number] => [0, 1, 2].map((k) => positions[(f * joints + joint) * 3 + k]) as [number, number, number];
};
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, k) => v - b[k]));
function moved(a: Clip, b: Clip, joint: number): number[] {
  const [p, q] = [placesOf(a, joint), placesOf(b, joint)];
  return Array.from({ length: a.motion.frames }, (_, f) => apart(p(f), q(f)));
}
const isSame = (a: Clip, b: Clip) =>
  [...a.motion.rotations].every((v, i) => v === b.motion.rotations[i]) &&
  [...a.motion.rootPositions].every((v, i) => v === b.motion.rootPositions[i]);
/** The middle of a hand in a frame: where its fingers begin, or half-way to its tip. */
function handAt(clip: Clip, wrist: number): (f: number) => number[] {
  const motion = worldMotion(clip);
  const { joints } = motion.skeleton;
  const { positions, rotations } = forwardKinematics(motion);
  const fingers = joints.filter(({ parent }) => parent === wrist).map(({ offset }) => offset);
  const ends = fingers.length > 0 ? fingers : joints[wrist].endSites.map((v) => v.map((x) => x / 2));
  const local = [0, 1, 2].map((k) => ends.reduce((sum, end) => sum + end[k] / ends.length, 0));
  return (f) => {
    const at = f * joints.length + wrist;
    const [x, y, z, w] = rotations.subarray(at * 4, at * 4 + 4);
    const t = [2 * (y * local[2] - z * local[1]), 2 * (z * local[0] - x * local[2]), 2 * (x * local[1] - y * local[0])];
    const cross = [y * t[2] - z * t[1], z * t[0] - x * t[2], x * t[1] - y * t[0]];
    return [0, 1, 2].map((k) => positions[at * 3 + k] + local[k] + w * t[k] + cross[k]);
  };
}

describe('keys', () => {
  const head = {
    name: 'head up',
    keys: [{ frame: 100, joint: HEAD, turn: [-20, 0, 0] as [number, number, number] }],
    fadeIn: 20,
    fadeOut: 30,
  };

  test('turn a joint by so much at their frame, fade round it, and leave all else to the bit', () => {
    const after = laid(plain, head);
    const J = walk.skeleton.joints.length;
    const turn = (f: number) =>
      (angleBetween(plain.motion.rotations, (f * J + body.head) * 4, after.motion.rotations, (f * J + body.head) * 4) * 180) / Math.PI;
    expect(turn(100)).toBeCloseTo(20, 3);
    expect(turn(90)).toBeCloseTo(10, 3);
    expect(turn(115)).toBeCloseTo(10, 3);
    expect([79, 80, 130, 131].map(turn)).toEqual([0, 0, 0, 0]);
    const others = after.motion.rotations.filter((v, i) => Math.floor(i / 4) % J !== body.head && v !== plain.motion.rotations[i]);
    expect(others).toHaveLength(0);
  });

  test('a turn about the line to the left lifts the face, whatever axes the joint has', () => {
    for (const name of ['axes of its own', 'rest lying', 'Z up', 'T-pose', 'no toes']) {
      const member = zoo().find((own) => own.name === name);
      if (!member) continue;
      const { motion } = expressOn(member.rig, capture('walk', { seed: 5, stature: member.rig.stature, fps: 30, seconds: 3 }).motion);
      const found = bodyOf(motion);
      if (!found) throw new Error(name);
      const clip = cutClip(motion, 5, 60);
      const turned = laid(clip, { ...head, keys: [{ frame: 20, joint: nameOf(found.head, motion), turn: [-30, 0, 0] }] });
      const chin = (own: Clip) => {
        const { rotations, joints } = forwardKinematics(own.motion);
        const [x, y, z, w] = rotations.subarray((20 * joints + found.head) * 4, (20 * joints + found.head) * 4 + 4);
        return [x, y, z, w];
      };
      // The rotation between them, in the world, is about an axis that points to the figure's left: for one who walks to +Z, that is +X; turned back.
      const [a, b] = [chin(clip), chin(turned)];
      const axis = [
        a[3] * b[0] - b[3] * a[0] - a[2] * b[1] + a[1] * b[2],
        a[3] * b[1] - b[3] * a[1] - a[0] * b[2] + a[2] * b[0],
        a[3] * b[2] - b[3] * a[2] - a[1] * b[0] + a[0] * b[1],
      ];
      const sign = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3] < 0 ? -1 : 1;
      const { headings } = groundwork(motion) ?? { headings: [] };
      const left = [Math.cos(headings[25]), 0, -Math.sin(headings[25])];
      const along = (sign * axis.reduce((sum, v, k) => sum + v * left[k], 0)) / Math.hypot(...axis);
      expect(along).toBeLessThan(-0.85);
    }
  });

  test('between keys nothing overshoots, and each joint goes its own way', () => {
    const layer = layerSchema.parse({
      name: 'nod',
      keys: [
        { frame: 0, joint: HEAD, turn: [0, 0, 0] },
        { frame: 10, joint: HEAD, turn: [30, 0, 0] },
        { frame: 20, joint: HEAD, turn: [30, 5, 0] },
        { frame: 40, joint: HEAD, turn: [10, 0, 0] },
        { frame: 15, joint: ELBOW, turn: [0, 0, 40] },
      ],
    });
    const course = layerCourse(layer, null);
    const out = [0, 0, 0, 0, 0, 0];
    const at = (joint: string, f: number) => (course.at(joint, f, out), [...out]);
    for (let f = 0; f <= 40; f++) {
      const [x] = at(HEAD, f);
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(30);
      if (f > 0 && f <= 10) expect(x).toBeGreaterThan(at(HEAD, f - 1)[0]);
    }
    expect(at(HEAD, 15)[0]).toBeCloseTo(30, 9);
    expect(at(ELBOW, 30)[2]).toBeCloseTo(40, 9);
    expect(pegsOf(layer)).toEqual([0, 10, 15, 20, 40]);
  });

  test('a layer that holds stays as it is to the ends', () => {
    const after = laid(plain, { ...head, hold: true });
    const J = walk.skeleton.joints.length;
    for (const f of [0, 50, 199])
      expect(
        (angleBetween(plain.motion.rotations, (f * J + body.head) * 4, after.motion.rotations, (f * J + body.head) * 4) * 180) / Math.PI,
      ).toBeCloseTo(20, 3);
  });

  test('the hips moved, the feet stay where they are and as they are; by choice they go along', () => {
    const lower = {
      name: 'lower',
      keys: [
        { frame: 100, joint: nameOf(0), shift: [0.02, -0.05, 0] as [number, number, number], turn: [0, 8, 0] as [number, number, number] },
      ],
    };
    const [held, free] = [laid(plain, lower), laid(plain, { ...lower, feet: false })];
    expect(placesOf(held, 0)(100)[1] - placesOf(plain, 0)(100)[1]).toBeCloseTo(-0.05, 4);
    for (const { ankle } of [body.legs.left, body.legs.right]) {
      expect(Math.max(...moved(plain, held, ankle))).toBeLessThan(0.0005);
      expect(Math.max(...moved(plain, free, ankle))).toBeGreaterThan(0.04);
    }
    // The first is shifted along the way: to the left of someone who walks to +Z is +X.
    const [heading] = [ground.headings[160]];
    const [x0, , z0] = placesOf(plain, 0)(100);
    const [x1, , z1] = placesOf(held, 0)(100);
    expect((x1 - x0) * Math.cos(heading) - (z1 - z0) * Math.sin(heading)).toBeCloseTo(0.02, 2);
  });
});

describe('layers', () => {
  const head = { keys: [{ frame: 100, joint: HEAD, turn: [-20, 0, 0] as [number, number, number] }] };
  const elbow = { keys: [{ frame: 110, joint: ELBOW, turn: [0, 30, 0] as [number, number, number] }] };

  test('muted, of no weight, empty, or beside one that is alone: nothing is changed, to the bit', () => {
    for (const change of [{ muted: true }, { weight: 0 }, { keys: [] }, { weight: [{ frame: 0, value: 0 }] }])
      expect(isSame(laid(plain, { ...head, ...change }), plain)).toBe(true);
    const { motion } = laid(plain, head, { ...elbow, alone: true });
    expect([...motion.rotations]).toEqual([...laid(plain, elbow).motion.rotations]);
  });

  test('half the weight is half the turn; a weight that goes from key to key is followed', () => {
    const J = walk.skeleton.joints.length;
    const turn = (clip: Clip) =>
      (angleBetween(plain.motion.rotations, (100 * J + body.head) * 4, clip.motion.rotations, (100 * J + body.head) * 4) * 180) / Math.PI;
    expect(turn(laid(plain, { ...head, weight: 0.5 }))).toBeCloseTo(10, 3);
    const weight = [
      { frame: 90, value: 0 },
      { frame: 110, value: 1 },
    ];
    expect(turn(laid(plain, { ...head, weight }))).toBeCloseTo(10, 2);
  });

  test('merged they leave everything where it was, and split a layer is two that do the same', () => {
    const three: LayerInput[] = [
      { ...head, weight: 0.7 },
      { keys: [...elbow.keys, { frame: 120, joint: HEAD, turn: [0, 25, 0] }, { frame: 105, joint: nameOf(0), shift: [0, -0.03, 0.02] }] },
      { touches: [{ limb: 'left hand', from: 95, to: 115, target: { to: 'joint', joint: HEAD, at: [0.1, 0, 0.15] }, give: 0.2 }] },
    ];
    const before = laid(plain, ...three);
    const merged = mergeLayers(plain, corrections(...three), 0, 2);
    expect(merged.layers).toHaveLength(1);
    const after = applyStep(plain, { ...merged, id: 'corrections' });
    for (let j = 0; j < walk.skeleton.joints.length; j++) expect(Math.max(...moved(before, after, j))).toBeLessThan(1e-5);
    const two = mergeLayers(plain, corrections(...three), 1, 2);
    expect(two.layers).toHaveLength(2);
    for (const joint of [body.head, body.arms.left.wrist])
      expect(Math.max(...moved(before, applyStep(plain, { ...two, id: 'corrections' }), joint))).toBeLessThan(1e-5);
    const [whole] = corrections({ keys: [...head.keys, ...elbow.keys] }).layers;
    const parts = splitLayer(whole, new Set([ELBOW]), 'elbow');
    expect(parts.map(({ keys }) => keys.map(({ joint }) => joint))).toEqual([[HEAD], [ELBOW]]);
  });

  test('merged round a loop they come round as before', () => {
    const three: LayerInput[] = [
      { keys: [{ frame: 2, joint: HEAD, turn: [-20, 0, 0] }] },
      {
        hold: true,
        keys: [
          { frame: 20, joint: ELBOW, turn: [0, 30, 0] },
          { frame: 50, joint: ELBOW, turn: [0, 10, 0] },
        ],
      },
    ];
    const after = applyStep(loop, { ...mergeLayers(loop, corrections(...three), 0, 1), id: 'corrections' });
    const before = laid(loop, ...three);
    for (const joint of [body.head, body.arms.left.wrist]) expect(Math.max(...moved(before, after, joint))).toBeLessThan(1e-5);
  });

  test('taken hold of and turned on, what is shown turns by so much, whatever the weight', () => {
    const J = walk.skeleton.joints.length;
    const local = [Math.sin(0.1), 0, 0, Math.cos(0.1)] as const;
    let layer: Layer = corrections({ ...head, weight: 0.6 }).layers[0];
    const before = applyStep(plain, { ...corrections(), layers: [layer], id: 'corrections' });
    layer = handTurned(layer, walk.skeleton, null, { joint: body.head, frame: 100, local });
    const after = applyStep(plain, { ...corrections(), layers: [layer], id: 'corrections' });
    expect(angleBetween(before.motion.rotations, (100 * J + body.head) * 4, after.motion.rotations, (100 * J + body.head) * 4)).toBeCloseTo(
      0.2,
      4,
    );
    expect(layer.keys).toHaveLength(1);
  });

  test('a peg moved takes all its keys along', () => {
    const [layer] = corrections({
      keys: [...head.keys, { frame: 100, joint: ELBOW, turn: [0, 1, 0] }, { frame: 120, joint: ELBOW, turn: [0, 2, 0] }],
    }).layers;
    expect(withPegAt(layer, 100, 120).keys.map(({ frame, joint, turn }) => [frame, joint, turn[1]])).toEqual([
      [120, HEAD, 0],
      [120, ELBOW, 1],
    ]);
  });
});

describe('touches', () => {
  const touch = (change: Partial<TouchInput> = {}): LayerInput => ({
    touches: [{ limb: 'left hand', from: 90, to: 110, target: { to: 'place', at: goal }, ...change } as TouchInput],
  });
  // Within reach: a little before the chest of the frame in the middle.
  const chest = placesOf(plain, body.arms.left.shoulder)(100);
  const facing = ground.headings[160];
  const goal: [number, number, number] = [chest[0] + 0.3 * Math.sin(facing), chest[1] - 0.15, chest[2] + 0.3 * Math.cos(facing)];

  test('at weight 1 the hand is at a place within reach to a tenth of a millimetre, turned as it was', () => {
    const after = laid(plain, touch({ from: 98, to: 102 }));
    const hand = handAt(after, body.arms.left.wrist);
    for (let f = 98; f <= 102; f++) expect(apart(hand(f), goal)).toBeLessThan(1e-4);
    const J = walk.skeleton.joints.length;
    const [p, q] = [plain, after].map(({ motion }) => forwardKinematics(motion).rotations);
    expect(angleBetween(p, (100 * J + body.arms.left.wrist) * 4, q, (100 * J + body.arms.left.wrist) * 4)).toBeLessThan(1e-3);
    // Nothing before and after its fades, and no other limb at any time.
    expect(Math.max(...moved(plain, after, body.arms.left.wrist).filter((_, f) => f <= 88 || f >= 112))).toBe(0);
    expect(Math.max(...moved(plain, after, body.arms.right.wrist))).toBe(0);
  });

  test('half the weight is half the way', () => {
    const [whole, half] = [laid(plain, touch()), laid(plain, touch({ weight: 0.5 }))].map((clip) =>
      handAt(clip, body.arms.left.wrist)(100),
    );
    const before = handAt(plain, body.arms.left.wrist)(100);
    expect(
      apart(
        half,
        before.map((v, k) => (v + whole[k]) / 2),
      ),
    ).toBeLessThan(2e-4);
  });

  test('the elbow swings to the outside, and the hand stays', () => {
    const side = (clip: Clip) => {
      const [elbow, shoulder] = [body.arms.left.elbow, body.arms.left.shoulder].map((joint) => placesOf(clip, joint)(100));
      return (elbow[0] - shoulder[0]) * Math.cos(facing) - (elbow[2] - shoulder[2]) * Math.sin(facing);
    };
    const [straight, out] = [laid(plain, touch()), laid(plain, touch({ swivel: 25 }))];
    expect(side(out)).toBeGreaterThan(side(straight) + 0.03);
    expect(apart(handAt(out, body.arms.left.wrist)(100), goal)).toBeLessThan(1e-4);
  });

  test('where the arm does not reach, the trunk gives way by its share', () => {
    const far: [number, number, number] = [chest[0] + 0.75 * Math.sin(facing), chest[1] - 0.1, chest[2] + 0.75 * Math.cos(facing)];
    const lack = (give: number) =>
      apart(handAt(laid(plain, touch({ target: { to: 'place', at: far }, give })), body.arms.left.wrist)(100), far);
    expect(lack(0)).toBeGreaterThan(0.03);
    expect(lack(0.5)).toBeLessThan(0.6 * lack(0));
    expect(lack(1)).toBeLessThan(0.02);
    expect(Math.max(...moved(plain, laid(plain, touch({ target: { to: 'place', at: far }, give: 1 })), body.hips))).toBe(0);
  });

  test('on a rail the hand rests on its upper side, and by choice slides along it', () => {
    const rail = {
      id: 'r',
      kind: 'rail' as const,
      x: chest[0],
      z: chest[2],
      turn: facing - Math.PI / 2,
      width: 6,
      height: chest[1] - 0.35,
      depth: 0.04,
    };
    const on = (slide: boolean) =>
      handAt(laid(plain, touch({ target: { to: 'prop', prop: rail }, slide, from: 95, to: 105, give: 0.3 })), body.arms.left.wrist);
    const along = ([x, , z]: number[]) => (x - rail.x) * Math.sin(facing) + (z - rail.z) * Math.cos(facing);
    const [held, slid] = [on(false), on(true)];
    for (let f = 95; f <= 105; f++) expect(apart(held(f), held(95))).toBeLessThan(2e-4);
    const gone = along(slid(105)) - along(slid(95));
    const free = along(handAt(plain, body.arms.left.wrist)(105)) - along(handAt(plain, body.arms.left.wrist)(95));
    expect(gone).toBeCloseTo(free, 2);
    // As thick as the rail, and as far off as it is asked.
    const [x, y, z] = slid(100);
    const aside = (x - rail.x) * Math.cos(facing) - (z - rail.z) * Math.sin(facing);
    expect(Math.hypot(y - rail.height - ground.contacts.floorM, aside)).toBeCloseTo(0.04, 3);
  });

  test('a hand on the hip goes along with it; two hands that go by each other are refused in words, and the rest is done', () => {
    const HIP = nameOf(body.legs.left.hip);
    const at: [number, number, number] = [0.12, 0.08, 0.02];
    const after = laid(plain, touch({ from: 60, to: 140, target: { to: 'joint', joint: HIP, at } }));
    const hip = placesOf(after, body.legs.left.hip);
    const hand = handAt(after, body.arms.left.wrist);
    for (const f of [60, 100, 140]) expect(apart(hand(f), hip(f))).toBeCloseTo(Math.hypot(...at), 3);
    const RIGHT = nameOf(body.arms.right.wrist);
    const ring = corrections({
      name: 'clasp',
      touches: [
        { limb: 'left hand', from: 90, to: 110, target: { to: 'joint', joint: RIGHT } },
        { limb: 'right hand', from: 90, to: 110, target: { to: 'joint', joint: WRIST } },
      ],
    });
    expect(troublesOf(ring, { before: plain })).toEqual([expect.stringContaining('Layer “clasp”, left hand at frame 90')]);
    expect(Math.max(...moved(plain, applyStep(plain, ring), body.arms.right.wrist))).toBeGreaterThan(0.05);
  });

  test('a foot set on a box stays on it, and the other foot where it was', () => {
    // While it stands, so that the ball is as high as the floor.
    const stance = ground.contacts.right.find(({ from }) => from > 110);
    const frame = (stance ? Math.round((stance.from + stance.to) / 2) : 0) - 60;
    const ankle = placesOf(plain, body.legs.right.ankle);
    const [x, , z] = ankle(frame);
    const box = { id: 'b', kind: 'box' as const, x, z, turn: 0, width: 1.2, height: 0.2, depth: 1.2 };
    const after = laid(plain, {
      touches: [{ limb: 'right foot', from: frame, to: frame + 4, target: { to: 'prop', prop: box }, off: 0 }],
    });
    expect(placesOf(after, body.legs.right.ankle)(frame)[1] - ankle(frame)[1]).toBeCloseTo(0.2, 2);
    expect(Math.max(...moved(plain, after, body.legs.left.ankle))).toBe(0);
  });

  test('a foot set where its leg does not reach takes the hips along, and the other foot stays', () => {
    const [x, , z] = placesOf(plain, body.legs.right.hip)(100);
    const target = { to: 'place' as const, at: [x + 0.6 * Math.sin(facing), 0.05, z + 0.6 * Math.cos(facing)] as [number, number, number] };
    const after = laid(plain, { touches: [{ limb: 'right foot', from: 100, to: 104, target, give: 0.5 }] });
    expect(moved(plain, after, body.hips)[100]).toBeGreaterThan(0.01);
    expect(moved(plain, after, body.legs.left.ankle)[100]).toBeLessThan(0.005);
  });
});

describe('taken hold of', () => {
  const pose = cutClip(walk, 160, 161).motion;
  const one = {
    ...pose,
    frames: 1,
    rotations: pose.rotations.slice(0, pose.rotations.length / 2),
    rootPositions: pose.rootPositions.slice(0, 3),
  };
  /** The pose with what came of the hand's work in it. */
  function done(grabbed: readonly Grabbed[]): Motion {
    const out = copyMotion(one);
    for (const { joint, local } of grabbed) multiply(out.rotations, joint * 4, out.rotations, joint * 4, local, 0);
    return out;
  }
  const placeIn = (motion: Motion, joint: number) =>
    [...forwardKinematics(motion).positions.subarray(joint * 3, joint * 3 + 3)] as [number, number, number];

  test.each([
    ['left hand', body.arms.left.wrist, [0.05, 0.08, 0.04]],
    ['right foot', body.legs.right.ankle, [0, 0.06, 0.03]],
  ])('a %s comes to where it is drawn, turned in the world as it was', (_, joint, [x, y, z]) => {
    const [px, py, pz] = placeIn(one, joint);
    const to = [px + x, py + y, pz + z] as const;
    const after = done(grab(one, joint, to));
    expect(apart(placeIn(after, joint), to)).toBeLessThan(1e-4);
    const [p, q] = [one, after].map((motion) => forwardKinematics(motion).rotations);
    expect(angleBetween(p, joint * 4, q, joint * 4)).toBeLessThan(1e-3);
  });

  test('an elbow swings about the line from shoulder to wrist, and the hand stays', () => {
    const { elbow, wrist } = body.arms.left;
    const [x, y, z] = placeIn(one, elbow);
    const after = done(grab(one, elbow, [x + 0.1, y + 0.05, z]));
    expect(apart(placeIn(after, elbow), [x, y, z])).toBeGreaterThan(0.03);
    expect(apart(placeIn(after, wrist), placeIn(one, wrist))).toBeLessThan(1e-5);
  });

  test('a head turns the neck towards where it is drawn; the first joint is shifted; what is not moved turns nothing', () => {
    const [x, y, z] = placeIn(one, body.head);
    const [turn] = grab(one, body.head, [x + 0.05, y, z]);
    expect(turn.joint).toBe(walk.skeleton.joints[body.head].parent);
    expect(placeIn(done([turn]), body.head)[0]).toBeGreaterThan(x + 0.03);
    const [hx, hy, hz] = placeIn(one, 0);
    expect(grab(one, 0, [hx, hy - 0.05, hz])[0].moved?.[1]).toBeCloseTo(-0.05, 6);
    expect(grab(one, body.head, [x, y, z])).toEqual([]);
  });

  test('a turn about one of the world’s axes is that turn', () => {
    const by = [0, Math.sin(0.2), 0, Math.cos(0.2)] as const;
    const after = forwardKinematics(done([turnInWorld(one, body.chest, by)])).rotations;
    const expected = [0, 0, 0, 1];
    multiply(expected, 0, by, 0, forwardKinematics(one).rotations, body.chest * 4);
    expect(angleBetween(after, body.chest * 4, expected, 0)).toBeLessThan(1e-5);
  });
});

describe('a clip', () => {
  test.each<[string, LayerInput]>([
    ['a key on the seam', { keys: [{ frame: 0, joint: HEAD, turn: [-25, 0, 0] }] }],
    ['a key that fades over the seam', { keys: [{ frame: 60, joint: ELBOW, turn: [0, 30, 0] }], fadeIn: 15, fadeOut: 20 }],
    [
      'keys held all round',
      {
        hold: true,
        keys: [
          { frame: 5, joint: ELBOW, turn: [0, 30, 0] },
          { frame: 40, joint: ELBOW, turn: [0, 10, 0] },
        ],
      },
    ],
    ['the hips lower at the seam', { keys: [{ frame: 2, joint: nameOf(0), shift: [0, -0.03, 0] }], fadeIn: 14, fadeOut: 14 }],
    [
      'a hand at the hip over the seam',
      {
        touches: [
          {
            limb: 'left hand',
            from: -8,
            to: 8,
            fadeIn: 14,
            fadeOut: 14,
            target: { to: 'joint', joint: nameOf(body.legs.left.hip), at: [0.12, 0.1, 0.05] },
          },
        ],
      },
    ],
  ])('that is a loop stays one with %s', (_, layer) => {
    const after = applyStep(laid(loop, { fadeIn: 12, fadeOut: 12, ...layer }), stepSchema.parse({ kind: 'travel' }));
    const figures = clipFigures(after);
    expect(figures?.tick).toBeLessThan(1.2);
    expect(figures?.seam.poseCm).toBeLessThan(0.01);
    expect(isSame(laid(loop, { fadeIn: 12, fadeOut: 12, ...layer }), loop)).toBe(false);
  });

  test('behind travel the layers do the same as before it', () => {
    const layer: RecipeStepInput = {
      kind: 'corrections',
      layers: [
        {
          name: 'a',
          keys: [
            { frame: 20, joint: HEAD, turn: [-20, 10, 0] },
            { frame: 30, joint: nameOf(0), shift: [0, -0.02, 0] },
          ],
        },
      ],
    };
    const [one, other] = [
      cut(60, 160, layer, { kind: 'travel', start: 'captured' }),
      cut(60, 160, { kind: 'travel', start: 'captured' }, layer),
    ];
    for (const joint of [0, body.head, body.legs.left.ankle]) expect(Math.max(...moved(one, other, joint))).toBeLessThan(1e-5);
  });

  test('at half the rate the same keys are at the same instants, and recut they stay where they are in the take', () => {
    const steps = recipeSchema.parse([
      corrections({
        keys: [{ frame: 40, joint: HEAD, turn: [-20, 0, 0] }],
        touches: [{ limb: 'left hand', from: 20, to: 30, fadeIn: 5, target: { to: 'floor' } }],
      }),
    ]);
    const [half] = stepsAtRate(steps, 0.5) as StepOfKind<'corrections'>[];
    expect(half.layers[0].keys[0].frame).toBe(20);
    expect(half.layers[0].touches[0]).toMatchObject({ from: 10, to: 15, fadeIn: 3, fadeOut: 5 });
  });

  test('in another delivery of its take, turned and shifted, touches go to where their places are there', () => {
    const box = { id: 'b', kind: 'box' as const, x: 1, z: 0, turn: 0.2, width: 1, height: 1, depth: 1 };
    const to = (target: TouchInput['target']): TouchInput => ({ limb: 'left hand', from: 2, to: 4, target });
    const steps = recipeSchema.parse([
      corrections({ touches: [to({ to: 'place', at: [1, 1.2, 0] }), to({ to: 'prop', prop: box }), to({ to: 'floor' })] }),
    ]);
    const [moved] = stepsAtRate(steps, 1, { turn: Math.PI / 2, x: 0.5, z: 0 }) as StepOfKind<'corrections'>[];
    const [place, prop, floor] = moved.layers[0].touches.map(({ target }) => target);
    expect(place).toEqual({ to: 'place', at: [expect.closeTo(0.5, 9), 1.2, expect.closeTo(-1, 9)] });
    expect(prop).toMatchObject({
      prop: { x: expect.closeTo(0.5, 9), z: expect.closeTo(-1, 9), turn: expect.closeTo(0.2 + Math.PI / 2, 9) },
    });
    expect(floor).toEqual({ to: 'floor' });
  });

  test('of the other side: what is corrected and mirrored is what is mirrored and corrected on the other side', () => {
    const layers: LayerInput[] = [
      {
        keys: [
          { frame: 30, joint: ELBOW, turn: [10, 20, -15] },
          { frame: 30, joint: HEAD, turn: [5, 12, 7] },
          { frame: 35, joint: nameOf(0), shift: [0.03, -0.02, 0.01], turn: [0, 6, 3] },
        ],
      },
      {
        touches: [
          {
            limb: 'left hand',
            from: 40,
            to: 50,
            swivel: 20,
            give: 0.2,
            target: { to: 'joint', joint: nameOf(body.legs.left.hip), at: [0.1, 0.1, 0.05] },
          },
        ],
      },
    ];
    const mirror = stepSchema.parse({ kind: 'mirror' });
    const [, swapped] = stepsOfOtherSide(recipeSchema.parse([corrections(...layers)]));
    const one = applyStep(laid(plain, ...layers), mirror);
    const other = applyStep(applyStep(plain, mirror), swapped);
    for (let j = 0; j < walk.skeleton.joints.length; j++) expect(Math.max(...moved(one, other, j))).toBeLessThan(1e-4);
  });

  test('with joints that are not there says so, and does the rest', () => {
    const step = corrections({
      name: 'tail',
      keys: [
        { frame: 100, joint: 'Tail', turn: [0, 0, 9] },
        { frame: 100, joint: HEAD, turn: [-20, 0, 0] },
      ],
    });
    expect(troublesOf(step, { before: plain })).toEqual([
      'Layer “tail” has keys of “Tail”, a joint that is not there; its other keys are done.',
    ]);
    expect(Math.max(...moved(plain, applyStep(plain, step), body.head))).toBe(0);
    expect(isSame(applyStep(plain, step), plain)).toBe(false);
  });

  test('refuses weights beyond all, and touches that end before they begin, in words', () => {
    expect(layerSchema.safeParse({ name: 'a', weight: 1.2 }).success).toBe(false);
    const found = layerSchema.safeParse({ name: 'a', touches: [{ limb: 'left hand', from: 9, to: 3, target: { to: 'floor' } }] });
    expect(found.error?.issues[0].message).toBe('A touch ends at the frame it begins at, or later.');
  });
});

describe('a limb whose end is held by a touch', () => {
  const touch: TouchInput = { limb: 'left hand', from: 60, to: 120, target: { to: 'floor' } };
  const layer = layerSchema.parse({ name: 'held', touches: [touch] });

  test('is found at its middle and its end while it is held, and nowhere else', () => {
    const { elbow, wrist, shoulder } = body.arms.left;
    expect(pinnedLimb(layer, body, elbow, 60)).toEqual({ touch: 0, from: shoulder, to: wrist, outwards: 1 });
    expect(pinnedLimb(layer, body, wrist, 120)?.touch).toBe(0);
    for (const [joint, frame] of [
      [elbow, 59],
      [elbow, 121],
      [shoulder, 80],
      [body.arms.right.elbow, 80],
    ])
      expect(pinnedLimb(layer, body, joint, frame)).toBeNull();
  });

  test.each(['left hand', 'right hand', 'left foot', 'right foot'] as const)(
    'turned about its line, the middle of the %s’s limb goes where the same swivel takes it',
    (limb) => {
      // Held where it is in the middle of the take, so that it is within reach.
      const frame = 100;
      const at = limbPlace(plain.motion, limb, frame) ?? [0, 0, 0];
      const own = layerSchema.parse({ name: 'held', touches: [{ limb, from: frame, to: frame, target: { to: 'place', at } }] });
      const side = limb.startsWith('left') ? 'left' : 'right';
      const middle = limb.endsWith('foot') ? body.legs[side].knee : body.arms[side].elbow;
      const pin = pinnedLimb(own, body, middle, frame);
      if (!pin) throw new Error('nothing is held');
      const held = laid(plain, own);
      const swung = laid(plain, swungOut(own, 0, pin.outwards * 20));
      const [a, b, c] = [pin.from, middle, pin.to].map((joint) => placesOf(held, joint)(frame));
      const line = unit(minus(c, a));
      const turn = fromAxisAngle(line, (20 * Math.PI) / 180);
      const goal = plus(a, turned(turn, 0, minus(b, a)));
      expect(apart(goal, placesOf(swung, middle)(frame))).toBeLessThan(1e-4);
    },
  );
});
