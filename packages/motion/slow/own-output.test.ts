import { capture, expressOn, zoo } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  anyFigures,
  describeTake,
  InputError,
  findLoops,
  posesOnly,
  readCharacter,
  readGlb,
  readTake,
  recipeRunner,
  recipeSchema,
  shipClip,
  writeBvh,
  writeGlb,
  type Character,
  type Clip,
  type Motion,
  type RecipeStepInput,
} from '@lantern/motion';
import { farthest } from '../tests/made';

// What we write, we read back as what it was: on every skeleton of the zoo, without a step, with each alone, and with those that go before it.
const suit = new Map<number, Motion>();
const walkOf = (stature: number): Motion => {
  const known = suit.get(stature) ?? capture('walk', { seed: 5, stature, fps: 30, seconds: 5 }).motion;
  suit.set(stature, known);
  return known;
};
const cast = new Map<string, Character>();
beforeAll(async () => {
  for (const name of ['wick', 'tallow'] as const) cast.set(name, readCharacter(await castGlb(name), name));
});

const STEPS: readonly RecipeStepInput[] = [
  { kind: 'floor' },
  { kind: 'mirror' },
  { kind: 'loop' },
  { kind: 'foot-lock' },
  { kind: 'speed', mps: 1.6 },
  { kind: 'retime', factor: 0.8 },
  { kind: 'path', shape: 'straight' },
  { kind: 'even-out' },
  { kind: 'travel' },
  { kind: 'fit', character: 'tallow' },
];
/** What a clip has first: the floor and whose it is. */
const FIRST: readonly string[] = ['floor', 'mirror', 'fit'];
const RECIPES: readonly (readonly RecipeStepInput[])[] = [
  [],
  ...STEPS.map((step) => [step]),
  ...STEPS.filter(({ kind }) => kind !== 'loop' && kind !== 'travel').map((step) => {
    const loop: RecipeStepInput = { kind: 'loop' };
    return [...(FIRST.includes(step.kind) ? [step, loop] : [loop, step]), { kind: 'travel' } as const];
  }),
];

/** On every fourth skeleton every recipe; on the others without a step, on the character, and in a whole recipe. */
const FEW = RECIPES.filter((recipe) => recipe.length === 0 || recipe[0].kind === 'fit' || recipe[1]?.kind === 'foot-lock');

interface Told {
  readonly clip: Clip;
  readonly back: Pick<Clip, 'motion' | 'travel' | 'loop'>;
}

/** A clip as it was made, and as it comes back from its file. */
async function thereAndBack(clip: Clip, fps: number): Promise<Told> {
  const shipped = shipClip(clip, fps).clip;
  const [{ clip: back }] = await readGlb(await writeGlb([{ name: 'c', clip: shipped }]));
  return { clip: shipped, back };
}

test.each(zoo().map((member, i) => [member.name, member, i % 4 === 0 ? RECIPES : FEW] as const))(
  '%s: recipes come back from their files as they were',
  async (_, { rig }, recipes) => {
    const { motion } = expressOn(rig, walkOf(rig.stature));
    const take = describeTake(readTake(new TextEncoder().encode(writeBvh(motion)), 'a.bvh'));
    const [best] = findLoops(take.ground ?? posesOnly(take.motion)).candidates;
    const run = recipeRunner(take.motion, cast);
    const wrong: string[] = [];
    let compared = 0;
    for (const recipe of recipes) {
      const name = recipe.map(({ kind }) => kind).join(' ') || 'no step';
      let made: Clip;
      try {
        made = run({ from: best.from, to: best.to, steps: recipeSchema.parse(recipe) });
      } catch (error) {
        // A step that is not for this body says so; what it says is tested elsewhere.
        if (!(error instanceof InputError)) throw error;
        continue;
      }
      compared++;
      const { clip, back } = await thereAndBack(made, 30);
      const mm = 1000 * farthest(clip.motion, back.motion);
      // A file does not say which contacts were held: in both they are found anew.
      const [before, after] = [{ ...clip, contacts: undefined }, back].map((own) => anyFigures(own));
      if (!(mm < 0.1)) wrong.push(`${name}: ${mm.toFixed(2)} mm`);
      if (after.loop !== before.loop) wrong.push(`${name}: loop ${after.loop}`);
      if (Math.abs((after.speedMps ?? 0) - (before.speedMps ?? 0)) > 0.005)
        wrong.push(`${name}: ${before.speedMps} → ${after.speedMps} m/s`);
      if (Math.abs((after.slideCm ?? 0) - (before.slideCm ?? 0)) > Math.max(0.05, 0.05 * (before.slideCm ?? 0)))
        wrong.push(`${name}: slide ${before.slideCm} → ${after.slideCm}`);
    }
    expect(wrong).toEqual([]);
    expect(compared).toBeGreaterThan(0.6 * recipes.length);
  },
);
