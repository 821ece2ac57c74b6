'use client';
import type { ShipOptionsInput } from '@lantern/motion';
import { create } from 'zustand';
import type { ProjectInfo } from '@/data/project';

/** How it ships, as it is chosen on the desk: everything that is not said has its default. */
export type ShipChoice = ShipOptionsInput & { readonly fps: number };

interface Desk {
  readonly project: string;
  /** Null: as last time. */
  readonly choice: ShipChoice | null;
  /** Clips that a person has put in or left behind, whatever their figures are. */
  readonly picked: Readonly<Record<string, boolean>>;
}

/** What is chosen on the desk, kept while one is elsewhere in the application. */
export const useDesk = create<Desk>()(() => ({ project: '', choice: null, picked: {} }));

/** The desk of a project: that of another one is cleared. */
export function openDesk(project: string): void {
  if (useDesk.getState().project !== project) useDesk.setState({ project, choice: null, picked: {} });
}

/** How a project ships for the first time: at its own rate, its keys thinned. */
export const firstChoice = ({ character, fps }: Pick<ProjectInfo, 'character' | 'fps'>): ShipChoice => ({
  glb: `${character.toLowerCase().replace(/[^\p{L}\p{N}_-]+/gu, '-') || 'set'}.glb`,
  fps,
  thin: { boundMm: 0.5 },
});
