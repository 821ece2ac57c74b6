type Outline = readonly (readonly [across: number, along: number])[];

/** The outline of a print that points along, metres: a round for port, a diamond for starboard. Convex, so that a fan fills it. */
export const printShape = (side: 'left' | 'right'): Outline => (side === 'left' ? ROUND : DIAMOND);

const ROUND: Outline = Array.from({ length: 20 }, (_, k) => {
  const angle = (k / 20) * 2 * Math.PI;
  return [0.05 * Math.cos(angle), 0.13 * Math.sin(angle)];
});
const DIAMOND: Outline = [
  [0, -0.15],
  [0.062, 0],
  [0, 0.15],
  [-0.062, 0],
];
