import type { Cast } from '../character/character';
import type { SavedFit } from '../fit/settings';
import { measureSet, playProject } from '../project/sets';
import { projectSources } from '../project/sources';
import type { ClipDocument } from '../recipe/clip-document';
import type { Contract } from '../set/contract';
import { fieldSchema, type BlendField } from '../set/field-schema';
import { setSchema, type LocomotionSet, type SetBounds } from '../set/schema';
import { slotId, type Slot } from '../set/slot';
import { shotText } from '../set/shot-text';
import { calm } from './calm';
import type { DraftChoice } from './choose';
import { draftSet, type DraftProgress, type DraftTake } from './draft-set';
import type { Doubt } from './settle-take';

export interface DraftProjectOptions {
  /** What the set is called. */
  readonly name: string;
  readonly slots: readonly Slot[];
  /** Whom the clips are fitted to; null: nobody. */
  readonly character: string | null;
  readonly contract?: Contract;
  readonly bounds?: SetBounds;
  readonly fits?: readonly SavedFit[];
  /** Names that clips, joins, sets and fields of the project have already. */
  readonly taken?: readonly string[];
  /** What is doubtful about the takes as they were read. */
  readonly doubts?: readonly Doubt[];
}

/** A set drafted from takes, ready to be put into a project. */
export interface DraftedSet {
  /** Named by their slots. */
  readonly clips: readonly ClipDocument[];
  readonly set: LocomotionSet;
  readonly fields: readonly BlendField[];
  /** Slots that nothing of the takes fills, and what a performer would have to do. */
  readonly missing: readonly { readonly slot: string; readonly why: string; readonly shot: string }[];
  readonly doubts: readonly Doubt[];
  /** What two minutes of rough weather come to. */
  readonly weather: { readonly popCm: number; readonly slideCm: number } | null;
}

/** Shares of the time: choosing, measuring, and playing. */
const CHOSEN = 0.6;
const MEASURED = 0.68;
/** Minutes that the graph is played for, beside every transition from every phase. */
const MINUTES = 2;

/**
 * A complete set from takes: a clip for every slot that they can fill, the home pose, the game's speeds, fields, and a graph that was played and made calm. The same takes
 * give the same set to the bit.
 *
 * @example
 * const steps = draftProject([{ id: 'rounds', motion }], new Map(), { name: 'lamplighter', slots: slotList('modest'), character: null });
 * steps.next().value.says; // 'Reading rounds'
 */
export function* draftProject(
  takes: readonly DraftTake[],
  cast: Cast,
  { name, slots, character, contract, bounds, fits = [], taken = [], doubts: known = [] }: DraftProjectOptions,
): Generator<DraftProgress, DraftedSet, void> {
  const drafting = draftSet(takes, cast, { slots, character, contract, bounds, fits });
  let step = drafting.next();
  while (!step.done) {
    yield { ...step.value, share: CHOSEN * step.value.share };
    step = drafting.next();
  }
  const { choices, home, ...found } = step.value;
  const names = freeNames(
    choices.flatMap(({ clip }) => clip?.name ?? []),
    taken,
  );
  const named = (own: string): string => names.get(own) ?? own;
  const clips = choices.flatMap(({ clip }) => (clip ? [{ ...clip, id: named(clip.name), name: named(clip.name) }] : []));
  const fields = fieldsOf(choices, named, taken);
  const plain = setSchema.parse({
    name: freeNames([name], taken).get(name) ?? name,
    character,
    slots,
    contract: found.contract,
    ...(bounds && { bounds }),
    ...(home && { home: { ...home, clip: named(home.clip) } }),
  });
  yield { share: CHOSEN, says: 'Measuring the set' };
  const motions = new Map(takes.map(({ id, motion }) => [id, { motion, warnings: [] }]));
  const project = { clips, fields, fits: [...fits], sets: [plain] };
  const sources = projectSources(project, (id) => motions.get(id), cast);
  const { coverage } = measureSet(project, plain, sources);
  // What a slot is drafted for fills it, also where a figure makes another slot the nearer one.
  const pins = Object.fromEntries(
    choices.flatMap(({ slot, clip }) => {
      const own = coverage.slots.find(({ id }) => id === slot);
      return clip && own && (own.clip !== named(clip.name) || own.state !== 'filled') ? [[slot, named(clip.name)]] : [];
    }),
  );
  const pinned = { ...plain, pins };
  const { graph, playable } = playProject(project, pinned, sources);
  let calmed = null;
  if (playable) {
    const playing = calm(graph, playable, MINUTES);
    let played = playing.next();
    while (!played.done) {
      const share = MEASURED + (1 - MEASURED) * Math.min(1, played.value);
      yield { share, says: 'Playing it in rough weather' };
      played = playing.next();
    }
    calmed = played.value;
  }
  const doubts = [...known, ...found.doubts];
  const set: LocomotionSet = {
    ...pinned,
    ...(calmed && calmed.changes.length > 0 && { graph: calmed.graph }),
    draft: {
      choices: choices.map((own) => ({ ...own, others: [...own.others], out: [...own.out], clip: own.clip && named(own.clip.name) })),
      doubts,
      changes: [...(calmed?.changes ?? [])],
    },
  };
  const missing = choices.flatMap(({ slot, clip, why }) => {
    const own = slots.find((one) => slotId(one) === slot);
    return clip || !own ? [] : [{ slot, why, shot: shotText(own, plain.contract) }];
  });
  const weather = calmed && { popCm: calmed.weather.worst.pop, slideCm: calmed.weather.worst.slide };
  return { clips, set, fields, missing, doubts, weather };
}

/** Each name, or the next that nothing has, whatever its case. */
function freeNames(wanted: readonly string[], taken: readonly string[]): Map<string, string> {
  const known = new Set(taken.map((own) => own.toLowerCase()));
  const out = new Map<string, string>();
  for (const own of wanted) {
    let name = own;
    for (let n = 2; known.has(name.toLowerCase()); n++) name = `${own}-${n}`;
    known.add(name.toLowerCase());
    out.set(own, name);
  }
  return out;
}

/** Blends by speed and turn rate of what goes ahead, and by direction of what walks about. */
function fieldsOf(choices: readonly DraftChoice[], named: (name: string) => string, taken: readonly string[]): BlendField[] {
  const of = (is: (slot: string) => boolean) => choices.flatMap(({ slot, clip }) => (clip && is(slot) ? [named(clip.name)] : []));
  const ahead = of((slot) => /^(loop\/(walk|jog)\/forward|arc\/(walk|jog)\/(left|right))$/.test(slot));
  const about = of((slot) => /^loop\/walk\//.test(slot));
  const names = freeNames(['walks and jogs', 'ways to walk'], taken);
  return [
    ...(ahead.length > 1 ? [fieldSchema.parse({ name: names.get('walks and jogs'), clips: ahead })] : []),
    ...(about.length > 2 ? [fieldSchema.parse({ name: names.get('ways to walk'), inputs: ['speed', 'direction'], clips: about })] : []),
  ];
}
