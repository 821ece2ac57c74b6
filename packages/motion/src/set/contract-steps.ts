import { RADIANS } from '../math/angles';
import type { ContractLine } from './contract-lines';
import type { SetClip } from './coverage';
import { withStep } from '../recipe/order';
import { stepOf, stepSchema, type RecipeStep, type RecipeStepInput } from '../steps';

/**
 * A recipe with what a line of the contract needs of its clip put in: a speed, an arc, a turn, a distance, or a
 * time and a distance. A step of that kind that stands there
 * already is set; otherwise it is added.
 *
 * @param steps of the clip as it stands
 * @returns null where nothing is asked, or no step can do it
 */
export function stepsForContract(
  line: ContractLine,
  { traits }: Pick<SetClip, 'traits'>,
  steps: readonly RecipeStep[],
): RecipeStep[] | null {
  if (line.asked === null) return null;
  const [what] = line.id.split('/');
  const asked = line.asked;
  switch (what) {
    case 'speedMps':
      return setStep(steps, { kind: 'speed', mps: asked });
    case 'turnRateDegS': {
      const radius = traits.speedMps / (asked * RADIANS);
      const signed = (traits.turnDegS > 0 ? 1 : -1) * Math.max(0.2, radius);
      return setStep(steps, { kind: 'path', shape: 'arc', radius: Number(signed.toFixed(3)) });
    }
    case 'turnAnglesDeg':
      return setStep(steps, { kind: 'exact-turn', turnDeg: traits.turnDeg > 0 ? asked : -asked });
    case 'stoppingM':
    case 'hopLengthM':
      return setStep(steps, { kind: 'exact-distance', metres: asked });
    case 'accelerationMps2':
    case 'decelerationMps2': {
      if (!line.warp) return null;
      // Quicker over a shorter way, so that the speed at its end stays.
      const metres = Math.max(0.05, traits.distanceM * line.warp.stride);
      const nearer = setStep(steps, { kind: 'exact-distance', metres: Number(metres.toFixed(3)) });
      const factor = (stepOf(steps, 'retime')?.factor ?? 1) * line.warp.time;
      return setStep(nearer, { kind: 'retime', factor: Number(Math.min(10, Math.max(0.1, factor)).toFixed(4)) });
    }
    default:
      return null;
  }
}

/**
 * A recipe with a step set to some parameters: the first of its kind that is switched on, or a new one where it belongs.
 *
 * @example
 * setStep(recipeSchema.parse([{ kind: 'loop' }]), { kind: 'speed', mps: 1.4 }).map(({ kind }) => kind); // ['loop', 'speed']
 */
export function setStep(steps: readonly RecipeStep[], wanted: RecipeStepInput): RecipeStep[] {
  const at = steps.findIndex(({ kind, off }) => kind === wanted.kind && !off);
  if (at < 0) return withStep(steps, stepSchema.parse(wanted));
  const set = stepSchema.parse({ ...steps[at], ...wanted });
  return steps.map((step, i) => (i === at ? { ...set, id: step.id } : step));
}
