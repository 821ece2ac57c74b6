import type { Clip } from '../model/clip';
import type { HomePose } from '../model/home-pose';
import type { ClipDocument } from '../recipe/clip-document';
import { clipTraits, type ClipTraits } from '../set/clip-traits';
import { slotSpeed, type Contract } from '../set/contract';
import type { Choice, RunnerUp } from '../set/draft-schema';
import { endsAtHome } from '../set/home';
import type { LocomotionSet } from '../set/schema';
import { slotId, type Slot } from '../set/slot';
import { slotName } from '../set/slot-name';
import type { RecipeStep } from '../steps';
import type { Cut } from './cuts';
import { judge, type Judged } from './judge';
import { whyBehind, type Ranked } from './rank-cuts';
import { firstWay, NOTHING, recipeFor, waysOf, type RecipeWay, type Wanted } from './recipe-for';

/** What was chosen for a slot, with the clip that it is. */
export interface DraftChoice extends Omit<Choice, 'clip'> {
  readonly clip: ClipDocument | null;
}

/** Runs a recipe over a cut; null where it cannot be run. */
export type Run = (cut: Pick<Cut, 'from' | 'to'> & { readonly take: string }, steps: readonly RecipeStep[], way?: RecipeWay) => Clip | null;

/** The frames of a cut; three strides of it where they are averaged and the take has them. */
export function spanOf({ from, to }: Pick<Cut, 'from' | 'to'>, way: RecipeWay | undefined, frames: number): { from: number; to: number } {
  return way?.typical ? { from, to: Math.min(frames - 1, to + 2 * (to - from) + 2) } : { from, to };
}

/** What a slot's clip is chosen by, beside the cuts. */
export interface Choosing {
  readonly character: string | null;
  readonly home: HomePose | null;
  readonly set: Pick<LocomotionSet, 'slots' | 'contract' | 'bounds'>;
  readonly run: Run;
  readonly framesOf: (take: string) => number;
}

/** Cuts of a slot whose recipes are run. */
const TRIED = 3;
/** Runners-up that are kept. */
const KEPT = 4;
interface Tried {
  readonly ranked: Ranked;
  readonly way: RecipeWay;
  readonly says: string;
  readonly wanted: Wanted;
  readonly judged: Judged;
}

/** The best of a slot's cuts, made by the first way that brings it within bounds. */
export function choose(slot: Slot, ranked: readonly Ranked[], choosing: Choosing): DraftChoice {
  const name = slotName(slot);
  const sound = ranked.filter(({ cut }) => cut.fault === null);
  const able = (sound.length > 0 ? sound : ranked).slice(0, TRIED + KEPT);
  const made = new Map<Ranked, Tried>();
  let best: Tried | null = null;
  for (const own of able.slice(0, TRIED)) {
    const tried = tryWays(slot, own, choosing);
    if (tried) made.set(own, tried);
    if (tried && (!best || rankOf(tried) < rankOf(best))) best = tried;
    // A cut further down is looked at only where the ones before are not within bounds, or are nearly as good.
    if (best && best.judged.out.length === 0 && able.indexOf(own) + 1 < able.length && able[able.indexOf(own) + 1].cost > own.cost + 0.5)
      break;
  }
  const documentOf = ({ cut }: Ranked, wanted: Wanted, way: RecipeWay) => {
    const { from, to } = spanOf(cut, way, choosing.framesOf(cut.take));
    return { source: { take: cut.take, from, to }, steps: recipeFor(wanted, way) };
  };
  if (!best) {
    const why = ranked.length > 0 ? 'what would fill it becomes something else on the character' : 'nothing of the day is that';
    return { slot: slotId(slot), clip: null, why, others: [], out: [] };
  }
  const chosen = best;
  const others = able
    .filter((own) => own !== chosen.ranked)
    .slice(0, KEPT)
    .map((own): RunnerUp => {
      const tried = made.get(own);
      // What was not made keeps its own distance: that of another start is not its.
      const { wanted, way } = tried ?? { wanted: { ...chosen.wanted, isMirrored: own.isMirrored, metres: null }, way: firstWay(slot) };
      return { ...documentOf(own, wanted, way), why: whyBehind(own, chosen.ranked) };
    });
  const about = { gait: 'gait' in slot ? slot.gait : slot.kind, direction: 'direction' in slot ? slot.direction : '' };
  return {
    slot: slotId(slot),
    clip: { id: name, name, ...about, ...documentOf(chosen.ranked, chosen.wanted, chosen.way) },
    why: reasonOf(chosen, ranked.length),
    others,
    out: [...chosen.judged.out],
  };
}

/** First what is within bounds, then what is better by its cut and its figures. */
const rankOf = ({ judged, ranked }: Tried): number => judged.out.length * 1000 + ranked.cost + judged.cost;

function tryWays(slot: Slot, ranked: Ranked, { character, home, set, run }: Choosing): Tried | null {
  const { cut, isMirrored } = ranked;
  let best: Tried | null = null;
  for (const { way, says } of waysOf(slot)) {
    const bare: Wanted = { ...NOTHING, slot, character, isMirrored };
    const plain = run(cut, recipeFor(bare, way), way);
    const traits = plain && clipTraits(plain);
    if (!traits) continue;
    const meetsHome = home !== null && endsAtHome(traits).length > 0;
    let wanted: Wanted = { ...bare, ...broughtTo(slot, traits, set.contract), meetsHome };
    let judged: Judged | null = null;
    // What is asked of a start is its pace once it is under way: a distance is tried, and put right by what came of it.
    for (let round = 0; round < ROUNDS; round++) {
      const steps = recipeFor(wanted, way).map((step) => (step.kind === 'meet-home' && home ? { ...step, pose: home } : step));
      const made = run(cut, steps, way);
      judged = made && judge(made, slot, home, set);
      const asked = slotSpeed(slot, set.contract);
      if (!judged || asked === null || wanted.metres === null || Math.abs(judged.traits.speedMps / asked - 1) < CLOSE) break;
      wanted = { ...wanted, metres: wanted.metres + judged.traits.distanceM * (asked / judged.traits.speedMps - 1) };
    }
    if (judged && (!best || judged.out.length < best.judged.out.length)) best = { ranked, way, says, wanted, judged };
    if (best && best.judged.out.length === 0) return best;
  }
  return best;
}

/** Times that a distance is tried, and how near a pace has to come. */
const ROUNDS = 4;
const CLOSE = 0.02;

/** Speeds that are nearer than this to what is asked are left, as a share. */
const NEAR = 0.004;

/** What of a clip has to become what is asked: its speed, its distance, or its turn. */
function broughtTo(slot: Slot, traits: ClipTraits, contract: Contract): Pick<Wanted, 'mps' | 'metres' | 'turnDeg'> {
  if (slot.kind === 'turn') return { mps: null, metres: null, turnDeg: slot.side === 'left' ? slot.angle : -slot.angle };
  const asked = slotSpeed(slot, contract);
  if (asked === null || Math.abs(traits.speedMps / asked - 1) < NEAR) return { mps: null, metres: null, turnDeg: null };
  if (slot.kind === 'loop' || slot.kind === 'arc') return { mps: asked, metres: null, turnDeg: null };
  return { mps: null, metres: (traits.distanceM * asked) / traits.speedMps, turnDeg: null };
}

function reasonOf({ ranked: { cut, isMirrored }, judged: { traits }, says }: Tried, of: number): string {
  const { figures } = traits;
  return [
    `best of ${of}`,
    isMirrored ? 'in the mirror' : '',
    says,
    cut.isLoop ? `ends ${cut.seamCm.toFixed(1)} cm apart as captured, a tick of ${figures.tick.toFixed(1)}` : '',
    traits.speedMps > 0.1 ? `${traits.speedMps.toFixed(2)} m/s` : '',
    `slides ${figures.slideCm.toFixed(2)} cm`,
    cut.fault ?? '',
  ]
    .filter(Boolean)
    .join(', ');
}
