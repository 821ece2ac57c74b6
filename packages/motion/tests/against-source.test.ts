import {
  againstSource,
  copyMotion,
  forwardKinematics,
  fromAxisAngle,
  groundwork,
  likeness,
  multiply,
  recipeRunner,
  stepSchema,
  type Motion,
} from '@lantern/motion';
import { hingeKinks, worstKink } from '../src/measure/kink';
import { hoverCm } from '../src/measure/slide';
import { gaitOf, suit } from './made';

const { motion } = suit('walk', { seconds: 3, seed: 4, faults: 0 });
const joint = (name: string) => motion.skeleton.joints.findIndex((other) => other.name === name);

/** The motion with a joint turned more in one frame. */
function jerked(name: string, frame: number, radians: number, axis: readonly [number, number, number] = [1, 0, 0]): Motion {
  const out = copyMotion(motion);
  const at = (frame * motion.skeleton.joints.length + joint(name)) * 4;
  multiply(out.rotations, at, out.rotations, at, fromAxisAngle(axis, radians), 0);
  return out;
}
const seen = (m: Motion) => ({ globals: forwardKinematics(m), body: gaitOf(motion).body });

test('likeness is nothing for the same body elsewhere and turned, and names the joint that is off, by how far', () => {
  const moved = copyMotion(motion);
  const turn = fromAxisAngle([0, 1, 0], 1);
  const [c, s] = [Math.cos(1), Math.sin(1)];
  for (let f = 0; f < moved.frames; f++) {
    const [x, z] = [motion.rootPositions[f * 3], motion.rootPositions[f * 3 + 2]];
    moved.rootPositions.set([c * x + s * z + 3, motion.rootPositions[f * 3 + 1], c * z - s * x - 2], f * 3);
    const at = f * motion.skeleton.joints.length * 4;
    multiply(moved.rotations, at, turn, 0, moved.rotations, at);
  }
  expect(likeness(seen(moved), seen(motion), (f) => f)?.worstCm).toBeLessThan(1e-3);
  const bent = likeness(seen(jerked('LeftForearm', 70, 0.5, [0, 0, 1])), seen(motion), (f) => f);
  // Half a radian about an elbow with 26 cm of forearm, less what laying the poses over each other takes up.
  expect(bent).toMatchObject({ worstPart: 'left wrist', worstFrame: 70 });
  expect(bent?.worstCm).toBeGreaterThan(8);
  expect(bent?.worstCm).toBeLessThan(13);
  expect(bent?.medianCm).toBeLessThan(0.01);
});

test('a source twice as large is as like when it is scaled', () => {
  const half = seen(motion);
  const twice = { ...half, globals: { ...half.globals, positions: half.globals.positions.map((v) => 2 * v) } };
  expect(likeness(half, twice, (f) => f, 0.5)?.worstCm).toBeLessThan(1e-3);
  expect(likeness(half, twice, (f) => f)?.worstCm).toBeGreaterThan(20);
});

test('a knee that jerks in one frame is found there, against what it does itself', () => {
  const kinks = (m: Motion) => hingeKinks(forwardKinematics(m), gaitOf(motion).body, m.fps);
  expect(worstKink(kinks(motion), kinks(motion))?.ratio).toBe(1);
  const worst = worstKink(kinks(jerked('RightShin', 100, 0.2)), kinks(motion));
  expect(worst).toMatchObject({ hinge: 'right knee' });
  expect(Math.abs((worst?.frame ?? 0) - 100)).toBeLessThanOrEqual(1);
  // 0.2 radians out and back are 0.4 radians of second difference: 1375 degrees a second at 60 frames.
  expect(worst?.degS).toBeGreaterThan(1000);
  expect(worst?.ratio).toBeGreaterThan(2);
});

test('feet lifted by three centimetres hover by three', () => {
  const { soles, contacts } = gaitOf(motion);
  const high = (track: Float32Array) => track.map((v, i) => (i % 3 === 1 ? v + 0.03 : v));
  const foot = ({ heel, ball, tip }: typeof soles.left) => ({ heel: high(heel), ball: high(ball), tip: high(tip) });
  const plain = hoverCm(soles, contacts);
  expect(plain).toBeLessThan(0.7);
  expect(hoverCm({ ...soles, left: foot(soles.left), right: foot(soles.right) }, contacts)).toBeCloseTo(plain + 3, 1);
});

test('foot lock makes no kink: not at take-off, not where bearing goes from the heel to the tip, and the body stays what it was', () => {
  for (const [script, faults, most] of [
    ['walk', 1, 1.2],
    ['walk', 3, 1.5],
    ['jog', 3, 1.2],
    ['hop', 1, 1.2],
    ['turn', 3, 1.2],
    ['stairs', 3, 1.2],
  ] as const) {
    const take = suit(script, { seed: 5, faults }).motion;
    const found = againstSource(recipeRunner(take), { from: 0, to: take.frames - 1, steps: [stepSchema.parse({ kind: 'foot-lock' })] });
    expect(found?.kink?.ratio).toBeLessThan(most);
    expect(found?.likeness?.medianCm).toBeLessThan(0.3);
  }
});

test('a mirrored clip is held beside the mirrored take, a typical cycle beside nothing', () => {
  const run = recipeRunner(motion);
  const recipe = (kind: 'mirror' | 'typical-cycle') => ({ from: 0, to: motion.frames - 1, steps: [stepSchema.parse({ kind })] });
  expect(againstSource(run, recipe('mirror'))?.likeness?.worstCm).toBeLessThan(0.01);
  expect(againstSource(run, recipe('typical-cycle'))).toBeNull();
  expect(groundwork(motion)).not.toBeNull();
});
