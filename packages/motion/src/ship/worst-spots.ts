import { clipSlides } from '../measure/clip-slides';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import type { Clip } from '../model/clip';

/** Where in a clip its feet are worst, frames of it. */
export interface WorstSpots {
  /** The contact in which a bearing foot moves most. */
  readonly slide: { readonly side: 'left' | 'right'; readonly from: number; readonly to: number } | null;
  /** Where a sole is deepest under the floor. */
  readonly sink: { readonly side: 'left' | 'right'; readonly frame: number } | null;
}

/** Where a clip's feet are worst; nowhere for what has none. */
export function worstSpots(clip: Clip): WorstSpots {
  const { motion, start } = played(clip);
  const ground = groundwork(motion);
  if (!ground) return { slide: null, sink: null };
  const slid = clipSlides(clip, clip.contacts, ground).reduce<ReturnType<typeof clipSlides>[number] | null>(
    (most, own) => (most && most.excursionCm >= own.excursionCm ? most : own),
    null,
  );
  let sink: { side: 'left' | 'right'; frame: number; y: number } | null = null;
  for (const side of ['left', 'right'] as const)
    for (let f = 0; f < clip.motion.frames; f++)
      for (const own of Object.values(ground.soles[side]) as Float32Array[]) {
        const y = own[(start + f) * 3 + 1];
        if (!sink || y < sink.y) sink = { side, frame: f, y };
      }
  return {
    slide: slid && { side: slid.side, from: slid.from, to: slid.to },
    sink: sink && { side: sink.side, frame: sink.frame },
  };
}
