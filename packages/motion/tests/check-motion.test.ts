import { Document, WebIO } from '@gltf-transform/core';
import { capture } from '@lantern/capture';
import { bvhStream, copyMotion, describeTake, InputError, readTake, readTakes, scaleSkeleton, writeBvh, type Motion } from '../src';
import { checkMotion, checkRoom } from '../src/formats/check-motion';
import { oddGlb } from './odd-files';

const { motion } = capture('walk', { seconds: 1, seed: 5 });
const text = (m: Motion) => new TextEncoder().encode(writeBvh(m));
const refusal = (run: () => unknown): InputError => {
  try {
    run();
  } catch (error) {
    if (error instanceof InputError) return error;
    throw error;
  }
  throw new Error('it was not refused');
};

test('a figure whose joints all lie in one place is refused, as a file, as a stream, and by every reader', async () => {
  const flat: Motion = { ...motion, skeleton: scaleSkeleton(motion.skeleton, 0) };
  for (const run of [
    () => readTake(text(flat), 'flat.bvh'),
    () => {
      const stream = bvhStream();
      stream.push(text(flat));
      stream.end();
    },
  ])
    expect(refusal(run)).toMatchObject({
      code: 'no-extent',
      message: expect.stringContaining('All joints of the skeleton lie in one place'),
    });
  const glb = await oddGlb(flat);
  expect(refusal(() => readTakes(glb, 'flat.glb')).code).toMatch(/no-extent|gltf/);
});

test.each([1e-9, 1e9])('a figure of %d of its size is refused; a hundred-thousandth or a thousandfold is not', (factor) => {
  expect(refusal(() => checkMotion({ ...motion, skeleton: scaleSkeleton(motion.skeleton, factor) })).code).toBe('extent');
  for (const fine of [1e-5, 1e3]) checkMotion({ ...motion, skeleton: scaleSkeleton(motion.skeleton, fine) });
});

test('a place or a rotation that is no number is named with its joint and frame, also in a later block', () => {
  const bad = copyMotion(motion);
  bad.rotations[(7 * 21 + 3) * 4 + 1] = Number.NaN;
  expect(refusal(() => checkMotion(bad))).toMatchObject({ code: 'not-finite', place: { frame: 7, joint: motion.skeleton.joints[3].name } });
  expect(refusal(() => checkMotion(bad, 1000)).place.frame).toBe(1007);
  const far = copyMotion(motion);
  far.rootPositions[3 * 11 + 2] = 1e12;
  expect(refusal(() => checkMotion(far)).message).toMatch(/Frame 11, joint “Hips”: it is too far away/);
});

test('one key that stands hours late is refused at once, and said so', async () => {
  const document = await new WebIO().readBinary(await oddGlb({ ...motion, frames: 20 }));
  for (const sampler of document.getRoot().listAnimations()[0].listSamplers()) {
    const times = sampler.getInput()?.getArray();
    if (times) times[times.length - 1] = 30_000;
  }
  const bytes = await new WebIO().writeBinary(document);
  expect(refusal(() => readTakes(bytes, 'late.glb')).message).toMatch(
    /lasts 30000 s and has \d+ keys at the most: one of them stands much too late/,
  );
});

test.each([1e-3, 1e7, Number.NaN])('%d frames a second are refused with a sentence', (fps) => {
  expect(refusal(() => checkMotion({ ...motion, fps })).code).toBe('rate');
});

test('whatever is accepted has a passport whose figures are numbers', () => {
  for (const factor of [1e-5, 0.01, 1, 2.54, 1e3]) {
    const small = {
      ...motion,
      skeleton: scaleSkeleton(motion.skeleton, factor),
      rootPositions: motion.rootPositions.map((v) => v * factor),
    };
    const { passport } = describeTake(readTake(text(small), 'scaled.bvh'));
    const { statureM, facingDeg, seconds, fps, units, reading } = passport;
    for (const v of [statureM, facingDeg, seconds, fps, units.metresPerUnit, units.confidence, reading.floorM, ...reading.origin])
      expect(Number.isFinite(v)).toBe(true);
  }
});

test('a motion that would need too much memory is refused before any is taken, with how much is read', () => {
  expect(() => checkRoom(500_000, 60)).not.toThrow();
  const error = refusal(() => checkRoom(500_001, 60));
  expect([error.code, error.message]).toEqual([
    'too-large',
    '500001 frames of 60 joints are more than is read in one piece: 500000 frames are.',
  ]);
});

test('animations of one file count together: many that share their keys are still so many motions', async () => {
  // A hundred keys over two hours at 240 a second, in each of nine animations.
  const document = new Document();
  const buffer = document.createBuffer();
  const times = Float32Array.from({ length: 6000 }, (_, i) => i * 1.2);
  const input = document.createAccessor().setType('SCALAR').setArray(times).setBuffer(buffer);
  const values = new Float32Array(6000 * 4).map((_, i) => (i % 4 === 3 ? 1 : 0));
  const output = document.createAccessor().setType('VEC4').setArray(values).setBuffer(buffer);
  const nodes = Array.from({ length: 20 }, (_, i) => document.createNode(`j${i}`).setTranslation([0, 0.1, 0]));
  nodes.slice(1).forEach((node, i) => nodes[i].addChild(node));
  document.createScene().addChild(nodes[0]);
  for (let n = 0; n < 9; n++) {
    const animation = document.createAnimation(`a${n}`).setExtras({ fps: 240 });
    const sampler = document.createAnimationSampler().setInput(input).setOutput(output);
    animation.addSampler(sampler);
    for (const node of nodes)
      animation.addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath('rotation').setSampler(sampler));
  }
  const bytes = await new WebIO().writeBinary(document);
  expect(refusal(() => readTakes(bytes, 'many.glb')).code).toBe('too-large');
});
