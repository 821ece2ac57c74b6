/** Bounds of a good set; a figure outside is marked, with what to do about it. */
export const BOUNDS = {
  poseCm: { most: 0.1, todo: 'Switch the loop step on, or take another candidate.' },
  tick: { most: 1.2, todo: 'Try a longer blend in the loop step, or another candidate.' },
  slideCm: { most: 0.3, todo: 'The feet skate: switch foot lock on, or look at its contacts.' },
  sinkCm: { most: 1, todo: 'The feet go through the floor: look at the loop’s blend and the take’s floor.' },
  headingDeg: { most: 2, todo: 'The cycle turns: let the loop step straighten it.' },
  driftCm: { most: 1, todo: 'The cycle drifts: choose a straighter stretch of the take.' },
} as const;

export type Bounded = keyof typeof BOUNDS;

export const isOut = (figure: Bounded, value: number): boolean => Math.abs(value) > BOUNDS[figure].most;
