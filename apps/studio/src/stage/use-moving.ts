'use client';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { usePlayer } from '@/data/player';

/** After so long without another step a picture rests, milliseconds. A single step is no movement. */
const RESTS_AFTER = 250;

/** Whether somebody leads the camera by hand. */
export const useLed = create(() => ({ isLed: false }));

/** Whether what a stage shows plays, and whether it moves: it plays, is dragged along its frames, or its camera is led. */
export function useMoving(): { readonly playing: boolean; readonly moving: boolean } {
  const playing = usePlayer((state) => state.playing);
  const isLed = useLed((state) => state.isLed);
  const [dragged, setDragged] = useState(false);
  useEffect(() => {
    let last = -Infinity;
    let rest: ReturnType<typeof setTimeout> | undefined;
    const unsubscribe = usePlayer.subscribe((now, before) => {
      if (now.playing || now.frame === before.frame) return;
      const isNext = performance.now() - last < RESTS_AFTER;
      last = performance.now();
      clearTimeout(rest);
      if (isNext) setDragged(true);
      rest = setTimeout(() => setDragged(false), RESTS_AFTER);
    });
    return () => {
      unsubscribe();
      clearTimeout(rest);
    };
  }, []);
  return { playing, moving: playing || dragged || isLed };
}
