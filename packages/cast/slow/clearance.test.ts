import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  applyStep,
  bodyOf,
  cutClip,
  fitMotion,
  fitSettingsSchema,
  forwardKinematics,
  groundwork,
  readCharacter,
  reportOf,
  stepSchema,
  type Cast,
  type Clip,
} from '@lantern/motion';

let cast: Cast;
beforeAll(async () => {
  cast = new Map(
    await Promise.all((['wick', 'tallow'] as const).map(async (name) => [name, readCharacter(await castGlb(name), name)] as const)),
  );
});
const step = stepSchema.parse({ kind: 'clearance' });
const SCRIPTS: readonly ScriptName[] = ['walk', 'jog', 'lean', 'hop', 'turn', 'idle', 'sideways'];

function clipOf(script: ScriptName, who: string | null): Clip {
  const { motion } = capture(script, { seconds: 5, seed: 42 });
  const character = who === null ? null : cast.get(who);
  const own = character ? fitMotion(motion, character, fitSettingsSchema.parse({})).motion : motion;
  return cutClip(own, 10, own.frames - 10);
}

test.each([null, 'wick', 'tallow'].flatMap((who) => SCRIPTS.map((script) => [script, who] as const)))(
  'in a %s on %s nothing is left deeper than half a centimetre',
  (script, who) => {
    const clip = clipOf(script, who);
    const after = applyStep(clip, step, { cast });
    const report = reportOf(step, clip, after);
    expect(report?.after).toBeLessThan(0.5);
    const found = groundwork(clip.motion);
    const body = bodyOf(clip.motion);
    if (!found || !body) throw new Error('nobody');
    // Trunk and head do not move, and neither do feet that bear.
    const [p, q] = [clip, after].map(({ motion }) => forwardKinematics(motion));
    const moved = (joint: number, f: number) =>
      Math.hypot(...[0, 1, 2].map((k) => p.positions[(f * p.joints + joint) * 3 + k] - q.positions[(f * p.joints + joint) * 3 + k]));
    for (let f = 0; f < clip.motion.frames; f++) for (const joint of [body.hips, body.chest, body.head]) expect(moved(joint, f)).toBe(0);
    for (const side of ['left', 'right'] as const)
      for (const { from, to } of found.contacts[side])
        for (let f = from; f < Math.min(to, clip.motion.frames); f++) expect(moved(body.legs[side].ankle, f)).toBe(0);
  },
);

test('on a broad character hands go into the coat before, and come out without a jerk', () => {
  const clip = clipOf('walk', 'tallow');
  const after = applyStep(clip, step, { cast });
  expect(reportOf(step, clip, after)?.before).toBeGreaterThan(3);
  const wrist = bodyOf(clip.motion)?.arms.left.wrist ?? -1;
  const jerk = (of: Clip) => {
    const { positions, joints } = forwardKinematics(of.motion);
    let most = 0;
    for (let f = 1; f < of.motion.frames - 1; f++)
      most = Math.max(
        most,
        Math.hypot(
          ...[0, 1, 2].map((k) =>
            [-1, 0, 1].reduce((sum, d) => sum + (d === 0 ? -2 : 1) * positions[((f + d) * joints + wrist) * 3 + k], 0),
          ),
        ),
      );
    return most * 3600;
  };
  expect(jerk(after)).toBeLessThan(3 * jerk(clip));
});

test('who touches nothing stays as he is, to the bit', () => {
  const clip = clipOf('idle', null);
  const after = applyStep(clip, step, { cast });
  expect([...after.motion.rotations].every((v, i) => v === clip.motion.rotations[i])).toBe(true);
});
