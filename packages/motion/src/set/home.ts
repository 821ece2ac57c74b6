import { groundwork, type Groundwork } from '../measure/groundwork';
import { homeDistance, homePoseOf, type HomeDistance } from '../measure/home-distance';
import { played } from '../measure/played';
import type { Clip } from '../model/clip';
import type { HomePose } from '../model/home-pose';
import type { ClipTraits } from './clip-traits';

/** An end of a clip that ought to be in the home pose. */
export interface HomeEnd extends HomeDistance {
  readonly end: 'first' | 'last';
}

/** Which ends of a clip meet the home pose: those of starts, stops, turns and idles, and of hops and steps at which he stands. */
export function endsAtHome({
  kind,
  standsFirst,
  standsLast,
}: Pick<ClipTraits, 'kind' | 'standsFirst' | 'standsLast'>): ('first' | 'last')[] {
  switch (kind) {
    case 'idle':
      return ['first'];
    case 'start':
      return ['first'];
    case 'stop':
      return ['last'];
    case 'turn':
      return ['first', 'last'];
    case 'flight':
    case 'step':
      return [...(standsFirst ? (['first'] as const) : []), ...(standsLast ? (['last'] as const) : [])];
    default:
      return [];
  }
}

/** How far the ends of a clip are from the home pose. */
export function homeEndsOf(clip: Clip, traits: ClipTraits, pose: HomePose): HomeEnd[] {
  const { motion, start } = played(clip);
  const ground = groundwork(motion);
  if (!ground) return [];
  const frame = { first: start, last: start + clip.motion.frames - 1 };
  return endsAtHome(traits).map((end) => ({ end, ...homeDistance(ground, frame[end], pose) }));
}

/** A frame of a clip that would do as the home pose. */
export interface HomeProposal {
  readonly clip: string;
  readonly frame: number;
  /** Mean and greatest distance of the ends from it, cm. */
  readonly meanCm: number;
  readonly worstCm: number;
}

/** Frames of an idle that are looked at, at the most. */
const TRIED = 60;

/** The pose of a frame of a clip, to be the home of its set. */
export function homeFrom(clip: Clip, frame: number): HomePose | null {
  const { motion, start } = played(clip);
  const ground = groundwork(motion);
  return ground && homePoseOf(ground, start + Math.min(Math.max(0, frame), clip.motion.frames - 1));
}

/**
 * The frame of an idle that is nearest to all the ends that shall meet there; without an idle the best of the ends themselves.
 *
 * @returns null where nobody ever stands
 */
export function proposeHome(
  clips: readonly { readonly id: string; readonly clip: Clip; readonly traits: ClipTraits }[],
): HomeProposal | null {
  const ends: { ground: Groundwork; frame: number; id: string; own: number }[] = [];
  const idles: { ground: Groundwork; frame: number; id: string; own: number }[] = [];
  for (const { id, clip, traits } of clips) {
    const { motion, start } = played(clip);
    const ground = groundwork(motion);
    if (!ground) continue;
    const last = clip.motion.frames - 1;
    if (traits.kind === 'idle') {
      const step = Math.max(1, Math.ceil(last / TRIED));
      for (let own = 0; own < last; own += step) idles.push({ ground, frame: start + own, id, own });
    } else
      for (const end of endsAtHome(traits))
        ends.push({ ground, frame: start + (end === 'first' ? 0 : last), id, own: end === 'first' ? 0 : last });
  }
  const tried = idles.length > 0 ? idles : ends;
  const judged = tried.map(({ ground, frame, id, own }) => {
    const pose = homePoseOf(ground, frame);
    const off = ends.map((end) => homeDistance(end.ground, end.frame, pose).cm);
    const meanCm = off.reduce((sum, cm) => sum + cm, 0) / Math.max(1, off.length);
    return { clip: id, frame: own, meanCm, worstCm: Math.max(0, ...off) };
  });
  return judged.length > 0 ? judged.reduce((best, own) => (own.meanCm < best.meanCm ? own : best)) : null;
}
