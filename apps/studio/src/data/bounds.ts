/** Bounds of a good set; a figure outside is marked, with what to do about it. */
export const BOUNDS = {
  poseCm: { most: 0.1, todo: 'Switch the loop step on, or take another candidate.' },
  tick: { most: 1.2, todo: 'Try a longer blend in the loop step, or another candidate.' },
  slideCm: { most: 0.3, todo: 'The feet skate: switch foot lock on, or look at its contacts.' },
  sinkCm: { most: 1, todo: 'The feet go through the floor: look at the loop’s blend and the take’s floor.' },
  hoverCm: { most: 1.5, todo: 'Bearing feet are over the floor: put the take’s floor right, or let foot lock bring them to their ground.' },
  kink: {
    most: 1.6,
    todo: 'A knee or an elbow jerks where it did not in the take: look at the frame, and at the step that was added last.',
  },
  likenessCm: { most: 12, todo: 'The body is far from what was captured there: look at the frame beside the take.' },
  headingDeg: { most: 2, todo: 'The cycle turns: let the loop step straighten it.' },
  driftCm: { most: 1, todo: 'The cycle drifts: choose a straighter stretch of the take.' },
} as const;

export type Bounded = keyof typeof BOUNDS;

export const isOut = (figure: Bounded, value: number): boolean => Math.abs(value) > BOUNDS[figure].most;
