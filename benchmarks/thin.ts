import { capture, type ScriptName } from '@lantern/capture';
import {
  clipContacts,
  forwardKinematics,
  angleBetween,
  readGlb,
  recipeRunner,
  recipeSchema,
  thinKeys,
  withContacts,
  worldMotion,
  writeGlb,
  type Motion,
} from '@lantern/motion';
import { WebIO } from '@gltf-transform/core';
import { prune, resample } from '@gltf-transform/functions';

/** A clip thinned by us and by a general glTF library that thins curve by curve, at the same error of the whole chain. */
export interface ThinFigures {
  readonly script: ScriptName;
  readonly faults: number;
  /** Times fewer keys. */
  readonly fewer: number;
  /** Bytes of the animation: with a key on every frame, ours, the library's. */
  readonly denseBytes: number;
  readonly ourBytes: number;
  readonly theirBytes: number;
  /** What each was measured to be off by, millimetres. */
  readonly ourMm: number;
  readonly theirMm: number;
  readonly ms: number;
}

const BOUND = 0.0005;

export async function thinFigures(script: ScriptName, faults: number): Promise<ThinFigures> {
  const { motion } = capture(script, { seconds: 10, seed: 995, faults });
  const run = recipeRunner(motion);
  const clip = run({
    from: 20,
    to: motion.frames - 20,
    steps: recipeSchema.parse(faults > 0 ? [{ kind: 'clean' }, { kind: 'foot-lock' }] : []),
  });
  const bare = await writeGlb([{ name: 'a', clip: run({ from: 0, to: 1, steps: [] }) }]);
  const file = await writeGlb([{ name: 'a', clip }]);
  const start = performance.now();
  const { kept, dense } = thinKeys(clip, clipContacts(clip), { boundM: BOUND });
  const ms = performance.now() - start;
  const ours = await writeGlb([{ name: 'a', clip: { ...withContacts(clip), thin: { boundM: BOUND, joining: 'smooth' } } }]);
  const theirs = await atError(file, clip.motion, BOUND * 1000);
  return {
    ...{ script, faults, ms, fewer: dense / kept },
    denseBytes: file.length - bare.length,
    ourBytes: ours.length - bare.length,
    theirBytes: theirs.length - bare.length,
    ourMm: await offMm(ours, clip.motion),
    theirMm: await offMm(theirs, clip.motion),
  };
}

/** The library's resample with the largest tolerance that keeps the error. */
async function atError(file: Uint8Array, motion: Motion, mm: number): Promise<Uint8Array> {
  let [low, high] = [1e-8, 1e-1];
  let best = file;
  for (let i = 0; i < 14; i++) {
    const tolerance = Math.sqrt(low * high);
    const document = await new WebIO().readBinary(file);
    await document.transform(resample({ tolerance }), prune());
    const bytes = await new WebIO().writeBinary(document);
    if ((await offMm(bytes, motion)) <= mm) [low, best] = [tolerance, bytes];
    else high = tolerance;
  }
  return best;
}

/** How far any point within 10 cm of a joint is off, millimetres. */
async function offMm(bytes: Uint8Array, motion: Motion): Promise<number> {
  const [{ clip }] = await readGlb(bytes);
  const [a, b] = [motion, worldMotion(clip)].map((own) => forwardKinematics(own));
  let most = 0;
  for (let i = 0; i < Math.min(a.frames, b.frames) * a.joints; i++) {
    const away = Math.hypot(...[0, 1, 2].map((k) => a.positions[i * 3 + k] - b.positions[i * 3 + k]));
    most = Math.max(most, away + 0.1 * angleBetween(a.rotations, i * 4, b.rotations, i * 4));
  }
  return most * 1000;
}
