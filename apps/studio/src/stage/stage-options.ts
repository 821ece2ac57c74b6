import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { View } from './views';

/** What the stage shows besides the figure; kept from visit to visit. */
interface StageOptions {
  readonly view: View;
  readonly prints: boolean;
  readonly bones: boolean;
  /** Frames from one ghost to the next; 0 for none. Two before and two after. */
  readonly ghosts: number;
  /** Names of joints that leave a trail. */
  readonly trails: readonly string[];
  /** Measuring between two points. */
  readonly measuring: boolean;
}

export const useStageOptions = create<StageOptions>()(
  persist((): StageOptions => ({ view: 'follow', prints: true, bones: false, ghosts: 0, trails: [], measuring: false }), {
    name: 'old-lantern.stage',
    partialize: ({ view, prints, bones, ghosts, trails }) => ({ view, prints, bones, ghosts, trails }),
  }),
);
