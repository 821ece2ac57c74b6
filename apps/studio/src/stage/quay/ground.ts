/** What stands on the quay of Gullmouth and how high one walks there, metres: x to the left of the way along it, z ahead. */
export const QUAY = {
  /** The water begins here. */
  edge: -5,
  /** A pavement behind the road, a kerb higher. */
  kerb: { x: 4, height: 0.14, deep: 3 },
  /** Steps up onto a landing: where they begin, how many, how high and deep each is. */
  steps: { x: [1.2, 3.6] as const, z: 12, count: 4, rise: 0.16, deep: 0.36, landing: 2.4 },
  /** An arc painted on the ground, for judging turns: its middle and radius. */
  arc: { x: 0, z: -9, radius: 3 },
  posts: [
    [-4.2, 4.5],
    [-4.2, -7],
    [-4.2, 16],
    [5.4, -1],
    [5.4, 11],
  ] as const,
  bollards: Array.from({ length: 12 }, (_, i) => [-4.4, -22 + i * 4] as const),
  reach: 40,
} as const;

/**
 * How high the ground is at a place.
 *
 * @example
 * heightAt(0, 0); // 0
 */
export function heightAt(x: number, z: number): number {
  const { steps, kerb } = QUAY;
  if (x >= kerb.x && x <= kerb.x + kerb.deep) return kerb.height;
  if (x < steps.x[0] || x > steps.x[1] || z < steps.z) return 0;
  const into = z - steps.z;
  const up = steps.count * steps.deep;
  if (into < up) return steps.rise * (1 + Math.floor(into / steps.deep));
  if (into < up + steps.landing) return steps.rise * steps.count;
  const down = into - up - steps.landing;
  return down < up ? steps.rise * Math.max(0, steps.count - Math.floor(down / steps.deep)) : 0;
}
