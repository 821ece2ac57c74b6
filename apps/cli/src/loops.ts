import { findLoops } from '@lantern/motion';
import { gaitOfFile } from './contacts';
import { print } from './print';

export async function loops(file: string, { json }: { json?: boolean }): Promise<void> {
  const gait = await gaitOfFile(file);
  const start = performance.now();
  const { candidates, pairs } = findLoops(gait);
  const ms = Math.round(performance.now() - start);
  print(json ?? false, { fps: gait.motion.fps, ms, pairs, candidates }, () => [
    `${candidates.length} candidates of ${pairs} pairs in ${ms} ms`,
    ...candidates
      .slice(0, 10)
      .map(
        ({ from, to, seconds, strides, startsOn, score, seam }) =>
          `${from}–${to}  ${seconds.toFixed(2)} s  ${strides ? `${strides} stride${strides > 1 ? 's' : ''} from the ${startsOn} foot` : 'standing'}  ` +
          `score ${score.toFixed(2)}  pose ${seam.poseCm.toFixed(1)} cm  velocity ${seam.velocityCmS.toFixed(0)} cm/s`,
      ),
  ]);
}
