import {
  contractLines,
  coverage,
  homeFrom,
  homePoseSchema,
  onHips,
  playableField,
  proposeHome,
  shotList,
  sounder,
  speedCourse,
  type BlendField,
  type ClipTraits,
  type ContractLine,
  type Coverage,
  type FieldPoint,
  type HomePose,
  type HomeProposal,
  type LocomotionSet,
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
import { orProblem } from './fit-api';
import type { SetClipAsked } from './made-clips';
import { setClips } from './set-clips';

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

const fields = new LRUCache<string, OpenedField>({ max: 4 });

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
  const clips = await setClips.all(wanted);
  const playable = playableField(field, clips);
  if (!playable) return null;
  const opened = { playable, clips, sounder: sounder(playable, clips) };
  fields.set(key, opened);
  return opened;
}

/** What the worker does with sets. */
export const setApi = {
  /** What a clip is, for slots; a sentence where it cannot be told. */
  async setTraits(asked: SetClipAsked): Promise<ClipTraits | { problem: string }> {
    const clip = await setClips.one(asked);
    return typeof clip === 'string' ? { problem: clip } : clip.traits;
  },

  /** Coverage, contract and shots of a set. */
  async setMeasured({ set, clips: asked }: SetAsked): Promise<SetMeasured> {
    const clips = await setClips.all(asked);
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
    const clip = await setClips.one(asked);
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
