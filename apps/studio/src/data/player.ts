import { create } from 'zustand';

interface PlayerState {
  /** In frames of what is played; fractional while playing. */
  readonly frame: number;
  readonly playing: boolean;
  /** The next page is on its way: what plays stands still for so long. See hold.ts. */
  readonly held: boolean;
  readonly speed: number;
  readonly frames: number;
  readonly fps: number;
  /** A stretch that is played round and round; null: all of it. */
  readonly range: { readonly from: number; readonly to: number } | null;
  /** Where the clip that is opened next is to be looked at; null: where it was. */
  readonly next: number | null;
  setRange(range: { from: number; to: number } | null): void;
  load(frames: number, fps: number, frame?: number): void;
  seek(frame: number): void;
  toggle(): void;
  advance(seconds: number): void;
  setSpeed(speed: number): void;
}

export const SPEEDS = [0.25, 0.5, 1, 2] as const;

/** What the stage plays: one clock for stage and deck. */
export const usePlayer = create<PlayerState>()((set) => ({
  frame: 0,
  playing: false,
  held: false,
  speed: 1,
  frames: 1,
  fps: 60,
  range: null,
  next: null,
  setRange: (range) => set(range ? { range, frame: range.from } : { range }),
  load: (frames, fps, frame) => set((s) => ({ frames, fps, range: null, frame: Math.min(frames - 1, frame ?? s.frame) })),
  seek: (frame) => set(({ frames }) => ({ frame: Math.min(frames - 1, Math.max(0, frame)) })),
  toggle: () => set(({ playing }) => ({ playing: !playing })),
  // Round again at the end, or at the end of the range.
  advance: (seconds) =>
    set((s) => {
      const from = s.range?.from ?? 0;
      const length = (s.range?.to ?? s.frames - 1) - from;
      if (length <= 0) return { frame: 0 };
      const on = s.frame - from + seconds * s.fps * s.speed;
      return { frame: from + (((on % length) + length) % length) };
    }),
  setSpeed: (speed) => set({ speed }),
}));
