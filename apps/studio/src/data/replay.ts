import type { PlayScript } from '@lantern/motion';
import { create } from 'zustand';

/** An instant of play that somebody wants to see: it is played again to the bit up to the step. */
export interface Replay {
  readonly set: string;
  readonly script: PlayScript;
  readonly step: number;
  readonly says: string;
}

interface ReplayState {
  readonly wanted: Replay | null;
  open(replay: Replay): void;
  close(): void;
}

/** What Drive shows when it is opened next. */
export const useReplay = create<ReplayState>()((set) => ({
  wanted: null,
  open: (wanted) => set({ wanted }),
  close: () => set({ wanted: null }),
}));
