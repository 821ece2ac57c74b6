/** A small seeded generator (Mulberry32: 32 bits of state), so that what is made with it can be made again from its seed. */
export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  /** Normal, mean 0, standard deviation 1 (Box–Muller). */
  normal(): number;
}

/**
 * @example
 * random(1).next() === random(1).next(); // true
 */
export function random(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  };
}
