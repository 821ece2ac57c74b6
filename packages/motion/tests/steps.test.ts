import { capture } from '@lantern/capture';
import {
  addableSteps,
  createStep,
  findLoops,
  groundwork,
  parseProject,
  recipeRunner,
  recipeSchema,
  reportOf,
  stepClips,
  STEP_LIST,
  stepOf,
  stepSchema,
  stepsAtRate,
  stepsOfOtherSide,
  stepsRecut,
  withMapping,
  withStep,
  type RecipeStepInput,
  type StepKind,
} from '@lantern/motion';
import { mirrorMap } from '../src/anatomy/mirror-map';
import { mapIntervals } from '../src/model/frame-map';
import { resample } from '../src/model/resample';

const walk = capture('walk', { seconds: 8, seed: 3, fps: 120 }).motion;
const half = resample(walk, Math.floor((walk.frames - 1) / 2) + 1, 60);
const found = groundwork(walk);
const [best] = found ? findLoops(found).candidates : [];
const recipe = (...steps: RecipeStepInput[]) => recipeSchema.parse(steps);
const seconds = (clip: { motion: { frames: number; fps: number } }) => (clip.motion.frames - 1) / clip.motion.fps;

test('a clip brought from 120 to 60 frames a second keeps all that it is: its length, pins, holds, begin, weights and contacts', () => {
  const steps = recipe(
    { kind: 'fit', character: 'wick', placement: { leftHand: { weight: 0.5, holds: [{ from: -20, to: 61, weight: 0.8, fade: 0.25 }] } } },
    { kind: 'loop', start: 40 },
    { kind: 'foot-lock', contacts: { left: [{ from: 7, to: 31 }], right: [{ from: 0, to: 1 }] } },
    { kind: 'retime', frames: 128, pins: [{ from: 30, to: 45 }] },
  );
  expect(stepsAtRate(steps, 0.5)).toMatchObject([
    { placement: { leftHand: { weight: 0.5, holds: [{ from: -10, to: 31, weight: 0.8, fade: 0.25 }] } } },
    { start: 20 },
    { contacts: { left: [{ from: 4, to: 16 }], right: [{ from: 0, to: 1 }] } },
    { frames: 64, pins: [{ from: 15, to: 22.5 }] },
  ]);
  expect(stepsAtRate(stepsAtRate(steps, 2), 0.5)).toEqual(steps);
});

test('a retimed clip lasts as long at the other rate, and its pins are at the same instants', () => {
  const steps = recipe({ kind: 'loop' }, { kind: 'retime', frames: 150, pins: [{ from: 40, to: 60 }] });
  const slow = recipeRunner(walk)({ from: best.from, to: best.to, steps });
  const cut = { from: Math.round(best.from / 2), to: Math.round(best.to / 2) };
  const again = recipeRunner(half)({ ...cut, steps: stepsAtRate(steps, 0.5) });
  expect(seconds(slow)).toBeCloseTo(150 / 120, 6);
  expect(seconds(again)).toBeCloseTo(seconds(slow), 2);
});

test('cut elsewhere, contacts, pins and stretches stay where they are in the take; behind a cycle begun with a landing they stay in it', () => {
  const contacts = { left: [{ from: 5, to: 20 }], right: [{ from: 0, to: 8 }] };
  const moved = stepsRecut(recipe({ kind: 'foot-lock', contacts }, { kind: 'retime', pins: [{ from: 30, to: 36 }] }), best, {
    from: best.from + 10,
    to: best.to,
  });
  expect(moved).toMatchObject([{ contacts: { left: [{ from: 0, to: 10 }], right: [] } }, { pins: [{ from: 20, to: 26 }] }]);
  const begun = recipe({ kind: 'loop', start: 'left' }, { kind: 'foot-lock', contacts });
  expect(stepsRecut(begun, best, { from: best.from + 10, to: best.to })).toEqual(begun);
});

test('the order of a recipe is checked when it is read, with what to do, the same in a project file', () => {
  const wrong = [{ kind: 'travel' as const }, { kind: 'loop' as const }];
  const sentence = 'Step 2, “Loop”, stands behind step 1, “Travel”, where it would do nothing: put it before “Travel”.';
  expect(recipeSchema.safeParse(wrong).error?.issues).toMatchObject([{ path: [1], message: sentence }]);
  const file = { oldLantern: 1, takes: [{ id: 'w', file: 'w.bvh' }], clips: [{ name: 'a', take: 'w', from: 0, to: 9, steps: wrong }] };
  expect(() => parseProject(JSON.stringify(file))).toThrow(`"clips[0].steps[1]": ${sentence}`);
  expect(() => recipe({ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'loop' })).toThrow('can be done once, and step 1 does it');
  expect(() => recipe({ kind: 'loop', id: 'a' }, { kind: 'travel', id: 'a' })).toThrow('Two steps have the id “a”');
  // What can stand anywhere does.
  recipe({ kind: 'loop' }, { kind: 'travel' }, { kind: 'foot-lock' }, { kind: 'mirror' }, { kind: 'retime' });
});

test('a kind may stand several times, each step with an id of its own', () => {
  const steps = recipe({ kind: 'loop' }, { kind: 'retime', factor: 2 }, { kind: 'travel' }, { kind: 'retime', factor: 0.5 });
  expect(steps.map(({ id }) => id)).toEqual(['loop', 'retime', 'travel', 'retime-2']);
  const clips = stepClips(recipeRunner(walk), { from: best.from, to: best.to, steps });
  const lasts = clips.map(({ step, before, after }) => reportOf(step, before, after)?.after);
  expect(lasts[1]).toBeCloseTo(best.seconds / 2, 1);
  expect(lasts[3]).toBeCloseTo(best.seconds, 1);
  expect(recipeSchema.parse(steps)).toEqual(steps);
});

test('a step that is added comes where it can do something, whatever is there, and none that would do nothing is offered', () => {
  const kinds = STEP_LIST.map(({ kind }) => kind);
  const wish = { clip: null, characters: ['wick'] };
  for (const before of [
    recipe(),
    recipe({ kind: 'loop' }, { kind: 'travel' }, { kind: 'foot-lock' }),
    recipe({ kind: 'travel' }, { kind: 'mirror' }),
  ]) {
    for (const { kind } of addableSteps(before)) {
      const after = withStep(before, createStep(kind, wish));
      expect(recipeSchema.safeParse(after).success).toBe(true);
      expect(after).toHaveLength(before.length + 1);
    }
  }
  const whole = kinds.reduce((steps, kind) => withStep(steps, createStep(kind, wish)), recipe());
  expect(whole.map(({ kind }) => kind)).toEqual(kinds);
  expect(addableSteps(whole).map(({ kind }) => kind)).not.toContain('loop');
  expect(addableSteps(whole).map(({ kind }) => kind)).toContain('foot-lock');
});

test('a new step begins with what the clip is: its speed, its character, a turn where it goes nowhere', () => {
  const run = recipeRunner(walk);
  const clip = run({ from: best.from, to: best.to, steps: recipe({ kind: 'loop' }) });
  const of = (kind: StepKind) => createStep(kind, { clip, characters: ['tallow', 'wick'] });
  const going = clip.motion.rootPositions;
  const last = clip.motion.frames - 1;
  const mps = Math.hypot(going[last * 3] - going[0], going[last * 3 + 2] - going[2]) / seconds(clip);
  expect(of('speed')).toMatchObject({ id: 'speed', mps: expect.closeTo(mps, 1) });
  expect(of('fit')).toMatchObject({ character: 'tallow' });
  expect(of('path')).toMatchObject({ shape: 'arc' });
  const idle = recipeRunner(capture('idle', { seconds: 3, seed: 1 }).motion)({ from: 10, to: 100, steps: [] });
  expect(createStep('path', { clip: idle, characters: [] })).toMatchObject({ shape: 'turn' });
  expect(createStep('speed', { clip: idle, characters: [] })).toMatchObject({ mps: 1.4 });
});

test('the other side swaps what the steps behind the mirror say of sides, leaves those before it, and is undone by itself', () => {
  const steps = recipe(
    { kind: 'fit', character: 'wick', placement: { leftHand: { weight: 1 } } },
    { kind: 'loop', start: 'left-stance' },
    { kind: 'foot-lock', contacts: { left: [{ from: 1, to: 9 }], right: [] } },
  );
  const other = stepsOfOtherSide(steps);
  expect(other.map(({ kind }) => kind)).toEqual(['fit', 'mirror', 'loop', 'foot-lock']);
  expect(other[0]).toEqual(steps[0]);
  expect(other.slice(2)).toMatchObject([{ start: 'right-stance' }, { contacts: { left: [], right: [{ from: 1, to: 9 }] } }]);
  expect(stepsOfOtherSide(other)).toEqual(steps);
});

test('a mapping corrected by hand is what every step uses', () => {
  const name = (j: number | undefined) => [walk.skeleton.joints[j ?? 0].name];
  const legs = found?.body.legs;
  // A person says that the left leg is the other one.
  const mapping = Object.fromEntries(
    (['left', 'right'] as const).flatMap((side) => {
      const leg = legs?.[side === 'left' ? 'right' : 'left'];
      return [
        [`${side}Thigh`, name(leg?.hip)],
        [`${side}Shin`, name(leg?.knee)],
        [`${side}Foot`, name(leg?.ankle)],
        [`${side}Toes`, name(leg?.toe)],
      ];
    }),
  );
  const swapped = withMapping(walk, mapping);
  const cut = { from: best.from, to: best.to, steps: recipe({ kind: 'foot-lock' }) };
  const [asFound, asMapped] = [recipeRunner(walk)(cut), recipeRunner(swapped)(cut)];
  expect(asMapped.contacts?.left).toEqual(asFound.contacts?.right);
  expect(asMapped.contacts?.right).toEqual(asFound.contacts?.left);
  expect(swapped.skeleton.body?.legs.left).toEqual(legs?.right);
  expect(mirrorMap(swapped.skeleton).pairs[legs?.left.knee ?? 0].partner).toBe(legs?.right.knee);
  expect(withMapping(walk, {})).toBe(walk);
});

test('intervals keep a frame at least, and those before the beginning go', () => {
  const all = [
    { from: -9, to: -2 },
    { from: 3, to: 4 },
    { from: 10, to: 20 },
  ];
  expect(mapIntervals({ scale: 0.1, shift: 0 }, all)).toEqual([
    { from: 0, to: 1 },
    { from: 1, to: 2 },
  ]);
});

test('what a step lacks when it is read is what is good, and its id is its kind', () => {
  expect(stepSchema.parse({ kind: 'foot-lock' })).toMatchObject({ id: 'foot-lock', blend: 0.2, hips: true });
  expect(stepOf(recipe({ kind: 'loop', off: true }, { kind: 'travel' }), 'loop')).toBeUndefined();
});
