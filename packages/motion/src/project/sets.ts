import { InputError } from '../error';
import type { HomePose } from '../model/home-pose';
import { clipTraits } from '../set/clip-traits';
import { contractLines, type ContractLine } from '../set/contract-lines';
import { coverage, type Coverage, type SetClip } from '../set/coverage';
import { proposeHome, type HomeProposal } from '../set/home';
import { checkGraph, type GraphWarning } from '../graph/checks';
import { playableSet, type PlayableSet } from '../graph/play-set';
import { readyGraph } from '../graph/ready';
import type { Graph } from '../set/graph-schema';
import { playableField, type PlayableField } from '../set/play-field';
import type { LocomotionSet } from '../set/schema';
import { shotList, type Shot } from '../set/shots';
import type { BlendField } from '../set/field-schema';
import type { Project } from './schema';
import type { Sources } from './sources';

/** A set, measured. */
export interface MeasuredSet {
  readonly clips: readonly SetClip[];
  /** Clips that cannot be made, and why; clips that are no person's. */
  readonly failed: readonly { readonly clip: string; readonly message: string }[];
  readonly home: HomePose | null;
  /** The frame that would do best as home. */
  readonly proposal: HomeProposal | null;
  readonly coverage: Coverage;
  readonly contract: readonly ContractLine[];
  readonly shots: readonly Shot[];
}

/**
 * Measures a set of a project: all clips of its character, run and held against its slots and the game's numbers.
 *
 * @param sources of the project
 */
export function measureSet(project: Pick<Project, 'clips'>, set: LocomotionSet, sources: Sources): MeasuredSet {
  const { clips, failed } = setClips(project, sources, (clip) => sources.character(clip) === set.character);
  const home = sources.home(set.character);
  const members = clips.filter(({ id }) => !set.without.includes(id));
  const found = coverage(set, clips, home);
  return {
    clips,
    failed,
    home,
    proposal: proposeHome(members),
    coverage: found,
    contract: contractLines(set.contract, found, members),
    shots: shotList(set, found.slots),
  };
}

/** A field of a project, ready to be played and sounded; null when none of its clips comes into step. */
export function projectField(
  project: Pick<Project, 'clips'>,
  field: BlendField,
  sources: Sources,
): { readonly playable: PlayableField | null; readonly clips: readonly SetClip[]; readonly failed: MeasuredSet['failed'] } {
  const { clips, failed } = setClips(project, sources, ({ name }) => field.clips.includes(name));
  return { playable: playableField(field, clips), clips, failed };
}

/** The graph of a set of a project, ready to be played; the one that it is given where it has none. */
export function playProject(
  project: Pick<Project, 'clips' | 'fields'>,
  set: LocomotionSet,
  sources: Sources,
): {
  readonly graph: Graph;
  /** Null when no state of it can be played. */
  readonly playable: PlayableSet | null;
  readonly warnings: readonly GraphWarning[];
  readonly failed: MeasuredSet['failed'];
} {
  const { clips, failed } = setClips(
    project,
    sources,
    (clip) => sources.character(clip) === set.character && !set.without.includes(clip.name),
  );
  const ids = new Set(clips.map(({ id }) => id));
  const fields = project.fields.filter((own) => own.clips.some((clip) => ids.has(clip))).map((field) => ({ key: field.name, field }));
  const graph = set.graph ?? readyGraph(clips, fields);
  const warnings = checkGraph(graph, {
    clips: new Map(clips.map(({ id, name, clip }) => [id, { name, isLoop: clip.loop }])),
    fields: new Map(fields.map(({ key, field }) => [key, { name: field.name, inputs: field.inputs.length }])),
  });
  return { graph, playable: playableSet(graph, clips, fields), warnings, failed };
}

function setClips(
  project: Pick<Project, 'clips'>,
  sources: Sources,
  isWanted: (clip: Project['clips'][number]) => boolean,
): { clips: SetClip[]; failed: { clip: string; message: string }[] } {
  const clips: SetClip[] = [];
  const failed: { clip: string; message: string }[] = [];
  for (const described of project.clips) {
    if (!isWanted(described)) continue;
    const { name } = described;
    try {
      const { run, recipe } = sources.run(described);
      const clip = run(recipe);
      const traits = clipTraits(clip);
      if (traits) clips.push({ id: name, name, clip, traits });
      else failed.push({ clip: name, message: 'It is no person’s, so nothing is known of its feet.' });
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      failed.push({ clip: name, message: error.message });
    }
  }
  return { clips, failed };
}
