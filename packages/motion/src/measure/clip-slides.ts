import type { Clip } from '../model/clip';
import { worldMotion } from '../model/clip';
import { repeatLoop } from '../model/repeat';
import type { Contacts, Interval } from './contacts';
import { gait, type Gait } from './gait';
import { slides, type Slide } from './slide';

/** How often a loop is played to be judged: contacts across its seam are whole in the middle one. */
export const PLAYED = 3;

/** A clip as it plays in the world: a loop `PLAYED` times on end. */
export const playedMotion = (clip: Pick<Clip, 'motion' | 'travel' | 'loop'>) =>
  clip.loop && clip.motion.frames > 8 ? repeatLoop(clip, PLAYED) : worldMotion(clip);

/**
 * Foot slide of every contact of a clip, in order of time; of a loop those that begin in its middle cycle, in frames of the clip.
 *
 * @param known when the feet bear, if that is settled; else what the clip says or what is measured
 * @param ground the clip as it plays, when it has been worked out already
 */
export function clipSlides(
  clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>,
  known: Contacts | undefined = clip.contacts,
  ground: Gait | null = gait(playedMotion(clip)),
): Slide[] {
  if (!ground) return [];
  const last = clip.motion.frames - 1;
  const isPlayed = ground.motion.frames > clip.motion.frames;
  if (!isPlayed) return slides(ground.soles, known ?? ground.contacts);
  const all = slides(ground.soles, known ? comingRound(known, last, ground.motion.frames) : ground.contacts);
  return all
    .filter(({ from }) => from >= last && from < 2 * last)
    .map((slide) => ({ ...slide, from: slide.from - last, to: slide.to - last }));
}

/** A loop's contacts in every time it is played. */
export function comingRound({ fps, floorM, left, right }: Contacts, cycle: number, frames: number): Contacts {
  const all = (intervals: readonly Interval[]) =>
    Array.from({ length: PLAYED + 1 }, (_, k) =>
      intervals.map(({ from, to }) => ({ from: from + (k - 1) * cycle, to: to + (k - 1) * cycle })),
    )
      .flat()
      .map(({ from, to }) => ({ from: Math.max(0, from), to: Math.min(frames, to) }))
      .filter(({ from, to }) => to > from)
      .sort((a, b) => a.from - b.from);
  return { fps, floorM, left: all(left), right: all(right) };
}
