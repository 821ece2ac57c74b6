'use client';
import { create } from 'zustand';
import { isDrawnBySoftware } from './drawn-by-software';
import { useMoving } from './use-moving';

/** Pixels of the drawing to one of the window: as many as the screen has, within reason. */
const FEWEST = 0.5;
const MOST = 1.5;
/** At rest the processor draws so much finer, which makes edges smooth. */
const FINER = 1.5;
/** Frames a second that playing should keep, and above which there is room for a sharper picture. */
export const PLAYED: [number, number] = [20, 45];
/** No coarser than this: a foot must still be told from the floor. */
const COARSEST = 0.4;

/** Pixels of a moving picture to one of the screen; found once, good for every stage. Null: nothing has moved yet. */
const usePace = create<{ readonly moved: number | null }>(() => ({ moved: null }));

/**
 * The stage's resolution. Where a machine draws in software, a full picture takes a tenth of a second: whatever moves, because it plays, is dragged
 * along its frames or looked at from elsewhere, is drawn coarser, step by step until it plays at 20 frames a second. At rest it is always full.
 *
 * @returns what the canvas takes, whether it plays or moves, and what a monitor of its pace reports to
 */
export function useResolution() {
  const { playing, moving } = useMoving();
  const software = isDrawnBySoftware();
  const own = usePace(({ moved }) => moved) ?? (software ? 0.6 : 1);
  const screen = Math.min(MOST, Math.max(FEWEST, window.devicePixelRatio));
  return {
    playing,
    moving,
    dpr: screen * (moving ? own : software ? FINER : 1),
    slower: () => usePace.setState({ moved: Math.max(COARSEST, own * 0.7) }),
    faster: () => usePace.setState({ moved: Math.min(1, own / 0.87) }),
  };
}
