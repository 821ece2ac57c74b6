'use client';
import { useState } from 'react';
import { usePlayer } from '@/data/player';

/** Pixels of the drawing to one of the window: as many as the screen has, within reason. */
const RESTING: [number, number] = [1, 1.5];
/** Frames a second that playing should keep, and above which there is room for a sharper picture. */
export const PLAYED: [number, number] = [12, 40];
/** No coarser than this: a foot must still be told from the floor. */
const COARSEST = 0.4;

/**
 * The stage's resolution. Where a machine draws in software, playing at full resolution would stutter: then it grows coarser step by
 * step until it plays at 12 frames a second. At rest it is always full.
 *
 * @returns what the canvas takes, and what a monitor of its pace reports to
 */
export function useResolution() {
  const playing = usePlayer((state) => state.playing);
  const [played, setPlayed] = useState(1);
  return {
    playing,
    dpr: playing && played < 1 ? played : RESTING,
    slower: () => setPlayed((now) => Math.max(COARSEST, now * 0.7)),
    faster: () => setPlayed((now) => Math.min(1, now / 0.87)),
  };
}
