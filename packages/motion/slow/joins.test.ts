import { capture, expressOn, zoo, type ScriptName } from '@lantern/capture';
import { buildJoin, JOIN_BOUNDS, joinIntoSchema, joinSchema, platforms, whereTheyFit, type Groundwork, type Motion } from '@lantern/motion';
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

// One motion of the suit on many skeletons: what holds on the suit's own holds on all of them. At 30 frames a second bounds are a little wider.
const kept = new Map<string, Motion>();
function onRig({ rig }: ReturnType<typeof zoo>[number], script: ScriptName): Motion {
  const key = `${script} ${rig.stature}`;
  const own = kept.get(key) ?? capture(script, { seconds: 6, seed: 5, stature: rig.stature, fps: 30 }).motion;
  kept.set(key, own);
  return expressOn(rig, own).motion;
}

test.each(
  zoo()
    .filter((_, i) => i % 3 === 0)
    .map((member) => [member.name, member] as const),
)('on %s a walk goes over into a jog, and a hop lands on a box', (_, member) => {
  const [walk, jog, hop] = (['walk', 'jog', 'hop'] as const).map((script) => onRig(member, script));
  const [first] = whereTheyFit(gaitOf(walk), gaitOf(jog), joinIntoSchema.parse({ frames: 10 }), 3).candidates;
  expect(first.slideCm).toBeLessThan(0.3);
  expect(first.popCm).toBeLessThan(1.3);
  const { left } = gaitOf(hop).contacts;
  const lands = left.find(({ from }) => from > 75)?.from ?? 0;
  const leaves = left.filter(({ to }) => to <= lands).at(-1)?.to ?? 0;
  const cut = { take: 'hop', from: 5, to: hop.frames - 10, shifts: [{ at: Math.max(0, leaves - 11), frames: 9, raise: 0.2 }] };
  const joined = buildJoin(joinSchema.parse({ name: 'up', start: 'captured', pieces: [cut] }), { clip: () => null, take: () => hop });
  expect(platforms(joined)[0]?.height).toBeCloseTo(0.2, 2);
  const end = joined.motion.frames - 1;
  expect(joined.motion.rootPositions[end * 3 + 1] - hop.rootPositions[(end + 5) * 3 + 1]).toBeCloseTo(0.2, 4);
});
