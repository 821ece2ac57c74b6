/** 0 to 1 over t in 0..1, with no velocity and no acceleration at either end. */
export function smoothStep5(t: number): number {
  const x = Math.min(1, Math.max(0, t));
  return x * x * x * (10 - 15 * x + 6 * x * x);
}
