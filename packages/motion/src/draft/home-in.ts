import type { HomePose } from '../model/home-pose';
import { withStep } from '../recipe/order';
import { clipTraits } from '../set/clip-traits';
import { endsAtHome, homeFrom, proposeHome } from '../set/home';
import { slotId, type Slot } from '../set/slot';
import { stepSchema } from '../steps';
import type { Choosing, DraftChoice } from './choose';
import { judge } from './judge';
import type { Ranked } from './rank-cuts';
import { firstWay, NOTHING, recipeFor } from './recipe-for';

/** The home pose of a drafted set: a frame of its idle. */
export interface Home {
  readonly frame: number;
  readonly pose: HomePose;
}

/** The frame of the idle that is nearest to the ends which shall meet there. */
export function homeIn(
  { clip: idle }: DraftChoice,
  slots: readonly Slot[],
  ranked: readonly (readonly Ranked[])[],
  { character, run }: Pick<Choosing, 'character' | 'run'>,
): Home | null {
  const clip = idle && run(idle.source, idle.steps);
  const traits = clip && clipTraits(clip);
  if (!clip || !traits) return null;
  const ends = slots.flatMap((slot, i) => {
    const [best] = ranked[i];
    if (slot.kind === 'idle' || !best || best.isMirrored || endsAtHome(best.cut.traits).length === 0) return [];
    const own = run(best.cut, recipeFor({ ...NOTHING, slot, character }, firstWay(slot)));
    const ownTraits = own && clipTraits(own);
    return own && ownTraits ? [{ id: slotId(slot), clip: own, traits: ownTraits }] : [];
  });
  const proposal = proposeHome([{ id: 'idle', clip, traits }, ...ends]);
  const pose = proposal?.clip === 'idle' ? homeFrom(clip, proposal.frame) : null;
  return pose && proposal ? { frame: proposal.frame, pose } : null;
}

/** An idle that begins in the home pose; as it is where that makes it worse. */
export function broughtHome(idle: DraftChoice, slot: Slot, { run, set }: Pick<Choosing, 'run' | 'set'>, home: Home | null): DraftChoice {
  if (!idle.clip || !home) return idle;
  const met = withStep(idle.clip.steps, stepSchema.parse({ kind: 'meet-home' }));
  const steps = met.map((step) => (step.kind === 'meet-home' ? { ...step, pose: home.pose } : step));
  const made = run(idle.clip.source, steps);
  const judged = made && judge(made, slot, home.pose, set);
  return judged && judged.out.length <= idle.out.length ? { ...idle, clip: { ...idle.clip, steps: met }, out: [...judged.out] } : idle;
}
