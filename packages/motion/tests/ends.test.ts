import { capture } from '@lantern/capture';
import {
  asCaptured,
  clipSlides,
  groundwork,
  homeDistance,
  homePoseOf,
  proposeHome,
  recipeRunner,
  recipeSchema,
  standsAt,
  stepSchema,
  stepsOfOtherSide,
  swingsOf,
  troublesOf,
  worldMotion,
  type Clip,
  type HomePose,
} from '@lantern/motion';
import { endToEnd } from '../src/steps/exact';
import { farthest, gaitOf, suit } from './made';
import { endClip, setClip } from './set-made';

const { gait: waiting } = suit('idle', { seed: 1003, seconds: 6 });
const pose = homePoseOf(waiting, 100);
const lock = { kind: 'foot-lock' } as const;
const meet = { kind: 'meet-home', pose } as const;
const TURN = { script: 'turns', proposal: /turn-right-90/ } as const;
const STOP = { script: 'start-stop', speed: 1.3, proposal: /stop/ } as const;
const START = { script: 'start-stop', speed: 1.3, proposal: /start/ } as const;

const slideCm = (clip: Clip) => Math.max(0, ...clipSlides(clip).map(({ excursionCm }) => excursionCm));
const fromHome = (clip: Clip, frame: number, home: HomePose = pose) => homeDistance(gaitOf(worldMotion(clip)), frame, home);

test('a turn is brought to exactly its angle, and no planted foot slides for it', () => {
  const before = endClip(TURN, lock);
  const after = endClip(TURN, { kind: 'exact-turn', turnDeg: -90 }, lock);
  const turned = (clip: Clip) => ((endToEnd(clip)?.turn ?? 0) * 180) / Math.PI;
  expect(turned(before)).not.toBeCloseTo(-90, 1);
  expect(turned(after)).toBeCloseTo(-90, 1);
  expect(slideCm(after)).toBeLessThan(Math.max(0.1, slideCm(before) + 0.02));
  expect(after.motion.frames).toBe(before.motion.frames);
});

test.each([
  ['start', START],
  ['stop', STOP],
] as const)('a %s is brought to exactly a distance, and no planted foot slides for it', (_, wanted) => {
  const before = endClip(wanted, lock);
  const metres = (endToEnd(before)?.metres ?? 0) * 1.12;
  const after = endClip(wanted, { kind: 'exact-distance', metres }, lock);
  expect((endToEnd(after)?.metres ?? 0) - metres).toBeCloseTo(0, 4);
  expect(slideCm(after)).toBeLessThan(0.1);
});

test('a turn to the right on the other side is one to the left', () => {
  const steps = recipeSchema.parse([{ kind: 'exact-turn', turnDeg: 90 }]);
  expect(stepsOfOtherSide(steps).find(({ kind }) => kind === 'exact-turn')).toMatchObject({ turnDeg: -90 });
});

test('a loop, and somebody who never lifts a foot, cannot be brought to an angle: it says why', () => {
  const { motion } = capture('idle', { seconds: 3, seed: 5 });
  const run = recipeRunner(motion);
  expect(() => run({ from: 10, to: 100, steps: recipeSchema.parse([{ kind: 'exact-turn', turnDeg: 45 }]) })).toThrow(
    /No foot leaves the floor/,
  );
  expect(() => run({ from: 10, to: 100, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'exact-turn', turnDeg: 45 }]) })).toThrow(
    /loop/,
  );
  expect(() => run({ from: 10, to: 100, steps: recipeSchema.parse([{ kind: 'exact-distance', metres: 1 }]) })).toThrow(/goes nowhere/);
});

test.each([
  ['a start at its first frame', START, [0]],
  ['a stop at its last frame', STOP, [1]],
  ['a turn at both', TURN, [0, 1]],
] as const)('%s is home afterwards, feet held', (_, wanted, ends) => {
  const before = endClip(wanted, lock);
  const after = endClip(wanted, lock, meet);
  const last = after.motion.frames - 1;
  for (const end of ends) {
    expect(fromHome(before, end * last).cm).toBeGreaterThan(0.5);
    const { cm, worstDeg } = fromHome(after, end * last);
    expect(cm).toBeLessThan(0.2);
    expect(worstDeg).toBeLessThan(1);
  }
  expect(slideCm(after)).toBeLessThan(0.1);
});

test('coming home changes neither how far a turn turns nor, but for a millimetre, how far a stop goes', () => {
  const turn = endClip(TURN, { kind: 'exact-turn', turnDeg: -90 }, lock, meet);
  expect(((endToEnd(turn)?.turn ?? 0) * 180) / Math.PI).toBeCloseTo(-90, 1);
  const stop = endClip(STOP, { kind: 'exact-distance', metres: 0.9 }, lock, meet);
  expect(endToEnd(stop)?.metres).toBeCloseTo(0.9, 2);
});

test('frames away from the ends stay as they were', () => {
  const before = endClip(TURN, lock);
  const after = endClip(TURN, lock, { ...meet, seconds: 0.4 });
  const middle = (clip: Clip) => {
    const { motion } = clip;
    const J = motion.skeleton.joints.length;
    const f = motion.frames >> 1;
    return motion.rotations.slice(f * J * 4, f * J * 4 + 4);
  };
  middle(before).forEach((v, i) => expect(middle(after)[i]).toBeCloseTo(v, 3));
});

test('an idle that is home already stays where it is; without a pose the step does nothing, and says so', () => {
  const idle = setClip('wait', { script: 'idle', seconds: 16, proposal: /idle/ }).clip;
  const own = homePoseOf(gaitOf(worldMotion(idle)), 0);
  const steps = (pose_?: HomePose) => recipeSchema.parse([{ kind: 'loop' }, lock, { kind: 'meet-home', pose: pose_ }]);
  const at = { script: 'idle', seconds: 16, proposal: /idle/ } as const;
  const plain = endClip(at, { kind: 'loop' }, lock);
  expect(farthest(endClip(at, ...steps(own)).motion, plain.motion)).toBeLessThan(0.004);
  expect(farthest(endClip(at, ...steps()).motion, plain.motion)).toBe(0);
  expect(troublesOf(stepSchema.parse({ kind: 'meet-home' }), { before: plain })[0]).toMatch(/no home pose yet/);
  const walk = setClip('walk', { script: 'walk', proposal: /walk-forward/ }).clip;
  const cut = { ...walk, loop: false };
  expect(troublesOf(stepSchema.parse({ kind: 'meet-home', pose }), { before: cut })[0]).toMatch(/neither end/);
});

test('home is one pose whichever side a clip is of, and is no correction of what was captured', () => {
  const steps = recipeSchema.parse([lock, meet]);
  expect(stepsOfOtherSide(steps).find(({ kind }) => kind === 'meet-home')).toMatchObject({ pose });
  expect(asCaptured(steps).map(({ kind, off }) => [kind, off === true])).toEqual([
    ['foot-lock', true],
    ['meet-home', false],
  ]);
});

test('the home that is proposed is a frame of the idle, as near to the ends as any other', () => {
  const clips = [
    setClip('wait', { script: 'idle', seconds: 16, proposal: /idle/ }),
    setClip('off', START),
    setClip('halt', STOP),
    setClip('turn', TURN),
  ];
  const best = proposeHome(clips);
  expect(best?.clip).toBe('wait');
  expect(best?.meanCm).toBeLessThan(4);
  expect(proposeHome(clips.slice(1))?.clip).not.toBe('wait');
  expect(proposeHome([setClip('walk', { script: 'walk', proposal: /walk-forward/ })])).toBeNull();
});

test('somebody stands where both feet bear and the hips are still', () => {
  const { gait } = suit('start-stop', { seed: 3, seconds: 12, speed: 1.3 });
  expect(standsAt(gait, 20)).toBe(true);
  const { gait: walking } = suit('walk', { seed: 3 });
  expect([30, 60, 90, 120].filter((frame) => standsAt(walking, frame))).toEqual([]);
});

test('swings are what lies between both feet bearing', () => {
  const contacts = {
    left: [
      { from: 0, to: 20 },
      { from: 30, to: 60 },
    ],
    right: [
      { from: 0, to: 40 },
      { from: 50, to: 60 },
    ],
  };
  expect(swingsOf(contacts, 60)).toEqual([
    { from: 20, to: 30 },
    { from: 40, to: 50 },
  ]);
});

test('the figures of groundwork do not depend on where a clip stands', () => {
  const clip = endClip(STOP, lock, meet);
  const moved = { ...clip, motion: { ...clip.motion, rootPositions: clip.motion.rootPositions.map((v, i) => (i % 3 === 0 ? v + 7 : v)) } };
  expect(groundwork(moved.motion)).not.toBeNull();
  expect(fromHome(moved, clip.motion.frames - 1).cm).toBeCloseTo(fromHome(clip, clip.motion.frames - 1).cm, 3);
});
