import { capture } from '@lantern/capture';
import {
  againstSource,
  clipFigures,
  cutMotion,
  describeTake,
  findLoops,
  fromAxisAngle,
  forwardKinematics,
  make,
  multiply,
  parseProject,
  recipeRunner,
  repeatLoop,
  shipClip,
  sourceFrames,
  stepSchema,
  writeBvh,
  type Motion,
  type RecipeStepInput,
} from '@lantern/motion';
import { farthest } from '../src/measure/farthest';
import { bytesOf, gaitOf, suit } from '../tests/made';

const step = (input: RecipeStepInput) => stepSchema.parse(input);
const metres = (motion: Motion) =>
  describeTake({ name: 'take', format: 'bvh', motion, warnings: [] }, { metresPerUnit: 1, up: '+y' }).motion;

test('hops on both feet go through every recipe: what cannot be had is null, and nothing ends', () => {
  for (const faults of [1, 3]) {
    const motion = metres(capture('hop', { seed: 31337, faults }).motion);
    const run = recipeRunner(motion);
    for (const [from, to] of [
      [117, 165],
      [70, 150],
      [100, 180],
    ]) {
      for (const more of [
        [],
        [{ kind: 'even-out' }],
        [{ kind: 'retime', factor: 1.2 }],
        [{ kind: 'speed', mps: 0.6 }],
      ] as RecipeStepInput[][]) {
        const clip = run({ from, to, steps: [{ kind: 'loop' } as const, ...more].map(step) });
        expect(clipFigures(shipClip(clip, 60).clip)?.asymmetryCm ?? null).toBeNull();
      }
    }
  }
});

test('one clip that cannot be made is said, and the others are made', async () => {
  const { motion } = suit('walk', { seconds: 4, seed: 3 });
  const project = parseProject(
    JSON.stringify({
      oldLantern: 1,
      fps: 60,
      takes: [
        { id: 'walk', file: 'walk.bvh' },
        { id: 'hurt', file: 'hurt.bvh' },
      ],
      clips: [
        { name: 'good', take: 'walk', from: 60, to: 125, steps: [{ kind: 'loop' }] },
        { name: 'short', take: 'walk', from: 60, to: 90, steps: [{ kind: 'typical-cycle' }] },
        { name: 'hurt', take: 'hurt', from: 0, to: 20 },
      ],
      ship: { glb: 'set.glb' },
    }),
  );
  const { files, report } = await make(project, async (file) => bytesOf(file === 'walk.bvh' ? writeBvh(motion) : 'HIERARCHY\nROOT a\n'));
  expect(files).toHaveLength(1);
  expect(report.clips.map(({ name }) => name)).toEqual(['good']);
  expect(report.failed).toMatchObject([
    { name: 'short', take: 'walk', code: 'strides' },
    { name: 'hurt', take: 'hurt', place: { file: 'hurt.bvh' } },
  ]);
  await expect(make({ ...project, clips: project.clips.slice(2) }, async () => bytesOf('HIERARCHY\nROOT a\n'))).rejects.toMatchObject({
    place: { file: 'hurt.bvh' },
  });
});

/** A loop played three times on end, as a take of its own. */
function takeOfLoop(seed: number): { take: Motion; cycle: number } {
  const { motion, gait } = suit('walk', { seed });
  const { from, to } = findLoops(gait).candidates[0];
  const clip = recipeRunner(motion)({ from, to, steps: [{ kind: 'loop' } as const, { kind: 'foot-lock' } as const].map(step) });
  return { take: repeatLoop(clip, 3), cycle: to - from };
}

test('a loop that comes round is left alone, a landing at its seam too, whatever way of closing is asked for', () => {
  for (const seed of [3, 5, 8]) {
    const { take, cycle } = takeOfLoop(seed);
    for (const close of ['blend', 'around', 'spread'] as const) {
      const clip = recipeRunner(take)({ from: cycle, to: 2 * cycle, steps: [step({ kind: 'loop', close, heading: 'captured' })] });
      const moved = farthest(forwardKinematics(clip.motion), forwardKinematics(cutMotion(take, cycle, 2 * cycle)));
      expect(clip.closing?.way).toBe('none');
      expect(moved).toBeLessThan(1e-4);
    }
  }
});

test('closing moves nothing by much more than the ends are apart, and says how it was done', () => {
  for (const script of ['walk', 'jog', 'hush'] as const) {
    const { motion, gait } = suit(script, { seed: 5 });
    const run = recipeRunner(motion);
    for (const { from, to } of findLoops(gait).candidates.slice(0, 3)) {
      const cut = forwardKinematics(run({ from, to, steps: [] }).motion);
      for (const close of ['blend', 'around'] as const) {
        const { motion: closed, closing } = run({ from, to, steps: [step({ kind: 'loop', close, heading: 'captured' })] });
        expect(closing?.gapM).toBeGreaterThan(0.001);
        expect(farthest(forwardKinematics(closed), cut)).toBeLessThan(2.5 * (closing?.gapM ?? 0) + 0.005);
      }
    }
  }
});

test('beyond the cut a knee is bent: the blend does not bring it in', () => {
  const { motion, gait } = suit('walk', { seed: 5 });
  const { from, to } = findLoops(gait).candidates[0];
  const knee = motion.skeleton.joints.findIndex(({ name }) => name === 'LeftShin');
  const hurt = cutMotion(motion, 0, motion.frames - 1);
  const J = motion.skeleton.joints.length;
  for (const f of [from - 6, from - 5, from - 4, to + 4, to + 5, to + 6]) {
    hurt.rotations.set([Math.sin(0.5), 0, 0, Math.cos(0.5)], (f * J + knee) * 4);
  }
  const clip = recipeRunner(hurt)({ from, to, steps: [step({ kind: 'loop' })] });
  expect(clip.closing?.way).toBe('around');
});

test('who stands is an idle, apart from strides; a walk that bends by 44° is a loop on an arc', () => {
  for (const [script, faults] of [
    ['rounds', 1],
    ['rounds', 3],
    ['start-stop', 3],
    ['kerb', 3],
  ] as const) {
    const { motion, gait } = suit(script, { seed: 90001, faults });
    const { candidates } = findLoops(gait);
    const went = ({ from, to }: { from: number; to: number }) =>
      Math.hypot(
        motion.rootPositions[to * 3] - motion.rootPositions[from * 3],
        motion.rootPositions[to * 3 + 2] - motion.rootPositions[from * 3 + 2],
      );
    for (const candidate of candidates) expect(went(candidate) > 0.3).toBe(candidate.strides > 0);
    const firstIdle = candidates.findIndex(({ strides }) => strides === 0);
    if (firstIdle >= 0) expect(candidates.slice(firstIdle).every(({ strides }) => strides === 0)).toBe(true);
  }
  // The straight walk laid on an arc of 1.7 m: a stride of 1.3 m turns by 44°.
  const { motion } = suit('walk', { seconds: 6, seed: 4 });
  const bent = recipeRunner(motion)({ from: 0, to: motion.frames - 1, steps: [step({ kind: 'path', shape: 'arc', radius: 1.75 })] }).motion;
  const [best] = findLoops(gaitOf(bent)).candidates;
  expect(best.strides).toBe(1);
  expect(Math.abs(best.seam.headingDeg)).toBeGreaterThan(35);
  expect(best.score).toBeGreaterThan(0.6);
});

test('hands that are only turned otherwise at both ends are no closed loop: the turn is taken up', () => {
  const { take, cycle } = takeOfLoop(5);
  const J = take.skeleton.joints.length;
  const hand = take.skeleton.joints.findIndex(({ name }) => name === 'LeftHand');
  // Rolled about its own length, which moves no joint.
  for (let f = 2 * cycle - 3; f < take.frames; f++) {
    const at = (f * J + hand) * 4;
    multiply(take.rotations, at, take.rotations, at, fromAxisAngle([1, 0, 0], 0.5), 0);
  }
  const clip = recipeRunner(take)({ from: cycle, to: 2 * cycle, steps: [step({ kind: 'loop', close: 'around' })] });
  expect(clip.closing?.way).toBe('around');
  expect(clip.closing?.gapM).toBeCloseTo(0.05, 3);
});

test('a cycle begun on a landing is held beside the frames that it shows', () => {
  const { motion, gait } = suit('walk', { seed: 5 });
  const { from, to } = findLoops(gait).candidates[0];
  const run = recipeRunner(motion);
  for (const start of ['cut', 'left', 'right', 'left-stance', 20] as const) {
    const recipe = { from, to, steps: [step({ kind: 'loop', start }), step({ kind: 'foot-lock' })] };
    expect(againstSource(run, recipe)?.likeness?.worstCm).toBeLessThan(3);
    if (start === 'right' || start === 20) expect(sourceFrames(run, recipe)?.[0]).toBeGreaterThan(5);
  }
});
