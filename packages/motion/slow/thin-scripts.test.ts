import { capture, type ScriptName } from '@lantern/capture';
import { clipContacts, recipeRunner, recipeSchema, thinKeys } from '@lantern/motion';

/** Times fewer keys than one on every frame, within half a millimetre; a foot that bears within a tenth of it. */
function fewer(script: ScriptName, faults: number): number {
  const { motion } = capture(script, { seconds: 8, seed: 83, faults });
  const steps = recipeSchema.parse(faults > 0 ? [{ kind: 'clean' }, { kind: 'foot-lock' }] : []);
  const clip = recipeRunner(motion)({ from: 20, to: motion.frames - 20, steps });
  const { kept, dense, worst } = thinKeys(clip, clipContacts(clip));
  expect(worst.metres).toBeLessThan(0.0005);
  return dense / kept;
}

test.each<ScriptName>(['walk', 'jog', 'hush', 'turn', 'start-stop', 'hop', 'idle', 'sideways'])(
  'a clean %s has five times fewer keys',
  (script) => {
    expect(fewer(script, 0)).toBeGreaterThan(5);
  },
);

test.each<ScriptName>(['walk', 'jog', 'hush', 'turn', 'start-stop', 'hop', 'idle', 'sideways'])(
  'a %s with the suit’s usual faults, cleaned and its feet held, has three times fewer',
  (script) => {
    expect(fewer(script, 1)).toBeGreaterThan(3);
  },
);
