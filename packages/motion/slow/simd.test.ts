import { readFile } from 'node:fs/promises';
import { poseBlockCode } from '../../../scripts/simd-code';

test('what poses blocks of frames is what its source compiles to', async () => {
  expect(await readFile('packages/motion/src/model/pose-block-code.ts', 'utf8')).toBe(await poseBlockCode());
});
