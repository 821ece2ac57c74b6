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
  /** The step without which the clip is seen as a ghost beside what it is, by its id. */
  readonly without: string | null;
}

/** What is being corrected on the Bench; it stays while one goes from clip to clip. */
export const useCorrecting = create<Correcting>()(() => ({ isOn: false, layer: 0, joint: null, mode: 'turn', without: null }));

/** The clip without a step as a ghost, or no longer. */
export const toggleGhost = (id: string): void => useCorrecting.setState(({ without }) => ({ without: without === id ? null : id }));
