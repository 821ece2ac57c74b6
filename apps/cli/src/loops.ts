import { describeTake, findLoops, posesOnly } from '@lantern/motion';
import { readTakeFile } from './files';
import { print, printDoubts } from './print';

/** What a cycle is: so many strides, somebody standing, or, of what is no person, poses that come round. */
const whatOf = (strides: number, startsOn: string | null, isNobody: boolean) =>
  strides ? `${strides} stride${strides > 1 ? 's' : ''} from the ${startsOn} foot` : isNobody ? 'poses alike' : 'standing';

export async function loops(file: string, { json }: { json?: boolean }): Promise<void> {
  const { ground: found, motion, passport } = describeTake(await readTakeFile(file));
  printDoubts(file, passport.warnings);
  const ground = found ?? posesOnly(motion);
  const start = performance.now();
  const { candidates, pairs } = findLoops(ground);
  const ms = Math.round(performance.now() - start);
  print(json ?? false, { fps: ground.motion.fps, ms, pairs, candidates }, () => [
    `${candidates.length} candidates of ${pairs} pairs in ${ms} ms`,
    ...candidates
      .slice(0, 10)
      .map(
        ({ from, to, seconds, strides, startsOn, score, seam }) =>
          `${from}–${to}  ${seconds.toFixed(2)} s  ${whatOf(strides, startsOn, ground.isNobody ?? false)}  ` +
          `score ${score.toFixed(2)}  pose ${seam.poseCm.toFixed(1)} cm  velocity ${seam.velocityCmS.toFixed(0)} cm/s`,
      ),
  ]);
}
