import { smooth } from './gait-table';
import { FINE } from './plan-data';

/** Breaths a second at rest and out of breath. */
const CALM = 0.23;
const PANTING = 0.58;

/**
 * How full the chest is, about −1 to 1 at rest and more after running: breath quickens within seconds and takes a while to calm.
 *
 * @param speed metres a second, by fine sample
 */
export function breathing(speed: Float64Array): Float64Array {
  const out = new Float64Array(speed.length);
  let effort = smooth(((speed[0] ?? 0) - 1.4) / 1.6);
  let cycles = 0;
  for (let i = 0; i < speed.length; i++) {
    const asked = smooth((speed[i] - 1.4) / 1.6);
    effort += (asked - effort) / ((asked > effort ? 7 : 18) * FINE);
    cycles += (CALM + (PANTING - CALM) * effort) / FINE;
    // In is quicker than out.
    out[i] = (1 + 0.9 * effort) * Math.sin(2 * Math.PI * cycles + 0.35 * Math.sin(2 * Math.PI * cycles));
  }
  return out;
}
