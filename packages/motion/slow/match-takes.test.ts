import {
  cutMotion,
  fromAxisAngle,
  InputError,
  joinMotions,
  matchTakes,
  moveFrames,
  multiply,
  toMetres,
  type Motion,
} from '@lantern/motion';
import { resample } from '../src/model/resample';
import { gaitOf, suit } from '../tests/made';

/** What the suit recorded is the old take; what it should have recorded, the better solve. */
const { motion: recorded, truth } = suit('rounds', { faults: 1.5, seed: 21 });
const old = gaitOf(recorded);
const { fps, frames } = recorded;
const matched = (motion: Motion) => matchTakes(old, gaitOf(motion));

test('the same samples without the suit’s faults are found frame for frame, and nothing counts as changed', () => {
  const match = matched(truth.motion);
  expect([match.pace, match.offsetSeconds]).toEqual([1, 0]);
  expect(match.scale).toBeCloseTo(1, 3);
  expect(match.medianCm).toBeLessThan(1);
  expect(match.place(400, 465)).toMatchObject({ outcome: 'same', from: 400, to: 465 });
});

test('a shifted start, another rate, another size and another place on the floor are all found at once', () => {
  const later = cutMotion(truth.motion, 37, frames - 1);
  const fast = resample(later, (later.frames - 1) * 2 + 1, 120);
  const big = toMetres(fast, { metresPerUnit: 1.08, up: '+y' });
  moveFrames(big, { turn: 1.1, x: 4, z: -2 });
  const match = matched(big);
  expect(match.pace).toBe(1);
  expect(match.offsetSeconds).toBeCloseTo(-37 / fps, 3);
  expect(match.scale).toBeCloseTo(1.08, 2);
  expect(match.floor.turn).toBeCloseTo(1.1, 1);
  for (const [from, to] of [
    [60, 125],
    [700, 771],
    [1500, 1541],
  ]) {
    const placed = match.place(from, to);
    expect(placed.outcome).toBe('same');
    expect(Math.abs(placed.from - (from - 37) * 2)).toBeLessThanOrEqual(1);
    expect(Math.abs(placed.to - (to - 37) * 2)).toBeLessThanOrEqual(1);
  }
  // What was made before the new one begins cannot be in it; its end may be.
  expect(match.place(4, 30).outcome).toBe('lost');
});

test('a rate that was read wrongly is found from the motion alone', () => {
  const match = matched({ ...resample(truth.motion, (frames - 1) * 2 + 1, 120), fps: 30 });
  expect(match.pace).toBeCloseTo(4, 2);
  expect(match.place(600, 660)).toMatchObject({ outcome: 'same', from: 1200, to: 1320 });
});

test('a stretch that was solved anew keeps its time and is said to be changed', () => {
  const anew = cutMotion(truth.motion, 0, frames - 1);
  const knee = recorded.skeleton.joints.findIndex(({ name }) => name === 'LeftShin');
  const arm = recorded.skeleton.joints.findIndex(({ name }) => name === 'RightArm');
  const J = recorded.skeleton.joints.length;
  for (let f = 600; f < 700; f++) {
    for (const j of [knee, arm])
      multiply(anew.rotations, (f * J + j) * 4, anew.rotations, (f * J + j) * 4, fromAxisAngle([1, 0, 0], 0.4), 0);
  }
  const match = matched(anew);
  expect(match.place(610, 680)).toMatchObject({ outcome: 'changed', from: 610, to: 680 });
  expect(match.place(610, 680).differenceCm).toBeGreaterThan(3);
  expect(match.place(400, 465).outcome).toBe('same');
});

test('what lies elsewhere because a piece was cut out is found there; what was in the piece is lost', () => {
  const pieces = joinMotions([cutMotion(truth.motion, 0, 499), cutMotion(truth.motion, 640, frames - 1)]);
  const match = matched(pieces);
  // Most of the take lies behind the piece, so that what lies before it is what has moved.
  expect(match.place(1000, 1060)).toMatchObject({ outcome: 'same', from: 860, to: 920 });
  expect(match.place(300, 365)).toMatchObject({ outcome: 'moved', from: 300, to: 365 });
  expect(match.place(520, 600).outcome).not.toBe('same');
});

test('another performance is refused, not matched somehow', () => {
  const hops = gaitOf(suit('hop', { seed: 5 }).motion);
  expect(() => matchTakes(hops, gaitOf(suit('idle', { seed: 9, seconds: 6 }).motion))).toThrow(InputError);
});
