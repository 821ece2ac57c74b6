import type { Contacts, Interval } from './contacts';
import type { FloorTransform } from './floor-transform';

/**
 * Where the frames of a cut have gone: frame `f` is now `f · scale + shift`. The scale is 0.5 when a take of 120 frames a second is brought to 60;
 * the shift is 10 when the cut begins ten frames earlier.
 */
export interface FrameMap {
  readonly scale: number;
  readonly shift: number;
  /** Where places in the world have gone, of a take that is delivered anew; left out: they are where they were. */
  readonly floor?: FloorTransform;
}

/**
 * A whole frame, none before the first.
 *
 * @example
 * mapFrame({ scale: 0.5, shift: 0 }, 33); // 17
 */
export const mapFrame = ({ scale, shift }: FrameMap, frame: number): number => Math.max(0, Math.round(frame * scale + shift));

/** A number of frames; never none of some. */
export const mapLength = ({ scale }: FrameMap, frames: number, least = 1): number => Math.max(least, Math.round(frames * scale));

/**
 * Intervals moved along; what lies before the first frame altogether goes. Every interval lasts a frame at least.
 *
 * @example
 * mapIntervals({ scale: 0.5, shift: 0 }, [{ from: 10, to: 31 }]); // [{ from: 5, to: 16 }]
 */
export function mapIntervals(time: FrameMap, intervals: readonly Interval[]): { from: number; to: number }[] {
  return intervals
    .filter(({ to }) => to * time.scale + time.shift > 0)
    .map(({ from, to }) => {
      const start = mapFrame(time, from);
      return { from: start, to: Math.max(start + 1, mapFrame(time, to)) };
    });
}

/** Contacts with each foot's, and each hand's, intervals gone through `each`. */
export function mapContacts<Of extends Pick<Contacts, 'left' | 'right' | 'leftHand' | 'rightHand'>>(
  contacts: Of,
  each: (intervals: readonly Interval[]) => readonly Interval[],
): Of {
  const { left, right, leftHand, rightHand } = contacts;
  return {
    ...contacts,
    left: each(left),
    right: each(right),
    ...(leftHand && { leftHand: each(leftHand) }),
    ...(rightHand && { rightHand: each(rightHand) }),
  };
}
