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
  /** The centre of mass and the soles' support, on the Bench. */
  readonly balance: boolean;
  /** Measuring between two points. */
  readonly measuring: boolean;
  /** On the quay of Gullmouth instead of a chart's floor. */
  readonly onQuay: boolean;
}

export const useStageOptions = create<StageOptions>()(
  persist(
    (): StageOptions => ({
      view: 'follow',
      prints: true,
      bones: false,
      ghosts: 0,
      trails: [],
      balance: false,
      measuring: false,
      onQuay: false,
    }),
    {
      name: 'old-lantern.stage',
      partialize: ({ view, prints, bones, ghosts, trails, balance, onQuay }) => ({ view, prints, bones, ghosts, trails, balance, onQuay }),
    },
  ),
);

/** Joints that leave a trail, or no longer. */
export function toggleTrails(joints: readonly string[]): void {
  useStageOptions.setState(({ trails }) => ({
    trails: joints.every((joint) => trails.includes(joint))
      ? trails.filter((joint) => !joints.includes(joint))
      : [...new Set([...trails, ...joints])],
  }));
}
