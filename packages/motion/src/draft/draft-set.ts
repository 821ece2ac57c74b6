import { InputError } from '../error';
import type { Cast } from '../character/character';
import { withMapping } from '../fit/mapped-body';
import type { SavedFit } from '../fit/settings';
import { groundwork } from '../measure/groundwork';
import type { HomePose } from '../model/home-pose';
import type { Motion } from '../model/motion';
import { skeletonSignature } from '../model/signature';
import { recipeRunner } from '../recipe/recipe';
import { mappingOf, withFits } from '../recipe/with-fits';
import type { ClipDocument } from '../recipe/clip-document';
import { clipTraits, type ClipTraits } from '../set/clip-traits';
import { contractSchema, slotSpeed, type Contract } from '../set/contract';
import { endsAtHome, homeFrom, proposeHome } from '../set/home';
import type { Choice, RunnerUp } from '../set/draft-schema';
import { setBoundsSchema, type LocomotionSet, type SetBounds } from '../set/schema';
import { slotId, type Slot } from '../set/slot';
import { slotName } from '../set/slot-name';
import type { Clip } from '../model/clip';
import { withStep } from '../recipe/order';
import { stepSchema, type RecipeStep } from '../steps';
import { cutsOf, type Cut } from './cuts';
import { judge, type Judged } from './judge';
import { rankCuts, whyBehind, type Ranked } from './rank-cuts';
import type { Doubt } from './settle-take';
import { recipeFor, WAYS, type RecipeWay, type Wanted } from './recipe-for';

/** A take that a set is drafted from, in metres. */
export interface DraftTake {
  /** What clips call it. */
  readonly id: string;
  /** What people call it, where that is something else. */
  readonly name?: string;
  readonly motion: Motion;
}

export interface DraftOptions {
  readonly slots: readonly Slot[];
  /** Whom the clips are fitted to; null: nobody. */
  readonly character: string | null;
  /** The game's numbers; speeds that it leaves out are taken from the day. */
  readonly contract?: Contract;
  readonly bounds?: SetBounds;
  /** What is settled for suits and characters. */
  readonly fits?: readonly SavedFit[];
}

/** What was chosen for a slot, with the clip that it is. */
export interface DraftChoice extends Omit<Choice, 'clip'> {
  readonly clip: ClipDocument | null;
}

/** A set as it is drafted. */
export interface Draft {
  readonly choices: readonly DraftChoice[];
  readonly contract: Contract;
  readonly home: LocomotionSet['home'];
  readonly doubts: readonly Doubt[];
}

/** How much of it is done, 0 to 1, and with what it is busy. */
export interface DraftProgress {
  readonly share: number;
  readonly says: string;
}

/** Cuts of a slot whose recipes are run. */
const TRIED = 3;
/** Runners-up that are kept. */
const KEPT = 4;
/** Share of the time that reading takes into cuts takes. */
const READING = 0.3;

/**
 * A set from takes, without a hand on it: for every slot the best cut of all takes with the steps that bring it within bounds, seen in the mirror where only the other
 * side was captured.
 */
export function* draftSet(
  takes: readonly DraftTake[],
  cast: Cast,
  { slots, character, contract: asked, bounds = setBoundsSchema.parse({}), fits = [] }: DraftOptions,
): Generator<DraftProgress, Draft, void> {
  const cuts: Cut[] = [];
  const doubts: Doubt[] = [];
  for (const [i, { id, name: take = id, motion }] of takes.entries()) {
    yield { share: (READING * i) / takes.length, says: `Reading ${take}` };
    const ground = groundwork(motion);
    const own = ground ? cutsOf(id, ground) : [];
    if (!ground) doubts.push({ take, what: 'It is no person’s, so nothing is cut from it.' });
    else if (own.length === 0) doubts.push({ take, what: 'Nothing in it can be told apart that a set asks for.' });
    for (const fault of new Set(own.flatMap((cut) => cut.fault ?? []))) doubts.push({ take, what: `A try is left aside: ${fault}.` });
    cuts.push(...own);
  }
  const runners = new Map(
    takes.map(({ id, motion }) => {
      const signature = skeletonSignature(motion.skeleton);
      const run = recipeRunner(withMapping(motion, mappingOf(signature, fits)), cast);
      return [id, { run, signature, frames: motion.frames }];
    }),
  );
  const run: Run = (cut, steps, way) => {
    const runner = runners.get(cut.take);
    if (!runner) return null;
    try {
      return runner.run({ ...spanOf(cut, way, runner.frames), steps: withFits(steps, runner.signature, fits) });
    } catch (error) {
      // A way that cannot be gone is none.
      if (error instanceof InputError) return null;
      throw error;
    }
  };
  const framesOf = (take: string) => runners.get(take)?.frames ?? 0;
  const scale = scaleOf(cuts, character, run);
  const contract = contractOf(slots, cuts, scale, asked ?? contractSchema.parse({}));
  const set = { slots: [...slots], contract, bounds };
  const ranked = slots.map((slot) => rankCuts(slot, cuts, set, scale));
  const choosing = { character, set, run, framesOf };
  // The idle first: all other ends meet in its pose.
  const idleAt = slots.findIndex(({ kind }) => kind === 'idle');
  const idle = idleAt < 0 ? null : choose(slots[idleAt], ranked[idleAt], { ...choosing, home: null });
  const home = idle && homeIn(idle, slots, ranked, choosing);
  const choices: DraftChoice[] = [];
  for (const [i, slot] of slots.entries()) {
    yield { share: READING + ((1 - READING) * i) / slots.length, says: `Choosing for ${slotId(slot)}` };
    choices.push(
      i === idleAt && idle ? broughtHome(idle, slot, choosing, home) : choose(slot, ranked[i], { ...choosing, home: home?.pose ?? null }),
    );
  }
  return { choices, contract, home: home && idle?.clip ? { clip: idle.clip.name, frame: home.frame } : undefined, doubts };
}

type Run = (cut: Pick<Cut, 'from' | 'to'> & { readonly take: string }, steps: readonly RecipeStep[], way?: RecipeWay) => Clip | null;

/** The frames of a cut; three strides of it where they are averaged and the take has them. */
function spanOf({ from, to }: Pick<Cut, 'from' | 'to'>, way: RecipeWay | undefined, frames: number): { from: number; to: number } {
  return way?.typical ? { from, to: Math.min(frames - 1, to + 2 * (to - from) + 2) } : { from, to };
}

/** How much faster the character goes than the performer: in the ratio of their legs. */
function scaleOf(cuts: readonly Cut[], character: string | null, run: Run): number {
  const loop = cuts.find(({ isLoop, traits, fault }) => isLoop && traits.speedMps > 0.3 && !fault);
  if (character === null || !loop) return 1;
  const bare: Wanted = { ...NOTHING, slot: { kind: 'idle' }, character };
  const fitted = run(loop, recipeFor(bare, WAYS.loop[0].way));
  const traits = fitted && clipTraits(fitted);
  return traits ? traits.speedMps / loop.traits.speedMps : 1;
}

const NOTHING = { character: null, isMirrored: false, mps: null, metres: null, turnDeg: null, meetsHome: false } as const;

/** To these parts of a metre a second speeds of the day are rounded. */
const STEP = 0.05;

/** A speed for every gait and direction that the set has a loop for: as the game asks, else what the day has, rounded. */
function contractOf(slots: readonly Slot[], cuts: readonly Cut[], scale: number, asked: Contract): Contract {
  const speeds: Record<string, Record<string, number>> = { ...asked.speedMps };
  for (const slot of slots) {
    if (slot.kind !== 'loop' || slot.speedMps !== undefined || speeds[slot.gait]?.[slot.direction] !== undefined) continue;
    const [best] = rankCuts(slot, cuts, { slots: [...slots], contract: asked }, scale);
    if (!best) continue;
    const mps = Math.max(2 * STEP, Math.round((best.cut.traits.speedMps * scale) / STEP) * STEP);
    speeds[slot.gait] = { ...speeds[slot.gait], [slot.direction]: Number(mps.toFixed(2)) };
  }
  return contractSchema.parse({ ...asked, speedMps: speeds });
}

interface Home {
  readonly frame: number;
  readonly pose: HomePose;
}

/** The frame of the idle that is nearest to the ends which shall meet there. */
function homeIn(
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
function broughtHome(idle: DraftChoice, slot: Slot, { run, set }: Pick<Choosing, 'run' | 'set'>, home: Home | null): DraftChoice {
  if (!idle.clip || !home) return idle;
  const met = withStep(idle.clip.steps, stepSchema.parse({ kind: 'meet-home' }));
  const steps = met.map((step) => (step.kind === 'meet-home' ? { ...step, pose: home.pose } : step));
  const made = run(idle.clip.source, steps);
  const judged = made && judge(made, slot, home.pose, set);
  return judged && judged.out.length <= idle.out.length ? { ...idle, clip: { ...idle.clip, steps: met }, out: [...judged.out] } : idle;
}

const isLoop = (slot: Slot): boolean => slot.kind === 'loop' || slot.kind === 'arc' || slot.kind === 'idle';
const waysOf = (slot: Slot) => WAYS[isLoop(slot) ? 'loop' : 'once'];
const firstWay = (slot: Slot): RecipeWay => waysOf(slot)[0].way;

interface Choosing {
  readonly character: string | null;
  readonly home: HomePose | null;
  readonly set: Pick<LocomotionSet, 'slots' | 'contract' | 'bounds'>;
  readonly run: Run;
  readonly framesOf: (take: string) => number;
}

interface Tried {
  readonly ranked: Ranked;
  readonly way: RecipeWay;
  readonly says: string;
  readonly wanted: Wanted;
  readonly judged: Judged;
}

/** The best of a slot's cuts, made by the first way that brings it within bounds. */
function choose(slot: Slot, ranked: readonly Ranked[], choosing: Choosing): DraftChoice {
  const name = slotName(slot);
  const sound = ranked.filter(({ cut }) => cut.fault === null);
  const able = (sound.length > 0 ? sound : ranked).slice(0, TRIED + KEPT);
  let best: Tried | null = null;
  for (const own of able.slice(0, TRIED)) {
    const tried = tryWays(slot, own, choosing);
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
      const wanted = { ...chosen.wanted, isMirrored: own.isMirrored };
      return { ...documentOf(own, wanted, firstWay(slot)), why: whyBehind(own, chosen.ranked) };
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
