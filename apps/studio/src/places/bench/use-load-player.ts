import { useEffect, useRef } from 'react';
import { usePlayer } from '@/data/player';
import { clipFrameOf, takeFrameOf, type ClipTime } from './take-frame';
import type { Cut, Preview } from './use-bench';

/** The frame of the take under the playhead. @param time of the clip, while it is what is played */
export function takeFrameNow(time: ClipTime | null): number {
  const { frame } = usePlayer.getState();
  return Math.round(time ? takeFrameOf(time, frame) : frame);
}

/** Tells the player what it plays whenever that changes; a clip begins at its first frame, the take at the cut. */
export function useLoadPlayer(
  take: { frames: number; fps: number } | null,
  clip: { frames: number; fps: number } | null,
  time: ClipTime | null,
  cut: Cut | null,
  preview: Preview,
): void {
  const load = usePlayer((state) => state.load);
  // Where the other is taken up is asked for only when what is played changes, not whenever the cut does.
  const start = useRef<{ take: number | undefined; time: ClipTime | null }>({ take: undefined, time: null });
  const wasClip = useRef(false);
  useEffect(() => {
    start.current = { take: preview === 'take' ? undefined : cut?.from, time };
  }, [preview, cut, time]);
  useEffect(() => {
    const { take: at, time: within } = start.current;
    if (clip) {
      // From the take to the clip: at the same instant if the cut holds it, else at the clip's beginning.
      const { frame } = usePlayer.getState();
      const inCut = within && frame >= within.cut.from && frame <= within.cut.to;
      const { next } = usePlayer.getState();
      usePlayer.setState({ next: null });
      load(clip.frames, clip.fps, next ?? (wasClip.current ? undefined : inCut ? clipFrameOf(within, frame) : 0));
    } else if (take) load(take.frames, take.fps, at);
    wasClip.current = clip !== null;
  }, [clip, take, load]);
}
