import type { Layer, LayerRange } from '@lantern/motion';
import { create } from 'zustand';
import type { Ghost } from './seen';

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
  /** Frames that are chosen in the open layer. */
  readonly range: LayerRange | null;
  /** Layers that are being offered to other clips. */
  readonly given: readonly Layer[] | null;
  /** What the clip is seen over. */
  readonly ghost: Ghost | null;
  /** The one step that is seen by itself, by its id: the others are left out of what is shown and measured, and stay in the recipe. */
  readonly only: string | null;
}

/** What is being corrected on the Bench, and how it is looked at; it stays while one goes from clip to clip. */
export const useCorrecting = create<Correcting>()(() => ({
  isOn: false,
  layer: 0,
  joint: null,
  mode: 'turn',
  range: null,
  given: null,
  ghost: null,
  only: null,
}));

/** The clip without a step as a ghost, or no longer. */
export const toggleGhost = (id: string): void =>
  useCorrecting.setState(({ ghost }) => ({ ghost: isWithout(ghost, id) ? null : { how: 'without', id } }));

export const isWithout = (ghost: Ghost | null, id: string): boolean => ghost?.how === 'without' && ghost.id === id;
