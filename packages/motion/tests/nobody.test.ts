import {
  anyFigures,
  describeTake,
  findBody,
  findLoops,
  fitPlan,
  fitSettingsSchema,
  make,
  NOT_A_PERSON,
  parseProject,
  posesOnly,
  readCharacter,
  readGlb,
  readTake,
  recipeRunner,
  shipClip,
  stepSchema,
  writeBvh,
} from '@lantern/motion';
import { castGlb } from '@lantern/cast';
import { bytesOf } from './made';
import { oddGlb } from './odd-files';
import { trot } from './four-legged';

const TROT = 36; // frames of a cycle of 0.6 s

test.each([true, false])('four legs are no person, whether their joints have names (%s) or not', (named) => {
  const motion = trot({ named });
  expect(findBody(motion)).toBeNull();
  const { passport, ground } = describeTake({ name: 'dog', format: 'gltf', motion, warnings: [] });
  expect(ground).toBeNull();
  expect(passport.up).toBe('+y');
  expect(passport.units).toMatchObject({ metresPerUnit: 1, confidence: 1 });
  expect(passport.warnings.map(({ message }) => message).filter((message) => message.startsWith(NOT_A_PERSON))).toHaveLength(1);
});

test('a glTF is never turned: who lies in it lies, who is small in one animation is not scaled for it', async () => {
  const dog = readTake(await oddGlb(trot()), 'dog.glb');
  expect(describeTake(dog).passport).toMatchObject({ up: '+y', units: { metresPerUnit: 1 } });
  // A BVH leaves the axis open.
  expect(describeTake(readTake(bytesOf(writeBvh(trot())), 'dog.bvh')).passport.up).toBeDefined();
});

test('a fit says that this is no person, and nothing else', async () => {
  const wick = readCharacter(await castGlb('wick'), 'wick');
  expect(() => fitPlan(trot(), wick, fitSettingsSchema.parse({}))).toThrow(NOT_A_PERSON);
});

test('what needs no person works: loops by poses, a root, time, shipping, figures', async () => {
  const motion = trot({ seconds: 4 });
  const [best] = findLoops(posesOnly(motion)).candidates;
  expect((best.to - best.from) % TROT).toBe(0);
  expect(best.strides).toBe(0);
  const steps = [{ kind: 'loop' }, { kind: 'travel' }, { kind: 'retime', factor: 1.5 }] as const;
  const clip = recipeRunner(motion)({ from: 10, to: 10 + TROT, steps: steps.map((step) => stepSchema.parse(step)) });
  const figures = anyFigures(shipClip(clip, 60).clip);
  expect(figures).toMatchObject({ loop: true, slideCm: null, sinkCm: null, frames: TROT / 1.5 + 1 });
  expect(figures.tick).toBeLessThan(1.2);
  expect(figures.seam?.poseCm).toBeLessThan(1e-4);
  const project = parseProject(
    JSON.stringify({
      oldLantern: 1,
      fps: 60,
      takes: [{ id: 'dog', file: 'dog.glb' }],
      clips: [{ name: 'trot', take: 'dog', from: 10, to: 10 + TROT, steps: [{ kind: 'loop' }, { kind: 'travel' }] }],
      ship: { glb: 'set.glb' },
    }),
  );
  const { files, report } = await make(project, () => oddGlb(motion));
  expect(report.clips[0]).toMatchObject({ name: 'trot', loop: true, slideCm: null });
  expect((await readGlb(files[0].bytes))[0].clip.motion.frames).toBe(TROT + 1);
});
