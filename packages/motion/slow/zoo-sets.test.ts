import { capture, expressOn, zoo } from '@lantern/capture';
import {
  clipSlides,
  clipTraits,
  fieldSchema,
  findLoops,
  groundwork,
  homeDistance,
  homePoseOf,
  onHips,
  playableField,
  proposals,
  recipeRunner,
  recipeSchema,
  segments,
  sounder,
  worldMotion,
  type Groundwork,
  type Motion,
  type RecipeStepInput,
  type SetClip,
} from '@lantern/motion';
import { endToEnd } from '../src/steps/exact';

const FPS = 60;
const on = (rig: Parameters<typeof expressOn>[0], stature: number, script: 'turns' | 'walk' | 'jog', seconds: number): Motion =>
  expressOn(rig, capture(script, { seed: 5, stature, fps: FPS, seconds }).motion).motion;

const grounded = (motion: Motion): Groundwork => {
  const found = groundwork(motion);
  if (!found) throw new Error('nobody is there');
  return found;
};

/** A cut of the best single stride, with a step, as a clip of a set. */
function loopOf(name: string, motion: Motion, ...more: RecipeStepInput[]): SetClip {
  const best = findLoops(grounded(motion)).candidates.find(({ strides }) => strides === 1);
  if (!best) throw new Error('no stride');
  const steps = recipeSchema.parse([{ kind: 'loop' }, ...more, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
  const clip = recipeRunner(motion)({ from: best.from, to: best.to, steps });
  const traits = clipTraits(clip);
  if (!traits) throw new Error('nobody is there');
  return { id: name, name, clip, traits };
}

describe.each(zoo().map((member) => [member.name, member] as const))('on %s', (_, { rig }) => {
  test('a quarter turn is exactly that, and home at both ends; planted feet stay', () => {
    const motion = on(rig, rig.stature, 'turns', 12);
    const ground = grounded(motion);
    const offer = proposals(ground, segments(ground), []).find(({ name }) => name.startsWith('turn-left-90'));
    if (!offer) throw new Error('no turn is proposed');
    const pose = homePoseOf(ground, 20);
    const run = recipeRunner(motion);
    const steps = recipeSchema.parse([
      { kind: 'exact-turn', turnDeg: 90 },
      { kind: 'foot-lock' },
      { kind: 'meet-home', pose, end: 'both' },
    ]);
    const clip = run({ from: offer.from, to: offer.to, steps });
    expect(((endToEnd(clip)?.turn ?? 0) * 180) / Math.PI).toBeCloseTo(90, 0);
    const found = grounded(worldMotion(clip));
    for (const frame of [0, clip.motion.frames - 1]) expect(homeDistance(found, frame, pose).cm).toBeLessThan(0.5);
    const before = clipSlides(run({ from: offer.from, to: offer.to, steps: recipeSchema.parse([{ kind: 'foot-lock' }]) }));
    const most = (all: typeof before) => Math.max(0, ...all.map(({ excursionCm }) => excursionCm));
    expect(most(clipSlides(clip))).toBeLessThan(Math.max(0.15, most(before) + 0.05));
  });

  test('a field of a walk and a jog keeps its feet, and comes at the speed that is asked', () => {
    // As takes are read: what carries the hips is folded into them.
    const clips = [loopOf('walk', onHips(on(rig, rig.stature, 'walk', 8))), loopOf('jog', onHips(on(rig, rig.stature, 'jog', 8)))];
    const playable = playableField(fieldSchema.parse({ name: 'x', inputs: ['speed'], clips: ['walk', 'jog'] }), clips);
    if (!playable) throw new Error('no field');
    const [slow, fast] = playable.points.map(({ at }) => at[0]).sort((a, b) => a - b);
    const { sound } = sounder(playable, clips);
    for (const share of [0.25, 0.5, 0.75]) {
      const speed = slow + (fast - slow) * share;
      const { slideMm, got, kink } = sound([speed]);
      expect(got[0] / speed).toBeCloseTo(1, 1);
      expect(slideMm).toBeLessThan(5);
      expect(kink).toBeLessThan(2);
    }
  });
});
