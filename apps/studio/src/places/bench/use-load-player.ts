import { useEffect, useRef } from 'react';
import { usePlayer } from '@/data/player';
import type { Cut, Preview } from './use-bench';

/** The frame of the take under the playhead. */
export function takeFrameNow(isClip: boolean, cut: Cut | null): number {
  const { frame } = usePlayer.getState();
  const cycle = cut ? cut.to - cut.from : 1;
  return Math.round(isClip && cut ? cut.from + (frame % cycle) : frame);
}

/** Tells the player what it plays whenever that changes; a clip begins at its first frame, the take at the cut. */
export function useLoadPlayer(
  take: { frames: number; fps: number } | null,
  clip: { frames: number; fps: number } | null,
  cut: Cut | null,
  preview: Preview,
): void {
  const load = usePlayer((state) => state.load);
  // Where the other is taken up is asked for only when what is played changes, not whenever the cut does.
  const start = useRef<{ take: number | undefined; cut: Cut | null }>({ take: undefined, cut: null });
  const wasClip = useRef(false);
  useEffect(() => {
    start.current = { take: preview === 'take' ? undefined : cut?.from, cut };
  }, [preview, cut]);
  useEffect(() => {
    const { take: at, cut: within } = start.current;
    if (clip) {
      // From the take to the clip: at the same instant if the cut holds it, else at the clip's beginning.
      const { frame } = usePlayer.getState();
      const inCut = within && frame >= within.from && frame <= within.to;
      load(clip.frames, clip.fps, wasClip.current ? undefined : inCut ? frame - within.from : 0);
    } else if (take) load(take.frames, take.fps, at);
    wasClip.current = clip !== null;
  }, [clip, take, load]);
}
