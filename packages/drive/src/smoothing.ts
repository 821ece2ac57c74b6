/** Values that go over to others smoothly, however often what is wanted changes: value, velocity and acceleration go on without a jump. */
export interface Smoothing {
  /** From here on `go` goes on by so many seconds. */
  over(seconds: number): void;
  /** In place: a value, its velocity and its acceleration, at an offset, go on towards what is wanted. */
  go(state: Float64Array, o: number, wanted: number): void;
}

/** Terms of the exponential's series; a tick is short beside the time that is taken. */
const TERMS = 16;

/**
 * At every instant a value sets out anew on the quintic that would bring it to rest at what is wanted in a time T: d‴ = −60 d / T³ − 36 d′ / T² − 9 d″ / T.
 * Nine tenths of the way are gone after 0.99 T; it goes too far by 1.6 %. Solved exactly, so that it is all the same how long a tick is.
 *
 * @param seconds T
 */
export function smoothing(seconds: number): Smoothing {
  const T = seconds;
  const rates = [0, 1, 0, 0, 0, 1, -60 / T ** 3, -36 / T ** 2, -9 / T];
  const by = new Float64Array(9);
  const [term, next] = [new Float64Array(9), new Float64Array(9)];
  let known = NaN;
  return {
    over(own) {
      if (own === known) return;
      known = own;
      for (let i = 0; i < 9; i++) by[i] = term[i] = i % 4 === 0 ? 1 : 0;
      for (let n = 1; n <= TERMS; n++) {
        for (let r = 0; r < 3; r++)
          for (let c = 0; c < 3; c++) {
            let sum = 0;
            for (let k = 0; k < 3; k++) sum += term[r * 3 + k] * rates[k * 3 + c];
            next[r * 3 + c] = (sum * own) / n;
          }
        for (let i = 0; i < 9; i++) by[i] += term[i] = next[i];
      }
    },
    go(state, o, wanted) {
      const d = state[o] - wanted,
        v = state[o + 1],
        a = state[o + 2];
      state[o] = wanted + by[0] * d + by[1] * v + by[2] * a;
      state[o + 1] = by[3] * d + by[4] * v + by[5] * a;
      state[o + 2] = by[6] * d + by[7] * v + by[8] * a;
    },
  };
}
