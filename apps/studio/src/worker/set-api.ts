import {
  clipTraits,
  contractLines,
  coverage,
  homeFrom,
  homePoseSchema,
  onHips,
  InputError,
  playableField,
  proposeHome,
  shotList,
  sounder,
  speedCourse,
  type BlendField,
  type Clip,
  type ClipRecipe,
  type ClipTraits,
  type ContractLine,
  type Coverage,
  type FieldPoint,
  type HomePose,
  type HomeProposal,
  type LocomotionSet,
  type Motion,
  type PlayableField,
  type SetClip,
  type Shot,
  type Skeleton,
  type Sounder,
  type Sounding,
  type SpeedCourse,
} from '@lantern/motion';
import type { PlayField, PlaySkeleton } from '@lantern/drive';
import { LRUCache } from 'lru-cache';
import { fingerprintOf, openCastOf } from './cast';
import { orProblem, withCast } from './fit-api';
import { openingOf } from './held';
import { keptClips } from './kept-clips';

/** A clip of a set as the worker is asked for it. */
export interface SetClipAsked {
  readonly id: string;
  readonly name: string;
  /** Its take, or join, by its key. */
  readonly take: string;
  readonly recipe: ClipRecipe;
}

/** A set with the clips that are its character's. */
export interface SetAsked {
  readonly set: LocomotionSet;
  readonly clips: readonly SetClipAsked[];
}

/** A set, measured. */
export interface SetMeasured {
  readonly coverage: Coverage;
  readonly contract: readonly ContractLine[];
  readonly shots: readonly Shot[];
  readonly proposal: HomeProposal | null;
  readonly home: HomePose | null;
}

/** A field as it is drawn and played. */
export interface FieldView {
  readonly points: readonly FieldPoint[];
  readonly left: readonly { readonly id: string; readonly why: string }[];
  /** What is played; the skeleton's joints for the stage beside those of the runtime. */
  readonly skeleton: PlaySkeleton;
  readonly joints: Skeleton;
  readonly field: PlayField;
}

const known = new LRUCache<string, SetClip | string>({ max: 400 });
const fields = new LRUCache<string, OpenedField>({ max: 4 });

/** The names of this program's files change with what is in them; while it is being written they do not. */
const kept = keptClips(process.env.NODE_ENV === 'production' ? self.location.href : null);

/** A clip, run and measured once, in this visit or an earlier one; a sentence where it cannot be. */
async function setClip({ id, name, take, recipe }: SetClipAsked): Promise<SetClip | string> {
  const key = JSON.stringify([take, recipe]);
  const held = known.get(key);
  if (held) return typeof held === 'string' ? held : { ...held, id, name };
  const made = await keptOrMade(take, recipe);
  known.set(key, made);
  return typeof made === 'string' ? made : { ...made, id, name };
}

async function keptOrMade(take: string, recipe: ClipRecipe): Promise<SetClip | string> {
  const opening = openingOf(take);
  if (!opening?.lasts || !(await kept.canKeep())) return make(take, recipe);
  await openCastOf(opening.project, recipe.steps);
  const key = JSON.stringify([take, recipe, await fingerprintOf(opening.project, recipe.steps)]);
  const found = await kept.find(key);
  if (found) return { id: '', name: '', ...found, clip: onOneSkeleton(found.clip) };
  const made = await make(take, recipe);
  if (typeof made !== 'string') void kept.keep(key, { clip: made.clip, traits: made.traits });
  return made;
}

const skeletons = new LRUCache<string, Skeleton>({ max: 20 });

/** What was worked out of a skeleton is known by the object: clips that came back one by one share one again. */
function onOneSkeleton(clip: Clip): Clip {
  const key = JSON.stringify(clip.motion.skeleton);
  const skeleton = skeletons.get(key) ?? clip.motion.skeleton;
  skeletons.set(key, skeleton);
  const on = (motion: Motion): Motion => (motion.skeleton === clip.motion.skeleton ? { ...motion, skeleton } : motion);
  return { ...clip, motion: on(clip.motion), lead: clip.lead && on(clip.lead), tail: clip.tail && on(clip.tail) };
}

async function make(take: string, recipe: ClipRecipe): Promise<SetClip | string> {
  try {
    const { run } = await withCast(take, recipe.steps);
    const clip = run(recipe);
    const traits = clipTraits(clip);
    return traits ? { id: '', name: '', clip, traits } : 'It is no person’s, so nothing is known of its feet.';
  } catch (error) {
    if (error instanceof InputError) return error.message;
    throw error;
  }
}

/** Clips, run and measured once each; those that cannot be are left out. */
export async function setClips(asked: readonly SetClipAsked[]): Promise<SetClip[]> {
  const made: SetClip[] = [];
  for (const own of asked) {
    const clip = await setClip(own);
    if (typeof clip !== 'string') made.push(clip);
  }
  return made;
}

/** A field whose clips are in step, and what sounds it. */
interface OpenedField {
  readonly playable: PlayableField;
  readonly clips: readonly SetClip[];
  readonly sounder: Sounder;
}

/** A field, made playable once; null when none of its clips comes into step. */
async function fieldOf(field: BlendField, asked: readonly SetClipAsked[]): Promise<OpenedField | null> {
  const wanted = asked.filter(({ id }) => field.clips.includes(id));
  const key = JSON.stringify([field, wanted]);
  const held = fields.get(key);
  if (held) return held;
  const clips = await setClips(wanted);
  const playable = playableField(field, clips);
  if (!playable) return null;
  const made = { playable, clips, sounder: sounder(playable, clips) };
  fields.set(key, made);
  return made;
}

/** What the worker does with sets. */
export const setApi = {
  /** What a clip is, for slots; a sentence where it cannot be told. */
  async setTraits(asked: SetClipAsked): Promise<ClipTraits | { problem: string }> {
    const clip = await setClip(asked);
    return typeof clip === 'string' ? { problem: clip } : clip.traits;
  },

  /** Coverage, contract and shots of a set. */
  async setMeasured({ set, clips: asked }: SetAsked): Promise<SetMeasured> {
    const clips = await setClips(asked);
    const members = clips.filter(({ id }) => !set.without.includes(id));
    const at = set.home && clips.find(({ id }) => id === set.home?.clip);
    const home = (at && set.home && homeFrom(at.clip, set.home.frame)) ?? null;
    const found = coverage(set, clips, home);
    return {
      coverage: found,
      contract: contractLines(set.contract, found, members),
      shots: shotList(set, found.slots),
      proposal: proposeHome(members),
      home: home && homePoseSchema.parse(home),
    };
  },

  /** Speed over time of a clip. */
  async setCourse(asked: SetClipAsked): Promise<SpeedCourse | null> {
    const clip = await setClip(asked);
    return typeof clip === 'string' ? null : speedCourse(clip.clip);
  },

  /** A field with all that is needed to draw it and to play it; null when none of its clips comes into step. */
  async setField(field: BlendField, asked: readonly SetClipAsked[]): Promise<FieldView | null> {
    const opened = await fieldOf(field, asked);
    if (!opened) return null;
    const { playable, clips } = opened;
    const { points, left, skeleton, field: play } = playable;
    return { points, left, skeleton, joints: onHips(clips[0].clip.motion).skeleton, field: play };
  },

  /** Soundings of a field at some points. */
  async setSoundings(
    field: BlendField,
    asked: readonly SetClipAsked[],
    at: readonly (readonly number[])[],
  ): Promise<readonly Sounding[] | { problem: string }> {
    return orProblem(async () => {
      const opened = await fieldOf(field, asked);
      return opened ? at.map((point) => opened.sounder.sound(point)) : [];
    });
  },
};
