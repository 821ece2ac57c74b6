import type { ScriptName } from '@lantern/capture';
import {
  clipTraits,
  findLoops,
  proposals,
  recipeRunner,
  recipeSchema,
  segments,
  type Groundwork,
  type Proposal,
  type RecipeStepInput,
  type SetClip,
} from '@lantern/motion';
import { suit } from './made';

/** Takes of the simulated suit, each made once. */
const takes = new Map<string, { ground: Groundwork; found: Proposal[] }>();

export interface Wanted {
  readonly script: ScriptName;
  readonly seed?: number;
  readonly speed?: number;
  readonly seconds?: number;
}

function takeOf({ script, seed = 3, speed, seconds = 12 }: Wanted) {
  const key = `${script} ${seed} ${speed} ${seconds}`;
  const known = takes.get(key);
  if (known) return known;
  const { gait: ground } = suit(script, { seed, seconds, speed });
  const made = { ground, found: proposals(ground, segments(ground), findLoops(ground).candidates) };
  takes.set(key, made);
  return made;
}

/** What is proposed of a take under a name, as a clip of a set. */
export function setClip(
  name: string,
  wanted: Wanted & { readonly proposal: RegExp; readonly steps?: readonly RecipeStepInput[] },
): SetClip {
  const { ground, found } = takeOf(wanted);
  const proposal = found.find((own) => wanted.proposal.test(own.name));
  if (!proposal)
    throw new Error(`nothing like ${wanted.proposal} is proposed of ${wanted.script}: ${found.map((own) => own.name).join(', ')}`);
  const steps: RecipeStepInput[] = [
    ...(proposal.isLoop ? [{ kind: 'loop' as const }] : []),
    ...(wanted.steps ?? []),
    { kind: 'foot-lock' },
    { kind: 'travel', start: 'origin' },
  ];
  const clip = recipeRunner(ground.motion)({ from: proposal.from, to: proposal.to, steps: recipeSchema.parse(steps) });
  const traits = clipTraits(clip);
  if (!traits) throw new Error('nobody is there');
  return { id: name, name, clip, traits };
}

/** The same cut with steps in another order, for ends: those that are given, then the feet held, then what comes after. */
export function endClip(wanted: Wanted & { readonly proposal: RegExp }, ...steps: readonly RecipeStepInput[]) {
  const { ground, found } = takeOf(wanted);
  const proposal = found.find((own) => wanted.proposal.test(own.name));
  if (!proposal) throw new Error(`nothing like ${wanted.proposal} is proposed of ${wanted.script}`);
  return recipeRunner(ground.motion)({ from: proposal.from, to: proposal.to, steps: recipeSchema.parse(steps) });
}

/** A stroll, a jog, and both round arcs to either side. */
export function fieldClips(seed = 3): SetClip[] {
  const stroll = { script: 'walk', seed, speed: 1.3, proposal: /walk-forward/ } as const;
  const jog = { script: 'jog', seed, speed: 2.8, proposal: /run-forward/ } as const;
  const arc = (radius: number): RecipeStepInput[] => [{ kind: 'path', shape: 'arc', radius }];
  return [
    setClip('stroll', stroll),
    setClip('jog', jog),
    setClip('stroll-left', { ...stroll, steps: arc(1.6) }),
    setClip('stroll-right', { ...stroll, steps: arc(-1.6) }),
    setClip('jog-left', { ...jog, steps: arc(3) }),
    setClip('jog-right', { ...jog, steps: arc(-3) }),
  ];
}
