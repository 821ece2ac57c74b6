import { writeFile } from 'node:fs/promises';
import { poseBlockCode } from './simd-code';

// Compiles what is worked out two numbers at a time, and puts it where the core finds it.
await writeFile('packages/motion/src/model/pose-block-code.ts', await poseBlockCode());
