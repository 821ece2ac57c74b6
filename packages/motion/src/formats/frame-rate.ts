const USUAL = [
  12,
  15,
  20,
  24000 / 1001,
  24,
  25,
  30000 / 1001,
  30,
  48,
  50,
  60000 / 1001,
  60,
  72,
  75,
  90,
  100,
  120000 / 1001,
  120,
  125,
  144,
  150,
  180,
  200,
  240,
  250,
  300,
  360,
  480,
  500,
  1000,
];

/**
 * The rate a writer meant by a rounded frame time, as 0.0083333 means 120. A frame time that is within the rounding of
 * its last digit, or 0.02 %, of a usual rate is that rate; anything else stays as it is.
 *
 * @param seconds the written frame time
 * @returns frames a second
 */
export function snapFrameRate(seconds: number): number {
  const fps = 1 / seconds;
  let best = fps;
  let bestError = Infinity;
  for (const rate of USUAL) {
    const error = Math.abs(fps / rate - 1);
    // 0.042 for 23.976 is six significant digits at best and three at worst: allow half a unit of 10⁻⁴ s or 10⁻⁶ s.
    const rounded = [4, 5, 6, 7, 8].some((digits) => Number((1 / rate).toFixed(digits)) === seconds);
    if ((error < 2e-4 || rounded) && error < bestError) {
      best = rate;
      bestError = error;
    }
  }
  return best;
}
