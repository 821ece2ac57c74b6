import { create } from 'zustand';

/** How a joint is taken hold of on the stage: turned by a ring, or drawn by a handle. */
export type HoldMode = 'turn' | 'grab';

interface Correcting {
  /** Whether joints are picked on the stage. */
  readonly isOn: boolean;
  /** The layer that keys go into, counted from the lowest. */
  readonly layer: number;
  /** By name: clips are of different skeletons. */
  readonly joint: string | null;
  readonly mode: HoldMode;
}

/** What is being corrected on the Bench; it stays while one goes from clip to clip. */
export const useCorrecting = create<Correcting>()(() => ({ isOn: false, layer: 0, joint: null, mode: 'turn' }));
