import { create } from 'zustand';

interface PlayerState {
  /** In frames of what is played; fractional while playing. */
  readonly frame: number;
  readonly playing: boolean;
  readonly speed: number;
  readonly frames: number;
  readonly fps: number;
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
  speed: 1,
  frames: 1,
  fps: 60,
  load: (frames, fps, frame) => set((s) => ({ frames, fps, frame: Math.min(frames - 1, frame ?? s.frame) })),
  seek: (frame) => set(({ frames }) => ({ frame: Math.min(frames - 1, Math.max(0, frame)) })),
  toggle: () => set(({ playing }) => ({ playing: !playing })),
  // Round again at the end.
  advance: (seconds) => set((s) => ({ frame: s.frames > 1 ? (s.frame + seconds * s.fps * s.speed) % (s.frames - 1) : 0 })),
  setSpeed: (speed) => set({ speed }),
}));
