import { capture, type ScriptName } from '@lantern/capture';
import { JOIN_BOUNDS, whereTheyFit, type Groundwork } from '@lantern/motion';
import { gaitOf } from '../tests/made';

const SCRIPTS = ['walk', 'jog', 'hush', 'start-stop', 'turn', 'idle'] as const satisfies readonly ScriptName[];

const known = new Map<string, Groundwork>();
function ground(script: ScriptName, seed: number): Groundwork {
  const key = `${script} ${seed}`;
  const found = known.get(key) ?? gaitOf(capture(script, { seconds: 8, seed, faults: 0 }).motion);
  known.set(key, found);
  return found;
}

test.each(SCRIPTS.flatMap((a) => SCRIPTS.map((b) => [a, b] as const)))(
  '%s, then %s: the joins proposed first neither slide nor pop',
  (a, b) => {
    for (const seed of [131, 132]) {
      const { candidates } = whereTheyFit(ground(a, seed), ground(b, seed));
      const [first] = candidates;
      expect(candidates.length).toBeGreaterThan(2);
      expect(first.slideCm).toBeLessThanOrEqual(JOIN_BOUNDS.slideCm);
      expect(first.popCm).toBeLessThanOrEqual(JOIN_BOUNDS.popCm);
    }
  },
);
