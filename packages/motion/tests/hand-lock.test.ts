import { addFaults, capture, DEFAULT_FAULTS, SCRIPTS } from '@lantern/capture';
import {
  applyStep,
  cutClip,
  groundwork,
  handHolds,
  handSlides,
  limbPlace,
  stepSchema,
  stepsOfOtherSide,
  stepsRecut,
  troublesOf,
  worldMotion,
  type Clip,
  type Motion,
  type RecipeStepInput,
  type StageProp,
  type StepOfKind,
} from '@lantern/motion';

const lock = (params: object = {}) => stepSchema.parse({ kind: 'hand-lock', ...params }) as StepOfKind<'hand-lock'>;
const whole = (motion: Motion): Clip => cutClip(motion, 0, motion.frames - 1);
const walk = capture('walk', { seconds: 6, seed: 91, faults: 0 }).motion;
const SUIT = { ...DEFAULT_FAULTS, headingDrift: 0, floor: 0 };

/** A walk whose left hand is brought somewhere from frame 80 to 200, by a layer: so the truth is known. */
const touching = (touch: object): Motion => {
  const step: RecipeStepInput = {
    kind: 'corrections',
    layers: [{ name: 'truth', touches: [{ limb: 'left hand', from: 80, to: 200, fadeIn: 20, fadeOut: 20, ...touch } as never] }],
  };
  return worldMotion(applyStep(whole(walk), stepSchema.parse(step)));
};
const onThigh = touching({ target: { to: 'joint', joint: 'LeftThigh', at: [0.085, -0.03, 0.065] } });

describe('a hand on the thigh of someone who walks', () => {
  test.each([0, 1, 3])('is found there when it is there, with faults × %d', (factor) => {
    const shaken = factor > 0 ? addFaults(onThigh, 17, factor, SUIT) : onThigh;
    const found = handHolds(whole(shaken), lock());
    expect(found?.right).toEqual([]);
    expect(found?.left).toHaveLength(1);
    const [{ from, to, on }] = found?.left ?? [];
    expect(on).toMatchObject({ to: 'joint', joint: 'LeftThigh' });
    expect(Math.abs(from - 80)).toBeLessThanOrEqual(12);
    expect(Math.abs(to - 201)).toBeLessThanOrEqual(12);
  });

  test('is held there: what the noise moves it on the thigh is gone', () => {
    const clip = whole(addFaults(onThigh, 18, 2, SUIT));
    const step = lock({ contacts: { left: [{ from: 90, to: 195 }], right: [] } });
    const [before] = handSlides(clip, step);
    const [after] = handSlides(applyStep(clip, step), step, clip);
    expect(before.slideCm).toBeGreaterThan(0.3);
    expect(after.slideCm).toBeLessThan(0.02);
  });
});

const rail: StageProp = { id: 'quay-rail', kind: 'rail', x: 0.42, z: 3, turn: Math.PI / 2, width: 12, height: 1.0, depth: 0.05 };

describe('a hand on a rail', () => {
  const along = touching({ target: { to: 'prop', prop: rail }, slide: true });

  test('is found to go along it, and to rest on nothing where the rail is not known', () => {
    const found = handHolds(whole(along), lock({ props: [rail] }));
    expect(found?.left).toHaveLength(1);
    expect(found?.left[0]).toMatchObject({ on: { to: 'prop', prop: rail }, slide: true });
    expect(handHolds(whole(along), lock())?.left).toEqual([]);
  });

  test('keeps to it: it is off its surface by the same in every frame', () => {
    const clip = applyStep(
      whole(addFaults(along, 19, 1, SUIT)),
      lock({ contacts: { left: [{ from: 85, to: 195, on: { to: 'prop', prop: rail }, slide: true }], right: [] } }),
    );
    const floor = groundwork(walk)?.contacts.floorM ?? 0;
    for (let f = 85; f < 195; f += 10) {
      const [x, y] = limbPlace(worldMotion(clip), 'left hand', f) ?? [0, 0];
      // The rail goes to the front: what is nearest to it lies beside the hand.
      expect(Math.hypot(x - rail.x, y - floor - rail.height)).toBeCloseTo(rail.depth / 2 + 0.02, 3);
    }
  });

  test('the rail goes along with the floor of another delivery, and to the other side', () => {
    const step = lock({ props: [rail], contacts: { left: [{ from: 10, to: 40, on: { to: 'prop', prop: rail } }], right: [] } });
    const [moved] = stepsRecut([step], { from: 100, to: 200 }, { from: 90, to: 200 });
    expect(moved).toMatchObject({ contacts: { left: [{ from: 20, to: 50 }] } });
    const own = stepsOfOtherSide([step]).find(({ kind }) => kind === 'hand-lock');
    expect(own).toMatchObject({ contacts: { left: [], right: [{ from: 10, to: 40, on: { prop: { x: -0.42 } } }] } });
  });
});

test('nobody’s hand rests on anything in the scripts of the suit that lean on nothing, and then nothing is changed, to the bit', () => {
  for (const name of SCRIPTS.filter((own) => own !== 'lean')) {
    const clip = whole(capture(name, { seconds: 8, seed: 92 }).motion);
    expect([name, handHolds(clip, lock())]).toEqual([name, { left: [], right: [] }]);
    expect(applyStep(clip, lock())).toBe(clip);
  }
});

test('hands that lean on something in the world are found there within a tenth of a second, and slide there no more', () => {
  const { motion, truth } = capture('lean', { seconds: 12, seed: 93 });
  const clip = whole(motion);
  const found = handHolds(clip, lock());
  for (const [side, own] of [
    ['left', truth.leftHand],
    ['right', truth.rightHand],
  ] as const) {
    expect(found?.[side]).toHaveLength(own?.length ?? 0);
    found?.[side].forEach(({ from, to }, i) => {
      expect(Math.abs(from - (own?.[i].from ?? 0))).toBeLessThanOrEqual(6);
      expect(Math.abs(to - (own?.[i].to ?? 0))).toBeLessThanOrEqual(6);
    });
  }
  const slide = (made: Clip) => Math.max(...handSlides(made, lock(), clip).map(({ slideCm }) => slideCm));
  expect(slide(clip)).toBeGreaterThan(0.5);
  expect(slide(applyStep(clip, lock()))).toBeLessThan(0.02);
});

test('what it cannot do is said', () => {
  const step = lock({ contacts: { left: [{ from: 1, to: 9, on: { to: 'joint', joint: 'Tail' } }], right: [] } });
  expect(troublesOf(step, { before: whole(walk) })).toEqual([
    'The left hand at frame 1: the joint “Tail” that it shall touch is not there.',
  ]);
});
