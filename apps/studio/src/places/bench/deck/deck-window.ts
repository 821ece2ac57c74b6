import { useEffect, useRef } from 'react';
import { clampWindow, type DeckWindow } from '@/timeline/axis-window';
import type { Cut } from '../use-bench';

/** About four cycles round the cut, or the whole take. */
export function around(cut: Cut | null, frames: number, fps: number): DeckWindow {
  if (!cut) return { from: 0, to: Math.max(2, Math.min(frames - 1, 20 * fps)) };
  const margin = Math.max(fps, (cut.to - cut.from) * 1.6);
  return clampWindow({ from: cut.from - margin, to: cut.to + margin }, frames);
}

/** Another clip, or a cut that has left the window, brings the window with it. */
export function useFollowCut(
  cut: Cut | null,
  frames: number,
  fps: number,
  key: string,
  setWindow: (change: (window: DeckWindow) => DeckWindow) => void,
): void {
  const shown = useRef<string | null>(null);
  useEffect(() => {
    if (shown.current !== key) {
      shown.current = key;
      setWindow(() => around(cut, frames, fps));
    } else if (cut) {
      setWindow((window) => (cut.to < window.from || cut.from > window.to ? around(cut, frames, fps) : window));
    }
  }, [cut, frames, fps, key, setWindow]);
}
