import { groundwork } from '../measure/groundwork';
import { hingeKinks, worstKink, type Kink } from '../measure/kink';
import { legLength } from '../measure/leg-length';
import { likeness, type Likeness } from '../measure/likeness';
import { bodyOf } from '../anatomy/body-of';
import { worldMotion, type Clip } from '../model/clip';
import { forwardKinematics } from '../model/kinematics';
import { mirrorMotion } from '../anatomy/mirror-motion';
import { isMirror } from '../steps';
import type { ClipRecipe } from './recipe';
import { sourceFrames } from './source-frames';

/** A finished clip beside what was captured. */
export interface AgainstSource {
  readonly likeness: Likeness | null;
  readonly kink: Kink | null;
}

/**
 * How like a finished clip is to its cut, and how much knees and elbows are kinked over what they do in it; a clip that is mirrored is held beside
 * the mirrored cut.
 *
 * @param run runs recipes over the clip's take
 * @returns null for what is no person, and for a clip whose frames are those of no single take
 *
 * @example
 * againstSource(run, { from: best.from, to: best.to, steps: [] }).likeness.worstCm; // 0
 */
export function againstSource(run: (recipe: ClipRecipe) => Clip, recipe: ClipRecipe): AgainstSource | null {
  const at = sourceFrames(run, recipe);
  const cut = run({ ...recipe, steps: [] }).motion;
  const clip = run(recipe);
  const isMirrored = recipe.steps.filter(isMirror).length % 2 === 1;
  const [own, other] = [worldMotion(clip), isMirrored ? mirrorMotion(cut) : cut];
  const [a, b] = [bodyOf(own), bodyOf(other)];
  if (!at || !a || !b || !groundwork(own)) return null;
  const [result, source] = [
    { globals: forwardKinematics(own), body: a },
    { globals: forwardKinematics(other), body: b },
  ];
  const scale = own.skeleton === other.skeleton ? 1 : legLength(result.globals, a) / legLength(source.globals, b);
  return {
    likeness: likeness(result, source, (f) => (f < at.length ? Math.round(at[f]) : null), scale),
    kink: worstKink(hingeKinks(result.globals, a, own.fps), hingeKinks(source.globals, b, other.fps)),
  };
}
